import assert from "node:assert/strict";
import { test } from "node:test";
import fc from "fast-check";
import { describeFinding, targetsOf } from "#src/index.js";
import { Catalogue } from "#src/catalogue/catalogue.js";
import { entryLookup } from "#src/catalogue/entry-lookup.js";
import type { Cell } from "#src/catalogue/cell.js";
import { Table } from "#src/catalogue/table.js";
import { SheetText } from "#src/catalogue/span-block.js";
import { CellSpans } from "#src/formats/cell-spans.js";
import { ReferenceColumn } from "#src/catalogue/reference-column.js";
import { TextColumn } from "#src/catalogue/text-column.js";
import { Kinds } from "#src/kinds.js";
import { check, codes, one, those, rangeCsv, rangeLayout, read, single } from "./support.js";

const categoryLayout =
  "layout: c\nformat: { csv: { delimiter: ';' } }\nrows: { each: category }\ncolumns:\n  Id: category.key\n  Up: { field: category.parent, as: { by: key } }\n  Name: category.name@en\n";
const strict = rangeLayout.replace(" }, missing: create }", " } }");

/** Puts cells into rows from one on as they would stand in a file. */
function writeAsSpans(column: TextColumn, from: number, cells: readonly Cell[]): void {
  const starts = new Int32Array(cells.length);
  const ends = new Int32Array(cells.length);
  let text = "";
  cells.forEach((cell, at) => {
    // Some do not stand there as they are: their quotes are doubled.
    const isDoubled = at % 40 === 39;
    starts[at] = isDoubled ? ~text.length : text.length;
    text += isDoubled ? (cell ?? "").replaceAll('"', '""') : (cell ?? "");
    ends[at] = text.length;
    text += ";";
  });
  const places = Int32Array.from(cells, (_, at) => at);
  const spans = new CellSpans(text, '"', starts, ends, places, []);
  column.writeSpans(from, { text: new SheetText(text), cells: spans, places, index: 0 });
}

test("holds every cell that was put into a column, through its batches and later changes", () => {
  const cell = fc.oneof(
    fc.constantFrom<Cell>(undefined, null, "", "same"),
    fc.string({ unit: "grapheme", maxLength: 5 }),
  );
  fc.assert(
    fc.property(
      fc.array(cell, { minLength: 1, maxLength: 20 }),
      fc.integer({ min: 1, max: 10_000 }),
      fc.array(fc.tuple(fc.nat(9_999), cell), { maxLength: 20 }),
      fc.array(fc.nat(3_000), { maxLength: 6 }),
      (pattern, size, changes, runs) => {
        const column = new TextColumn();
        const expected: Cell[] = [];
        for (let row = 0; row < size; row++) {
          const value = row % 7 === 3 ? `${row}` : pattern[row % pattern.length];
          expected.push(value);
        }
        // Runs of rows that stay in the text of a file, between rows that do not.
        let start = 0;
        for (const [at, length] of [...runs, size].entries()) {
          const run = expected.slice(start, start + length);
          if (at % 2 === 0) column.write(start, run);
          else {
            writeAsSpans(column, start, run);
            for (const [nth, cell] of run.entries())
              if (typeof cell !== "string" || cell === "") expected[start + nth] = undefined;
          }
          start += run.length;
        }
        for (const [row, value] of changes) if (row < size) column.set(row, (expected[row] = value));
        for (let row = 0; row < size; row++) {
          assert.equal(column.get(row), expected[row]);
          assert.equal(column.has(row), typeof expected[row] === "string");
        }
        assert.equal(column.has(size + 20_000), false);
        // A branch begins with the same cells; what is written to it by range is not in the column that it was made of.
        const branch = column.branch();
        const from = changes[0]?.[0] ?? 0;
        branch.write(from, pattern);
        const rows = Math.max(size, from + pattern.length);
        assert.deepEqual(
          column.read(0, rows),
          Array.from({ length: rows }, (_, row) => expected[row]),
        );
        const written = (row: number) =>
          row >= from && row < from + pattern.length ? pattern[row - from] : expected[row];
        assert.deepEqual(
          branch.read(3, rows),
          Array.from({ length: Math.max(0, rows - 3) }, (_, at) => written(at + 3)),
        );
      },
    ),
    { numRuns: 60 },
  );
});

test("finds the cells that match, whatever the pattern looks at beside them", () => {
  const column = new TextColumn();
  const cells = Array.from({ length: 9_000 }, (_, row) =>
    row % 100 === 7 ? "12.05.2024" : row % 90 === 5 ? "a\u00adb" : `C-${row}`,
  );
  writeAsSpans(column, 0, cells.slice(0, 5_000));
  column.write(5_000, cells.slice(5_000));
  for (const pattern of [/^\d+\.\d+\.\d+$/, /\u00ad/, /\b12\b/, /\d$/, /none/]) {
    const wanted = cells.flatMap((cell, row) => (pattern.test(cell) ? [row] : []));
    assert.deepEqual([...column.matching(pattern, cells.length)], wanted, pattern.source);
  }
});

test("a column takes a list over as it is, finds in it what matches, and is changed like any other", () => {
  const cell = fc.oneof(fc.constantFrom<Cell>(undefined, null, ""), fc.string({ maxLength: 4 }));
  const changes = fc.array(fc.tuple(fc.nat(6_000), cell), { maxLength: 30 });
  fc.assert(
    fc.property(fc.array(cell, { minLength: 1, maxLength: 9 }), fc.nat(5_000), changes, (pattern, size, later) => {
      const cells = Array.from({ length: size }, (_, row) =>
        row % 11 === 3 ? `${row}` : pattern[row % pattern.length],
      );
      const [held, written] = [new TextColumn(), new TextColumn()];
      held.hold(cells.slice());
      written.write(0, cells);
      for (const [row, value] of later) for (const column of [held, written]) column.set(row, value);
      assert.deepEqual(held.read(0, 6_001), written.read(0, 6_001));
      for (let row = 0; row < 6_001; row++) assert.equal(held.has(row), typeof written.get(row) === "string");
      assert.deepEqual([...held.matching(/1/, 6_001)], [...written.matching(/1/, 6_001)]);
      assert.deepEqual(held.branch().read(0, 6_001), written.read(0, 6_001));
      if (size > 0) assert.throws(() => held.hold(cells));
    }),
    { numRuns: 60 },
  );
});

test("finds the rows that lead to some references, however the column was changed in between", () => {
  const list = fc.array(fc.nat(12), { maxLength: 4 });
  const change = fc.record({ row: fc.nat(3_000), list: fc.option(list, { nil: undefined }), ask: list });
  fc.assert(
    fc.property(
      fc.array(list, { maxLength: 40 }),
      fc.array(change, { maxLength: 30 }),
      fc.boolean(),
      (lists, all, isWide) => {
        const column = new ReferenceColumn();
        const expected = new Map<number, readonly number[]>();
        const put = (row: number, numbers: readonly number[] | undefined): void => {
          if (numbers) column.set(row, numbers);
          else column.unset(row);
          expected.set(row, numbers ?? []);
        };
        // Of wide ones so many rows change that what is found by is made again.
        for (let row = 0; row < (isWide ? 2_500 : lists.length); row++)
          put(row, lists[row % Math.max(1, lists.length)] ?? []);
        const check = (wanted: readonly number[]): void => {
          const rows = [...expected].filter(([, numbers]) => numbers.some((number) => wanted.includes(number)));
          assert.deepEqual(
            column.rowsWith(new Set(wanted)),
            rows.map(([row]) => row).sort((a, b) => a - b),
          );
        };
        check([1, 2]);
        if (isWide) for (let row = 0; row < 2_000; row++) put(row, [row % 13]);
        for (const { row, list: numbers, ask } of all) {
          put(row, numbers);
          check(ask);
        }
      },
    ),
    { numRuns: 60 },
  );
});

test("finds the entries whose key is exactly the constants, as asking each by itself would", () => {
  const key = ["role", "quantityFrom", "currency", "from", "until", "hire"] as const;
  const entry = fc.record({
    owner: fc.nat(3),
    role: fc.constantFrom("price", "cost"),
    set: fc.subarray([...key.slice(1)]),
    isForGroup: fc.boolean(),
  });
  const free = fc.subarray(["quantityFrom", "customerGroup", "until"]);
  fc.assert(
    fc.property(fc.array(entry, { maxLength: 12 }), free, fc.boolean(), (given, unasked, isInBranch) => {
      const catalogue = new Catalogue(new Kinds());
      const filled = catalogue.table("variant.prices");
      for (const { owner, role, set, isForGroup } of given) {
        const row = filled.append(0, 1, owner);
        filled.setText("role", row, role);
        for (const field of set) filled.setText(field, row, "x");
        if (isForGroup) filled.referenceColumn("customerGroup").set(row, [0]);
      }
      const prices = (isInBranch ? catalogue.branch() : catalogue).table("variant.prices");
      const lookup = entryLookup(prices, { role: "price" }, unasked);
      const fits = (one: (typeof given)[number]) =>
        one.role === "price" &&
        one.set.every((field) => unasked.includes(field)) &&
        (!one.isForGroup || unasked.includes("customerGroup"));
      for (let owner = 0; owner < 4; owner++) {
        const expected = given.flatMap((one, row) => (one.owner === owner && fits(one) ? [row] : []));
        assert.deepEqual([...lookup.all(owner)], expected);
        assert.equal(lookup.first(owner), expected[0] ?? -1);
      }
      given.forEach((one, row) => assert.equal(lookup.has(row), fits(one)));
    }),
  );
});

test("looks a category up by its path, made where the layout says so, and its parts once", async () => {
  const csv = rangeCsv(
    single("a", { Shelf: "Hives / Full" }),
    single("b", { Shelf: "Hives / Full; Hives / Parts" }),
    single("c", { Shelf: "Parts / Full" }),
  );
  const { catalogue } = await read([{ layout: rangeLayout, csv }]);
  const categories = catalogue.table("category");
  assert.deepEqual([...categories.keys()], ["Hives", "Hives/Full", "Hives/Parts", "Parts", "Parts/Full"]);
  const products = catalogue.table("product");
  assert.deepEqual(
    targetsOf(catalogue, products, "categories", 1).map((row) => categories.key(row)),
    ["Hives/Full", "Hives/Parts"],
  );
});

test("finds a category by path that another sheet gives with its own key, whichever comes first", async () => {
  const categories = { layout: categoryLayout, csv: "Id;Up;Name\nf;h;Full\nh;;Hives\n" };
  const range = { layout: strict, csv: rangeCsv(single("a", { Shelf: "Hives / Full" })) };
  for (const sources of [
    [categories, range],
    [range, categories],
  ]) {
    const { catalogue, findings } = await read(sources);
    assert.deepEqual(codes(findings.list()), []);
    const [target] = targetsOf(catalogue, catalogue.table("product"), "categories", 0);
    assert.equal(catalogue.table("category").key(target!), "f");
  }
});

test("reports a reference to nothing at its cell, with the nearest candidates, and says what of a path is unknown", async () => {
  const sources = [
    { layout: categoryLayout, csv: "Id;Up;Name\nh;;Hives\nf;h;Floors and roofs\n" },
    {
      layout: strict,
      csv: rangeCsv(single("a", { Shelf: "Hives / Floor and roofs", "Goes with": "C-b, C-B2" }), single("b")),
    },
  ];
  const { findings } = await read(sources);
  const [shelf, relation] = [...those(findings.list(), "resolve/dangling")].sort((a, b) =>
    (b.at?.column ?? "").localeCompare(a.at?.column ?? ""),
  );
  assert.deepEqual([shelf!.at?.file, shelf!.at?.line, shelf!.at?.column], ["source2.csv", 2, "Shelf"]);
  assert.ok(describeFinding(shelf!).message.endsWith('("Floor and roofs" is not known). Nearest: "Floors and roofs"'));
  assert.equal(relation!.at?.column, "Goes with");
  assert.ok(describeFinding(relation!).message.includes('Nearest: "C-b"'));
});

test("reports an ambiguous reference with every candidate's place", async () => {
  const sources = [
    { layout: categoryLayout, csv: "Id;Up;Name\nh;;Hives\na;h;Full\nb;h;Full\n" },
    { layout: strict, csv: rangeCsv(single("x", { Shelf: "Hives / Full" })) },
  ];
  const found = one((await read(sources)).findings.list(), "resolve/ambiguous");
  assert.deepEqual(
    found.related.map((location) => location.line),
    [3, 4],
  );
});

test("takes the code of a variant for its product, where a product is intended", async () => {
  const csv = rangeCsv(
    single("hive", { No: "H-1", "Feature 1": "Wood", "Feature 1 is": "Oak" }),
    single("stand", { "Goes with": "H-1" }),
  );
  const { catalogue } = await read([{ layout: rangeLayout, csv }]);
  assert.deepEqual(targetsOf(catalogue, catalogue.table("product.relations"), "to", 0), [0]);
});

test("holds a record back instead of failing, where the layout says so", async () => {
  const { findings } = await read([
    {
      layout: rangeLayout.replace("of: { by: code } } }", "of: { by: code } }, missing: hold }"),
      csv: rangeCsv(single("a", { "Goes with": "X" })),
    },
  ]);
  assert.equal(one(findings.list(), "resolve/held-back").severity, "warning");
});

test("says what it made because rows name it", async () => {
  const { findings } = await read([{ layout: rangeLayout, csv: rangeCsv(single("a", { Shelf: "Hives / Full" })) }]);
  assert.deepEqual(one(findings.list(), "resolve/created").facts, {
    kind: "category",
    count: 2,
    examples: ["Hives", "Hives/Full"],
  });
});

const paired = (paths: string, names: string) => ({
  layout: `layout: p\nformat: { csv: { delimiter: ';' } }\nrows: { each: product }\ncolumns:\n  Key: product.key\n  Place: { field: product.categories, as: { list: "+", of: { path: "/", by: name@en } }, missing: create }\n  Ort: { beside: Place, as: { list: "+", of: { path: "/", by: name@de } } }\n`,
  csv: `Key;Place;Ort\na;${paths};${names}\nb;Hives;Stöcke\n`,
});

test("gives the nodes of a path their names in another language, and reports names that disagree", async () => {
  const { catalogue, findings } = await read([paired("Hives/Full", "Beuten/Ganze")]);
  const categories = catalogue.table("category");
  assert.deepEqual(
    [0, 1].map((row) => categories.text("name@de", row)),
    ["Beuten", "Ganze"],
  );
  assert.equal(one(findings.list(), "resolve/statements-disagree").at?.line, 3);
});

test("reports names that do not run parallel to their paths", async () => {
  const { findings } = await read([paired("Hives/Full", "Beuten")]);
  assert.equal(one(findings.list(), "read/not-parallel").at?.column, "Ort");
});

const wood = (...values: string[]) =>
  values.map((value, at) => ({
    Range: "hive",
    No: `H-${at}`,
    Name: at === 0 ? "Hive" : "",
    "Feature 1": at === 0 ? "Wood" : "",
    "Feature 1 is": value,
    Price: "1",
  }));
const grid = (...values: (readonly [string, string])[]) =>
  values.map(([a, b], at) => ({
    Range: "hive",
    No: `H-${at}`,
    Name: at === 0 ? "Hive" : "",
    "Feature 1": at === 0 ? "Wood" : "",
    "Feature 1 is": a,
    "Feature 2": at === 0 ? "Size" : "",
    "Feature 2 is": b,
    Price: "1",
  }));

const faults: readonly (readonly [string, string, string, number, string?])[] = [
  [
    "a code on two products",
    "check/repeated-code",
    rangeCsv(single("a", { No: "X" }), single("b", { No: "X" })),
    3,
    "No",
  ],
  ["a product without a code", "check/no-code", rangeCsv(single("a", { No: "" })), 2, "No"],
  ["values that a shopper cannot tell apart", "check/look-alike-values", rangeCsv(...wood("Pine", "pine ")), 3],
  ["values that differ in an accent only", "check/look-alike-values", rangeCsv(...wood("Chêne", "Chene")), 3],
  ["a gap on an axis", "check/missing-value", rangeCsv(...grid(["Oak", "10"], ["Oak", ""])), 3],
  ["the same combination twice", "check/repeated-combination", rangeCsv(...wood("Oak", "Oak")), 3],
  [
    "combinations that are not there",
    "check/missing-combinations",
    rangeCsv(...grid(["Oak", "10"], ["Pine", "12"])),
    2,
  ],
  ["a barcode with a wrong check digit", "check/barcode", rangeCsv(single("a", { EAN: "40123456" })), 2, "EAN"],
  ["a barcode that a spreadsheet rounded", "check/barcode", rangeCsv(single("a", { EAN: "4,01234E+12" })), 2, "EAN"],
  [
    "two prices from the same quantity",
    "check/repeated-tier",
    rangeCsv(single("a", { From: "5", Tier: "2" }), { From: "5", Tier: "1" }),
    3,
  ],
  [
    "a product related to itself",
    "check/related-to-itself",
    rangeCsv(single("a", { "Goes with": "C-a" })),
    2,
    "Goes with",
  ],
  [
    "a picture that is not there",
    "check/picture-missing",
    rangeCsv(single("a", { Photos: "a.png, b.png" })),
    2,
    "Photos",
  ],
];

for (const [what, code, csv, line, column] of faults) {
  test(`reports ${what} at its place`, async () => {
    const { list } = await check([{ layout: rangeLayout, csv }], ["a.png"]);
    const found = one(list, code);
    assert.equal(found.at?.line, line);
    if (column !== undefined) assert.equal(found.at?.column, column);
  });
}

interface Sold {
  readonly barcode: string;
  readonly first: number;
  readonly second: number;
}

test("keeps where each field comes from, of few records or of many, also in a branch that goes on", () => {
  let many = 0;
  fc.assert(
    fc.property(fc.nat(3_000), fc.nat(3_000), fc.integer({ min: 1, max: 7 }), (first, more, step) => {
      const table = new Table(new Kinds().get("product"), "product");
      const told = new Map<number, unknown>();
      const tell = (into: Table, from: number, count: number, sheet: number): void => {
        for (let at = 0; at < count; at++) {
          const [row, origin] = [from + at * step, { sheet, line: at + 2 }];
          into.setFieldOrigin("weight", row, origin);
          told.set(row, origin);
        }
      };
      const origins = (of: Table) => [...of.fieldOrigins()].map(([, row, origin]) => [row, origin]);
      tell(table, 5, first, 1);
      const before = origins(table);
      const branch = table.branch();
      tell(branch, 8, more, -1);
      assert.deepEqual(new Map(origins(branch) as [number, unknown][]), told);
      for (const row of [0, 5, 8, 8 + step * more]) assert.deepEqual(branch.fieldOrigin("weight", row), told.get(row));
      assert.deepEqual(origins(table), before);
      many += Number(first + more > 1_000);
    }),
    { numRuns: 30 },
  );
  assert.ok(many > 5, `${many} with many`);
});

test("reports each barcode that comes again, and how many combinations there are, whatever they look like", async () => {
  const barcode = fc.constantFrom(
    "4006381333931",
    "04006381333931",
    "96385074",
    "096385074",
    "X1",
    "X2",
    "1".repeat(20),
    "",
  );
  // Some products have far more values of an axis than most.
  const variants = (most: number) => fc.record({ barcode, first: fc.nat(2), second: fc.nat(most) });
  const few = fc.array(variants(2), { minLength: 2, maxLength: 20 });
  const many = fc.array(variants(400), { minLength: 230, maxLength: 250, size: "max" });
  let [repeated, again] = [0, 0];
  await fc.assert(
    fc.asyncProperty(fc.oneof(few, many), async (variants) => {
      const rows = grid(...variants.map(({ first, second }) => [`v${first}`, `w${second}`] as const));
      const csv = rangeCsv(...rows.map((row, at) => ({ ...row, EAN: variants[at]!.barcode })));
      const { list } = await check([{ layout: rangeLayout, csv }]);
      const lines = (code: string) => list.flatMap((one) => (one.code === code ? [one.at?.line] : []));
      const cameBefore = (of: (one: Sold) => string): number[] =>
        variants.flatMap((one, at) => {
          const text = of(one);
          return text !== "" && variants.slice(0, at).some((other) => of(other) === text) ? [at + 2] : [];
        });
      assert.deepEqual(
        lines("check/repeated-identifier"),
        cameBefore((one) => one.barcode),
      );
      const combination = ({ first, second }: Sold) => `${first} ${second}`;
      assert.deepEqual(lines("check/repeated-combination"), cameBefore(combination));
      const present = new Set(variants.map(combination)).size;
      const possible =
        new Set(variants.map(({ first }) => first)).size * new Set(variants.map(({ second }) => second)).size;
      const missing = list.find(({ code }) => code === "check/missing-combinations");
      if (possible <= 10_000)
        assert.deepEqual(
          missing && { ...missing.facts, examples: [] },
          present < possible ? { present, possible, examples: [] } : undefined,
        );
      repeated += lines("check/repeated-identifier").length;
      again += lines("check/repeated-combination").length;
    }),
    { numRuns: 30 },
  );
  assert.ok(repeated > 50 && again > 50, `${repeated}, ${again}`);
});

test("finds nothing wrong where nothing is", async () => {
  const { list } = await check(
    [{ layout: rangeLayout, csv: rangeCsv(...grid(["Oak", "10"], ["Oak", "12"], ["Pine", "10"], ["Pine", "12"])) }],
    [],
  );
  assert.deepEqual(
    codes(list).filter((code) => code !== "resolve/created"),
    [],
  );
});

test("reports a was price that is not above the price, and pictures that nobody uses", async () => {
  const layout = rangeLayout.replace(
    "  From:",
    '  Was: { field: variant.prices(was).amount, as: { decimal: "," } }\n  From:',
  );
  const csv = rangeCsv(single("a")).replace("Price;", "Price;Was;").replace("1,00;", "1,00;0,99;");
  const { list } = await check([{ layout, csv }], ["a.png"]);
  assert.equal(one(list, "check/was-not-above").at?.column, "Was");
  one(list, "check/picture-unused");
});

test("says that leading zeros were lost where they would make the check digit right", async () => {
  const { list } = await check([{ layout: rangeLayout, csv: rangeCsv(single("a", { EAN: "1234565" })) }]);
  assert.ok(describeFinding(one(list, "check/barcode")).message.includes("leading zeros"));
});
