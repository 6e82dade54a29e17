/** What sets back an upload of new records: they are deleted again, where the target has imports that do so. */

import type { Lost, Prepared } from "../build/prepare.js";
import type { TargetView } from "../catalogue/catalogue.js";
import { stepsNow } from "../plan/plan.js";
import type { Target } from "../target/target.js";
import { deletingSteps, deletionsOf } from "./deletions.js";
import { asRollback } from "./renumber.js";

/** Adds the rollback to a plan of new records alone. @param isThere whether a record was on the platform before. */
export function withFirstRollback(
  prepared: Prepared,
  catalogue: TargetView,
  target: Target,
  isThere: (kind: string, row: number) => boolean,
): Prepared {
  if (target.deleting.length === 0) return prepared;
  const made = new Set<string>();
  for (const step of stepsNow(prepared.plan))
    for (const { kind, update, records } of step.is === "upload" ? step.places : [])
      if (update === undefined) for (const row of records) if (!isThere(kind, row)) made.add(`${kind} ${row}`);
  const { deleted, kept } = deletionsOf(
    catalogue,
    target,
    made,
    (kind, row) => isThere(kind, row) || made.has(`${kind} ${row}`),
  );
  if (deleted.size === 0) return prepared;
  const from = { catalogue, isOut: () => false };
  const lost = [...kept].flatMap((name): Lost[] => {
    const [kind, row] = name.split(" ") as [string, string];
    const table = catalogue.table(kind);
    const child = table.kind.single ? catalogue.kinds.childOf(kind)?.name : undefined;
    const code = table.text("code", Number(row));
    const made = (of: string, key: string): Lost => ({ kind: of, key, column: undefined, why: "made" });
    // A single is on the platform as a product with one variant.
    return [made(kind, table.key(Number(row))), ...(child !== undefined && code ? [made(child, code)] : [])];
  });
  return { ...prepared, rollback: asRollback(deletingSteps({ target, from, deleted, isRollback: true })), lost };
}
