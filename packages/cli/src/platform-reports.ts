/**
 * What a platform answered, as files in a folder: reports of uploads, exports. Saved when an upload is sent from here; put there by
 * hand when it was done on the platform's own screen.
 *
 * `02-goods.tsv.report.json` is the report of an uploaded file, `goods.export.tsv` the export that tells the ids of a target's file.
 */

import { existsSync } from "node:fs";
import { readFile } from "node:fs/promises";
import { join } from "node:path";
import { finding, readSource, type Findings, type ImportReport, type TargetFile } from "zest-tier";
import { nodeFiles } from "zest-tier/node";
import type { Catalogue, Layout } from "zest-tier";

export const reportName = (file: string): string => `${file}.report.json`;
export const exportName = ({ name, ids }: TargetFile): string =>
  `${name}.export.${ids?.layout?.format.is === "csv" ? "tsv" : "json"}`;

/** The reports of uploaded files, by their names; those that cannot be read are findings. */
export async function readReports(
  folder: string,
  files: readonly string[],
  findings: Findings,
): Promise<ReadonlyMap<string, ImportReport>> {
  const reports = new Map<string, ImportReport>();
  for (const file of files) {
    const name = reportName(file);
    if (!existsSync(join(folder, name))) continue;
    const report = parseReport(await readFile(join(folder, name), "utf8"));
    if (report) reports.set(file, report);
    else findings.add(finding("collect/not-a-report", {}, { file: name }));
  }
  return reports;
}

/** @returns undefined for what is not a report. */
function parseReport(text: string): ImportReport | undefined {
  try {
    const given = JSON.parse(text) as Partial<ImportReport> | null;
    const isRow = (row: unknown) =>
      typeof row === "object" &&
      row !== null &&
      typeof (row as ImportReport["rows"][number]).line === "number" &&
      typeof (row as ImportReport["rows"][number]).outcome === "string";
    if (!given || !Array.isArray(given.rows) || !given.rows.every(isRow)) return undefined;
    return { refused: typeof given.refused === "string" ? given.refused : null, rows: given.rows };
  } catch {
    return undefined;
  }
}

/** @returns the function that reads the export of a target's file, if it is there. */
export function exportReader(folder: string, findings: Findings) {
  return async (file: TargetFile, layout: Layout, into: Catalogue): Promise<boolean> => {
    const name = exportName(file);
    if (!existsSync(join(folder, name))) return false;
    await readSource({ file: name, layout }, into, nodeFiles(folder), findings);
    return true;
  };
}
