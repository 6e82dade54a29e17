/** What the exports of a platform may be: its own files, or files that the target describes as exports; and which of them are needed. */

import { boundFields } from "../target/places.js";
import { entryOf } from "../checked.js";
import { compareText } from "../location.js";
import type { ReadonlyCatalogue, ResolvedCatalogue } from "../catalogue/catalogue.js";
import { fieldOfColumn } from "../field-name.js";
import { withCreating } from "../layout/creating.js";
import type { KindSpec } from "../kind.js";
import type { Layout } from "../layout/layout.js";
import { headersInFile } from "../layout/write/rows.js";
import type { Coverage } from "./coverage.js";
import type { Target, TargetFile } from "../target/target.js";

/** What an export may be: one of the target's own files, by one of its layouts, or a file that the target describes as an export. */
export interface ExportForm {
  readonly name: string;
  /** The file that the platform takes in the same form; undefined for what it only gives. */
  readonly file: TargetFile | undefined;
  readonly layout: Layout;
  /** The layouts by which the file is read besides, its own among them. */
  readonly siblings: readonly Layout[];
}

export const exportForms = ({ files, exports }: Target): ExportForm[] => [
  ...[...files].flatMap(([name, file]) => {
    const layouts = file.layouts.map(asTold);
    const headersOf = (layout: Layout) => layout.columns.map(({ header }) => header).join("\u0000");
    return layouts.map((layout): ExportForm => {
      const siblings = layouts.filter((other) => headersOf(other) === headersOf(layout));
      return { name, file, layout, siblings };
    });
  }),
  ...[...exports].flatMap(([name, { layouts }]) => {
    const siblings = layouts.map(asTold);
    return siblings.map((layout): ExportForm => ({ name, file: undefined, layout, siblings }));
  }),
];

/** How the columns of a sheet fit a form. */
export interface FormFit {
  readonly form: ExportForm;
  readonly found: number;
  readonly missing: readonly string[];
}

export function fitOf(form: ExportForm, headers: readonly string[]): FormFit {
  const there = new Set(headers);
  const wanted = headersInFile(form.layout, undefined).map((header) => header.replace(/#\d+$/, ""));
  const missing = [...new Set(wanted)].filter((header) => !there.has(header));
  return { form, found: wanted.filter((header) => there.has(header)).length, missing };
}

/** The form that lacks the fewest columns; of several the one of which most are there. */
export function bestFit(fits: readonly FormFit[]): FormFit | undefined {
  const some = fits.filter(({ found }) => found > 0);
  return some.sort((a, b) => a.missing.length - b.missing.length || b.found - a.found)[0];
}

/**
 * The files in which a target takes what a catalogue has, and which none of the exports is: it is not known what of that is there. Where
 * the exports have forms of their own, the fields that none of them tells.
 */
export function missingForms(target: Target, given: readonly ExportForm[], needed: ReadonlyCatalogue): string[] {
  const there = new Set(given.flatMap(({ file }) => file?.name ?? []));
  const slots = target.slots.filter(({ creates, updates }) =>
    [...creates, ...updates].some((one) => hasAny(needed, one)),
  );
  const missing = [...new Set(slots.map(({ file }) => file))].filter((name) => !there.has(name));
  const own = given.filter(({ file }) => file === undefined);
  if (own.length === 0) return missing;
  const told = boundFields(
    given.flatMap(({ siblings }) => siblings),
    needed.kinds,
  );
  for (const kind of inPaths(given)) told.add(`${kind}.${treeFieldOf(needed.kinds.get(kind))}`);
  const wanted = missing.flatMap((name) => [...boundFields(entryOf(target.files, name).layouts, needed.kinds)]);
  return [...new Set(wanted)].filter((field) => !told.has(field) && hasField(needed, field)).sort(compareText);
}

/** The kinds whose records are named by paths: these tell what lies in what. */
function* inPaths(given: readonly ExportForm[]): Generator<string> {
  for (const { siblings } of given)
    for (const { columns } of siblings)
      for (const { bindings } of columns)
        for (const { feed } of bindings) if (feed.is === "reference" && feed.spec.inTree) yield feed.spec.to;
}

const treeFieldOf = ({ name, fields }: KindSpec): string =>
  fields.find(({ reference }) => reference?.to === name && reference.dependency === "containing")?.name ?? "";

/** Whether any record has something in `product.weight`, any entry in `variant.prices.amount`. Ids are the platform's own. */
function hasField(catalogue: ReadonlyCatalogue, written: string): boolean {
  const at = written.lastIndexOf(".");
  const [table, field] = [written.slice(0, at), written.slice(at + 1)];
  if (field === "id" || !catalogue.tables.some(({ name }) => name === table)) return false;
  const { size, texts, references } = catalogue.table(table);
  if (field === "key") return size > 0;
  const rows = Array.from({ length: size }, (_, row) => row);
  const [column, refers] = [texts.get(field), references.get(field)];
  return rows.some((row) => typeof column?.get(row) === "string" || (refers?.first(row) ?? -1) >= 0);
}

/** Whether a catalogue has any `product`, any `product.prices` or `category.description`, any text of `product@de`. */
function hasAny(catalogue: ReadonlyCatalogue, written: string): boolean {
  const [, kind = "", field = "", lang] = /^([^.@]+)(?:\.([^@]+))?(?:@(.+))?$/.exec(written) ?? [];
  if (catalogue.kinds.find(kind)?.entries?.[field]) return catalogue.table(`${kind}.${field}`).size > 0;
  const { size, texts, references } = catalogue.table(kind);
  if (field === "" && lang === undefined) return size > 0;
  const isOf = (name: string) =>
    (field === "" || fieldOfColumn(name) === field) && (!lang || name.endsWith(`@${lang}`));
  return references.has(field) || [...texts.keys()].some(isOf);
}

/** The layout as the platform's own: what it names exists there, also where nothing else tells of it. */
const asTold = (layout: Layout): Layout => withCreating(layout, () => true);

/** What exports of a platform tell. */
export interface PlatformCatalogue {
  readonly catalogue: ResolvedCatalogue;
  /** What it tells: what it does not is unknown. */
  readonly coverage: Coverage;
}
