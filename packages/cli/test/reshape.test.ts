/** Operations over generated catalogues: nothing is lost, what is done can be undone, and every stand-in rebuilds what came of it. */

import assert from "node:assert/strict";
import { after, before, test } from "node:test";
import fc from "fast-check";
import { startStandIn, type StandIn, type StandInName } from "@zest-tier/standins";
import { Findings, plainRecords, writeZip, type Operation, type ResolvedCatalogue, type Target } from "zest-tier";
import {
  asTargetView,
  balance,
  measure,
  reshape,
  reshapeByAll,
  type OperationDone,
  type Reshaped,
} from "zest-tier/parts";
import { pictureNames, readRich, rich, shipped, type Rich } from "./rich.js";
import { playRounds } from "./rounds.js";

const runs = Number(process.env["PROPERTY_RUNS"] ?? 18);
const zip = writeZip(new Map(pictureNames.map((name) => [name, new Uint8Array([1])])));
/** Pennywort, whose files are of grouped rows, is tried with the demo's shop. */
const names = ["saltmarsh", "tollgate"] as const satisfies readonly StandInName[];
const at = { file: "project.yaml" };
const slug = (text: string) =>
  text
    .toLowerCase()
    .replace(/[^a-z0-9]+/g, "-")
    .replace(/^-|-$/g, "");

async function done(
  catalogue: ResolvedCatalogue,
  ...operations: Operation[]
): Promise<{ result?: Reshaped; findings: Findings }> {
  const findings = new Findings();
  let result: Reshaped | undefined;
  for (const operation of operations) {
    result = findings.took(
      await reshape(result?.catalogue ?? catalogue, operation, { source: "en", toSlug: slug }, at),
    );
    if (!result) return { findings };
  }
  return { result: result!, findings };
}

const read = async (given: Rich): Promise<ResolvedCatalogue> => (await readRich(given)).catalogue;

/** All records of a catalogue, as one text; in which order a record has its fields says nothing. */
function told(catalogue: ResolvedCatalogue): string {
  const inOrder = (_: string, value: unknown): unknown =>
    value === null || typeof value !== "object" || Array.isArray(value)
      ? value
      : Object.fromEntries(Object.entries(value).sort(([one], [other]) => (one < other ? -1 : 1)));
  const records = plainRecords(catalogue).map((record) => JSON.stringify(record, inOrder));
  return records.sort().join("\n");
}

/** The axes of a product, by their names in the sheet. */
const axesOf = (given: Rich, key: string): string[] => {
  const [first] = given.range.filter((row) => row["Range"] === key);
  return ["F1", "F2"].flatMap((column) => (first?.[column] ? [first[column]] : []));
};
const productsIn = (given: Rich): string[] => [...new Set(given.range.map((row) => row["Range"]!))];

/** Operations that fit a catalogue. */
function operationsFor(given: Rich): Operation[] {
  const products = productsIn(given);
  const sortOf = (key: string) => given.range.find((row) => row["Range"] === key)!["Nature"];
  const all = products.filter((key) => axesOf(given, key).length === 0);
  // What is hired out and what is sold cannot be one product: each has prices that the other lacks.
  const singles = all.filter((key) => sortOf(key) === sortOf(all[0]!));
  const operations: Operation[] = [
    { rename: "c0", of: "category", to: "c-new", name: { en: "New" } },
    { move: ["c4"], under: null },
    { merge: ["c3"], of: "category", into: "c0" },
    { renumber: { of: "variant" }, pattern: "N-{number 4}" },
    {
      "split category": "c1",
      into: "c-half",
      name: { en: "Half" },
      take: { of: "product", where: 'sort == "hire"' },
    },
    { add: "categories", on: { of: "product" }, values: ["c0"] },
    { remove: "categories", on: { of: "product" }, values: ["c1"] },
    ...(given.range.some((row) => row["Maker"] === "Alder") && given.range.some((row) => row["Maker"] === "Birch & Co")
      ? [{ replace: "brand", on: { of: "product" }, from: "Alder", by: "Birch & Co" }]
      : []),
    { order: [products[0]!], of: "value" },
  ];
  if (singles.length >= 2) {
    const [one, other] = singles as [string, string];
    operations.push({
      combine: [one, other],
      into: "both",
      axis: "Which",
      values: { [one]: "One", [other]: "Other" },
      take: {},
    });
    operations.push({
      combine: [one, other],
      into: one,
      axis: "Which",
      values: { [one]: "One", [other]: "Other" },
      take: {},
    });
  }
  if (singles.length > 0) operations.push({ "make variants of": [singles[0]!], axis: "Wood", value: "v0" });
  for (const key of products) {
    const [axis] = axesOf(given, key);
    if (axis !== undefined && axesOf(given, key).length === 1)
      operations.push({ split: key, along: axis, name: "{name} {value}", key: "{key}-{value}" });
    if (axis !== undefined)
      operations.push({ "use axis": "Depth", "instead of": axis, on: { of: "product", keys: [key] } });
  }
  return operations.filter((operation) => !("order" in operation));
}

test("balance: no operation loses a code, a price, stock, a picture or a relation", async () => {
  const seen = new Set<string>();
  await fc.assert(
    fc.asyncProperty(rich(), fc.nat(), async (given, which) => {
      const operations = operationsFor(given);
      const operation = operations[which % operations.length]!;
      const before = measure(await read(given));
      const { result, findings } = await done(await read(given), operation);
      assert.deepEqual(
        findings
          .list()
          .filter(({ severity }) => severity === "error")
          .map((one) => JSON.stringify(one.facts)),
        [],
      );
      assert.ok(result);
      seen.add(Object.keys(operation)[0]!);
      const codes = (catalogue: { sold: ReadonlyMap<string, unknown> }) => catalogue.sold.size;
      const afterwards = measure(result.catalogue);
      assert.equal(codes(afterwards), codes(before));
      const prices = (sold: ReadonlyMap<string, { prices: string; stock: string }>) =>
        [...sold.values()].map((one) => `${one.prices} ${one.stock}`).sort();
      assert.deepEqual(prices(afterwards.sold), prices(before.sold));
      assert.deepEqual([...afterwards.pictures].sort(), [...before.pictures].sort());
    }),
    { numRuns: runs * 6 },
  );
  for (const wanted of ["combine", "split", "merge", "rename", "move", "renumber", "use axis", "make variants of"])
    assert.ok(seen.has(wanted), `${wanted} was never tried`);
});

/** What an operation did, as text. */
const shown = (one: OperationDone): string =>
  JSON.stringify(one, (_, value: unknown) => (value instanceof Map ? [...(value as Map<unknown, unknown>)] : value));

test("many operations are each what it would be alone on what came before, and leave the same records", async () => {
  const lengths = new Set<number>();
  await fc.assert(
    fc.asyncProperty(rich(), fc.array(fc.nat(), { minLength: 2, maxLength: 7 }), async (given, picks) => {
      const all = operationsFor(given);
      const operations = picks.map((pick) => ({ operation: all[pick % all.length]!, at }));
      const together = await reshapeByAll(await read(given), operations, { source: "en", toSlug: slug });
      let alone = await read(given);
      const findings = new Findings();
      const each: OperationDone[] = [];
      for (const { operation } of operations) {
        const made = findings.took(await reshape(alone, operation, { source: "en", toSlug: slug }, at));
        if (!made) break;
        const { catalogue, ...own } = made;
        alone = catalogue;
        each.push(own);
      }
      lengths.add(each.length);
      assert.deepEqual(together.done.map(shown), each.map(shown));
      assert.equal(told(together.catalogue), told(alone));
      const facts = (found: Findings) => found.list().map((one) => JSON.stringify(one));
      assert.deepEqual(facts(together.findings), facts(findings));
    }),
    { numRuns: runs * 4 },
  );
  assert.ok(lengths.has(0) || lengths.has(1), "none was refused");
  assert.ok(Math.max(...lengths) > 3, "none ran far");
});

test("inverse: renaming, moving and renumbering back gives what was there", async () => {
  await fc.assert(
    fc.asyncProperty(rich(), async (given) => {
      const plain = told(await read(given));
      const parent = given.categories.find((row) => row["Key"] === "c4")!["Up"] || null;
      const pairs: [Operation, Operation][] = [
        [
          { rename: "c0", of: "category", to: "x", name: { en: "X" } },
          { rename: "x", of: "category", to: "c0", name: { en: given.categories[0]!["Name"]! } },
        ],
        [
          { move: ["c4"], under: null },
          { move: ["c4"], under: parent },
        ],
      ];
      for (const [there, back] of pairs) {
        const { result } = await done(await read(given), there, back);
        assert.equal(told(result!.catalogue), plain);
      }
      const coded: Rich = { ...given, range: given.range.map((row) => ({ ...row })) };
      const { result } = await done(
        await read(coded),
        { renumber: { of: "product" }, pattern: "{code}-X" },
        { renumber: { of: "product" }, pattern: "{code}-Y" },
      );
      const kept = [...measure(result!.catalogue).sold.keys()].map((code) => code.replace(/-X-Y$/, "")).sort();
      assert.deepEqual(kept, [...measure(await read(given)).sold.keys()].sort());
    }),
    { numRuns: runs },
  );
});

test("operations that have nothing to do with each other may come in either order", async () => {
  const one: Operation = { rename: "c0", of: "category", name: { en: "New" } };
  const other: Operation = { replace: "brand", on: { of: "product" }, from: "Alder", by: "Birch & Co" };
  const third: Operation = { add: "categories", on: { of: "product" }, values: ["c1"] };
  await fc.assert(
    fc.asyncProperty(rich(), async (given) => {
      if (
        !given.range.some((row) => row["Maker"] === "Alder") ||
        !given.range.some((row) => row["Maker"] === "Birch & Co")
      )
        return;
      const [first, second] = [
        await done(await read(given), one, other, third),
        await done(await read(given), third, other, one),
      ];
      assert.equal(told(first.result!.catalogue), told(second.result!.catalogue));
    }),
    { numRuns: runs },
  );
});

for (const name of names) {
  let standIn: StandIn;
  let target: Target;
  before(async () => {
    standIn = await startStandIn(name);
    target = await shipped(name);
  });
  after(() => standIn.stop());

  test(`${name} rebuilds what came of an operation, as expected`, async () => {
    await fc.assert(
      fc.asyncProperty(rich(), fc.nat(), async (given, which) => {
        const operations = operationsFor(given).filter(
          (one) => "combine" in one || "split" in one || "merge" in one || "use axis" in one,
        );
        const { result } = await done(await read(given), operations[which % operations.length]!);
        await fetch(`${standIn.url}/reset`, { method: "POST" });
        await fetch(`${standIn.url}/pictures`, { method: "POST", body: zip });
        const played = await playRounds(standIn, target, {
          catalogue: asTargetView(result!.catalogue),
          findings: new Findings(),
        });
        assert.deepEqual(played.disagreements, []);
        assert.deepEqual(played.lost, []);
      }),
      { numRuns: Math.ceil(runs / 2) },
    );
  });
}

test("an operation that names nothing, or makes nonsense, is refused with what is wrong", async () => {
  const wrong: [Operation, RegExp][] = [
    [
      { combine: ["p0", "nobody"], into: "x", axis: "A", values: { p0: "1", nobody: "2" }, take: {} },
      /no product "nobody"/,
    ],
    [{ split: "p0", along: "Colour", name: "{name}", key: "{key}" }, /no axis "Colour"/],
    [{ merge: ["c1"], of: "category", into: "nobody" }, /no category "nobody"/],
    [{ move: ["c0"], under: "c0" }, /is below/],
    [{ rename: "c0", of: "category", to: "c1" }, /already/],
    [{ replace: "colour", on: { of: "product" }, from: "a", by: "b" }, /has no field "colour"/],
    [{ add: "categories", on: { of: "product" }, values: ["nobody"] }, /no category "nobody"/],
    [{ renumber: { of: "product" }, pattern: "same" }, /twice/],
    [{ renumber: { of: "product", where: "what is this" }, pattern: "{code}" }, /what is this/],
    [{ "make single": ["p0"] }, /variants/],
    [{ merge: ["p1"], of: "product", into: "p0" }, /combined/],
  ];
  const [given] = fc.sample(
    rich().filter(
      (one) =>
        productsIn(one).filter((key) => axesOf(one, key).length === 0).length > 1 && axesOf(one, "p0").length === 0,
    ),
    { numRuns: 1, seed: 7 },
  );
  for (const [operation, problem] of wrong) {
    const { result, findings } = await done(await read(given!), operation);
    assert.equal(result, undefined);
    const [found] = findings.list();
    assert.equal(found!.code, "reshape/cannot");
    assert.match(String((found!.facts as { problem: string }).problem), problem);
  }
});

test("what products differ in is reported when they are combined, with the value that is kept", async () => {
  const [given] = fc.sample(
    rich().filter((one) => productsIn(one).filter((key) => axesOf(one, key).length === 0).length > 1),
    { numRuns: 1, seed: 9 },
  );
  const [one, other] = productsIn(given!).filter((key) => axesOf(given!, key).length === 0) as [string, string];
  const range = given!.range.map((row) =>
    row["Range"] === one ? { ...row, Nature: "service" } : row["Range"] === other ? { ...row, Nature: "goods" } : row,
  );
  const combine: Operation = {
    combine: [one, other],
    into: "both",
    axis: "Which",
    values: { [one]: "1", [other]: "2" },
    take: {},
  };
  const plain = await done(await read({ ...given!, range }), combine);
  const found = plain.findings.list().filter(({ code }) => code === "reshape/fields-differ");
  assert.ok(found.some(({ facts }) => (facts as { field: string }).field === "sort"));
  const taken = await done(await read({ ...given!, range }), { ...combine, take: { sort: other } });
  const products = taken.result!.catalogue.table("product");
  assert.equal(products.text("sort", products.find("both")!), "goods");
});

test("a balance that does not come out even tells what is missing; the operation is refused", async () => {
  const [given] = fc.sample(
    rich().filter((one) => axesOf(one, "p0").length === 0),
    { numRuns: 1, seed: 3 },
  );
  const lost = await done(await read(given!), { replace: "code", on: { of: "product" }, from: "P0-0", by: "OTHER" });
  assert.equal(lost.result, undefined);
  assert.deepEqual(
    lost.findings
      .list()
      .filter(({ code: one }) => one === "reshape/unbalanced")
      .map(({ facts }) => (facts as { what: string }).what)[0],
    "codes",
  );
  const before = measure(await read(given!));
  const [code] = [...before.sold.keys()];
  const less = { ...before, sold: new Map([...before.sold].slice(1)) };
  const lines = balance(before, less, {
    codes: new Map(),
    products: new Map(),
    pictures: new Set(),
    relations: new Set(),
  });
  assert.deepEqual(lines.find(({ what }) => what === "codes")!.unexplained, [code]);
  const pictures = balance({ ...before, pictures: new Set(["a.png"]) }, before, {
    codes: new Map(),
    products: new Map(),
    pictures: new Set(),
    relations: new Set(),
  });
  assert.ok(
    before.pictures.has("a.png") || pictures.find(({ what }) => what === "pictures")!.unexplained.includes("a.png"),
  );
});
