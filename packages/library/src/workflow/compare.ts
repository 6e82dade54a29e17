/** What is on the platform already: its export, compared with what is intended and what was last delivered. */

import { entryOf } from "../checked.js";
import type { TargetView } from "../catalogue/catalogue.js";
import { Changes } from "../change/changes.js";
import { withMovedRecreated } from "../change/recreate.js";
import { redirectsNeeded, withRedirects } from "../change/redirects.js";
import { compareWithPlatform } from "../compare/compare.js";
import type { PlatformComparison } from "../compare/comparison.js";
import type { RepliedPair } from "../compare/pairs.js";
import { finding, Findings } from "../findings/finding.js";
import type { Ledger } from "../ledger/ledger.js";
import { withIds, withSourceIds } from "../ledger/there.js";
import type { Project, ReadProject } from "../project/project.js";
import type { Target } from "../target/target.js";
import { readExports, type ExportFile } from "./exports.js";
import type { ProjectPorts } from "./ports.js";

/** An export of the platform, compared with what is intended. */
export interface ComparedExport {
  readonly comparison: PlatformComparison;
  readonly changes: Changes;
  readonly pairs: readonly RepliedPair[];
  /** With the ids of the sources, where the platform has their records. */
  readonly ledger: Ledger;
}

interface Compared {
  readonly project: Project;
  readonly ports: ProjectPorts;
  readonly read: ReadProject;
  readonly target: Target;
  readonly ledger: Ledger;
  readonly catalogue: TargetView;
}

/** @returns undefined, with findings, where the export is none of this platform's. */
export async function compareExport(
  { project, ports, read, target, ledger: own, catalogue: given }: Compared,
  { given: exports, isWholeRange }: GivenExport,
  pairs: readonly RepliedPair[],
  findings: Findings,
): Promise<ComparedExport | undefined> {
  if (isWholeRange && !target.replacing) {
    findings.add(finding("change/no-whole-range", { target: target.name }));
    return undefined;
  }
  const told = await readExports(exports, target, project.kinds, given, findings);
  if (!told) return undefined;
  const isHeld = (kind: string, key: string) => told.catalogue.table(kind).find(key) !== undefined;
  const ledger = withSourceIds(own, given, target, findings, isHeld);
  const moved = withIds(withMovedRecreated(given, target, told.catalogue), ledger);
  const wishes = entryOf(project.wishes, target.name).changes;
  const compareWith = (catalogue: TargetView, into: Findings): PlatformComparison =>
    compareWithPlatform(
      { catalogue, target, platform: told, ledger, sha256: ports.sha256, pairs, former: read.former },
      into,
    );
  const first = new Findings();
  const before = compareWith(moved, first);
  // An address that changes brings its redirect, which is then a change of its own.
  const redirects = redirectsNeeded(before, wishes);
  const catalogue = withRedirects(moved, redirects, project.languages[0] ?? "en");
  const isSame = catalogue === moved;
  if (isSame) findings.addAll(first);
  const comparison = isSame ? before : compareWith(catalogue, findings);
  const changes = new Changes({
    catalogue,
    target,
    platform: told,
    comparison,
    ledger,
    wishes,
    redirects,
    replaces: isWholeRange,
    tasks: read.reshaped.flatMap(({ steps }) => steps),
  });
  changes.report(findings);
  return { comparison, changes, pairs, ledger };
}

/** An export of the platform. */
export interface GivenExport {
  /** JSON of the whole catalogue, or the target's own files. */
  readonly given: readonly ExportFile[];
  /** Whether the upload is to replace everything: what it does not name is deleted. */
  readonly isWholeRange: boolean;
}
