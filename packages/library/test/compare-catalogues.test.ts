/** Which record of one catalogue is which of another, and what of them differs: over generated catalogues. */

import assert from "node:assert/strict";
import { test } from "node:test";
import fc from "fast-check";
import {
  compareCatalogues,
  coverageOf,
  everything,
  identityOf,
  matchRecords,
  placeOf,
  unclearFindings,
  type Correspondence,
  type Coverage,
  type Matters,
} from "#src/parts.js";
import { kinds, layoutOf } from "./support.js";
import { blocks, byContent, catalogueOf, line, type Column, type Line } from "./goods.js";

const runs = Number(process.env["PROPERTY_RUNS"] ?? 60);

const shuffled = <T>(list: readonly T[]): fc.Arbitrary<readonly T[]> =>
  fc.shuffledSubarray([...list], { minLength: list.length });

test("a catalogue in another order and under other keys is the same, by what its records hold", async () => {
  await fc.assert(
    fc.asyncProperty(
      blocks.chain((all) => fc.tuple(fc.constant(all), shuffled(all))),
      async ([all, other]) => {
        const renamed = other.flat().map((line) => ({ ...line, P: `x-${line.P}` }));
        const [own, there] = [await catalogueOf(all.flat()), await catalogueOf(renamed)];
        const matched = matchRecords({ own, other: there, ...byContent });
        assert.deepEqual(matched.unclear, []);
        const compared = compareCatalogues({ matched, inherits: true });
        assert.deepEqual([compared.differences, compared.onlyOwn, compared.onlyOther], [[], [], []]);
        const products = own.table("product");
        for (let row = 0; row < products.size; row++)
          assert.equal(there.table("product").key(matched.otherOf("product", row)), `x-${products.key(row)}`);
      },
    ),
    { numRuns: runs },
  );
});

const changed: Readonly<Partial<Record<Column, readonly [value: string, field: string]>>> = {
  Name: ["Other", "product name@en"],
  Brand: ["Glimmer", "product brand"],
  Shelf: ["Elsewhere", "product categories"],
  Kg: ["77", "variant weight"],
  Price: ["99", "variant prices.amount"],
  Wood: ["Larch", "variant values"],
};

test("each cell that is changed is a difference, at its place, and nothing else is", async () => {
  await fc.assert(
    fc.asyncProperty(
      blocks,
      fc.nat(),
      fc.constantFrom(...(Object.keys(changed) as (keyof typeof changed)[])),
      async (all, at, column) => {
        const lines = all.flat();
        const line = lines[at % lines.length]!;
        fc.pre(line[column] !== "");
        const [value, field] = changed[column]!;
        const isShared = field.startsWith("product");
        const isOne = (one: Line) => (isShared ? one.P === line.P : one === line);
        const [own, there] = [
          await catalogueOf(lines),
          await catalogueOf(lines.map((one) => (isOne(one) ? { ...one, [column]: value } : one))),
        ];
        const matched = matchRecords({ own, other: there, ...byContent });
        const { differences } = compareCatalogues({ matched, inherits: true });
        assert.deepEqual(
          differences.map((one) => `${one.kind} ${[one.entries, one.field].filter(Boolean).join(".")}`),
          [field],
        );
        const place = placeOf(matched, differences[0]!);
        assert.equal(place.column, column);
        const first = isShared ? lines.findIndex(({ P }) => P === line.P) : lines.indexOf(line);
        assert.equal(place.line, first + 2);
      },
    ),
    { numRuns: runs },
  );
});

test("what is not told is unknown: it is neither different nor gone nor new", async () => {
  const tables = ["product", "variant", "category", "brand", "variant.prices"];
  const fields = ["name@en", "brand", "categories", "weight", "amount", "values", "axes"];
  await fc.assert(
    fc.asyncProperty(blocks, blocks, fc.subarray(tables), fc.subarray(fields), async (all, others, untold, unknown) => {
      const [own, there] = [await catalogueOf(all.flat()), await catalogueOf(others.flat())];
      const coverage: Coverage = {
        records: (kind) => (untold.includes(kind) ? "some" : "all"),
        tells: (_, field) => !unknown.includes(field),
        entries: (table) => (untold.includes(table) ? "some" : "all"),
        tellsEntry: (table) => !untold.includes(table),
      };
      const matched = matchRecords({ own, other: there, ...byContent });
      const whole = compareCatalogues({ matched, coverage: everything });
      const compared = compareCatalogues({ matched, coverage });
      assert.ok(compared.onlyOwn.every(({ kind }) => !untold.includes(kind)));
      assert.ok(compared.differences.every(({ field = "" }) => !unknown.includes(field)));
      assert.ok(
        compared.differences.every(
          ({ kind, entries, otherEntry, ownEntry }) =>
            entries === undefined || ownEntry < 0 || otherEntry >= 0 || !untold.includes(`${kind}.${entries}`),
        ),
      );
      // What the coverage has differs as it does where it has all.
      const known = new Set(whole.differences.map((one) => JSON.stringify(one)));
      assert.ok(compared.differences.every((one) => known.has(JSON.stringify(one))));
    }),
    { numRuns: runs },
  );
});

test("of differences those are told that matter, by column, row, and which side says anything", async () => {
  const fields = ["name@en", "brand", "categories", "weight", "amount", "values", "product", undefined];
  const sides = fc.record({ isSaid: fc.boolean(), isThere: fc.boolean(), odd: fc.boolean() });
  await fc.assert(
    fc.asyncProperty(
      blocks,
      blocks,
      fc.subarray(fields),
      sides,
      async (all, others, chosen, { isSaid, isThere, odd }) => {
        const [own, other] = [await catalogueOf(all.flat()), await catalogueOf(others.flat())];
        const matched = matchRecords({ own, other, ...byContent });
        const matters: Matters = (table, field) => (row, there, says, saysThere) =>
          chosen.includes(field) ||
          (says === isSaid && saysThere === isThere && ((row + there + table.length) % 3 === 1) === odd);
        const whole = compareCatalogues({ matched });
        const expected = whole.differences.filter(({ kind, entries, field, value, there, ...rows }) => {
          const isOfRecord = entries === undefined;
          const ask = matters(isOfRecord ? kind : `${kind}.${entries}`, field);
          const [at, atThere] = isOfRecord ? [rows.own, rows.other] : [rows.ownEntry, rows.otherEntry];
          return ask(at, atThere, value !== undefined, there !== undefined);
        });
        assert.deepEqual(compareCatalogues({ matched, matters }).differences, expected);
      },
    ),
    { numRuns: runs },
  );
});

test("a word that several records have joins none of them, unless they are one record there", async () => {
  const own = await catalogueOf([line("a", "1", "Hive"), line("b", "2", "Hive")]);
  const there = await catalogueOf([line("x", "8", "Hive"), line("y", "9", "Stand")]);
  const byName = { own, other: there, identitiesOf: () => [identityOf("name@en")] };
  const open = matchRecords(byName);
  assert.deepEqual(
    open.unclear.map(({ kind, own: rows, others }) => [kind, rows, others]),
    [["product", [0, 1], [0]]],
  );
  assert.ok(open.isUnclear("product", 1) && open.otherOf("product", 0) === -1);
  // What is not clear is neither new nor gone.
  const products = compareCatalogues({ matched: open });
  assert.deepEqual(
    [products.onlyOwn, products.onlyOther].map((list) => list.filter(({ kind }) => kind === "product")),
    [[], [{ kind: "product", row: 1 }]],
  );
  const merged = matchRecords({ ...byName, merged: new Set(["product"]) });
  assert.deepEqual(
    [0, 1].map((row) => merged.otherOf("product", row)),
    [0, 0],
  );
  const several = matchRecords({ own: there, other: own, identitiesOf: () => [identityOf("name@en")] });
  assert.deepEqual(several.unclear[0]?.others, [0, 1]);
  const codesOf = (matched: Correspondence) =>
    unclearFindings(matched, "quay")
      .filter(({ facts }) => (facts as { kind: string }).kind === "product")
      .map(({ code, at, related }) => [code, at?.line, related.length]);
  assert.deepEqual(codesOf(matchRecords(byName)), [["compare/several-are-one", 2, 1]]);
  assert.deepEqual(codesOf(several), [["compare/may-be-several", 2, 0]]);
  assert.deepEqual(codesOf(merged), []);
});

test("many records of one name are one open question, with all of them", async () => {
  const many = (key: string) => Array.from({ length: 4_000 }, (_, at) => line(`${key}${at}`, `${key}-${at}`, "Hive"));
  const [own, other] = [await catalogueOf(many("a")), await catalogueOf(many("b"))];
  const matched = matchRecords({ own, other, identitiesOf: () => [identityOf("name@en")] });
  const open = matched.unclear.filter(({ kind }) => kind === "product");
  assert.deepEqual(
    open.map(({ own: rows, others }) => [rows.length, others.length]),
    [[4_000, 4_000]],
  );
  const { onlyOwn, onlyOther } = compareCatalogues({ matched });
  assert.ok([...onlyOwn, ...onlyOther].every(({ kind }) => kind !== "product"));
});

test("the ledger comes before a person's answer, and both before all ways; what is different is not joined", async () => {
  const own = await catalogueOf([line("a", "1", "A"), line("b", "2", "B"), line("c", "3", "C")]);
  const other = await catalogueOf([line("x", "3", "A"), line("y", "2", "B"), line("z", "1", "C")]).then((read) => {
    const branch = read.branch();
    branch.table("product").setText("id", 0, "77");
    return branch;
  });
  const identitiesOf = (kind: string) => (kind === "product" ? [identityOf("code"), identityOf("name@en")] : []);
  const found = matchRecords({
    own,
    other,
    identitiesOf,
    idOf: (kind, key) => (kind === "product" && key === "a" ? "77" : undefined),
    answers: [
      { kind: "product", own: "a", other: "y", reply: "same" },
      { kind: "product", own: "b", other: "z", reply: "same" },
      { kind: "product", own: "c", other: "x", reply: "different" },
    ],
  });
  assert.deepEqual(
    [0, 1, 2].map((row) => found.otherOf("product", row)),
    [0, 2, -1],
  );
  assert.deepEqual(
    [0, 1].map((row) => found.matchedBy("product", row)),
    ["ledger", "answer"],
  );
  assert.equal(found.ownOf("product", 2), 1);
});

test("a variant that lies in another product there is different, and matched nevertheless", async () => {
  const own = await catalogueOf([line("a", "1", "A"), { ...line("a", "2", "A"), Wood: "Elm" }, line("b", "3", "B")]);
  const other = await catalogueOf([line("a", "1", "A"), { ...line("b", "2", "B"), Wood: "Elm" }, line("b", "3", "B")]);
  const identitiesOf = (kind: string) => [identityOf(kind === "variant" ? "code" : "key")];
  const { differences, onlyOwn } = compareCatalogues({ matched: matchRecords({ own, other, identitiesOf }) });
  const moved = differences.filter(({ field }) => field === "product");
  assert.deepEqual(
    moved.map(({ kind, value, there }) => [kind, value, there]),
    [["variant", "a", "b"]],
  );
  assert.deepEqual(onlyOwn, []);
});

test("values that count as the same: amounts, spaces, case", async () => {
  const own = await catalogueOf([{ ...line("a", "1", "Hive  stand"), Price: "3.50", Kg: "1" }]);
  const other = await catalogueOf([{ ...line("a", "1", "hive stand "), Price: "3.5", Kg: "2" }]);
  const matched = matchRecords({ own, other, ...byContent, identitiesOf: () => [identityOf("key")] });
  const fieldsBy = (comparing: "exactly" | "trimmed" | "without case" | "not at all") =>
    compareCatalogues({
      matched,
      comparing: (_, field) => (field === "name@en" || field === "weight" ? comparing : "exactly"),
    }).differences.map(({ field }) => field);
  assert.deepEqual(fieldsBy("exactly"), ["name@en", "weight"]);
  assert.deepEqual(fieldsBy("not at all"), []);
  assert.deepEqual(fieldsBy("trimmed"), ["name@en", "weight"]);
});

test("what an export tells follows from the layouts that it is read with; what it does not tell is not compared", () => {
  const of = (columns: string) =>
    coverageOf([layoutOf(`layout: x\nformat: { csv: {} }\nrows: { each: product }\ncolumns: { ${columns} }\n`)], kinds);
  const some = of(
    "P: product.key, Name: product.name@en, Brand: { field: product.brand, as: { by: name@en } }, Price: product.prices(price).amount",
  );
  assert.deepEqual(
    ["product", "brand", "variant"].map((kind) => some.records(kind)),
    ["all", "some", "none"],
  );
  assert.deepEqual(
    ["name@en", "name@de", "brand", "weight"].map((field) => some.tells("product", field)),
    [true, false, true, false],
  );
  assert.deepEqual([some.entries("product.prices"), some.entries("product.stock")], ["some", "none"]);
  assert.deepEqual([some.tells("product.prices", "role"), some.tells("product.prices", "amount")], [true, true]);
  const pictures = of('P: product.key, Pictures: { field: product.pictures.file, as: { list: "|" } }');
  assert.equal(pictures.entries("product.pictures"), "all");
  const part = coverageOf(
    [layoutOf("layout: x\nformat: { csv: {} }\nrows: { each: product }\ncolumns: { P: product.key }\n")],
    kinds,
    false,
  );
  assert.equal(part.records("product"), "some");
});
