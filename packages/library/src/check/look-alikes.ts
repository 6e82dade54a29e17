/** Names and keys that differ in case, spaces or one letter alone: two records where one was intended. */

import { repeatedTexts } from "../catalogue/repeated-texts.js";
import type { ReadonlyTable } from "../catalogue/readonly-table.js";
import { targetsOf } from "../catalogue/catalogue.js";
import { fieldOf } from "../kind.js";
import { finding } from "../findings/finding.js";
import { foldedName, nearlySame } from "./fold.js";
import type { CheckContext, Check } from "./rule.js";

export const checkLookAlikes: Check = (context) => {
  for (const kind of context.catalogue.kinds.roots) {
    const table = context.catalogue.table(kind.name);
    if (table.size < 2) continue;
    // Values have a rule of their own; products and variants may well be called the same.
    if (kind.name === "product") checkKeys(context, table);
    else if (fieldOf(kind, "name") && kind.name !== "value") checkNames(context, table);
  }
};

/** The word that groups the rows of a product: a space or a capital more makes another product. */
function checkKeys({ catalogue, findings }: CheckContext, table: ReadonlyTable): void {
  const comesAgain = repeatedTexts(table.size, (see) => {
    for (let row = 0; row < table.size; row++) see(foldedName(table.key(row)));
  });
  if (!comesAgain) return;
  const seen = new Map<string, number>();
  for (let row = 0; row < table.size; row++) {
    const folded = foldedName(table.key(row));
    if (!comesAgain(folded)) continue;
    const other = seen.get(folded);
    if (other === undefined) seen.set(folded, row);
    else {
      const facts = { kind: table.kind.name, one: table.key(other), other: table.key(row) };
      findings.add(
        finding("check/look-alike-keys", facts, catalogue.location(table, row), [catalogue.location(table, other)]),
      );
    }
  }
}

/** Among records of one place: choices of a group, categories below the same one, option groups of one product. */
function checkNames({ catalogue, findings }: CheckContext, table: ReadonlyTable): void {
  const fields = [...table.texts.keys()].filter((field) => field.startsWith("name@"));
  const places = new Map<number, Map<string, number>>();
  const isTree = fieldOf(table.kind, "parent")?.reference?.to === table.kind.name;
  const field = isTree ? "parent" : table.kind.within;
  for (let row = 0; row < table.size; row++) {
    const place = field === undefined ? table.parent(row) : (targetsOf(catalogue, table, field, row)[0] ?? -1);
    let seen = places.get(place);
    if (!seen) places.set(place, (seen = new Map()));
    const names = fields.map((field) => table.text(field, row)).filter((name) => typeof name === "string");
    for (const folded of new Set(names.map(foldedName))) {
      const other = seen.get(folded) ?? nearlySame(folded, seen);
      if (other === undefined) seen.set(folded, row);
      else if (other !== row) {
        const facts = { kind: table.kind.name, one: nameOf(table, fields, other), other: nameOf(table, fields, row) };
        findings.add(
          finding("check/look-alike-names", facts, catalogue.location(table, row), [catalogue.location(table, other)]),
        );
        break;
      }
    }
  }
}

const nameOf = (table: ReadonlyTable, fields: readonly string[], row: number): string =>
  fields.map((field) => table.text(field, row)).find((name) => typeof name === "string") ?? table.key(row);
