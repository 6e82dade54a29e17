/** The records that an operation is about: by kind, keys, category, expression. */

import { present } from "../checked.js";
import { targetsOf, type ResolvedCatalogue } from "../catalogue/catalogue.js";
import { FactReader, rootsOf } from "../derive/facts.js";
import type { Selection } from "./schema.js";
import { findRecord, liesIn } from "./records.js";

/** @returns the rows, in order; or what is wrong with the selection, in words. */
export async function select(
  catalogue: ResolvedCatalogue,
  { of, in: within, where, keys }: Selection,
): Promise<number[] | string> {
  const kind = catalogue.kinds.find(of);
  if (!kind || kind.entryKey) return `there is no kind "${of}"`;
  const table = catalogue.table(of);
  let rows = Array.from({ length: table.size }, (_, row) => row);
  if (keys) {
    const unknown = keys.find((one) => table.find(one) === undefined);
    if (unknown !== undefined) return `there is no ${of} "${unknown}"`;
    const wanted = new Set(keys.map((one) => present(table.find(one))));
    rows = rows.filter((row) => wanted.has(row));
  }
  if (within !== undefined) {
    const category = findRecord(catalogue, "category", within);
    if (category === undefined) return `there is no category "${within}"`;
    const field = of === "category" ? "parent" : "categories";
    const products = catalogue.table("product");
    rows = rows.filter((row) => {
      const categories =
        kind.of === "product"
          ? targetsOf(catalogue, products, field, table.parent(row))
          : targetsOf(catalogue, table, field, row);
      return categories.some((one) => liesIn(catalogue, one, category));
    });
  }
  if (where === undefined) return rows;
  const { expressionParser } = await import("../derive/expression.js");
  const parsed = expressionParser(rootsOf(kind, catalogue.kinds))(where);
  if (!parsed.ok) return `"${where}": ${parsed.problem}`;
  const facts = new FactReader(catalogue, kind, parsed.expression.names, catalogue);
  return rows.filter((row) => {
    const holds = parsed.expression.evaluate(facts.read(row));
    return holds.is === "flag" && holds.flag;
  });
}
