/** Several products become one, told apart by a new axis. */

import { z } from "zod";
import { firstOf } from "../../checked.js";
import { targetsOf } from "../../catalogue/catalogue.js";
import { phrase } from "../../phrases/phrase.js";
import { fieldAsNamed, operation } from "../operation.js";
import { joinEntries, joinPictures, joinRelations, propertyIn } from "../join-entries.js";
import { findOrMake, makeVariant, pushDown, setTargets } from "../records.js";
import { sellableParts } from "../sellable-parts.js";
import { redirectAddress } from "../redirect.js";
import { settleFields, type Settling } from "../settle-fields.js";
import type { Work } from "../work.js";
import { uniteWithin } from "../within.js";

const key = z.string().min(1);

export const combine = operation({
  schema: z.strictObject({
    combine: z.array(key).min(2),
    into: key,
    axis: key,
    /** The value of each product on the axis, by the product's key. */
    values: z.record(key, key),
    name: z.record(z.string().min(2), key).optional(),
    /** Where the products' own fields differ, whose counts: by field, the product's key. Else the first that has one. */
    take: z.record(key, key).default({}),
  }),
  *problems({ combine: keys, axis, values, take, name = {} }, kinds) {
    const stranger = (word: string) => phrase("{0} is not one of the products that are combined", word);
    for (const word of Object.keys(values))
      if (!keys.includes(word)) yield { path: ["values", word], problem: stranger(word) };
    for (const one of keys)
      if (values[one] === undefined) yield { path: ["values"], problem: phrase("{0} has no value on {1}", one, axis) };
    const sold = new Set(sellableParts(kinds).fields);
    for (const [field, from] of Object.entries(take)) {
      const path = ["take", field];
      if (!keys.includes(from)) yield { path, problem: stranger(from) };
      if (propertyIn(field) !== undefined) continue;
      const named = fieldAsNamed("product", field, kinds);
      if ("problem" in named) yield { path, ...named };
      else if (sold.has(named.field.name))
        yield { path, problem: phrase("{0} goes to the variants. Each keeps its own", field) };
      else if (["axes", "id", "position"].includes(named.field.name))
        yield { path, problem: phrase("{0} of the combined product is given by {1}", field, "combine") };
      else if (field.startsWith("name@") && name[field.slice("name@".length)] !== undefined)
        yield { path, problem: phrase("{0} of the combined product is given by {1}", field, "name") };
    }
  },
  run(work, { combine: keys, into, axis: axisName, values, name = {}, take }) {
    const { catalogue } = work;
    const products = catalogue.table("product");
    const rows = keys.map((one) => work.need("product", one));
    if (rows.includes(undefined) || work.isStopped) return;
    const originals = rows as number[];
    const missing = keys.find((one) => values[one] === undefined);
    if (missing !== undefined) return work.refuse(phrase("{0} has no value on {1}", missing, axisName));
    const taken = products.find(into);
    if (taken !== undefined && !originals.includes(taken))
      return work.refuse(phrase('product "{0}" already exists', into));
    const axes = originals.map((row) => targetsOf(catalogue, products, "axes", row));
    const common = firstOf(axes);
    const odd = axes.findIndex((list) => list.length !== common.length || !list.every((one) => common.includes(one)));
    if (odd >= 0) return work.refuse(phrase("{0} has other axes than {1}", keys[odd], keys[0]));

    // The survivor keeps its row, and with it its place and its id.
    const survivor = taken ?? firstOf(originals);
    const axis = findOrMake(work, "axis", axisName, { table: products, row: survivor });
    const valueOf = (row: number, at: number) =>
      findOrMake(work, "value", values[keys[at]!]!, { table: products, row }, axis);
    moveVariants(work, originals, survivor, valueOf);
    setTargets(catalogue, products, "axes", survivor, [axis, ...common]);
    work.sets("product", survivor, "axes");
    if (hasTwins(work, survivor)) return work.refuse(phrase("two variants of {0} would have the same values", into));

    const addresses = originals.flatMap((row) =>
      [...products.texts].flatMap(([field, column]) => {
        const slug = field.startsWith("slug@") ? column.get(row) : undefined;
        return typeof slug === "string" ? [{ field, slug }] : [];
      }),
    );
    const settling: Settling = { originals, keys, survivor, take: new Map(Object.entries(take)) };
    const addressed = new Set(Object.keys(name).filter((lang) => take[`slug@${lang}`] === undefined));
    const given = [...Object.keys(name).map((lang) => `name@${lang}`), ...[...addressed].map((lang) => `slug@${lang}`)];
    settleFields(work, settling, new Set(given));
    joinRelations(work, settling);
    joinEntries(work, settling);
    joinPictures(work, settling);
    if (work.isStopped) return;
    for (const [lang, text] of Object.entries(name)) {
      products.setText(`name@${lang}`, survivor, text);
      work.sets("product", survivor, `name@${lang}`);
    }
    work.addressAgain(survivor, addressed);
    for (const { field, slug } of addresses)
      if (products.text(field, survivor) !== slug) redirectAddress(work, survivor, field, slug);
    uniteWithin(work, originals, survivor);

    for (const row of originals) {
      if (row === survivor && taken !== undefined) continue;
      const own = products.key(row);
      if (row !== survivor) work.drop("product", row, survivor);
      work.become("product", own, [into]);
      work.step({
        title: phrase("Retire {0}", own),
        why: phrase("Its variants are sold as {0} now. Its reviews and its id on the platform are not moved.", into),
        when: "after",
        about: { kind: "product", key: own },
      });
    }
    if (taken === undefined) products.rename(survivor, into);
  },
});

/** Singles become variants of the survivor, variants change to it; each with the value of its product. */
function moveVariants(
  work: Work,
  originals: readonly number[],
  survivor: number,
  valueOf: (row: number, at: number) => number,
): void {
  const { catalogue } = work;
  const variants = catalogue.table("variant");
  originals.forEach((row, at) => {
    const value = valueOf(row, at);
    const children = [...variants.childrenOf(row)];
    if (children.length === 0) return void makeVariant(work, row, survivor, [value]);
    pushDown(catalogue, row);
    for (const child of children) {
      variants.reparent(child, survivor);
      setTargets(catalogue, variants, "values", child, [value, ...targetsOf(catalogue, variants, "values", child)]);
      work.sets("variant", child, "values");
    }
  });
}

function hasTwins({ catalogue }: Work, product: number): boolean {
  const variants = catalogue.table("variant");
  const combinations = [...variants.childrenOf(product)].map((row) =>
    [...targetsOf(catalogue, variants, "values", row)].sort().join(),
  );
  return new Set(combinations).size < combinations.length;
}
