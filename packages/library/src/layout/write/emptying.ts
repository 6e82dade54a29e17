/** Blank cells that say something: that a field is emptied. */

import type { ReadonlyTable } from "../../catalogue/readonly-table.js";
import type { Column, Layout } from "../layout.js";
import type { WrittenRow } from "./context.js";

/**
 * Whether a column empties a field of the record of a row.
 *
 * @param parents what blocks are of. @param children what they contain, or, of rows about children alone, those.
 */
export function emptying(
  { shape }: Layout,
  parents: ReadonlyTable,
  children: ReadonlyTable | undefined,
): (column: Column, row: Pick<WrittenRow, "parent" | "child">) => boolean {
  const isAboutChildren = parents.kind !== shape.parent;
  return ({ scope, bindings }, { parent, child }) => {
    // The one version of a single is the single itself.
    const isOfChild = (isAboutChildren || scope.is === "child") && child >= 0 && children?.parent(child) === parent;
    return bindings.some(({ feed, blankEmpties }) => {
      if (!blankEmpties || feed.is !== "text") return false;
      const record = isOfChild ? children?.text(feed.field, child) : parents.text(feed.field, parent);
      return record === null;
    });
  };
}
