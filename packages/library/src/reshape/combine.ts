/** Several products become one, told apart by a new axis; one product becomes several, one for each value of an axis. */

import type { Lang, Row } from "../nominal.js";
import { firstOf, present } from "../checked.js";
import { fieldOfColumn } from "../field-name.js";
import { targetsOf } from "../catalogue/catalogue.js";
import type { Operation } from "./schema.js";
import {
  copyEntry,
  copyFields,
  findOrMake,
  findRecord,
  makeSingle,
  makeVariant,
  metAt,
  pushDown,
  setTargets,
} from "./records.js";
import type { Work } from "./work.js";
import { phrase } from "../phrases/phrase.js";

type Combine = Extract<Operation, { combine: unknown }>;
type Split = Extract<Operation, { split: unknown }>;

export function combine(work: Work, { combine: keys, into, axis: axisName, values, name = {}, take }: Combine): void {
  const { catalogue } = work;
  const products = catalogue.table("product");
  const variants = catalogue.table("variant");
  const rows = keys.map((key) => work.need("product", key));
  if (rows.includes(undefined) || work.isStopped) return;
  const originals = rows as number[];
  const missing = keys.find((key) => values[key] === undefined);
  if (missing !== undefined) return work.refuse(phrase("{0} has no value on {1}", missing, axisName));
  const first = firstOf(originals);
  const taken = products.find(into);
  if (taken !== undefined && !originals.includes(taken))
    return work.refuse(phrase('product "{0}" already exists', into));
  const axes = originals.map((row) => targetsOf(catalogue, products, "axes", row));
  const common = firstOf(axes);
  const same = (list: readonly number[]) => list.length === common.length && list.every((one) => common.includes(one));
  const odd = axes.findIndex((list) => !same(list));
  if (odd >= 0) return work.refuse(phrase("{0} has other axes than {1}", keys[odd], keys[0]));
  for (const [field, column] of products.texts) {
    if (
      ["name", "description", "slug", "searchTitle", "searchText", "code", "barcode", "position", "id"].includes(
        fieldOfColumn(field),
      )
    )
      continue;
    const differ = new Set(originals.map((row) => column.get(row) ?? ""));
    if (differ.size > 1 && take[field] === undefined && !isSold(work, field))
      work.note("reshape/fields-differ", { field, keys, winner: firstOf(keys) }, first);
  }

  // The survivor keeps its row, and with it its place and its id.
  const survivor = taken ?? first;
  const isNew = taken === undefined;
  const axis = findOrMake(catalogue, "axis", axisName, work.source, { table: products, row: first });
  originals.forEach((row, at) => {
    const value = findOrMake(catalogue, "value", values[keys[at]!]!, work.source, { table: products, row }, axis);
    const children = [...variants.childrenOf(row)];
    if (children.length === 0) makeVariant(catalogue, row, survivor, [value]);
    else {
      pushDown(catalogue, row);
      for (const child of children) {
        variants.reparent(child, survivor);
        setTargets(catalogue, variants, "values", child, [value, ...targetsOf(catalogue, variants, "values", child)]);
      }
    }
  });
  setTargets(catalogue, products, "axes", survivor, [axis, ...common]);
  const combinations = [...variants.childrenOf(survivor)].map((row) =>
    [...targetsOf(catalogue, variants, "values", row)].sort().join(),
  );
  if (new Set(combinations).size < combinations.length)
    return work.refuse(phrase("two variants of {0} would have the same values", into));

  for (const [field, from] of Object.entries(take)) {
    const row = products.find(from);
    if (row !== undefined) products.setText(field, survivor, products.text(field, row));
  }
  joinLists(work, originals, survivor);
  joinPictures(work, originals, survivor);
  for (const row of originals) {
    if (row === survivor && !isNew) continue;
    const key = products.key(row);
    redirect(work, row, survivor);
    if (row !== survivor) work.drop("product", row, survivor);
    work.become(key, [into]);
    work.step(
      phrase("Retire {0}", key),
      phrase("Its variants are sold as {0} now. Its reviews and its id on the platform are not moved.", into),
    );
  }
  if (isNew) products.rename(survivor, into);
  for (const [lang, text] of Object.entries(name)) products.setText(`name@${lang}`, survivor, text);
  if (Object.keys(name).length > 0) work.addressAgain(survivor);
}

const isSold = ({ catalogue }: Work, field: string): boolean =>
  catalogue.kinds.get("variant").fields.some(({ name }) => name === field);

/** What the products stand in, lead to and tell is the survivor's now. */
function joinLists({ catalogue }: Work, originals: readonly number[], survivor: number): void {
  const products = catalogue.table("product");
  for (const field of ["categories", "optionGroups", "visibleTo"]) {
    const all = originals.flatMap((row) => targetsOf(catalogue, products, field, row));
    if (all.length > 0) setTargets(catalogue, products, field, survivor, all);
  }
  const others = originals.filter((row) => row !== survivor);
  const relations = catalogue.table("product.relations");
  const seen = new Set<string>();
  const nameOf = (entry: number) =>
    `${relations.text("name", entry) ?? ""} ${relations.text("language", entry) ?? ""} ${targetsOf(catalogue, relations, "to", entry).join()}`;
  for (const entry of [...relations.childrenOf(survivor)]) seen.add(nameOf(entry));
  for (const row of others)
    for (const entry of [...relations.childrenOf(row)]) {
      const name = nameOf(entry);
      if (!seen.has(name)) copyEntry(relations, entry, relations, survivor);
      seen.add(name);
    }
  for (const entry of [...relations.childrenOf(survivor)])
    if (targetsOf(catalogue, relations, "to", entry).some((to) => originals.includes(to)))
      relations.reparent(entry, -1);
  for (const collection of ["properties", "redirects"]) {
    const table = catalogue.table(`product.${collection}`);
    const told = new Set(
      [...table.childrenOf(survivor)].map((entry) => targetsOf(catalogue, table, "property", entry).join()),
    );
    for (const row of others)
      for (const entry of [...table.childrenOf(row)]) {
        const property = targetsOf(catalogue, table, "property", entry).join();
        if (collection === "properties" && told.has(property)) continue;
        told.add(property);
        copyEntry(table, entry, table, survivor);
      }
  }
}

/** One run of pictures; what shows the same is kept once. */
function joinPictures(work: Work, originals: readonly number[], survivor: number): void {
  const table = work.catalogue.table("product.pictures");
  const seen = new Set<string>();
  let position = 0;
  for (const row of [survivor, ...originals.filter((one) => one !== survivor)])
    for (const entry of [...table.childrenOf(row)]) {
      const file = table.text("file", entry);
      if (typeof file !== "string") continue;
      const content = work.contentOf(file);
      if (seen.has(content)) {
        work.leaveOutPicture(file);
        table.reparent(entry, -1);
        continue;
      }
      seen.add(content);
      const own = row === survivor ? entry : copyEntry(table, entry, table, survivor);
      position++;
      if (table.text("position", own) !== undefined) table.setText("position", own, String(position));
    }
}

/** The old addresses of a product lead to another. */
function redirect({ catalogue, source }: Work, from: number, to: number): void {
  const products = catalogue.table("product");
  const table = catalogue.table("product.redirects");
  for (const [field, column] of products.texts) {
    const slug = field.startsWith("slug@") ? column.get(from) : undefined;
    if (typeof slug !== "string") continue;
    const entry = table.append(products.sheet(from), products.line(from), to);
    table.setText("from", entry, slug);
    if (field !== `slug@${source}`) table.setText("language", entry, field.slice("slug@".length));
  }
}

export function split(work: Work, { split: key, along, name, key: pattern }: Split): void {
  const { catalogue } = work;
  const products = catalogue.table("product");
  const variants = catalogue.table("variant");
  const values = catalogue.table("value");
  const product = work.need("product", key);
  const axis = findRecord(catalogue, "axis", along);
  if (product === undefined) return;
  const axes = targetsOf(catalogue, products, "axes", product);
  if (axis === undefined || !axes.includes(axis)) return work.refuse(phrase('{0} has no axis "{1}"', key, along));
  pushDown(catalogue, product);
  const groups = new Map<number, number[]>();
  for (const child of [...variants.childrenOf(product)]) {
    const value = targetsOf(catalogue, variants, "values", child).find((one) => values.parent(one) === axis);
    if (value === undefined) return work.refuse(phrase("{0} has no value on {1}", variants.key(child), along));
    groups.set(value, [...(groups.get(value) ?? []), child]);
  }
  if (groups.size < 2)
    return work.refuse(phrase("{0} has only one value on {1}, so there is nothing to split", key, along));
  const made: string[] = [];
  for (const [value, children] of groups) {
    const word = (lang: Lang) => values.text(`name@${lang}`, value) ?? values.text(`name@${work.source}`, value) ?? "";
    const own = pattern.replaceAll("{key}", key).replaceAll("{value}", work.slugOf(word(work.source)));
    if (products.find(own) !== undefined) return work.refuse(phrase('product "{0}" already exists', own));
    const row = products.append(products.sheet(product), products.line(product));
    products.nameRecord(row, own);
    made.push(own);
    copyFields(products, product, row, new Set(["id"]));
    setTargets(
      catalogue,
      products,
      "axes",
      row,
      axes.filter((one) => one !== axis),
    );
    for (const field of [...products.texts.keys()])
      if (field.startsWith("name@")) {
        const before = products.text(field, product);
        if (typeof before === "string")
          products.setText(
            field,
            row,
            name.replaceAll("{name}", before).replaceAll("{value}", word(field.slice("name@".length))),
          );
      }
    work.addressAgain(row);
    for (const collection of Object.keys(catalogue.kinds.get("product").entries ?? {})) {
      const table = catalogue.table(`product.${collection}`);
      if (collection !== "redirects")
        for (const entry of [...table.childrenOf(product)]) copyEntry(table, entry, table, row);
    }
    for (const child of children) {
      variants.reparent(child, row);
      setTargets(
        catalogue,
        variants,
        "values",
        child,
        targetsOf(catalogue, variants, "values", child).filter((one) => one !== value),
      );
    }
    if (axes.length === 1) {
      if (children.length > 1)
        return work.refuse(phrase("{0} would have {1} variants and no axis", own, children.length));
      makeSingle(catalogue, row, firstOf(children));
      work.drop("variant", firstOf(children), undefined);
    }
  }
  const all = made.map((one) => present(products.find(one)));
  redirect(work, product, firstOf(all));
  spreadReferences(work, product, all);
  work.drop("product", product, all[0]);
  work.become(key, made);
  work.step(
    phrase("Detach the variants of {0}", key),
    phrase("They belong to {0} now. A platform that never moves codes has to release them first.", made),
  );
}

/** What led to the product leads to all that came of it. */
function spreadReferences({ catalogue }: Work, product: Row<"product">, made: readonly number[]): void {
  const relations = catalogue.table("product.relations");
  for (let entry = 0; entry < relations.size; entry++) {
    if (relations.parent(entry) < 0 || relations.parent(entry) === product) continue;
    if (!targetsOf(catalogue, relations, "to", entry).includes(product)) continue;
    for (const other of made.slice(1)) {
      if (relations.parent(entry) === other) continue;
      const copy = copyEntry(relations, entry, relations, relations.parent(entry));
      relations.referenceColumn("to").set(copy, [catalogue.pool.toRow("product", other, metAt(relations, entry))]);
    }
    if (made.includes(relations.parent(entry)) && relations.parent(entry) === made[0]) relations.reparent(entry, -1);
  }
  const assortments = catalogue.table("assortment");
  for (let row = 0; row < assortments.size; row++) {
    const members = targetsOf(catalogue, assortments, "members", row);
    if (members.includes(product))
      setTargets(
        catalogue,
        assortments,
        "members",
        row,
        members.flatMap((one) => (one === product ? made : [one])),
      );
  }
}
