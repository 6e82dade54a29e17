/** Records that come to be because rows name them: those that nothing names are never made. */

import { entryOf } from "../checked.js";
import type { ResolvedCatalogue } from "../catalogue/catalogue.js";
import { RowSet } from "../catalogue/row-set.js";
import type { Layout } from "../layout/layout.js";
import { hasRowsOf } from "../target/row-form.js";
import type { Target } from "../target/target.js";
import { eachReference, referenceFieldsOf } from "./references.js";

/** Asks of a record whether the target makes it: by a row of its own, or because another record that is made leads to it. */
export function madeRecords(
  catalogue: ResolvedCatalogue,
  target: Target,
  isLeftOut: (kind: string, row: number) => boolean,
): (kind: string, row: number) => boolean {
  const layouts = target.slots.flatMap(({ file }) => entryOf(target.files, file).layouts);
  const byName = new Set(target.slots.flatMap(({ creates }) => creates).filter((kind) => !hasRowsOf(kind, layouts)));
  if (byName.size === 0) return () => true;
  const named = new Map([...byName].map((kind) => [kind, new RowSet(catalogue.table(kind).size)]));
  const fields = referenceFieldsOf(catalogue).filter(({ to }) => byName.has(to));
  const isMade = (kind: string, row: number): boolean => named.get(kind)?.has(row) ?? true;
  const inParts = kindsInParts(layouts, byName);
  for (let isGrown = true; isGrown;) {
    isGrown = false;
    for (const kind of inParts) {
      const [table, known] = [catalogue.table(kind), entryOf(named, kind)];
      for (let row = 0; row < table.size; row++) {
        if (known.has(row) || table.parent(row) < 0 || !isMade(table.kind.of ?? "", table.parent(row))) continue;
        known.add(row);
        isGrown = true;
      }
    }
    for (const field of fields)
      eachReference(catalogue, field, (from, to) => {
        const known = entryOf(named, field.to);
        if (from < 0 || to < 0 || known.has(to) || isLeftOut(field.kind, from) || !isMade(field.kind, from)) return;
        known.add(to);
        isGrown = true;
      });
  }
  return isMade;
}

/** Kinds whose records stand in the cells that name what contains them: the choices of an option group. */
function kindsInParts(layouts: readonly Layout[], byName: ReadonlySet<string>): string[] {
  const kinds = layouts.flatMap(({ columns }) =>
    columns.flatMap(({ bindings }) =>
      bindings.flatMap(({ feed }) =>
        feed.is === "reference"
          ? (feed.parts ?? []).flatMap((part) => (part.is === "children" ? [part.spec.to] : []))
          : [],
      ),
    ),
  );
  return [...new Set(kinds)].filter((kind) => byName.has(kind));
}
