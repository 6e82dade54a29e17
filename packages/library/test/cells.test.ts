/** L3, L11: every filled cell is in a record, in a finding that tells its place, or left out by a rule that the layout names; and is counted once. */

import assert from "node:assert/strict";
import { test } from "node:test";
import { dsvFormat } from "d3-dsv";
import fc from "fast-check";
import { Findings, type Finding, type Layout, type ReadCounts } from "#src/index.js";
import { Catalogue, readSources, resolveReferences } from "#src/parts.js";
import { check, codes, filesOf, kinds, layoutOf, one, those } from "./support.js";

const runs = Number(process.env["PROPERTY_RUNS"] ?? 60);
const dsv = dsvFormat(";");
const csv = "format: { csv: { delimiter: ';' } }";
const head = (name: string, rows: string) => `layout: ${name}\n${csv}\nrows: { ${rows} }\n`;
const of = "each: variant, of: product";

const texts = `  Name: product.name@en\n  Story: product.description@en\n  Price: { field: variant.prices(price).amount, as: decimal }\n  Tax: variant.tax\n`;
const keyed = `  Key: product.key\n  Code: variant.code\n${texts}`;
const axes = [1, 2]
  .map(
    (n) =>
      `  Axis ${n}: { axis: ${n}, holds: name@en }\n  Axis ${n} de: { axis: ${n}, holds: name@de }\n  Is ${n}: { axis: ${n}, holds: value@en }\n  Is ${n} de: { axis: ${n}, holds: value@de }\n`,
  )
  .join("");
const lane = `lanes:\n  tiers: { entries: variant.prices, with: { role: tier }, continued when blank: [Key, Code] }\n  shots: { entries: product.pictures, with: { role: main }, continued when blank: [Key, Code] }\n`;
const laneColumns = `  From: { field: tiers.quantityFrom, as: integer }\n  Tier: { field: tiers.amount, as: decimal }\n  Shot: shots.file\n  Alt: shots.alternative@en\n`;
const goods = `${head("goods", `${of}, grouped by: Key`)}columns:\n${keyed}`;

/** A layout of each shape, and with lanes, languages, made cells; those that are read before it, by key. */
const shapes: Readonly<Record<string, string>> = {
  "a record a row": `${head("flat", "each: category")}columns:\n  Key: category.key\n  Name: category.name@en\n  Up: { field: category.parent, as: { by: key } }\n  Rank: { field: category.position, as: integer }\n`,
  "grouped, first row": `${head("first", `${of}, grouped by: Key`)}columns:\n${keyed}${axes}`,
  "grouped, every row": `${head("every", `${of}, grouped by: Key, shared cells: every row`)}columns:\n${keyed}${axes}`,
  "grouped, scattered": `${head("scattered", `${of}, grouped by: Key, groups: scattered`)}columns:\n${keyed}${axes}`,
  "grouped, with lanes": `${head("lanes", `${of}, grouped by: Key`)}${lane}columns:\n${keyed}${laneColumns}`,
  "own row, following": `${head("following", `${of}, shared cells: own row, marker: { column: T, parent: P, child: V }, joined by: following`)}columns:\n${keyed}${axes}`,
  "own row, named by key": `${head("by-key", `${of}, shared cells: own row, marker: { column: T, parent: P, child: V }, joined by: { column: Word, names: key }`)}columns:\n${keyed}${axes}`,
  "own row, named by line": `${head("by-line", `${of}, shared cells: own row, joined by: { column: Word, names: line }`)}columns:\n${keyed}`,
  "own row, with lanes": `${head("own-lanes", `${of}, shared cells: own row, marker: { column: T, parent: P, child: V }, joined by: following`)}${lane.replaceAll("[Key, Code]", "[Key, Code, T]")}columns:\n${keyed}${laneColumns}`,
  expanded: `${head("expanded", `${of}, expanded: {}`)}columns:\n  Key: product.key\n${texts}  Axis 1: { axis: 1, holds: name@en }\n  All 1: { axis: 1, holds: values@en, as: { list: "|" } }\n`,
  linked: `${head("linked", "each: product, found by: { column: Key, names: key }")}columns:\n  Name: product.name@en\n  Story: product.description@de\n`,
  "linked, others ignored": `${head("few", "each: product, found by: { column: Key, names: key, otherwise: ignored }")}columns:\n  Story: product.description@de\n`,
  "linked, a lane": `${head("shots", "each: product, found by: { column: Key, names: key }")}lanes: { shots: { entries: product.pictures, with: { role: main } } }\ncolumns:\n  Shot: shots.file\n  Alt: shots.alternative@en\n`,
  "a row a language": `${head("tongues", "each: product, language: { column: Lang, code words: { en: en, de: de } }")}columns:\n  Key: product.key\n  Name: product.name\n  Code: product.code\n`,
  "listed entries": `${head("listed", `${of}, grouped by: Key`)}listed: { place: [Shed, Loft] }\ncolumns:\n${keyed}  "In {place}": { field: "variant.stock({place}).quantity", as: integer }\n`,
  "parts of a path": `${head("paths", `${of}, grouped by: Key`)}columns:\n${keyed}  Shelf: { field: product.categories, as: { list: "+", of: { path: "/", by: name@en } }, missing: create }\n  Regal: { beside: Shelf, as: { list: "+", of: { path: "/", by: name@de } } }\n`,
  "cells that are cut": `${head("cut", `${of}, grouped by: Key`)}cells:\n  Both: { split: "-", into: [Left, Right] }\ncolumns:\n${keyed}  Left: product.description@de\n  Right: product.name@de\n`,
  "headers elsewhere": `${head("notes", `${of}, grouped by: Key`)}header: { line: 3 }\nignore: [Memo]\ncolumns:\n${keyed}`,
  "filled down": `${head("down", `${of}, grouped by: Key`)}filled down: [Key]\ncolumns:\n${keyed}`,
  "a model row": `${head("model", `${of}, grouped by: Key`)}model row: { column: Key, is: model }\ncolumns:\n${keyed}`,
};

/** Columns that tell what a row is, with the words that mean something in them. */
const telling: Readonly<Record<string, readonly string[]>> = {
  Key: ["a", "b", "c", "model"],
  T: ["P", "V", "X"],
  Word: ["a", "b", "2", "3"],
  Lang: ["en", "de", "xx"],
  Up: ["a", "zz"],
  "Axis 1": ["Wood", "Size"],
  "Axis 2": ["Wood", "Size"],
  "All 1": ["Pine|Oak", "|"],
};
const numbers: ReadonlySet<string> = new Set(["Price", "Rank", "From", "Tier", "In Shed", "In Loft"]);

const headersOf = (layout: Layout): string[] => {
  const made = layout.cells.length > 0 ? ["Both"] : [];
  const columns = layout.columns.map(({ header }) => header).filter((header) => !["Left", "Right"].includes(header));
  const { shape } = layout;
  const extra = [
    ...(shape.is === "grouped" ? [shape.column] : []),
    ...(layout.link ? [layout.link.column] : []),
    ...(shape.is === "own-row"
      ? [shape.marker?.column ?? [], shape.joined.by === "reference" ? shape.joined.column : []].flat()
      : []),
    ...(layout.languages ? [layout.languages.column] : []),
  ];
  return [...new Set([...extra, ...columns, ...made, "Memo", "Other"])];
};

type Grid = readonly (readonly string[])[];

/** Rows with a text of its own in each cell, so that it can be found again; some blank, some repeated, some that no codec takes. */
const gridOf = (headers: readonly string[]): fc.Arbitrary<Grid> =>
  fc
    .array(fc.array(fc.tuple(fc.nat(9), fc.nat(99)), { minLength: headers.length, maxLength: headers.length }), {
      minLength: 1,
      maxLength: 7,
    })
    .map((rows) => {
      const grid: string[][] = [];
      rows.forEach((row, line) =>
        grid.push(
          row.map(([kind, n], at) => {
            const header = headers[at]!;
            const words = telling[header];
            if (kind < 3 && header !== "Key") return "";
            if (kind === 0) return "";
            if (kind === 3 && line > 0) return grid[line - 1]![at]!;
            if (words) return words[n % words.length]!;
            if (numbers.has(header)) return kind === 4 ? `no ${line} ${at}` : String(1000 + line * 50 + at);
            if (header === "Both") return kind === 4 ? `x${line}-y${line}-z` : `l${line}c${at}-r${line}c${at}`;
            return `l${line}c${at}`;
          }),
        ),
      );
      return grid;
    });

interface ReadGrid {
  readonly counts: ReadCounts;
  readonly findings: readonly Finding[];
  /** Every text that the catalogue holds. */
  readonly held: ReadonlySet<string>;
}

function heldIn(catalogue: Catalogue): ReadonlySet<string> {
  const held = new Set<string>();
  for (const table of catalogue.tables)
    for (let row = 0; row < table.size; row++) {
      if (!table.kind.entryKey) held.add(table.key(row));
      for (const column of table.texts.values()) held.add(column.get(row) ?? "");
    }
  for (let number = 0; number < catalogue.pool.size; number++) held.add(catalogue.pool.text(number));
  for (const { value } of catalogue.statements) held.add(value);
  return held;
}

async function readGrid(layout: Layout, headers: readonly string[], grid: Grid, above: Grid): Promise<ReadGrid> {
  const findings = new Findings();
  const catalogue = new Catalogue(kinds);
  const before = `Key;Code;Name\na;first-a;\nb;first-b;\n`;
  const files = filesOf({
    "before.csv": before,
    "grid.csv": dsv.formatRows([...above, headers, ...grid].map((row) => [...row])),
  });
  const isLinked = layout.link !== undefined;
  const sources = [
    ...(isLinked ? [{ file: "before.csv", layout: layoutOf(goods) }] : []),
    { file: "grid.csv", layout },
  ];
  const counts = await readSources(sources, catalogue, files, findings);
  const held = heldIn(catalogue);
  resolveReferences(catalogue, findings);
  return { counts: counts.at(-1)!, findings: findings.list(), held };
}

for (const [name, yaml] of Object.entries(shapes))
  test(`L11, ${name}: every filled cell is in a record, reported at its place, or left out by a rule`, async () => {
    const layout = layoutOf(yaml);
    const headers = headersOf(layout);
    const above: Grid = layout.headerLine === 3 ? [["A note", "of two cells"], [""]] : [];
    let inFindings = 0;
    await fc.assert(
      fc.asyncProperty(gridOf(headers), async (grid) => {
        const { counts, findings, held } = await readGrid(layout, headers, grid, above);
        const { filled, inRecords, inFindings: reported, byRule } = counts.cells;
        const byRules = Object.values(byRule).reduce((a, b) => a + b, 0);
        const count = [...above, ...grid].flat().filter((cell) => cell !== "").length;
        assert.equal(filled, count);
        assert.equal(inRecords + reported + byRules, filled);
        inFindings += reported;

        let told = 0;
        grid.forEach((row, index) => {
          const line = index + 2 + above.length;
          row.forEach((cell, at) => {
            if (cell === "") return;
            const header = headers[at]!;
            // What stands in another language goes with the cell of the leading one.
            const leading = header.replace(/ de$/, "");
            const isReported = findings.some(
              (found) =>
                found.at?.file === "grid.csv" &&
                (found.at.line === line || found.code === "read/no-column-known") &&
                (found.at.column === undefined ||
                  [header, leading].includes(found.at.column) ||
                  telling[found.at.column] !== undefined),
            );
            const isHeld = cell.split(/[-|/+]/).some((part) => held.has(part));
            const isRule =
              ["Memo", "Other", "T", "Lang", "Word"].includes(header) ||
              (byRule["model row"] > 0 && row[0] === "model") ||
              (byRule["row of no record, ignored"] > 0 && !["a", "b"].includes(row[0]!)) ||
              cell === grid[index - 1]?.[at];
            assert.ok(isReported || isHeld || isRule, `line ${line}, ${header}: "${cell}" is nowhere`);
            if (isReported) told++;
          });
        });
        assert.ok(told >= reported, `${reported} cells counted as reported, ${told} of them told of`);
      }),
      { numRuns: runs },
    );
    // The row of no record is the one kind of trouble that some shapes do not know.
    assert.ok(inFindings > 0 || layout.link, "the rows are too clean to prove anything");
  });

const nested = `layout: nested
format: { json: {} }
rows: { each: variant, of: product, element: /items, child element: /versions }
lanes:
  tiers: { entries: variant.prices, with: { role: tier }, element: /versions/tiers }
  shots: { entries: product.pictures, with: { role: main }, element: /shots }
columns:
  /key: product.key
  /name: product.name@en
  /story: product.description@en
  /axis: { axis: 1, holds: name@en }
  /versions/code: variant.code
  /versions/tax: variant.tax
  /versions/price: { field: variant.prices(price).amount, as: decimal }
  /versions/is: { axis: 1, holds: value@en }
  /versions/tiers/from: { field: tiers.quantityFrom, as: integer }
  /versions/tiers/each: { field: tiers.amount, as: decimal }
  /shots/file: shots.file
  /shots/alt: shots.alternative@en
`;

/** An object of some of these fields, each with a text or a number of its own; now and then one that no codec takes. */
const fieldsOf = (names: readonly string[]): fc.Arbitrary<Record<string, unknown>> =>
  fc.tuple(...names.map(() => fc.tuple(fc.nat(5), fc.nat(99_999)))).map((cells) =>
    Object.fromEntries(
      cells.flatMap(([kind, n], at) => {
        const name = names[at]!;
        if (kind === 0) return [];
        if (["price", "from", "each"].includes(name))
          return [[name, kind === 1 ? `no ${n}` : kind === 2 ? String(n) : n]];
        return [[name, name === "axis" ? "Wood" : name === "key" ? `k${n % 4}` : `${name} ${n}`]];
      }),
    ),
  );
const items = fc.array(
  fc
    .tuple(
      fieldsOf(["key", "name", "story", "axis", "other"]),
      fc.array(
        fc.tuple(fieldsOf(["code", "tax", "price", "is"]), fc.array(fieldsOf(["from", "each"]), { maxLength: 2 })),
        {
          maxLength: 3,
        },
      ),
      fc.array(fieldsOf(["file", "alt"]), { maxLength: 2 }),
    )
    .map(([own, versions, shots]) => ({
      ...own,
      versions: versions.map(([version, tiers]) => ({ ...version, tiers })),
      shots,
    })),
  { minLength: 1, maxLength: 4 },
);

test("L11, documents: every value is in a record, reported at its element or listed by its path, and counted once", async () => {
  const layout = layoutOf(nested);
  const bound = new Set(layout.columns.map(({ header }) => header));
  let reported = 0;
  await fc.assert(
    fc.asyncProperty(items, async (given) => {
      const findings = new Findings();
      const catalogue = new Catalogue(kinds);
      const files = filesOf({ "items.json": JSON.stringify({ items: given }) });
      const [counts] = await readSources([{ file: "items.json", layout }], catalogue, files, findings);
      const held = heldIn(catalogue);
      let filled = 0;
      const look = (value: unknown, path: string, item: number): void => {
        if (Array.isArray(value)) for (const one of value) look(one, path, item);
        else if (typeof value === "object" && value !== null)
          for (const [name, one] of Object.entries(value)) look(one, `${path}/${name}`, item);
        else if (bound.has(path)) {
          filled++;
          const isReported = findings.list().some(({ at }) => {
            const isIn = `${at?.pointer ?? ""}/`.startsWith(`/items/${item}/`);
            return isIn && (at?.column === undefined || at.column === path);
          });
          assert.ok(held.has(String(value)) || isReported, `/items/${item} ${path}: ${String(value)} is nowhere`);
        } else {
          filled++;
          const isListed = findings
            .list()
            .some(({ code, at }) => code === "read/column-unbound" && at?.column === path);
          assert.ok(isListed, `${path} is not listed`);
        }
      };
      given.forEach((item, at) => look(item, "", at));
      const { inRecords, inFindings, byRule } = counts!.cells;
      assert.equal(counts!.cells.filled, filled);
      assert.equal(inRecords + inFindings + Object.values(byRule).reduce((a, b) => a + b, 0), filled);
      reported += inFindings;
    }),
    { numRuns: runs },
  );
  assert.ok(reported > 0);
});

const ownRow = `${head("own", `${of}, shared cells: own row, marker: { column: T, parent: P, child: V }, joined by: following`)}columns:\n${keyed}`;

test("own rows: a product's cell on a variant's row is reported, unless it says the same again", async () => {
  const rows = [
    "T;Key;Code;Name;Story;Price;Tax",
    "P;a;;Hive;;;",
    "V;a;a-1;Hive;;3;low",
    "V;a;a-2;Other hive;A story;4;",
  ];
  const { list, catalogue } = await check([{ layout: ownRow, csv: rows.join("\n") }]);
  assert.deepEqual(
    those(list, "read/cells-disagree").map(({ at, facts }) => [
      at?.line,
      at?.column,
      at?.record?.key,
      (facts as { first: string }).first,
    ]),
    [
      [4, "Name", "a", "Hive"],
      [4, "Story", "a", ""],
    ],
  );
  assert.equal(catalogue.table("variant").size, 2);
});

test("own rows: a variant's cell on the row of a product with variants is reported; on a single's row it is read", async () => {
  const rows = ["T;Key;Code;Name;Story;Price;Tax", "P;a;A;Hive;;5;", "V;;a-1;;;3;", "P;b;B;Lid;;7;"];
  const { list, catalogue } = await check([{ layout: ownRow, csv: rows.join("\n") }]);
  const lost = those(list, "read/cell-not-used");
  assert.deepEqual(
    lost.map(({ at, severity }) => [at?.line, at?.column, at?.record?.key, severity]),
    [
      [2, "Code", "a", "error"],
      [2, "Price", "a", "error"],
    ],
  );
  assert.equal(catalogue.table("product").text("code", 1), "B");
  assert.ok(!codes(list).includes("read/cells-disagree"));
});

test("a row that only adds entries has no other cells: those are reported with what they disagree with", async () => {
  const layout = shapes["grouped, with lanes"]!;
  const rows = ["Key;Code;Name;Price;From;Tier", "a;a-1;Hive;3;;", ";;Hive;;10;2", ";;Lid;9;20;1"];
  const { list } = await check([{ layout, csv: rows.join("\n") }]);
  assert.deepEqual(
    those(list, "read/cells-disagree").map(({ at, related }) => [at?.line, at?.column, related[0]?.line]),
    [
      [4, "Name", 2],
      [4, "Price", 2],
    ],
  );
});

test("a cell whose value another source replaces is counted as told by the finding, not as in a record", async () => {
  const findings = new Findings();
  const catalogue = new Catalogue(kinds);
  const files = filesOf({ "a.csv": "Key;Code;Name\na;1;Hive\n", "b.csv": "Key;Name\na;Better hive\n" });
  const better = `${head("better", "each: product, found by: { column: Key, names: key }")}columns:\n  Name: product.name@en\n`;
  const counts = await readSources(
    [
      { file: "a.csv", layout: layoutOf(goods) },
      { file: "b.csv", layout: layoutOf(better), precedence: 1 },
    ],
    catalogue,
    files,
    findings,
  );
  one(findings.list(), "read/source-overruled");
  assert.deepEqual(
    counts.map(({ cells }) => [cells.filled, cells.inRecords, cells.inFindings]),
    [
      [3, 2, 1],
      [2, 2, 0],
    ],
  );
});

test("names the rule that leaves a cell out, with exact counts", async () => {
  const rows = [
    "T;Key;Code;Name;Story;Price;Tax;Memo;Other",
    "P;a;;Hive;;;;m;x",
    "V;a;a-1;Hive;;3;;;y",
    "V;;a-2;;;4;;m;",
  ];
  const { counts } = await readGrid(
    layoutOf(ownRow.replace("columns:", "ignore: [Memo]\ncolumns:")),
    rows[0]!.split(";"),
    rows.slice(1).map((row) => row.split(";")),
    [],
  );
  const { filled, inRecords, inFindings, byRule } = counts.cells;
  assert.deepEqual([filled, inRecords, inFindings], [15, 6, 0]);
  assert.deepEqual(
    Object.entries(byRule).filter(([, count]) => count > 0),
    [
      ["unbound column", 2],
      ["ignored column", 2],
      ["row marker", 3],
      ["repeats the first row", 2],
    ],
  );
});
