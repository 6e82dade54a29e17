/**
 * Writing one cell: for each column a function from a record to text.
 *
 * What it shows is up to its binding. A value that a codec cannot write is a finding, and the cell is blank.
 */

import type { ReadonlyTable } from "../../catalogue/readonly-table.js";
import { finding } from "../../findings/finding.js";
import { fieldName, kindOfFeed } from "../bindings/feed-kinds.js";
import { withoutLineEnds, type Binding, type Column } from "../layout.js";
import type { CellContext, ToCell, ToValue } from "./context.js";

/** @returns undefined when records of this table have nothing that the column shows. */
export function cellWriter(context: CellContext, column: Column, table: ReadonlyTable): ToCell | undefined {
  for (const binding of column.bindings) {
    const toValue = kindOfFeed(binding.feed).write(binding.feed, context, table);
    if (toValue) return toText(context, column, binding, table, toValue);
  }
  return undefined;
}

function toText(
  { catalogue, findings }: CellContext,
  column: Column,
  binding: Binding,
  table: ReadonlyTable,
  toValue: ToValue,
): ToCell {
  const { codec } = binding;
  return (record, parent) => {
    const value = toValue(record, parent);
    if (value === undefined || value.length === 0) return "";
    const text = codec.format(value);
    if (typeof text === "string") return withoutLineEnds(text, binding.lineEnds);
    const field = fieldName(binding.feed);
    findings.add(
      finding(
        "write/cannot-be-written",
        { column: column.header, text: text.text, wanted: text.wanted },
        catalogue.location(table, record, field),
      ),
    );
    return "";
  };
}
