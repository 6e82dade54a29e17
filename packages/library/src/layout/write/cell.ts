/**
 * Writing one cell: for each column a function from a record to text.
 *
 * What it shows is up to its binding. A value that a codec cannot write is a finding, and the cell is blank.
 */

import type { ReadonlyTable } from "../../catalogue/readonly-table.js";
import { isUnwritable } from "../../codecs/codec.js";
import { textCodec } from "../../codecs/scalars.js";
import { finding } from "../../findings/finding.js";
import { fieldName, kindOfFeed } from "../bindings/feed-kinds.js";
import { phrase, type Text } from "../../phrases/phrase.js";
import { withoutLineEnds, type Binding, type Column } from "../layout.js";
import type { CellContext, ToCell, ToValue } from "./context.js";

/** @returns undefined when records of this table have nothing that the column shows. */
export function cellWriter(context: CellContext, column: Column, table: ReadonlyTable): ToCell | undefined {
  const [first, ...others] = column.bindings.flatMap((binding) => {
    const toValue = kindOfFeed(binding.feed).write(binding.feed, context, table);
    return toValue ? [{ binding, toCell: toText(context, column, binding, table, toValue) }] : [];
  });
  const { fixes, blankMeans } = column;
  if (!first || (others.length === 0 && blankMeans === undefined && fixes.length === 0)) return first?.toCell;
  const report = (record: number, { feed }: Binding, text: string, wanted: Text): void => {
    const at = context.catalogue.location(table, record, fieldName(feed));
    context.findings.add(finding("write/cannot-be-written", { column: column.header, text, wanted }, at));
  };
  return (record, parent) => {
    const text = first.toCell(record, parent);
    if (text === "" && blankMeans !== undefined)
      report(record, first.binding, "", phrase('a value: a blank cell means "{0}"', blankMeans));
    const fixed = fixes.reduce((fixing, { fix }) => fix(fixing), text);
    if (fixed !== text) report(record, first.binding, text, phrase('a text that "fix" leaves as it is'));
    // All that a column feeds is read from the one text.
    for (const { binding, toCell } of others) {
      const other = toCell(record, parent);
      if (other !== text) report(record, binding, other, phrase("the text of {0}: {1}", first.binding.name, text));
    }
    return text;
  };
}

function toText(
  { catalogue, findings }: CellContext,
  column: Column,
  binding: Binding,
  table: ReadonlyTable,
  toValue: ToValue,
): ToCell {
  const { codec, feed } = binding;
  // Most columns show a text as it is.
  if (codec === textCodec && binding.lineEnds === undefined && feed.is === "text" && feed.otherwise === undefined)
    return (record, parent) => (toValue(record, parent) as string | undefined) ?? "";
  // A path of none is the root word alone, where there is one.
  const isPath = feed.is === "reference" && feed.shape === "path";
  return (record, parent) => {
    const value = toValue(record, parent);
    if (value === undefined) return "";
    if (!isUnwritable(value) && value.length === 0 && !(isPath && typeof value !== "string")) return "";
    const text = isUnwritable(value) ? value : codec.format(value);
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
