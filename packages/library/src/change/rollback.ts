/**
 * The rollback: the change from what is there after this upload to what was there before, by the functions that make the change itself.
 * It is limited to what the upload writes and to what follows of that: codes that moved, products that were deleted.
 */

import { writesParentsOnly } from "../build/write-file.js";
import { referenceFields, targetsOf } from "../catalogue/catalogue.js";
import { entryOf } from "../checked.js";
import type { KindSpec } from "../kind.js";
import type { Kinds } from "../kinds.js";
import { writtenHeaders } from "../layout/write/rows.js";
import type { UploadStep } from "../plan/plan.js";
import type { Target } from "../target/target.js";
import { changeSteps } from "./change-steps.js";
import { detachSteps, withoutDetachedAxes } from "./detach.js";
import { comparedRows } from "./rows.js";
import { selectRows, WrittenCells } from "./select.js";
import type { ChangeView, ChangeViews } from "./views.js";

/** What a rollback is made for. */
export interface RollbackInput {
  readonly target: Target;
  readonly kinds: Kinds;
  readonly views: ChangeViews;
  /** The uploads that it sets back. */
  readonly uploads: readonly UploadStep[];
  /** What they write: see `touchedBy`. */
  readonly touched: ReadonlySet<string>;
  /** The records that were made and are deleted again, as `kind row`. */
  readonly deleted: ReadonlySet<string>;
}

/** The uploads that set others back; not numbered yet. */
export function rollbackSteps({ target, kinds, views, touched }: RollbackInput): UploadStep[] {
  const { goal, isThere, back } = views;
  const referring = referringToLost(views, kinds);
  const isAffected = (file: string, kind: string, row: number, child: string, childRow: number) =>
    touched.has(`${file} ${kind} ${row}`) ||
    touched.has(`${file} ${child} ${childRow}`) ||
    goal.isOut(kind, row) ||
    referring.has(`${kind} ${row}`);
  const written = new WrittenCells();
  const stepsFor = (to: ChangeView, from: ChangeView, isFor: (kind: string, row: number) => boolean) => {
    const asked = { target, kinds, to, from, isFor, isThere: () => true, isAffected };
    return changeSteps({ ...asked, purpose: "rollback", leavesUpdates: false }).flatMap(
      (step) => selectRows(step, { target, written, to, from, isAffected }) ?? [],
    );
  };
  // What has a code that another gets back lets go of it first.
  return [
    ...stepsFor(back.released, goal, (kind, row) => !goal.isOut(kind, row)),
    ...stepsFor(back.to, withoutDetachedAxes(back.released, detachSteps(target, goal, back.to)), isThere),
  ];
}

/** The records of which uploads write anything: by file, kind and row. */
export function touchedBy(target: Target, views: ChangeViews, uploads: readonly UploadStep[]): ReadonlySet<string> {
  const touched = new Set<string>();
  for (const step of uploads) {
    const file = entryOf(target.files, step.slot.file);
    const [to, from] = step.purpose === "release" ? [views.released, views.before] : [views.goal, views.before];
    for (const { layout: at, kind, records, rows: chosen } of step.files.flatMap(({ blocks }) => blocks)) {
      const layout = file.layouts[at]!;
      const below = layout.shape.child?.name ?? layout.shape.parent.name;
      const columns = step.columns && new Set(writtenHeaders(layout, step.columns));
      const asked = { records, columns, parentsOnly: writesParentsOnly(step, layout) };
      let number = 0;
      for (const { record, rows } of comparedRows(to, from, file, layout, asked))
        for (const { child, isSingles } of rows) {
          if (chosen && !chosen.has(number++)) continue;
          touched.add(`${file.name} ${kind} ${record}`);
          if (child >= 0 && !isSingles) touched.add(`${file.name} ${below} ${child}`);
        }
    }
  }
  return touched;
}

/** Records that were there and led to one that the upload takes out: they have lost that. */
function referringToLost({ before, goal, isThere }: ChangeViews, kinds: Kinds): ReadonlySet<string> {
  const { catalogue } = before;
  const found = new Set<string>();
  const isLost = (kind: string, row: number) => isThere(kind, row) && goal.isOut(kind, row);
  const hasLost = ({ name }: KindSpec) =>
    Array.from({ length: catalogue.table(name).size }, (_, row) => row).some((row) => isLost(name, row));
  if (!kinds.roots.some(hasLost)) return found;
  for (const table of catalogue.tables)
    for (const { name, to } of referenceFields(table.kind))
      for (let row = 0; row < table.size; row++)
        if (targetsOf(catalogue, table, name, row).some((one) => isLost(to, one))) {
          const owner = catalogue.ownerOf(table, row);
          if (owner.row >= 0) found.add(`${owner.table.name} ${owner.row}`);
        }
  return found;
}
