/** Blank cells that say something: that a field is emptied. */

import type { ResolvedCatalogue } from "../../catalogue/catalogue.js";
import type { Column, Layout } from "../layout.js";
import type { WrittenRow } from "./context.js";

/** Whether a column empties a field of the record of a row. */
export function emptying(
  catalogue: ResolvedCatalogue,
  { shape }: Layout,
): (column: Column, row: Pick<WrittenRow, "parent" | "child">) => boolean {
  const parents = catalogue.table(shape.parent.name);
  const children = shape.child && catalogue.table(shape.child.name);
  return ({ scope, bindings }, { parent, child }) =>
    bindings.some(({ feed, blankEmpties }) => {
      if (!blankEmpties || feed.is !== "text") return false;
      // The one version of a single is the single itself.
      const isOfChild = scope.is === "child" && children !== undefined && children.childrenOf(parent).length > 0;
      return isOfChild ? children.text(feed.field, child) === null : parents.text(feed.field, parent) === null;
    });
}
