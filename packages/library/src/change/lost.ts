/** What a rollback cannot restore: records that were made, entries that are only put in, cells that no text sets back. */

import type { Lost } from "../build/prepare.js";
import { referenceFields, targetsOf, type ResolvedCatalogue } from "../catalogue/catalogue.js";
import { entryOf } from "../checked.js";
import { writtenKind } from "../layout/write/rows.js";
import type { Kinds } from "../kinds.js";
import type { Target } from "../target/target.js";
import { deletionsOf, type Deletions } from "./deletions.js";
import type { RollbackInput } from "./rollback.js";
import type { ChangeViews } from "./views.js";
import { comparedRows } from "./rows.js";
import { numbersWhere } from "../lists.js";

/** Works out what stays as the uploads have left it. */
export function lostByRollback({ views, target, kinds, uploads, touched, deleted }: RollbackInput): readonly Lost[] {
  const { before, goal, isThere } = views;
  const files = [...new Set(uploads.map(({ slot }) => entryOf(target.files, slot.file)))];
  const lost: Lost[] = [];
  const created = new Set(target.slots.flatMap(({ creates }) => creates));
  for (const name of madeBy(views, kinds, touched)) {
    const [kind, row] = name.split(" ") as [string, string];
    if (!created.has(kind) || deleted.has(name)) continue;
    const key = goal.catalogue.table(kind).key(Number(row));
    lost.push({ kind, key, column: undefined, why: "made" });
  }
  for (const file of files)
    for (const layout of file.layouts) {
      const kind = writtenKind(layout, goal.catalogue);
      const below = layout.shape.child?.name ?? layout.shape.parent.name;
      const isAdding =
        file.entryKey.length > 0 ||
        (file.importing.lists === "add" && layout.link !== undefined && layout.lanes.length > 0);
      const table = goal.catalogue.table(kind);
      const records = numbersWhere(table.size, (row) => touched.has(`${file.name} ${kind} ${row}`));
      for (const { record, rows } of comparedRows(goal, before, file, layout, { records }))
        for (const { child, isSingles, changed, isNew, fills } of rows) {
          const isChild = child >= 0 && !isSingles;
          const key = isChild ? goal.catalogue.table(below).key(child) : table.key(record);
          const place = { kind: isChild ? below : kind, key };
          if (isNew && isAdding) lost.push({ ...place, column: file.name, why: "only added" });
          if (isNew || (isChild && !isThere(below, child))) continue;
          for (const column of changed)
            if (fills.has(column) && file.rules.get(column)?.blank !== "clear")
              lost.push({ ...place, column, why: "cannot be blank" });
        }
    }
  return lost;
}

/** Which of the records that uploads made a rollback can delete. */
export function takenBack(target: Target, kinds: Kinds, views: ChangeViews, touched: ReadonlySet<string>): Deletions {
  const made = madeBy(views, kinds, touched);
  const isThere = (kind: string, row: number) => !views.back.to.isOut(kind, row) || made.has(`${kind} ${row}`);
  return deletionsOf(views.back.to.catalogue, target, made, isThere);
}

/** The new records that uploads write, and those that they name: as `kind row`. */
function madeBy(
  { goal, isOwn, isThere }: ChangeViews,
  kinds: Kinds,
  touched: ReadonlySet<string>,
): ReadonlySet<string> {
  const { catalogue } = goal;
  const open = [...touched].map((name) => name.slice(name.indexOf(" ") + 1));
  const seen = new Set(open);
  for (let name = open.pop(); name !== undefined; name = open.pop()) {
    const [kind, at] = name.split(" ") as [string, string];
    const row = Number(at);
    const named = [...namedBy(catalogue, kinds, kind, row)];
    for (const one of named)
      if (!seen.has(one)) {
        seen.add(one);
        open.push(one);
      }
  }
  return new Set(
    [...seen].filter((name) => {
      const [kind, row] = name.split(" ") as [string, string];
      return isOwn(kind, Number(row)) && !isThere(kind, Number(row)) && !goal.isOut(kind, Number(row));
    }),
  );
}

/** What a record and its entries refer to, and what contains it. */
function* namedBy(catalogue: ResolvedCatalogue, kinds: Kinds, kind: string, row: number): Generator<string> {
  const spec = kinds.get(kind);
  const table = catalogue.table(kind);
  if (spec.of !== undefined && table.parent(row) >= 0) yield `${spec.of} ${table.parent(row)}`;
  for (const { name, to } of referenceFields(spec))
    for (const one of targetsOf(catalogue, table, name, row)) yield `${to} ${one}`;
  for (const list of Object.keys(spec.entries ?? {})) {
    const entries = catalogue.table(`${kind}.${list}`);
    for (const entry of entries.childrenOf(row))
      for (const { name, to } of referenceFields(entries.kind))
        for (const one of targetsOf(catalogue, entries, name, entry)) yield `${to} ${one}`;
  }
}
