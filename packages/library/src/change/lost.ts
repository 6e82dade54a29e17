/** What a rollback cannot restore: records that were made, entries that are only put in, cells that no text sets back. */

import { entryOf } from "../checked.js";
import type { Lost } from "../build/prepare.js";
import type { Kinds } from "../kinds.js";
import { writtenKind } from "../layout/write/rows.js";
import type { Target } from "../target/target.js";
import { comparedRows } from "./rows.js";
import type { ChangeViews } from "./views.js";

interface LostInput extends ChangeViews {
  readonly target: Target;
  readonly kinds: Kinds;
}

/** Works out what stays as the change has left it. */
export function lostByRollback({ before, goal, isOwn, isThere, target, kinds }: LostInput): readonly Lost[] {
  const lost: Lost[] = [];
  const created = new Set(target.slots.flatMap(({ creates }) => creates));
  for (const { name } of kinds.roots) {
    const table = goal.catalogue.table(name);
    for (let row = 0; row < table.size; row++)
      if (created.has(name) && isOwn(name, row) && !isThere(name, row) && !goal.isOut(name, row))
        lost.push({ kind: name, key: table.key(row), column: undefined, why: "made" });
  }
  for (const of of new Set(target.slots.map(({ file }) => file))) {
    const file = entryOf(target.files, of);
    for (const layout of file.layouts) {
      const kind = writtenKind(layout, goal.catalogue);
      const table = goal.catalogue.table(kind);
      const records = Array.from({ length: table.size }, (_row, row) => row).filter(
        (row) => isThere(kind, row) && !goal.isOut(kind, row),
      );
      const isAdding = file.entryKey.length > 0;
      const cannotBlank = new Set(
        [...file.rules].flatMap(([header, { blank }]) => (blank === "clear" ? [] : [header])),
      );
      for (const { record, rows } of comparedRows(goal, before, file, layout, { records }))
        for (const { changed, isNew, fills } of rows) {
          if (isNew && isAdding) lost.push({ kind, key: table.key(record), column: of, why: "only added" });
          if (isNew) continue;
          for (const column of changed)
            if (fills.has(column) && cannotBlank.has(column))
              lost.push({ kind, key: table.key(record), column, why: "cannot be blank" });
        }
    }
  }
  return lost;
}
