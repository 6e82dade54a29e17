/**
 * Writing documents: blocks of rows into elements of XML or JSON, by a layout. Text comes record by record; a document of any size is
 * never whole in memory.
 */

import { present } from "../../checked.js";
import type { Header } from "../../nominal.js";
import type { ResolvedCatalogue } from "../../catalogue/catalogue.js";
import { finding, type Findings } from "../../findings/finding.js";
import type { DocumentWriter } from "../../formats/drivers/driver.js";
import { driverOf } from "../../formats/drivers/drivers.js";
import { phrase } from "../../phrases/phrase.js";
import { DocumentBuilder } from "./elements.js";
import { emptying } from "./emptying.js";
import { documentPlan, type PlacedColumn } from "../document-plan.js";
import type { Layout } from "../layout.js";
import type { WrittenRow } from "./context.js";
import { writeBlocks, writtenHeaders, writtenKind, type WriteOptions } from "./rows.js";

/** Records as the document of a layout. @returns the document in pieces. */
export function writeDocument(
  catalogue: ResolvedCatalogue,
  layout: Layout,
  options: WriteOptions,
  findings: Findings,
): Iterable<string> {
  const headers = writtenHeaders(layout, options.columns);
  return documentOf(catalogue, layout, headers, writeBlocks(catalogue, layout, options, findings), findings);
}

/** Blocks of rows as the document of a layout. @param headers of the cells of a row. */
export function documentOf(
  catalogue: ResolvedCatalogue,
  layout: Layout,
  headers: readonly Header[],
  blocks: Iterable<readonly WrittenRow[]>,
  findings: Findings,
): Iterable<string> {
  const { shape, format } = layout;
  if (shape.is !== "nested") throw new Error("a layout that is not of a document");
  const driver = present(driverOf(format).elements);
  const positions = new Map(headers.map((header, at) => [header, at]));
  const plan = documentPlan(layout, shape, driver.access(format), positions);
  const parents = catalogue.table(shape.parent.name);
  const written = catalogue.table(writtenKind(layout, catalogue));
  const below = written.kind === shape.parent ? shape.child : shape.parent;
  const empties = emptying(layout, written, below && catalogue.table(below.name));
  const disagrees = ({ column, at }: PlacedColumn, row: WrittenRow, there: string): void => {
    const wanted = phrase("the text that its element has already: {0}", there.slice(0, 80));
    const facts = { column: column.header, text: row.cells[at]!.slice(0, 80), wanted };
    findings.add(finding("write/cannot-be-written", facts, catalogue.location(parents, row.parent)));
  };
  return driver.write(
    format,
    shape.element,
  )((writer) =>
    textOf(writer, new DocumentBuilder(plan, writer, disagrees, (spot, row) => empties(spot.column, row)), blocks),
  );
}

function* textOf<E extends object>(
  { head, between, tail, textOf: text }: DocumentWriter<E>,
  builder: DocumentBuilder<E>,
  blocks: Iterable<readonly WrittenRow[]>,
): Generator<string> {
  if (head !== "") yield head;
  let isFirst = true;
  for (const rows of blocks) {
    const element = text(builder.block(rows));
    yield isFirst ? element : `${between}${element}`;
    isFirst = false;
  }
  yield tail;
}
