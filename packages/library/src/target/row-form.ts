/** The forms that the rows of a file have. */

import type { Header } from "../nominal.js";
import type { Layout } from "../layout/layout.js";

/** A product's rows together, its own row before those of its variants, each a record by itself, or each about a record that another file gives. */
export type RowForm = "grouped" | "own row" | "flat" | "linked";

export function rowFormOf({ shape, link }: Layout): RowForm {
  if (link) return "linked";
  if (shape.is === "grouped") return "grouped";
  return shape.is === "own-row" ? "own row" : "flat";
}

/** Whether some rows are of records of a kind; rows that say more of records which another file gives are not. */
export const hasRowsOf = (kind: string, layouts: readonly Layout[]): boolean =>
  layouts.some(({ shape, link }) => !link && (shape.parent.name === kind || shape.child?.name === kind));

/** The columns by which rows are grouped: what tells products apart, and what tells variants apart. */
export interface GroupedColumns {
  readonly parent: Header;
  readonly child: Header;
}

/** @returns undefined where rows are not grouped. */
export function groupedColumns(layout: Layout): GroupedColumns | undefined {
  const { shape, columns } = layout;
  if (rowFormOf(layout) !== "grouped" || shape.is !== "grouped") return undefined;
  const code = columns.find(({ bindings }) => bindings.some(({ feed }) => feed.is === "text" && feed.field === "code"));
  return { parent: shape.column, child: code?.header ?? "" };
}
