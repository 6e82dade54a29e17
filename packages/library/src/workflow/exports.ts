/** Reading exports of a platform: its catalogue in JSON, or its own files, of which several make one catalogue. */

import { Catalogue, type ReadonlyCatalogue } from "../catalogue/catalogue.js";
import {
  bestFit,
  exportForms,
  exportFromJson,
  fitOf,
  heldOf,
  missingForms,
  type ExportForm,
  type FormFit,
} from "../compare/held.js";
import { finding, Findings } from "../findings/finding.js";
import { readUtf8 } from "../formats/read-whole.js";
import { driverOf } from "../formats/drivers/drivers.js";
import type { Kinds } from "../kinds.js";
import type { Layout } from "../layout/layout.js";
import type { FilesPort } from "../ports.js";
import { readSource } from "../project/sources.js";
import type { Snapshot } from "../rehearse/snapshot.js";
import { resolveReferences } from "../resolve/resolve.js";
import type { Target } from "../target/target.js";
import { rawRows } from "./raw-rows.js";

/** A file of an export, and where it is. */
export interface ExportFile {
  readonly file: string;
  readonly files: FilesPort;
}

/**
 * @param needed what is intended: of all that it has, it has to be known what the platform has.
 * @returns undefined, with findings, where one of them is not of the platform, or a file that it needs is not among them.
 */
export async function readExports(
  given: readonly ExportFile[],
  target: Target,
  kinds: Kinds,
  needed: ReadonlyCatalogue,
  findings: Findings,
): Promise<Snapshot | undefined> {
  const [first, ...more] = given;
  const isOfOwnForm = target.exports.size > 0;
  if (first && more.length === 0 && first.file.endsWith(".json") && !isOfOwnForm) {
    const text = findings.took(await readUtf8(first.files, first.file));
    return text === undefined ? undefined : findings.took(exportFromJson(text, first.file, target));
  }
  const catalogue = new Catalogue(kinds);
  const own = new Findings();
  const known: (ExportFile & { readonly form: ExportForm })[] = [];
  for (const one of given) {
    if (!findings.took(await one.files.read(one.file))) return undefined;
    const fit = await fitOfFile(one, target);
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
  const missing = missingForms(target, forms, needed);
  if (missing.length > 0) {
    findings.add(finding("compare/exports-missing", { missing, target: target.name }, { file: first?.file ?? "" }));
    return undefined;
  }
  const resolved = resolveReferences(catalogue, own).catalogue;
  // A file without rows says that there is nothing of that, but for a platform that has nothing at all.
  const isEmpty = resolved.tables.every(({ size }) => size === 0);
  // What cannot be read is not known to be there or not: nothing is settled with half of a platform.
  const errors = own
    .list()
    .filter(({ code, severity }) => severity === "error" && (isEmpty || code !== "read/header-only"));
  findings.add(...errors);
  return errors.length > 0 ? undefined : heldOf(resolved, target);
}

/** Unreported rows of a file whose rows are of several kinds would be lost; so many are kept apart. */
const mostUnfound = 1_000_000;

/** Reads a file; where its rows are of several kinds, by the layout of each. A row that none of them knows is reported once. */
async function readForm(
  { file, files, form }: ExportFile & { readonly form: ExportForm },
  catalogue: Catalogue,
  findings: Findings,
): Promise<void> {
  if (!form.file) {
    for (const layout of inOrder(form.siblings)) await readSource({ file, layout }, catalogue, files, findings);
    return;
  }
  const layouts = form.file.layouts.length > 1 && form.layout.link ? form.siblings : [form.layout];
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

/** The form of the target that a file has, by its header; undefined where no column of it is known. */
async function fitOfFile({ file, files }: ExportFile, target: Target): Promise<FormFit | undefined> {
  const fits: FormFit[] = [];
  for (const form of exportForms(target)) {
    const isDocument = driverOf(form.layout.format).elements !== undefined;
    for await (const { rows } of rawRows(files, { file, layout: form.layout })) {
      // What is in a document is found by where it stands: it has no header.
      if (rows[0]) fits.push(isDocument ? { form, found: 1, missing: [] } : fitOf(form, rows[0]));
      break;
    }
  }
  return bestFit(fits);
}
