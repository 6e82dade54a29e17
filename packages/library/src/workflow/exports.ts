/** Reading exports of a platform: its own files, or files that its target describes. Several make one catalogue. */

import { Catalogue, type ReadonlyCatalogue } from "../catalogue/catalogue.js";
import {
  bestFit,
  exportForms,
  fitOf,
  missingForms,
  type ExportForm,
  type FormFit,
  type PlatformCatalogue,
} from "../compare/held.js";
import { coverageOf } from "../compare/told.js";
import { finding, Findings, type Finding } from "../findings/finding.js";
import { ByteReader } from "../formats/byte-reader.js";
import type { ElementsDriver } from "../formats/drivers/driver.js";
import { detectFormat, driverOf } from "../formats/drivers/drivers.js";
import type { Format } from "../formats/format.js";
import type { Kinds } from "../kinds.js";
import { byLanguage, type Layout } from "../layout/layout.js";
import type { FilesPort } from "../ports.js";
import { readSource } from "../project/sources.js";
import { resolveReferences } from "../resolve/resolve.js";
import type { Target } from "../target/target.js";
import { rawRows } from "./raw-rows.js";

/** A file of an export, and where it is. */
export interface ExportFile {
  readonly file: string;
  readonly files: FilesPort;
}

/**
 * Reads exports of a platform.
 *
 * @param needed what is intended: of all that it has, it has to be known what the platform has. Undefined where nothing has.
 * @returns undefined, with findings, where one of them is not of the platform, or a file that it needs is not among them.
 */
export async function readExports(
  given: readonly ExportFile[],
  target: Target,
  kinds: Kinds,
  needed: ReadonlyCatalogue | undefined,
  findings: Findings,
): Promise<PlatformCatalogue | undefined> {
  const catalogue = new Catalogue(kinds);
  const own = new Findings();
  const known: (ExportFile & { readonly form: ExportForm })[] = [];
  for (const one of given) {
    if (!findings.took(await one.files.read(one.file))) return undefined;
    const fit = await fitOfFile(one, target);
    if (fit === "broken") {
      findings.add(finding("compare/not-whole", { target: target.name }, { file: one.file }));
      return undefined;
    }
    if (!fit || fit.missing.length > 0) {
      const missing = fit?.missing ?? exportForms(target).map(({ layout }) => layout.name);
      findings.add(finding("compare/other-export", { missing, target: target.name }, { file: one.file }));
      return undefined;
    }
    known.push({ ...one, form: fit.form });
  }
  // Rows that say more of records come after those that give them.
  known.sort((a, b) => Number(a.form.layout.link !== undefined) - Number(b.form.layout.link !== undefined));
  for (const one of known) await readForm(one, catalogue, own);
  const forms = known.map(({ form }) => form);
  const missing = needed ? missingForms(target, forms, needed) : [];
  if (missing.length > 0) {
    findings.add(finding("compare/exports-missing", { missing, target: target.name }, { file: given[0]?.file ?? "" }));
    return undefined;
  }
  const resolved = resolveReferences(catalogue, own).catalogue;
  // A file without rows says that there is nothing of that, but for a platform that has nothing at all.
  const isEmpty = resolved.tables.every(({ size }) => size === 0);
  // What cannot be read is not known to be there or not: nothing is settled with half of a platform.
  const isOfPart = (code: string) => code === "resolve/dangling" || code === "resolve/statements-disagree";
  // Only a document whose lists were found says by an empty one that there is nothing of it.
  const listed = new Set(
    known.flatMap(({ file, form }) => (driverOf(form.layout.format).elements?.lists ? [file] : [])),
  );
  const isNone = ({ code, at }: Finding) =>
    (code === "read/no-element" && listed.has(at?.file ?? "")) || (code === "read/header-only" && !isEmpty);
  const errors = own.list().filter((one) => one.severity === "error" && !isOfPart(one.code) && !isNone(one));
  // A platform may call a value otherwise in each of its products.
  const differing = own.list().filter(({ code }) => code === "resolve/statements-disagree");
  if (differing[0]) findings.add(finding("compare/names-differ", { count: differing.length }, differing[0].at));
  const dangling = own.list().filter(({ code }) => code === "resolve/dangling");
  if (dangling[0]) findings.add(finding("compare/names-missing", { count: dangling.length }, dangling[0].at));
  findings.addAll(errors);
  if (errors.length > 0) return undefined;
  const layouts = known
    .flatMap(({ form }) => layoutsOf(form))
    .flatMap((layout) => byLanguage(layout).map(([, one]) => one));
  return { catalogue: resolved, coverage: coverageOf(layouts, kinds) };
}

/** The layouts by which a file of a form is read. */
function layoutsOf(form: ExportForm): readonly Layout[] {
  if (!form.file) return inOrder(form.siblings);
  return form.file.layouts.length > 1 && form.layout.link ? form.siblings : [form.layout];
}

/** How much of a file tells what it is. */
const headBytes = 4_096;
/** Unreported rows of a file whose rows are of several kinds would be lost; so many are kept apart. */
const mostUnfound = 1_000_000;

/** Reads a file; where its rows are of several kinds, by the layout of each. A row that none of them knows is reported once. */
async function readForm(
  { file, files, form }: ExportFile & { readonly form: ExportForm },
  catalogue: Catalogue,
  findings: Findings,
): Promise<void> {
  const layouts = layoutsOf(form);
  if (!form.file) {
    for (const layout of layouts) await readSource({ file, layout }, catalogue, files, findings);
    return;
  }
  const unfound = new Map<number | undefined, number>();
  for (const layout of layouts) {
    const own = new Findings(mostUnfound);
    await readSource({ file, layout }, catalogue, files, own);
    for (const one of own.list()) {
      const times = one.code === "read/names-none" ? (unfound.get(one.at?.line) ?? 0) + 1 : layouts.length;
      if (one.code === "read/names-none") unfound.set(one.at?.line, times);
      if (times === layouts.length) findings.add(one);
    }
  }
}

/** Rows that say more of records come after those that give them. */
const inOrder = (layouts: readonly Layout[]): Layout[] =>
  [...layouts].sort((a, b) => Number(a.link !== undefined) - Number(b.link !== undefined));

/** The form of the target that a file has, by its header or its lists; undefined where nothing of it is known. */
async function fitOfFile(given: ExportFile, target: Target): Promise<FormFit | "broken" | undefined> {
  const fits: FormFit[] = [];
  const seen = new Set<readonly Layout[]>();
  for (const form of exportForms(target)) {
    const { elements } = driverOf(form.layout.format);
    if (elements?.lists && seen.has(form.siblings)) continue;
    seen.add(form.siblings);
    const fit = elements?.lists
      ? await fitOfLists(given, form, elements.lists)
      : await fitOfRows(given, form, elements !== undefined);
    if (fit === "broken") return fit;
    if (fit) fits.push(fit);
  }
  return bestFit(fits);
}

/** A document by the lists that it has, though they have nothing in them. */
async function fitOfLists(
  { file, files }: ExportFile,
  form: ExportForm,
  lists: NonNullable<ElementsDriver<Format>["lists"]>,
): Promise<FormFit | "broken" | undefined> {
  const opened = await files.read(file);
  if (!opened.ok) return undefined;
  const bytes = new ByteReader(opened.value);
  // What does not look like it at its beginning is another file.
  if (detectFormat(await bytes.peek(headBytes)).is !== form.layout.format.is) return undefined;
  const wanted = form.siblings.flatMap(({ shape }) => (shape.is === "nested" ? [shape.element] : []));
  const there = await lists(form.layout.format, { bytes, file, findings: new Findings() }, wanted);
  if (!there) return "broken";
  return { form, found: there.size, missing: wanted.filter((one) => !there.has(one)) };
}

/** What is in another document is found by where it stands: it has no header. */
async function fitOfRows(
  { file, files }: ExportFile,
  form: ExportForm,
  isDocument: boolean,
): Promise<FormFit | undefined> {
  for await (const { rows } of rawRows(files, { file, layout: form.layout })) {
    if (!rows[0]) return undefined;
    return isDocument ? { form, found: 1, missing: [] } : fitOf(form, rows[0]);
  }
  return undefined;
}
