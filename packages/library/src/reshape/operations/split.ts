/** One product becomes several, one for each value of an axis. */

import { z } from "zod";
import type { Lang, Row } from "../../nominal.js";
import { firstOf, present } from "../../checked.js";
import { targetsOf } from "../../catalogue/catalogue.js";
import { phrase } from "../../phrases/phrase.js";
import { operation } from "../operation.js";
import { copyEntry, copyFields, findRecord, makeSingle, metAt, pushDown, setTargets } from "../records.js";
import { redirect } from "../redirect.js";
import type { Work } from "../work.js";
import { copyWithin } from "../within.js";
import { added } from "../../lists.js";

const text = z.string().min(1);
const places = /\{([^}]*)\}/g;

export const split = operation({
  schema: z.strictObject({
    split: text,
    along: text,
    /** `{name}` and `{value}` stand for the product's and the value's, in each language. */
    name: text.default("{name} {value}"),
    key: text.default("{key}-{value}"),
  }),
  *problems({ name, key }) {
    const allowed = { name: ["name", "value"], key: ["key", "value"] };
    for (const [word, pattern] of Object.entries({ name, key }) as ["name" | "key", string][])
      for (const [whole, place = ""] of pattern.matchAll(places))
        if (!allowed[word].includes(place))
          yield { path: [word], problem: phrase("{0} stands for nothing in this pattern", whole) };
  },
  run(work, { split: key, along, name, key: pattern }) {
    const { catalogue } = work;
    const products = catalogue.table("product");
    const variants = catalogue.table("variant");
    const values = catalogue.table("value");
    const product = work.need("product", key);
    if (product === undefined) return;
    const axis = findRecord(work, "axis", along);
    const axes = targetsOf(catalogue, products, "axes", product);
    if (axis === undefined || !axes.includes(axis)) return work.refuse(phrase('{0} has no axis "{1}"', key, along));
    pushDown(catalogue, product);
    const groups = new Map<number, number[]>();
    for (const child of [...variants.childrenOf(product)]) {
      const value = targetsOf(catalogue, variants, "values", child).find((one) => values.parent(one) === axis);
      if (value === undefined) return work.refuse(phrase("{0} has no value on {1}", variants.key(child), along));
      groups.set(value, added(groups.get(value), child));
    }
    if (groups.size < 2)
      return work.refuse(phrase("{0} has only one value on {1}, so there is nothing to split", key, along));
    const made: string[] = [];
    for (const [value, children] of groups) {
      const word = (lang: Lang) =>
        values.text(`name@${lang}`, value) ?? values.text(`name@${work.source}`, value) ?? "";
      const own = pattern.replaceAll("{key}", key).replaceAll("{value}", work.slugOf(word(work.source)));
      if (products.find(own) !== undefined) return work.refuse(phrase('product "{0}" already exists', own));
      const row = products.append(products.sheet(product), products.line(product));
      products.nameRecord(row, own);
      made.push(own);
      copyFields(products, product, row, new Set(["id"]));
      const left = axes.filter((one) => one !== axis);
      setTargets(catalogue, products, "axes", row, left);
      work.sets("product", row, "axes");
      for (const field of [...products.texts.keys()]) {
        const before = field.startsWith("name@") ? products.text(field, product) : undefined;
        if (typeof before !== "string") continue;
        const lang = field.slice("name@".length);
        products.setText(field, row, name.replaceAll("{name}", before).replaceAll("{value}", word(lang)));
        work.sets("product", row, field);
      }
      work.addressAgain(row);
      for (const collection of Object.keys(catalogue.kinds.get("product").entries ?? {})) {
        if (collection === "redirects") continue;
        const table = catalogue.table(`product.${collection}`);
        for (const entry of [...table.childrenOf(product)]) copyEntry(table, entry, table, row);
      }
      for (const child of children) {
        const others = targetsOf(catalogue, variants, "values", child).filter((one) => one !== value);
        variants.reparent(child, row);
        setTargets(catalogue, variants, "values", child, others);
        work.sets("variant", child, "values");
      }
      if (axes.length > 1) continue;
      if (children.length > 1)
        return work.refuse(phrase("{0} would have {1} variants and no axis", own, children.length));
      makeSingle(work, row, firstOf(children));
    }
    const all = made.map((one) => present(products.find(one)));
    redirect(work, product, firstOf(all));
    spreadReferences(work, product, all);
    copyWithin(work, product, all);
    work.drop("product", product, all[0]);
    work.become("product", key, made);
    work.step({
      title: phrase("Retire {0}", key),
      why: phrase("Its variants are sold as {0} now. Its reviews and its id on the platform are not moved.", made),
      when: "after",
      about: { kind: "product", key },
    });
  },
});

/** What led to the product leads to all that came of it. */
function spreadReferences(work: Work, product: Row<"product">, made: readonly number[]): void {
  const { catalogue } = work;
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
  for (const row of work.rows("assortment")) {
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
