/** The goal: what is intended, settled with what a platform has, by every policy. */

import assert from "node:assert/strict";
import { test } from "node:test";
import fc from "fast-check";
import type { ChangeWishes, ResolvedCatalogue } from "#src/index.js";
import type { Key } from "#src/nominal.js";
import {
  compareCatalogues,
  everything,
  goalOf,
  matchRecords,
  noWishes,
  type Coverage,
  type GoalInput,
} from "#src/parts.js";
import { blocks, byContent, catalogueOf, line, type Line } from "./goods.js";

const runs = Number(process.env["PROPERTY_RUNS"] ?? 60);

const renamed = (lines: readonly Line[]): Line[] => lines.map((one) => ({ ...one, P: `x-${one.P}` }));
const matchOf = (own: ResolvedCatalogue, other: ResolvedCatalogue) => matchRecords({ own, other, ...byContent });
const compared = (own: ResolvedCatalogue, other: ResolvedCatalogue) =>
  compareCatalogues({ matched: matchOf(own, other) });
/** Sealed catalogues cannot be branched from twice in one test: each goal gets its own readings. */
const goalFrom = async (own: readonly Line[], there: readonly Line[], more: Partial<GoalInput> = {}) => {
  const [intended, platform] = [await catalogueOf(own), await catalogueOf(there)];
  const goal = goalOf({ matched: matchOf(intended, platform), coverage: everything, wishes: noWishes, ...more });
  return { intended, platform, ...goal };
};
const wishes = (fields: ChangeWishes["fields"], only?: ChangeWishes["only"]): ChangeWishes => ({
  ...noWishes,
  fields,
  ...(only && { only }),
});
const stays = (kinds: readonly string[]) => Object.fromEntries(kinds.map((kind) => [kind, "leave" as const]));
const allFields = ["name", "brand", "categories", "weight", "prices", "code", "axes", "values"];
const leaveAll = wishes(stays(["product", "variant"].flatMap((kind) => allFields.map((field) => `${kind}.${field}`))));

test("on an empty platform, and on one that has it already, the goal is what is intended", async () => {
  await fc.assert(
    fc.asyncProperty(blocks, async (all) => {
      const lines = all.flat();
      for (const there of [[], renamed(lines)]) {
        const { intended, catalogue, notMade } = await goalFrom(lines, there);
        const { differences, onlyOwn, onlyOther } = compared(catalogue, await catalogueOf(lines));
        assert.deepEqual([differences, onlyOwn, onlyOther, notMade.size], [[], [], [], 0]);
        assert.equal(catalogue.table("product").key(0), intended.table("product").key(0));
      }
    }),
    { numRuns: runs },
  );
});

test("whatever the policies are, records of either are in the goal, and settling again changes nothing", async () => {
  const policy = fc.constantFrom("overwrite", "fill", "add", "leave" as const);
  await fc.assert(
    fc.asyncProperty(
      blocks,
      blocks,
      fc.dictionary(fc.constantFrom("product.name", "product.categories", "variant.prices", "variant.weight"), policy),
      fc.boolean(),
      async (all, others, fields, isReplaced) => {
        const replaces = () => isReplaced;
        const more = { wishes: wishes(fields), replaces };
        const { catalogue, intended, platform } = await goalFrom(all.flat(), renamed(others.flat()), more);
        for (const kind of ["product", "variant", "category", "brand", "value"]) {
          const keys = (from: ResolvedCatalogue) => [...from.table(kind).keys()];
          const matched = matchOf(catalogue, platform);
          for (const key of keys(intended))
            assert.notEqual(catalogue.table(kind).find(key), undefined, `${kind} ${key}`);
          for (let row = 0; row < platform.table(kind).size; row++) assert.notEqual(matched.ownOf(kind, row), -1, kind);
        }
        const again = goalOf({ matched: matchOf(intended, catalogue), coverage: everything, ...more });
        const { differences, onlyOwn, onlyOther } = compared(again.catalogue, catalogue);
        assert.deepEqual([differences, onlyOwn, onlyOther], [[], [], []]);
      },
    ),
    { numRuns: runs },
  );
});

test("what is left to the platform is as the platform has it", async () => {
  await fc.assert(
    fc.asyncProperty(blocks, blocks, async (all, others) => {
      const { catalogue, platform } = await goalFrom(all.flat(), renamed(others.flat()), { wishes: leaveAll });
      const { differences } = compared(catalogue, platform);
      assert.deepEqual(differences, []);
    }),
    { numRuns: runs },
  );
});

test("what the export does not tell, and what the sources do not say, is not taken away", async () => {
  await fc.assert(
    fc.asyncProperty(
      blocks,
      blocks,
      fc.subarray(["name@en", "brand", "categories", "weight", "amount"]),
      async (all, others, unknown) => {
        const coverage: Coverage = { ...everything, tells: (_, field) => !unknown.includes(field) };
        const { catalogue, intended, platform } = await goalFrom(all.flat(), renamed(others.flat()), { coverage });
        const there = matchOf(catalogue, platform);
        for (const kind of ["product", "variant"])
          for (const field of ["name@en", "weight"])
            for (let row = 0; row < intended.table(kind).size; row++) {
              const [own, now] = [intended.table(kind).text(field, row), catalogue.table(kind).text(field, row)];
              const has = platform.table(kind).text(field, there.otherOf(kind, row));
              assert.equal(now, own ?? (unknown.includes(field) ? undefined : has));
            }
      },
    ),
    { numRuns: runs },
  );
});

test("each policy, on one record", async () => {
  const own = { ...line("a", "1", "New name", "Thornapple"), Shelf: "Hives", Kg: "1", Price: "3" };
  const has = { ...line("x", "1", "Old name", "Sandhopper"), Shelf: "Tools", Kg: "2", Price: "4", Club: "2" };
  const settled = async (more: Partial<GoalInput>) => {
    const { catalogue } = await goalFrom([own], [has], more);
    const [products, variants] = [catalogue.table("product"), catalogue.table("variant")];
    const kept = catalogue.table(variants.size > 0 ? "variant" : "product");
    const prices = catalogue.table(`${kept.name}.prices`);
    const { pool } = catalogue;
    const shelves = products
      .referencesOf("categories")
      .get(0)
      .map((one) => catalogue.table("category").key(pool.target.get(one)));
    return [
      products.text("name@en", 0),
      shelves.join(),
      kept.text("weight", 0),
      [...prices.childrenOf(0)].map((one) => `${prices.text("role", one)} ${prices.text("amount", one)}`).join(),
    ];
  };
  const prices = (policy: "add" | "leave" | "fill") => wishes({ "variant.prices": policy, "product.prices": policy });
  assert.deepEqual(await settled({}), ["New name", "Hives", "1", "price 3,club 2"]);
  assert.deepEqual(await settled({ unnamed: () => "taken out" as const }), ["New name", "Hives", "1", "price 3"]);
  assert.deepEqual(
    (await settled({ unnamed: () => "taken out" as const, wishes: prices("add") }))[3],
    "price 3,club 2",
  );
  assert.deepEqual((await settled({ wishes: prices("leave") }))[3], "price 4,club 2");
  assert.deepEqual((await settled({ wishes: prices("fill") }))[3], "price 4,club 2");
  assert.deepEqual((await settled({ wishes: wishes({ "product.categories": "add" }) }))[1], "Tools,Hives");
  assert.deepEqual((await settled({ wishes: wishes({ "product.name": "fill" }) }))[0], "Old name");
  assert.deepEqual(
    (await settled({ changedBy: (_, __, field) => (field === "name@en" ? "platform" : "you") }))[0],
    "Old name",
  );
  assert.deepEqual(await settled({ wishes: wishes({}, "create") }), ["Old name", "Tools", "2", "price 4,club 2"]);
  const { notMade } = await goalFrom([own, line("b", "9", "Other")], [has], { wishes: wishes({}, "update") });
  assert.deepEqual([...(notMade.get("product") ?? [])], [1]);
});

test("what was delivered and is in no source any more is left, hidden or retired; what gave all it had to others is gone by that", async () => {
  const own = [line("a", "1", "A"), { ...line("a", "2", "A"), Wood: "Elm" }];
  const others = [line("x", "1", "A"), line("gone", "7", "Gone"), line("stranger", "8", "Stranger")];
  const answers = [{ kind: "product", own: "a" as Key, other: "x" as Key, reply: "same" as const }];
  const settled = async (gone: ChangeWishes["gone"], moved: readonly Line[]) => {
    const [intended, platform] = [await catalogueOf(own), await catalogueOf([...others, ...moved])];
    const { catalogue } = goalOf({
      matched: matchRecords({ own: intended, other: platform, ...byContent, answers }),
      coverage: everything,
      wishes: { ...noWishes, gone },
      isGone: (kind, row) => kind === "product" && platform.table("product").key(row) !== "stranger",
    });
    const products = catalogue.table("product");
    return ["a", "gone", "stranger", "emptied"].map((key) => {
      const row = products.find(key)!;
      return [products.text("shown", row), products.text("status", row)];
    });
  };
  const as = (shown: string | undefined, status: string | undefined) => [shown, status];
  const [untouched, hidden, ended] = [as(undefined, undefined), as("false", undefined), as(undefined, "ended")];
  const emptied = { ...line("emptied", "2", "Old"), Wood: "Elm" };
  const half = { ...line("emptied", "9", "Old"), Wood: "Oak" };
  assert.deepEqual(await settled("leave", [emptied, half]), [untouched, untouched, untouched, untouched]);
  assert.deepEqual(await settled("hide", [emptied, half]), [untouched, hidden, untouched, hidden]);
  assert.deepEqual(await settled("retire", [emptied, half]), [untouched, ended, untouched, ended]);
  assert.deepEqual(await settled("hide", [emptied]), [untouched, hidden, untouched, untouched]);
});
