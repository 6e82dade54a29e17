/** Columns as they are looked at: their cells, and what their headers say, in the language of the supplier. */

import type { Lang } from "../nominal.js";
import { isOneSlip } from "../spelling.js";
import { headerNameOf, languageOfFile, meaningsOf, type HeaderMatch } from "./header-names.js";
import { profileOf, type Profile } from "./profile.js";
import type { Sample, SampleColumn } from "./sample.js";
import { headerLanguages } from "./vocabulary.js";
import { writtenIn, type WrittenIn } from "./written-in.js";

export interface Looked {
  readonly column: SampleColumn;
  readonly profile: Profile;
  /** What the header means; of several meanings, that in the language of the supplier. */
  readonly meaning: HeaderMatch | undefined;
  /** The language that the header, or the document, marks the column with. */
  readonly lang: Lang | undefined;
  readonly unit: string | undefined;
  readonly number: number | undefined;
  /** The language of its texts. */
  readonly written: WrittenIn | undefined;
}

/** A sheet or a document of one file. */
export interface LookedSample {
  readonly file: string;
  readonly sample: Sample;
  readonly columns: readonly Looked[];
  /** The language that its name marks the file with. */
  readonly lang: Lang | undefined;
}

/** Files of one supplier, looked at together. */
export interface LookedFiles {
  readonly samples: readonly LookedSample[];
  /** The language that they are in, as far as can be seen. */
  readonly language: Lang;
}

export interface GivenSample {
  readonly file: string;
  readonly sample: Sample;
}

export function lookTogether(given: readonly GivenSample[]): LookedFiles {
  const read = given.map(({ file, sample }) => ({
    file,
    sample,
    columns: sample.columns.map((column) => {
      const name = headerNameOf(column.parts);
      const profile = profileOf(column.cells);
      const isWords = profile.isText && profile.usualLength > 3;
      const written = isWords ? writtenIn(column.cells) : undefined;
      return { column, name, profile, written, meanings: meaningsOf(name, isOneSlip) };
    }),
  }));
  const all = read.flatMap(({ columns }) => columns);
  const language = languageOf(all);
  const samples = read.map(({ file, sample, columns }): LookedSample => ({
    file,
    sample,
    lang: languageOfFile(file),
    columns: columns.map(({ column, name, profile, written, meanings }): Looked => ({
      column,
      profile,
      written,
      meaning: meanings.find(({ langs }) => langs.includes(language)) ?? meanings[0],
      lang: column.lang ?? name.lang,
      unit: name.unit,
      number: name.number,
    })),
  }));
  return { samples, language };
}

/** By the words of headers and by the texts below them: the language that most of them are in. */
function languageOf(
  columns: readonly {
    readonly meanings: readonly HeaderMatch[];
    readonly written: WrittenIn | undefined;
    readonly profile: Profile;
  }[],
): Lang {
  const votes = new Map<string, number>(headerLanguages.map((lang) => [lang, 0]));
  const vote = (lang: string, weight: number) => votes.set(lang, (votes.get(lang) ?? 0) + weight);
  for (const { meanings, written, profile } of columns) {
    const langs = new Set(meanings.flatMap((one) => one.langs));
    for (const lang of langs) vote(lang, 1 / langs.size);
    // Sentences tell more than names, and a few names nothing.
    if (written) vote(written.lang, profile.usualLength > 40 ? 2 : profile.distinct.length > 9 ? 0.5 : 0);
  }
  return [...votes].reduce((best, one) => (one[1] > best[1] ? one : best))[0];
}
