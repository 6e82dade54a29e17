/** Operations on axes, values, categories, codes and single fields. */

import { firstOf } from "../checked.js";
import { targetsOf } from "../catalogue/catalogue.js";
import { findOrMake, findRecord, liesIn, makeSingle, makeVariant, pushDown, setTargets } from "./records.js";
import type { Operation } from "./schema.js";
import { select } from "./select.js";
import type { Work } from "./work.js";
import { kindPhrase, phrase } from "../phrases/phrase.js";

type Of<Key extends string> = Extract<Operation, Record<Key, unknown>>;

/** Several records become one: references to the others lead to it, what they contain is its own. */
export function merge(work: Work, { merge: keys, of, into }: Of<"merge">): void {
  const { catalogue } = work;
  if (!catalogue.kinds.find(of) || of === "product" || of === "variant")
    return work.refuse(phrase("{0} records cannot be merged. Products can be combined", of));
  const table = catalogue.table(of);
  const survivor = work.need(of, into);
  const rows = keys.filter((key) => key !== into).map((key) => work.need(of, key));
  if (survivor === undefined || rows.includes(undefined)) return;
  const child = catalogue.kinds.childOf(of);
  for (const row of rows as number[]) {
    if (of === "category" && liesIn(catalogue, survivor, row))
      return work.refuse(phrase("{0} is below {1}", into, table.key(row)));
    if (of === "value" && table.parent(row) !== table.parent(survivor))
      return work.refuse(phrase("{0} is on another axis than {1}", table.key(row), into));
    // Values of merged axes with the same name are one, too.
    if (child)
      for (const one of [...catalogue.table(child.name).childrenOf(row)]) {
        const own = catalogue.table(child.name);
        const name = own.text(`name@${work.source}`, one);
        const same = [...own.childrenOf(survivor)].find((other) => own.text(`name@${work.source}`, other) === name);
        if (same === undefined) own.reparent(one, survivor);
        else work.drop(child.name, one, same);
      }
    work.drop(of, row, survivor);
    work.step(
      phrase("Remove {0} {1}", kindPhrase(of), table.key(row)),
      phrase("Everything that it had belongs to {0} now.", into),
    );
  }
  if (of === "value" || of === "axis") refuseTwins(work, new Map((rows as number[]).map((row) => [row, survivor])), of);
}

/** Two variants of a product may not come to the same values. */
function refuseTwins(work: Work, merged: ReadonlyMap<number, number>, of: "value" | "axis"): void {
  const { catalogue } = work;
  const variants = catalogue.table("variant");
  const stands = (value: number) =>
    (of === "value" ? merged.get(value) : work.dropped.get("value")?.get(value)) ?? value;
  const seen = new Map<string, string>();
  for (let row = 0; row < variants.size; row++) {
    const values = targetsOf(catalogue, variants, "values", row).map(stands);
    const name = `${variants.parent(row)} ${[...new Set(values)].sort().join()}`;
    const other = seen.get(name);
    if (other !== undefined && values.length > 0)
      return work.refuse(phrase("{0} and {1} would have the same values", other, variants.key(row)));
    seen.set(name, variants.key(row));
  }
}

export function rename(work: Work, { rename: key, of, to, name = {} }: Of<"rename">): void {
  const { catalogue } = work;
  if (!catalogue.kinds.find(of)) return work.refuse(phrase('there is no kind "{0}"', of));
  const row = work.need(of, key);
  if (row === undefined) return;
  const table = catalogue.table(of);
  if (to !== undefined && to !== key) {
    if (table.find(to) !== undefined) return work.refuse(phrase('{0} "{1}" already exists', of, to));
    table.rename(row, to);
    if (of === "product") work.become(key, [to]);
  }
  for (const [lang, text] of Object.entries(name)) table.setText(`name@${lang}`, row, text);
}

export function move(work: Work, { move: keys, under }: Of<"move">): void {
  const { catalogue } = work;
  const table = catalogue.table("category");
  const above = under === null ? undefined : work.need("category", under);
  if (under !== null && above === undefined) return;
  for (const key of keys) {
    const row = work.need("category", key);
    if (row === undefined) return;
    if (above !== undefined && liesIn(catalogue, above, row))
      return work.refuse(phrase("{0} is below {1}", under ?? "", key));
    setTargets(catalogue, table, "parent", row, above === undefined ? [] : [above]);
    if (above === undefined) table.referenceColumn("parent").unset(row);
  }
}

/** The order of the values of an axis by their positions; the order of the axes of products. */
export async function order(work: Work, { order: keys, of, on }: Of<"order">): Promise<void> {
  const { catalogue } = work;
  const rows = keys.map((key) => findRecord(catalogue, of, key));
  const unknown = rows.indexOf(undefined);
  if (unknown >= 0) return work.refuse(phrase('there is no {0} "{1}"', of, keys[unknown]));
  if (of === "value") {
    (rows as number[]).forEach((row, at) => catalogue.table("value").setText("position", row, String(at + 1)));
    return;
  }
  const wanted = await select(catalogue, on ?? { of: "product" });
  if (typeof wanted === "string") return work.refuse(wanted);
  const products = catalogue.table("product");
  for (const row of wanted) {
    const own = targetsOf(catalogue, products, "axes", row);
    const first = (rows as number[]).filter((axis) => own.includes(axis));
    if (first.length > 0)
      setTargets(catalogue, products, "axes", row, [...first, ...own.filter((axis) => !first.includes(axis))]);
  }
}

/** Products change to another axis; their values become values of that, by name. */
export async function useAxis(work: Work, { "use axis": to, "instead of": from, on }: Of<"use axis">): Promise<void> {
  const { catalogue } = work;
  const products = catalogue.table("product");
  const variants = catalogue.table("variant");
  const values = catalogue.table("value");
  const old = findRecord(catalogue, "axis", from);
  if (old === undefined) return work.refuse(phrase('there is no axis "{0}"', from));
  const rows = await select(catalogue, on);
  if (typeof rows === "string") return work.refuse(rows);
  for (const row of rows) {
    const axes = targetsOf(catalogue, products, "axes", row);
    if (!axes.includes(old)) continue;
    const axis = findOrMake(catalogue, "axis", to, work.source, { table: products, row });
    if (axes.includes(axis)) return work.refuse(phrase('{0} already has the axis "{1}"', products.key(row), to));
    setTargets(
      catalogue,
      products,
      "axes",
      row,
      axes.map((one) => (one === old ? axis : one)),
    );
    for (const child of [...variants.childrenOf(row)]) {
      const own = targetsOf(catalogue, variants, "values", child).map((value) => {
        if (values.parent(value) !== old) return value;
        const made = findOrMake(
          catalogue,
          "value",
          values.text(`name@${work.source}`, value) ?? values.key(value),
          work.source,
          { table: variants, row: child },
          axis,
        );
        for (const field of [...values.texts.keys()])
          if (field.startsWith("name@") && values.text(field, made) === undefined)
            values.setText(field, made, values.text(field, value));
        return made;
      });
      setTargets(catalogue, variants, "values", child, own);
    }
  }
}

export async function splitCategory(
  work: Work,
  { "split category": key, into, name, take }: Of<"split category">,
): Promise<void> {
  const { catalogue } = work;
  const categories = catalogue.table("category");
  const row = work.need("category", key);
  if (row === undefined) return;
  if (categories.find(into) !== undefined) return work.refuse(phrase('category "{0}" already exists', into));
  const rows = await select(catalogue, take);
  if (typeof rows === "string") return work.refuse(rows);
  const made = categories.append(categories.sheet(row), categories.line(row));
  categories.nameRecord(made, into);
  for (const [lang, text] of Object.entries(name)) categories.setText(`name@${lang}`, made, text);
  const above = targetsOf(catalogue, categories, "parent", row);
  if (above.length > 0) setTargets(catalogue, categories, "parent", made, above);
  const products = catalogue.table("product");
  for (const one of take.of === "product" ? rows : []) {
    const own = targetsOf(catalogue, products, "categories", one);
    if (own.includes(row))
      setTargets(
        catalogue,
        products,
        "categories",
        one,
        own.map((category) => (category === row ? made : category)),
      );
  }
}

export function intoVariants(
  work: Work,
  { "make variants of": keys, axis: axisName, value }: Of<"make variants of">,
): void {
  const { catalogue } = work;
  const products = catalogue.table("product");
  for (const key of keys) {
    const row = work.need("product", key);
    if (row === undefined) return;
    if (catalogue.table("variant").childrenOf(row).length > 0)
      return work.refuse(phrase("{0} already has variants", key));
    const axis = findOrMake(catalogue, "axis", axisName, work.source, { table: products, row });
    const own = findOrMake(catalogue, "value", value, work.source, { table: products, row }, axis);
    makeVariant(catalogue, row, row, [own]);
    setTargets(catalogue, products, "axes", row, [axis]);
  }
}

export function intoSingle(work: Work, { "make single": keys }: Of<"make single">): void {
  const { catalogue } = work;
  for (const key of keys) {
    const row = work.need("product", key);
    if (row === undefined) return;
    const children = [...catalogue.table("variant").childrenOf(row)];
    if (children.length !== 1)
      return work.refuse(
        phrase("{0} has {1} variants. Only a single one can become the product itself", key, children.length),
      );
    pushDown(catalogue, row);
    makeSingle(catalogue, row, firstOf(children));
    work.drop("variant", firstOf(children), undefined);
  }
}
