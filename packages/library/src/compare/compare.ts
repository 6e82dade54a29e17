/**
 * Comparing three ways: what is intended, what the platform's export tells, what was last delivered.
 *
 * In: catalogues, digests of what was delivered. Out: every record that is not the same, the most dangerous first, and what of it is
 * whose change.
 */

import type { TargetView } from "../catalogue/catalogue.js";
import type { Findings } from "../findings/finding.js";
import type { Ledger } from "../ledger/ledger.js";
import { compareText } from "../location.js";
import { none } from "../match/correspondence.js";
import type { Sha256 } from "../ports.js";
import type { FormerRecords } from "../reshape/former.js";
import type { Target } from "../target/target.js";
import type { Unmatched } from "./differences.js";
import { ChangedFields, shownChanges, type ChangedRecord } from "./changed-fields.js";
import { recordStates, type ComparedRecord, type PlatformComparison, type RecordState } from "./comparison.js";
import type { Coverage } from "./coverage.js";
import { ChangedSince, type ChangedBy } from "./delivered-fields.js";
import type { PlatformCatalogue } from "./held.js";
import { layoutsOf } from "./held-form.js";
import { openCollisions, type Collision } from "./collisions.js";
import { formerOnPlatform } from "./former.js";
import type { RepliedPair } from "./pairs.js";
import { suggestedPairs } from "./suggestions.js";
import { reportComparison } from "./report-findings.js";
import { deliveredName, sidesOf, type Sides } from "./sides.js";
import { coverageOf } from "./told.js";

/** What is compared. */
export interface CompareInput {
  /** What is intended. */
  readonly catalogue: TargetView;
  readonly target: Target;
  readonly platform: PlatformCatalogue;
  readonly ledger: Pick<Ledger, "delivered" | "id">;
  readonly sha256: Sha256;
  readonly pairs: readonly RepliedPair[];
  /** What records of yours were before operations; none, if left out. */
  readonly former?: FormerRecords | undefined;
}

/** Compares what is intended with what the platform has, and both with what was delivered last. */
export function compareWithPlatform(input: CompareInput, findings: Findings): PlatformComparison {
  const { catalogue, target, platform, ledger, pairs, sha256 } = input;
  const answers = pairs.flatMap(({ kind, yours, platforms, reply }) =>
    reply === undefined ? [] : [{ kind, own: yours, other: platforms, reply }],
  );
  const idOf = (kind: string, key: string) => ledger.id(kind, key);
  const sides = sidesOf({ catalogue, target, platform: platform.catalogue, idOf, answers });
  const coverage = comparedCoverage(input);
  const since = new ChangedSince(ledger, sha256);
  const fields = new ChangedFields({ sides, target, coverage, since });
  const { onlyOwn, onlyThere } = fields.compare();
  const wasDelivered = (side: "own" | "there", kind: string, row: number) =>
    since.wasDelivered(kind, deliveredName(sides, side, kind, row));
  const former = formerOnPlatform(input, sides);
  // What we delivered ourselves is not a stranger: it is reshaped. Nor is what a record was before an operation.
  const isStranger = ({ kind, yours, there }: Collision) =>
    !wasDelivered("there", kind, there) && !(former.get(kind)?.get(there)?.became.has(yours) ?? false);
  const collisions = openCollisions({ sides, target, pairs, onlyOwn, isStranger });
  const isClashing = rowSet(collisions.map(({ kind, own: row }) => ({ kind, row })));
  const newState = (kind: string, row: number): RecordState => {
    if (isClashing(kind, row)) return "would overwrite";
    return wasDelivered("own", kind, row) ? "deleted on the platform" : "new";
  };
  const records = [
    ...[...fields.changes.values()].map((one) => changedRecord(sides, one)),
    ...onlyOwn.map(({ kind, row }) => aloneRecord(sides, "own", kind, row, newState(kind, row))),
    ...onlyThere.map(({ kind, row }) => {
      const was = former.get(kind)?.get(row);
      const isYours = was !== undefined || wasDelivered("there", kind, row);
      const one = aloneRecord(
        sides,
        "there",
        kind,
        row,
        isYours ? "no longer in your sources" : "only on the platform",
      );
      return was ? { ...one, became: [...was.became] } : one;
    }),
  ].sort(byDanger);
  const left = onlyOwn.filter(({ kind, row }) => !isClashing(kind, row));
  // What a record was before an operation needs no answer.
  const others = onlyThere.filter(({ kind, row }) => !former.get(kind)?.has(row));
  const comparison: PlatformComparison = {
    records,
    unchanged: unchangedIn(sides, coverage, fields.changes),
    collisions,
    suggestions: suggestedPairs({ sides, pairs, onlyOwn: left, onlyThere: others }),
    stays: fields.stays,
    sides,
    changedBy: fields.changedBy(),
    former,
  };
  reportComparison(comparison, (row) => wasDelivered("own", "product", row), findings);
  return comparison;
}

/** What the exports tell of what the target's files carry. */
function comparedCoverage({ target, platform: { coverage: told }, catalogue }: CompareInput): Coverage {
  const carried = coverageOf(layoutsOf(target), catalogue.kinds);
  return {
    ...told,
    // Ids are the platform's to give.
    tells: (table, field) => field !== "id" && told.tells(table, field) && carried.tells(table, field),
    entries: (table) => (carried.entries(table) === "none" ? "none" : told.entries(table)),
  };
}

const rowSet = (rows: readonly Unmatched[]): ((kind: string, row: number) => boolean) => {
  const names = new Set(rows.map(({ kind, row }) => `${kind} ${row}`));
  return (kind, row) => names.has(`${kind} ${row}`);
};

function changedRecord({ own: mine }: Sides, { kind, own, there, fields: all }: ChangedRecord): ComparedRecord {
  const fields = shownChanges(all);
  const isBy = (who: ChangedBy) => fields.some(({ by }) => by === who);
  const state = isBy("both") ? "both changed" : isBy("platform") ? "changed on the platform" : "changed";
  const table = mine.table(kind);
  return { kind, own, there, key: table.key(own), state, fields, at: mine.location(table, own) };
}

function aloneRecord(
  sides: Sides,
  side: "own" | "there",
  kind: string,
  row: number,
  state: RecordState,
): ComparedRecord {
  const table = sides[side].table(kind);
  const rows = side === "own" ? { own: row, there: none } : { own: none, there: row };
  const at = side === "own" ? sides.own.location(table, row) : undefined;
  return { kind, key: table.key(row), state, fields: [], at, ...rows };
}

/** How many records are the same, of kinds of which the exports tell all. */
function unchangedIn({ own, matched }: Sides, coverage: Coverage, changes: ChangedFields["changes"]): number {
  let count = 0;
  for (const { name } of own.kinds.roots) {
    if (coverage.records(name) !== "all") continue;
    for (let row = 0; row < own.table(name).size; row++)
      if (matched.otherOf(name, row) !== none && !changes.has(`${name} ${row}`)) count++;
  }
  return count;
}

const byDanger = (a: ComparedRecord, b: ComparedRecord): number =>
  recordStates.indexOf(a.state) - recordStates.indexOf(b.state) ||
  compareText(a.kind, b.kind) ||
  compareText(a.key, b.key);
