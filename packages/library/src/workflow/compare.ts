/** What is on the platform already: its export, compared with what is intended and what was last delivered. */

import { entryOf } from "../checked.js";
import { nothingHeldBack } from "../build/hold-back.js";
import type { TargetView } from "../catalogue/catalogue.js";
import { Changes } from "../change/changes.js";
import { withMovedRecreated } from "../change/recreate.js";
import { redirectsNeeded, withRedirects } from "../change/redirects.js";
import { heldOf } from "../compare/held.js";
import { compareWithPlatform, type Comparison } from "../compare/compare.js";
import type { RepliedPair } from "../compare/matching.js";
import { finding, Findings } from "../findings/finding.js";
import type { Ledger } from "../ledger/ledger.js";
import { withIds, withSourceIds } from "../ledger/there.js";
import type { Project, ReadProject } from "../project/project.js";
import { intendedByTarget } from "../rehearse/intended-by-target.js";
import type { Snapshot } from "../rehearse/snapshot.js";
import { fieldsLeftByBlank, laneKeys } from "../rehearse/platform-fields.js";
import type { Target } from "../target/target.js";
import { readExports, type ExportFile } from "./exports.js";
import type { ProjectPorts } from "./ports.js";

/** An export of the platform, compared with what is intended. */
export interface ComparedExport {
  readonly comparison: Comparison;
  readonly changes: Changes;
  readonly onPlatform: Snapshot;
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
  const onPlatform = heldOf(told, target);
  const isHeld = (kind: string, key: string) => onPlatform[kind]?.has(key) ?? false;
  const ledger = withSourceIds(own, given, target, findings, isHeld);
  const moved = withIds(withMovedRecreated(given, target, onPlatform), ledger);
  const intended = intendedByTarget(moved, target, nothingHeldBack);
  const wishes = entryOf(project.wishes, target.name).changes;
  type Intended = ReturnType<typeof intendedByTarget>;
  const compareWith = (catalogue: TargetView, own: Intended, into: Findings): Comparison =>
    compareWithPlatform(
      {
        catalogue,
        intended: own,
        onPlatform,
        delivered: (kind, key) => ledger.delivered(kind, key),
        sha256: ports.sha256,
        pairs,
        addOnly: new Set(laneKeys(target, project.kinds).keys()),
        leftByBlank: fieldsLeftByBlank(target, project.kinds),
      },
      into,
    );
  // An address that changes brings its redirect, which is then a change of its own.
  const redirects = redirectsNeeded(compareWith(moved, intended, new Findings()), wishes);
  const catalogue = withRedirects(moved, intended, redirects, project.languages[0] ?? "en");
  const whole = intendedByTarget(catalogue, target, nothingHeldBack);
  const comparison = compareWith(catalogue, whole, findings);
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
  return { comparison, changes, onPlatform, pairs, ledger };
}

/** An export of the platform. */
export interface GivenExport {
  /** JSON of the whole catalogue, or the target's own files. */
  readonly given: readonly ExportFile[];
  /** Whether the upload is to replace everything: what it does not name is deleted. */
  readonly isWholeRange: boolean;
}
