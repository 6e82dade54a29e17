/**
 * What the platform's export holds: its catalogue in JSON, read as the target says, or its own files, read with their layouts.
 *
 * In: an export. Out: a snapshot, or findings why it is none. Nothing of a broken export is taken.
 */

import { failure, success } from "../findings/result.js";
import { finding, type Result } from "../findings/finding.js";
import { asTargetView, type ReadonlyCatalogue, type ResolvedCatalogue } from "../catalogue/catalogue.js";
import { nothingHeldBack } from "../build/hold-back.js";
import { fieldOfColumn } from "../field-name.js";
import { withCreating } from "../layout/creating.js";
import type { Layout } from "../layout/layout.js";
import { writtenHeaders } from "../layout/write/rows.js";
import { intendedByTarget } from "../rehearse/rehearse.js";
import { at, readbackSnapshot } from "../rehearse/readback.js";
import type { Snapshot } from "../rehearse/snapshot.js";
import type { Target, TargetFile } from "../target/target.js";

/** The lists that a target's catalogue always has. */
function listsOf(readback: NonNullable<Target["readback"]>): string[] {
  if (!("records" in readback)) return [readback.products.each, readback.categories.each];
  return Object.values(readback.records).map(({ each }) => each);
}

/** Reads a platform's catalogue in JSON; fails for what is not a whole export of this platform. @param file as findings call it. */
export function exportFromJson(text: string, file: string, target: Target): Result<Snapshot> {
  const { readback } = target;
  if (!readback) return failure(finding("compare/not-described", { target: target.name }, { file }));
  let json: unknown;
  try {
    json = JSON.parse(text);
  } catch {
    return failure(finding("compare/not-whole", { target: target.name }, { file }));
  }
  const missing = listsOf(readback).filter((list) => !Array.isArray(at(json, list)));
  if (missing.length > 0) return failure(finding("compare/other-export", { missing, target: target.name }, { file }));
  return success(readbackSnapshot(json, target));
}

/** A sheet that an export may be: one of the target's own files, by one of its layouts. */
export interface ExportForm {
  readonly file: TargetFile;
  readonly layout: Layout;
  /** The layouts of the same columns, its own among them: for records of other kinds. */
  readonly siblings: readonly Layout[];
}

export const exportForms = ({ files }: Target): ExportForm[] =>
  [...files.values()].flatMap((file) => {
    const layouts = file.layouts.map(asTold);
    const headersOf = (layout: Layout) => layout.columns.map(({ header }) => header).join("\u0000");
    return layouts.map((layout) => {
      const siblings = layouts.filter((other) => headersOf(other) === headersOf(layout));
      return { file, layout, siblings };
    });
  });

/** How the columns of a sheet fit a form. */
export interface FormFit {
  readonly form: ExportForm;
  readonly found: number;
  readonly missing: readonly string[];
}

export function fitOf(form: ExportForm, headers: readonly string[]): FormFit {
  const there = new Set(headers);
  const wanted = writtenHeaders(form.layout, undefined).map((header) => header.replace(/#\d+$/, ""));
  const missing = [...new Set(wanted)].filter((header) => !there.has(header));
  return { form, found: wanted.filter((header) => there.has(header)).length, missing };
}

/** The form that lacks the fewest columns; of several the one of which most are there. */
export function bestFit(fits: readonly FormFit[]): FormFit | undefined {
  const some = fits.filter(({ found }) => found > 0);
  return some.sort((a, b) => a.missing.length - b.missing.length || b.found - a.found)[0];
}

/** The files in which a target takes what a catalogue has, and which none of the exports is: it is not known what of that is there. */
export function missingForms(target: Target, given: readonly ExportForm[], needed: ReadonlyCatalogue): string[] {
  const there = new Set(given.map(({ file }) => file.name));
  const slots = target.slots.filter(({ creates, updates }) =>
    [...creates, ...updates].some((one) => hasAny(needed, one)),
  );
  return [...new Set(slots.map(({ file }) => file))].filter((name) => !there.has(name));
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

/** What catalogues read from a target's own files hold, as the rehearsal calls it. */
export const heldOf = (catalogue: ResolvedCatalogue, target: Target): Snapshot =>
  intendedByTarget(asTargetView(catalogue), target, nothingHeldBack).snapshot;
