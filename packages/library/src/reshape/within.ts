/** Records that belong to one product, such as its option groups, when products become one, or one becomes several. */

import { targetsOf } from "../catalogue/catalogue.js";
import { withinOf, type KindSpec } from "../kind.js";
import { copyFields, setTargets } from "./records.js";
import { uniteInto } from "./unite.js";
import type { Work } from "./work.js";

const kindsWithin = ({ catalogue }: Work): KindSpec[] =>
  catalogue.kinds.all.filter((kind) => withinOf(kind) === "product");

function* recordsOf(work: Work, kind: KindSpec, product: number): Generator<number> {
  const table = work.catalogue.table(kind.name);
  const field = kind.within ?? "";
  if (!table.references.has(field)) return;
  for (const row of work.rows(kind.name)) if (targetsOf(work.catalogue, table, field, row).includes(product)) yield row;
}

/** Records of the same name that belonged to different products are one. */
export function uniteWithin(work: Work, products: readonly number[], survivor: number): void {
  for (const kind of kindsWithin(work)) {
    const table = work.catalogue.table(kind.name);
    const byName = new Map<string, number>();
    for (const product of [survivor, ...products.filter((one) => one !== survivor)])
      for (const row of [...recordsOf(work, kind, product)]) {
        const name = table.text(`name@${work.source}`, row) ?? table.key(row);
        const same = byName.get(name);
        if (same === undefined) byName.set(name, row);
        else if (same !== row) uniteInto(work, kind.name, row, same);
      }
  }
}

/** Each of the products gets records of its own; the first keeps those that are there. */
export function copyWithin(work: Work, product: number, made: readonly number[]): void {
  const { catalogue } = work;
  for (const kind of kindsWithin(work)) {
    const table = catalogue.table(kind.name);
    for (const row of [...recordsOf(work, kind, product)])
      for (const other of made.slice(1)) {
        const copy = table.append(table.sheet(row), table.line(row));
        table.nameRecord(copy, `${table.key(row)}-${catalogue.table("product").key(other)}`);
        copyFields(table, row, copy, new Set(["id"]));
        setTargets(catalogue, table, kind.within ?? "", copy, [other]);
        work.makes(kind.name, copy);
        copyChildren(work, kind, row, copy);
        leadTo(work, kind.name, row, copy, other);
      }
  }
}

function copyChildren(work: Work, kind: KindSpec, from: number, to: number): void {
  const child = work.catalogue.kinds.childOf(kind.name);
  if (!child) return;
  const table = work.catalogue.table(child.name);
  for (const row of [...table.childrenOf(from)]) {
    const copy = table.append(table.sheet(row), table.line(row), to);
    table.nameRecord(copy, `${table.key(row)}-${work.catalogue.table(kind.name).key(to)}`);
    copyFields(table, row, copy, new Set(["id"]));
    work.makes(child.name, copy);
  }
}

/** What a product and its entries refer to is the copy now. */
function leadTo(work: Work, kind: string, from: number, to: number, product: number): void {
  const { catalogue } = work;
  for (const table of catalogue.tables) {
    const isProducts = table.name === "product";
    if (!isProducts && !table.name.startsWith("product.")) continue;
    const rows = isProducts ? [product] : [...table.childrenOf(product)];
    for (const { name, reference } of table.kind.fields) {
      if (reference?.to !== kind || !table.references.has(name)) continue;
      for (const row of rows) {
        const own = targetsOf(catalogue, table, name, row);
        if (!own.includes(from)) continue;
        const changed = own.map((one) => (one === from ? to : one));
        setTargets(catalogue, table, name, row, changed);
        work.sets("product", product, isProducts ? name : table.name.slice("product.".length));
      }
    }
  }
}
