/** The trial: the fewest products that show all that the catalogue uses. */

import assert from "node:assert/strict";
import { test } from "node:test";
import fc from "fast-check";
import type { ResolvedCatalogue } from "#src/index.js";
import { chooseTrial } from "#src/parts.js";
import { featuresOf } from "#src/trial/features.js";
import { read } from "./support.js";

const layout = `
layout: range
format: { csv: { delimiter: ";" } }
rows: { each: product }
columns:
  No: product.key
  Name: product.name@en
  Kg: product.weight
  Sort: product.sort
  Photo: { field: product.pictures.file, as: { list: "," } }
  With: { field: product.relations(goes-with).to, as: { list: ",", of: { by: key } } }
`;

interface Thing {
  readonly name: string;
  readonly kg: string;
  readonly sort: string;
  readonly photos: number;
  readonly goesWith: readonly number[];
}

const things: fc.Arbitrary<readonly Thing[]> = fc.array(
  fc.record({
    name: fc.constantFrom("Smoker", "\u03bc\u03ad\u03bb\u03b9", "\u871c", "Mead; sweet", "A & B"),
    kg: fc.constantFrom("", "2"),
    sort: fc.constantFrom("goods", "hire", "service", "file"),
    photos: fc.nat(2),
    goesWith: fc.array(fc.nat(6), { maxLength: 2 }),
  }),
  { minLength: 1, maxLength: 7 },
);

async function catalogueOf(list: readonly Thing[]): Promise<ResolvedCatalogue> {
  const rows = list.map(({ name, kg, sort, photos, goesWith }, at) => {
    const to = [...new Set(goesWith)].filter((one) => one < list.length && one !== at).map((one) => `p-${one}`);
    const files = Array.from({ length: photos }, (_, nth) => `${at}-${nth}.png`);
    return [`p-${at}`, `"${name}"`, kg, sort, `"${files.join()}"`, `"${to.join()}"`].join(";");
  });
  return (await read([{ layout, csv: ["No;Name;Kg;Sort;Photo;With", ...rows, ""].join("\n") }])).catalogue;
}

/** A product with all that come along with it. */
function withAll(list: readonly Thing[], from: number, seen = new Set<number>()): Set<number> {
  if (seen.has(from) || from >= list.length) return seen;
  seen.add(from);
  for (const to of list[from]!.goesWith) withAll(list, to, seen);
  return seen;
}

test("a trial shows every feature, with all that comes along, and no choice is smaller", async () => {
  let together = 0;
  await fc.assert(
    fc.asyncProperty(things, async (list) => {
      const catalogue = await catalogueOf(list);
      const features = featuresOf(catalogue);
      const all = new Set(features.flatMap((own) => [...own]));
      const { products, least, isExact, features: count } = chooseTrial(catalogue);
      const rows = new Set(products.map(({ row }) => row));
      const showsAll = (some: ReadonlySet<number>): boolean =>
        new Set([...some].flatMap((row) => [...features[row]!])).size === all.size;
      assert.ok(showsAll(rows));
      for (const row of rows) for (const other of withAll(list, row)) assert.ok(rows.has(other));
      const told = products.flatMap(({ shows }) => shows);
      assert.deepEqual([told.length, new Set(told), count], [all.size, all, all.size]);
      // So few products are searched through whole, here as there.
      let fewest = Infinity;
      for (let choice = 1; choice < 1 << list.length; choice++) {
        const some = list.flatMap((_, row) => (choice & (1 << row) ? [...withAll(list, row)] : []));
        const chosen = new Set(some);
        if (chosen.size < fewest && showsAll(chosen)) fewest = chosen.size;
      }
      assert.deepEqual([isExact, least, rows.size], [true, fewest, fewest]);
      together += Number(fewest < list.length && list.some(({ goesWith }) => goesWith.length > 0));
    }),
    { numRuns: Number(process.env["PROPERTY_RUNS"] ?? 600) },
  );
  assert.ok(together > 0);
});
