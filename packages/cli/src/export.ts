/** What is on the platform already: its export, compared with what is intended and what was last delivered. */

import { existsSync } from "node:fs";
import { readFile } from "node:fs/promises";
import { basename, dirname, join } from "node:path";
import {
  Changes,
  compareWithPlatform,
  fieldsLeftByBlank,
  finding,
  Findings,
  exportFromFile,
  exportFromJson,
  laneKeys,
  intendedByTarget,
  nothingHeldBack,
  pairsOfRows,
  readSource,
  redirectsNeeded,
  type RepliedPair,
  type Comparison,
  type Project,
  type ReadProject,
  type Snapshot,
  type Target,
  withIds,
  withRedirects,
  withMovedRecreated,
  type TargetView,
} from "zest-tier";
import { nodeFiles, nodeSha256, type LedgerFile } from "zest-tier/node";
import { readTable } from "./table.js";

export interface Compared {
  readonly comparison: Comparison;
  readonly changes: Changes;
  readonly onPlatform: Snapshot;
  readonly pairs: readonly RepliedPair[];
}

export interface CompareWanted {
  readonly project: Project;
  readonly read: ReadProject;
  readonly catalogue: TargetView;
  readonly target: Target;
  readonly findings: Findings;
  readonly folder: string;
  readonly ledger: LedgerFile;
  readonly replaces: boolean;
}

export const pairsFile = (target: string): string => `pairs-${target}.csv`;

/** The pairs that the specialist has answered; none if there is no such file. */
export async function readPairs(folder: string, target: string, findings: Findings): Promise<readonly RepliedPair[]> {
  const name = pairsFile(target);
  if (!existsSync(join(folder, name))) return [];
  const { rows, lines } = await readTable(name, nodeFiles(folder), findings);
  return pairsOfRows(rows, lines, name, findings) ?? [];
}

/** Undefined, with findings, where the export is none of this platform's. */
export async function compareExport(
  { project, read, catalogue: given, target, findings, ledger, replaces }: CompareWanted,
  path: string,
  pairs: readonly RepliedPair[],
): Promise<Compared | undefined> {
  const name = basename(path);
  if (!existsSync(path)) {
    findings.add(finding("read/missing-file", {}, { file: name }));
    return undefined;
  }
  const files = nodeFiles(dirname(path));
  const onPlatform = name.endsWith(".json")
    ? exportFromJson(await readFile(path, "utf8"), name, target, findings)
    : await exportFromFile(
        name,
        target,
        project.kinds,
        (layout, into, own) => readSource({ file: name, layout }, into, files, own),
        findings,
      );
  if (!onPlatform) return undefined;
  const moved = withIds(withMovedRecreated(given, target, onPlatform), ledger.ledger);
  const intended = intendedByTarget(moved, target, nothingHeldBack);
  const delivered = (kind: string, key: string) => ledger.ledger.delivered(kind, key);
  const wishes = project.wishes.get(target.name)!.changes;
  const common = {
    onPlatform,
    delivered,
    sha256: nodeSha256,
    pairs,
    addOnly: new Set(laneKeys(target, project.kinds).keys()),
    leftByBlank: fieldsLeftByBlank(target, project.kinds),
  };
  // An address that changes brings its redirect, which is then a change of its own.
  const first = compareWithPlatform({ ...common, catalogue: moved, intended }, new Findings());
  const redirects = redirectsNeeded(intended, first, wishes);
  const catalogue = withRedirects(moved, intended, redirects, project.languages[0] ?? "en");
  const whole = intendedByTarget(catalogue, target, nothingHeldBack);
  const comparison = compareWithPlatform({ ...common, catalogue, intended: whole }, findings);
  const changes = new Changes({
    catalogue,
    target,
    intended: whole,
    onPlatform,
    comparison,
    compare: (less) => compareWithPlatform({ ...common, catalogue, intended: less }, new Findings()),
    ledger: ledger.ledger,
    wishes,
    redirects,
    replaces,
    tasks: read.reshaped.flatMap(({ steps }) => steps),
  });
  changes.report(findings);
  return { comparison, changes, onPlatform, pairs };
}
