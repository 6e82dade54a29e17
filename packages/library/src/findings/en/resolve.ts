/** Findings about references, derived fields and translations. */

import { error, note, warning } from "../definition.js";
import { aKind, kindName, listed, nearestOf, quoted, some, type Text } from "../wording.js";

type ReferenceFacts = {
  readonly to: string;
  readonly by: string;
  readonly text: string;
  readonly unknown: string;
  readonly nearest: readonly string[];
  /** The kinds that have a record of that name. */
  readonly elsewhere: readonly string[];
};

const elsewhereOf = (kinds: readonly string[]): string =>
  kinds.length === 0 ? "" : `, but ${listed(kinds.map(aKind))} of that name`;

/** So many names fit a screen; as data there are all. */
const mostNamed = 40;

export const resolve = {
  "resolve/dangling": error(
    (f: ReferenceFacts) =>
      `there is no ${kindName(f.to)} ${quoted(f.text)}${f.unknown === f.text ? "" : ` (${quoted(f.unknown)} is not known)`}${elsewhereOf(f.elsewhere)}${nearestOf(f.nearest)}`,
    'Correct the name, or add the record. To create missing records, set "missing: create" in the layout.',
  ),
  "resolve/held-back": warning(
    (f: ReferenceFacts) =>
      `there is no ${kindName(f.to)} ${quoted(f.text)}, so the record is held back${elsewhereOf(f.elsewhere)}${nearestOf(f.nearest)}`,
    "Correct the name, or add the record.",
  ),
  "resolve/ambiguous": error(
    (f: { to: string; by: string; text: string; candidates: readonly string[] }) =>
      `${quoted(f.text)} names more than one ${kindName(f.to)}: ${listed(f.candidates.map(quoted))}`,
    "Name it by its key or by its whole path.",
  ),
  "resolve/statements-disagree": error(
    (f: { kind: string; key: string; field: string; here: string; first: string }) =>
      `${f.field} of ${kindName(f.kind)} "${f.key}" is ${quoted(f.here)} here, but ${quoted(f.first)} elsewhere`,
    "Use the same value in both places.",
  ),
  "resolve/contents-differ": error(
    (f: { kind: string; key: string }) =>
      `${kindName(f.kind)} "${f.key}" has other content here than in another cell. Each product would get both`,
    "Give the two their own names (for example the product's name first), or make their content the same.",
  ),
  "resolve/created": note(
    (f: { kind: string; count: number; examples: readonly string[] }) =>
      `${some(f.count, `${kindName(f.kind)} record is`, `${kindName(f.kind)} records are`)} created because rows name them: ${listed(f.examples.slice(0, mostNamed), f.count)}`,
    "Check that each of them is intended.",
  ),
  "derive/made": note(
    (f: { field: string; count: number; method: string }) =>
      `${f.field} was derived for ${some(f.count, "record")} (${f.method})`,
    "No action is needed if that is intended.",
  ),
  "derive/made-nothing": warning(
    (f: { field: string; method: string; kept: number; unfit: number; lacking: number }) =>
      `${f.field} was derived for no record (${f.method}): ${whyNothing(f)}`,
    "Correct the rule, or remove it if it is not needed any more.",
  ),
  "derive/failed": error(
    (f: { field: string; problem: Text }) => `${f.field} cannot be derived: ${f.problem}`,
    "Correct the rule, or the fields that it uses.",
  ),
  "derive/no-rule": error(
    (f: { rule: string; problem: Text }) => `the rule ${quoted(f.rule)} is not valid: ${f.problem}`,
    'Correct it. A rule is an expression over a product, such as sort == "hire".',
  ),
  "derive/rule-fits-none": warning(
    (f: { rule: string }) => `no product fits the rule ${quoted(f.rule)}`,
    "Correct the rule, or remove the assortment.",
  ),
  "translations/no-list": error(
    (f: { lang: string }) => `this is not a translation list for ${f.lang}`,
    "Give the file that `zest-tier translations` wrote, with its columns unchanged, or XLIFF 2.",
  ),
  "translations/taken": note(
    (f: { taken: number; stale: number; lang: string }) =>
      `${some(f.taken, "text was", "texts were")} taken over in ${f.lang}${f.stale > 0 ? `. ${f.stale} ${f.stale === 1 ? "was" : "were"} left out because the source text has changed` : ""}`,
    "No action is needed.",
  ),
  "translations/copied": note(
    (f: { count: number; lang: string }) =>
      `${some(f.count, "text was", "texts were")} copied into ${f.lang}, with a mark`,
    "Have them translated. `zest-tier translations` lists them.",
  ),
  "translations/needed": error(
    (f: { field: string; lang: string }) =>
      `the ${f.field} is missing in ${f.lang}. The project holds back records without it`,
    'Have it translated, build with --hold-back, or set "copy" or "leave blank" under "gaps" in the project.',
  ),
};

const whyNothing = (f: { readonly kept: number; readonly unfit: number; readonly lacking: number }): string =>
  [
    f.kept === 0 ? "" : `${some(f.kept, "record has", "records have")} a value already`,
    f.unfit === 0 ? "" : `${some(f.unfit, "record does", "records do")} not fit "where"`,
    f.lacking === 0 ? "" : `${some(f.lacking, "record lacks", "records lack")} what it is made of`,
  ]
    .filter((one) => one !== "")
    .join(", ") || "there are none";
