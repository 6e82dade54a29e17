/**
 * After an upload: what the platform answered, as files in a folder, into a ledger that knows more.
 *
 * `02-goods.tsv.report.json` is the report of an uploaded file (with another ending where the target reads its reports by a layout), `goods.export.tsv` the export that tells the ids of a target's file. The
 * pictures before a file are there once it was answered; `04-pictures.zip.report.json` is the answer to pictures that come after the files.
 */

import { entryOf } from "../checked.js";
import { z } from "zod";
import { stepsNow, type Plan } from "../plan/plan.js";
import type { Prepared } from "../build/prepare.js";
import { plannedFiles } from "../build/planned-files.js";
import { collectedRecords, type CollectedRecord } from "../change/collected-records.js";
import { withDelivered } from "../change/delivered.js";
import { collectIds, type Collected } from "../collect/collect.js";
import type { ImportReport, PictureReport } from "../collect/collecting.js";
import { finding, Findings, type Finding, type FindingCode, type Result } from "../findings/finding.js";
import { failure, isMissingFile, resultOf, valueOf } from "../findings/result.js";
import type { Catalogue } from "../catalogue/catalogue.js";
import { driverOf } from "../formats/drivers/drivers.js";
import type { Layout } from "../layout/layout.js";
import type { FilesPort } from "../ports.js";
import { readUtf8 } from "../formats/read-whole.js";
import { readSource } from "../project/sources.js";
import type { TargetFile } from "../target/target.js";
import type { PlannedUpload } from "./build.js";
import { readExports, type ExportFile } from "./exports.js";
import type { OpenedTarget } from "./open.js";

/** Where the upload and what the platform answered are. */
export interface CollectChoices {
  /** The upload folder that was sent. */
  readonly upload: FilesPort;
  /** As findings call it. */
  readonly uploadName: string;
  /** The folder of reports and exports. */
  readonly reports: FilesPort;
  /** An export of the whole platform that was made after the upload: then the ledger knows what the platform made of each value. */
  readonly after?: readonly ExportFile[] | undefined;
}

/** What was collected, and the target to go on with. */
export interface CollectedReports extends Collected {
  /** The target with what is known now, to go on with. The new lines of its ledger are not on the disk yet. */
  readonly opened: OpenedTarget;
  /** What became of each record of the upload. */
  readonly records: readonly CollectedRecord[];
}

/**
 * What the report of an uploaded file is saved as: `02-goods.tsv.report.json`.
 *
 * @param layout by which the target reads its reports, if not as lines with their outcome.
 */
export const reportFileName = (file: string, layout?: Layout): string =>
  `${file}.report.${layout ? driverOf(layout.format).ending(layout.format) : "json"}`;
/** What the export that tells the ids of a target's file is saved as: `goods.export.tsv`. */
export const exportFileName = ({ name, ids }: TargetFile): string =>
  `${name}.export.${ids?.layout?.format.is === "csv" ? "tsv" : "json"}`;

/**
 * Reads ids and confirmations from what the platform answered.
 *
 * All or nothing: fails when anything is missing. Fails too when a source cannot be read, as its records would count as never sent. Fails
 * when the upload folder is another than the project would build now, as lines would be taken for others.
 */
export async function collect(
  opened: OpenedTarget,
  prepared: PlannedUpload,
  { upload, uploadName, reports, after }: CollectChoices,
): Promise<Result<CollectedReports>> {
  const { catalogue, project, target, ledger, ports } = opened;
  const findings = opened.findings.copy();
  if (findings.list().some(isUnread)) return { ok: false, findings };
  const hashes = await hashesOf(upload);
  const collected = findings.took(await collectAll());
  const readBack = after && (await readExports(after, target, project.kinds, catalogue, findings));
  if (!collected || (after && !readBack)) return { ok: false, findings };
  const known = withDelivered({
    catalogue: collected.catalogue,
    target,
    heldBack: prepared.heldBack,
    taken: collected.taken,
    ledger: collected.ledger,
    sha256: ports.sha256,
    run: runOf(hashes),
    kept: prepared.changes?.kept(),
    readBack,
  });
  const records = collectedRecords({
    catalogue: collected.catalogue,
    target,
    taken: collected.taken,
    ledger: known,
    before: prepared.changes?.before,
  });
  const now: OpenedTarget = { ...opened, ledger: known, catalogue: collected.catalogue };
  return resultOf({ ...collected, ledger: known, opened: now, records }, findings);

  async function collectAll(): Promise<Result<Collected>> {
    if (!(await isBuiltFrom(opened, prepared, hashes)))
      return failure(finding("collect/other-upload", {}, { file: uploadName }));
    const files = stepsNow(prepared.plan).flatMap((step) =>
      step.is === "upload" && !reportLayout(entryOf(target.files, step.slot.file))
        ? step.files.map(({ name }) => name)
        : [],
    );
    const told = await readReports(reports, files);
    if (!told.ok) return told;
    const answered = await answeredPictures(reports, prepared.plan);
    if (!answered.ok) return answered;
    return collectIds({
      catalogue,
      kinds: project.kinds,
      target,
      plan: prepared.plan,
      heldBack: prepared.heldBack,
      ledger,
      reports: told.value,
      answered: answered.value,
      readReport: (name, layout, into, own) => readTold(reportFileName(name, layout), layout, into, own),
      readExport: (file, layout, into, own) => readTold(exportFileName(file), layout, into, own),
      run: runOf(hashes),
    });
  }

  async function readTold(name: string, layout: Layout, into: Catalogue, own: Findings): Promise<boolean> {
    if (!(await reports.read(name)).ok) return false;
    await readSource({ file: name, layout }, into, reports, own);
    return true;
  }
}

/** The layout by which the reports of a file are read, where they are. */
const reportLayout = ({ ids }: TargetFile): Layout | undefined => (ids?.in === "report" ? ids.layout : undefined);

const unread: ReadonlySet<FindingCode> = new Set<FindingCode>([
  "read/missing-file",
  "read/unreadable",
  "read/folder",
  "project/outside",
]);
const isUnread = ({ code, severity }: Finding): boolean => severity === "error" && unread.has(code);

/** Of each file of an upload folder its hash; undefined where it has no list of them. */
type Hashes = ReadonlyMap<string, string> | undefined;

const manifest = z.object({ resources: z.array(z.object({ path: z.string(), hash: z.string() })) });

async function hashesOf(upload: FilesPort): Promise<Hashes> {
  const read = await readUtf8(upload, "datapackage.json");
  const parsed = read.ok ? manifest.safeParse(jsonOf(read.value)) : undefined;
  return parsed?.success ? new Map(parsed.data.resources.map(({ path, hash }) => [path, hash])) : undefined;
}

/** A run is known by what it built. */
const runOf = (hashes: Hashes): string => [...(hashes?.values() ?? [])].map((hash) => hash.slice(7, 11)).join("");

/** Whether the folder's files of rows are, to the byte, those that the project would build now: only then are its lines known. */
async function isBuiltFrom(
  { catalogue, target, ports }: OpenedTarget,
  { plan, heldBack }: Prepared,
  hashes: Hashes,
): Promise<boolean> {
  const files = plannedFiles(catalogue, target, plan, heldBack);
  for (const step of stepsNow(plan)) {
    if (step.is !== "upload") continue;
    for (const { name } of step.files) {
      const hasher = ports.sha256();
      for await (const chunk of valueOf(await files.read(name))) hasher.update(chunk);
      if (hashes?.get(name) !== `sha256:${hasher.digest()}`) return false;
    }
  }
  return hashes !== undefined && stepsNow(plan).length > 0;
}

/** The reports of uploaded files, by their names; fails where one cannot be read. One may be missing. */
async function readReports(
  folder: FilesPort,
  files: readonly string[],
): Promise<Result<ReadonlyMap<string, ImportReport>>> {
  const findings = new Findings();
  const reports = new Map<string, ImportReport>();
  for (const file of files) {
    const name = reportFileName(file);
    const read = await readUtf8(folder, name);
    if (isMissingFile(read)) continue;
    const text = findings.took(read);
    if (text === undefined) continue;
    const report = parseReport(jsonOf(text));
    if (report) reports.set(file, report);
    else findings.add(finding("collect/not-a-report", {}, { file: name }));
  }
  return resultOf(findings.hasErrors ? undefined : reports, findings);
}

const pictureReport = z.object({
  refused: z.string().nullish(),
  pictures: z
    .array(z.object({ file: z.string(), outcome: z.string(), reasons: z.array(z.string()).optional() }))
    .optional(),
});

/** The answers to archives of pictures that were saved beside the reports; fails where one cannot be read. */
async function answeredPictures(folder: FilesPort, plan: Plan): Promise<Result<ReadonlyMap<string, PictureReport>>> {
  const findings = new Findings();
  const answered = new Map<string, PictureReport>();
  for (const step of stepsNow(plan)) {
    if (step.is !== "pictures") continue;
    const name = reportFileName(step.name);
    const read = await readUtf8(folder, name);
    if (isMissingFile(read)) continue;
    const text = findings.took(read);
    if (text === undefined) continue;
    const report = pictureReport.safeParse(jsonOf(text));
    if (report.success) answered.set(step.name, { ...report.data, refused: report.data.refused ?? null });
    else findings.add(finding("collect/not-a-report", {}, { file: name }));
  }
  return resultOf(findings.hasErrors ? undefined : answered, findings);
}

/** @returns undefined for what is not a report. */
function parseReport(json: unknown): ImportReport | undefined {
  const given = json as Partial<ImportReport> | null | undefined;
  const isRow = (row: unknown) =>
    typeof row === "object" &&
    row !== null &&
    typeof (row as ImportReport["rows"][number]).line === "number" &&
    typeof (row as ImportReport["rows"][number]).outcome === "string";
  if (!given || !Array.isArray(given.rows) || !given.rows.every(isRow)) return undefined;
  return { refused: typeof given.refused === "string" ? given.refused : null, rows: given.rows };
}

/** @returns undefined for what is not JSON. */
function jsonOf(text: string): unknown {
  try {
    return JSON.parse(text);
  } catch {
    return undefined;
  }
}
