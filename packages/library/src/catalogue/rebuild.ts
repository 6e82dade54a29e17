/** A catalogue again, without some of its records: what referred to them refers to nothing. */

import { splitTable } from "../field-name.js";
import { entryOf } from "../checked.js";
import { Catalogue, type ResolvedBranch, type ResolvedCatalogue } from "./catalogue.js";
import { noReference } from "./reference-pool.js";
import type { ReadonlyTable } from "./readonly-table.js";
import { pushAll } from "../lists.js";

/**
 * Time and memory grow with the catalogue. Entries without a parent are left out.
 *
 * @param isDropped whether a record is left out. What it contains, and its entries, go with it.
 */
export function withoutRecords(
  catalogue: ResolvedCatalogue,
  isDropped: (kind: string, row: number) => boolean,
): ResolvedCatalogue {
  const made = new Catalogue(catalogue.kinds);
  pushAll(made.sheets, catalogue.sheets);
  const rowsOf = new Map<string, Int32Array>();
  for (const table of catalogue.tables) {
    const rows = new Int32Array(table.size).fill(noReference);
    rowsOf.set(table.name, rows);
    const into = made.table(table.name);
    const owners = table.kind.entryKey ? splitTable(table.name).kind : table.kind.of;
    for (let row = 0; row < table.size; row++) {
      const parent = table.parent(row);
      const owner = owners === undefined || parent < 0 ? parent : entryOf(rowsOf, owners)[parent]!;
      if (owners !== undefined && owner < 0) continue;
      if (!table.kind.entryKey && isDropped(table.name, row)) continue;
      rows[row] = into.append(table.sheet(row), table.line(row), owner);
      if (!table.kind.entryKey) into.nameRecord(rows[row]!, table.key(row));
    }
    for (const [field, column] of table.texts)
      for (let row = 0; row < table.size; row++) {
        const cell = rows[row]! < 0 ? undefined : column.get(row);
        if (cell !== undefined) into.setText(field, rows[row]!, cell);
      }
    for (const [field, row, origin] of table.fieldOrigins())
      if (rows[row]! >= 0) into.setFieldOrigin(field, rows[row]!, origin);
  }
  for (const table of catalogue.tables) copyReferences(catalogue, made, table, rowsOf);
  return made as ResolvedBranch;
}

function copyReferences(
  catalogue: ResolvedCatalogue,
  made: Catalogue,
  table: ReadonlyTable,
  rowsOf: ReadonlyMap<string, Int32Array>,
): void {
  const { pool } = catalogue;
  const rows = entryOf(rowsOf, table.name);
  const into = made.table(table.name);
  const known = new Map<number, number>();
  const again = (number: number): number => {
    const before = known.get(number);
    if (before !== undefined) return before;
    const spec = pool.spec(number);
    const target = pool.target.get(number);
    let result: number;
    if (target === noReference)
      result = made.pool.intern(made.pool.specNumber(spec), noReference, pool.text(number), pool.met(number));
    else {
      const row = entryOf(rowsOf, spec.to)[target]!;
      result = row < 0 ? noReference : made.pool.toRow(spec.to, row, pool.met(number));
    }
    known.set(number, result);
    return result;
  };
  for (const [field, column] of table.references)
    for (let row = 0; row < table.size; row++) {
      if (rows[row]! < 0 || !column.isSet(row)) continue;
      const list = column
        .get(row)
        .map(again)
        .filter((number) => number !== noReference);
      into.referenceColumn(field).set(rows[row]!, [...new Set(list)]);
    }
}
