/** The files of a new project as sources: their drafts, and what they show of languages and currencies. */

import { draftTogether, type Draft, type SampleToDraft } from "../draft/draft.js";
import type { DraftOptions } from "../draft/drafter.js";
import { lookAt } from "../draft/look.js";
import type { Findings } from "../findings/finding.js";
import type { Target } from "../target/target.js";
import { layoutName } from "./layouts.js";
import type { ProjectPorts } from "./ports.js";

/** A file that became a source, and its draft. */
export interface NewSource {
  readonly path: string;
  readonly draft: Draft;
  /** The path of its layout; undefined where nothing of the file could be bound. */
  readonly layout: string | undefined;
}

/** The files as sources. A file of which nothing can be bound is none. */
export function sourcesOf(samples: readonly PlacedSample[], options: DraftOptions, keepsUnbound = false): NewSource[] {
  return draftTogether(samples, options).map((draft, at): NewSource => {
    const isBound = keepsUnbound || draft.lines.some(({ binding }) => binding !== undefined && !isOnlyTelling(binding));
    return { path: samples[at]!.path, draft, layout: isBound ? `layouts/${samples[at]!.name}.yaml` : undefined };
  });
}

export const hasPictures = ({ draft: { lines, lanes } }: NewSource): boolean =>
  /product\.pictures|variant\.pictures/.test(JSON.stringify([lines.map(({ binding }) => binding), lanes]));

const isOnlyTelling = (binding: unknown): boolean =>
  typeof binding === "object" && binding !== null && "constant" in binding;

/** A sheet or document of a file, and where the file will lie. */
export interface PlacedSample extends SampleToDraft {
  readonly path: string;
}

/** Files, and where they are now and will lie. */
interface FilesOfProject {
  readonly sources: readonly { readonly file: string; readonly path: string }[];
  readonly ports: ProjectPorts;
}

/** Each sheet of each file, with a name that no other has. */
export async function samplesOf({ sources, ports }: FilesOfProject, findings: Findings): Promise<PlacedSample[]> {
  const samples: PlacedSample[] = [];
  const names = new Set<string>();
  for (const { file, path } of sources) {
    const bytes = findings.took(await ports.files.read(file));
    if (!bytes) continue;
    for (const sample of await lookAt(bytes, file, findings)) {
      const usual = layoutName(path, sample.sheet);
      let name = usual;
      for (let n = 2; names.has(name); n++) name = `${usual}-${n}`;
      names.add(name);
      samples.push({ file, path, name, sample });
    }
  }
  return samples;
}

/** The field that a column gives, without what only tells records apart. */
export function fieldGiven(binding: unknown): string | undefined {
  const field = typeof binding === "string" ? binding : (binding as { field?: string } | undefined)?.field;
  return field === undefined || /\.(key|code|id)$|^[a-z]+\.each$/.test(field) ? undefined : field;
}

/** The languages of the texts that are bound: that of the files first, then the others. */
export function languagesOf(sources: readonly NewSource[]): string[] {
  const bound = sources.filter(({ layout }) => layout !== undefined);
  const first = bound[0]?.draft.language ?? "en";
  const texts = bound.flatMap(({ draft }) =>
    draft.lines.flatMap(({ binding }) => [
      ...JSON.stringify(binding ?? "").matchAll(/\.(?:name|description)@([a-z-]+)/g),
    ]),
  );
  return [...new Set([first, ...texts.map(([, lang]) => lang!)])];
}

/** By the signs in cells of prices. */
export function currencyOf(sources: readonly NewSource[]): string | undefined {
  const known: Readonly<Record<string, string>> = { "€": "EUR", "£": "GBP", $: "USD", zł: "PLN" };
  for (const { draft } of sources)
    for (const { binding, header } of draft.lines) {
      const sign = /"sign":"([^"]+)"/.exec(JSON.stringify(binding ?? ""))?.[1];
      const code =
        sign === undefined ? /\b(EUR|GBP|USD|CHF|PLN|SEK|DKK|CZK)\b/i.exec(header)?.[1] : (known[sign] ?? sign);
      if (code !== undefined && /^[A-Z]{3}$/i.test(code)) return code.toUpperCase();
    }
  return undefined;
}

/** The setting of an account that fits the languages of the files best: the first of them first, and none that they lack. */
export function languageSetting(
  choices: Target["languageSettings"],
  languages: readonly string[],
): Readonly<Record<string, string>> | undefined {
  const fitting = choices
    .filter((one) => one.languages[0] === languages[0] && one.languages.every((lang) => languages.includes(lang)))
    .sort((a, b) => b.languages.length - a.languages.length);
  return fitting[0] && { [fitting[0].setting]: fitting[0].choice };
}
