import assert from "node:assert/strict";
import { test } from "node:test";
import { dsvFormat } from "d3-dsv";
import { Findings, targetsOf, type Layout, type ResolvedCatalogue } from "#src/index.js";
import { writeRows, writtenKind } from "#src/parts.js";
import { codes, layoutOf, one, those, rangeCsv, rangeLayout, read, single } from "./support.js";

/** Writes all records of the first kind that the layout's blocks are of. */
function write(catalogue: ResolvedCatalogue, layout: Layout, findings = new Findings()): string[][] {
  const kind = writtenKind(layout, catalogue);
  const records = Array.from({ length: catalogue.table(kind).size }, (_, row) => row);
  return [...writeRows(catalogue, layout, { records }, findings)].map((row) => [...row.cells]);
}

const variantsOf = (catalogue: ResolvedCatalogue): string[] => {
  const variants = catalogue.table("variant");
  return Array.from({ length: variants.size }, (_, row) => {
    const values = targetsOf(catalogue, variants, "values", row).map((value) => catalogue.table("value").key(value));
    return `${catalogue.table("product").key(variants.parent(row))}: ${variants.key(row)} ${values.join(", ")}`.trim();
  });
};

/** Each shape: a sheet that reads and is written again exactly. */
const shapes: Readonly<Record<string, { layout: string; csv: string }>> = {
  "S1, a row a record": {
    layout:
      "layout: a\nformat: { csv: { delimiter: ';' } }\nrows: { each: category }\ncolumns:\n  Id: category.key\n  Up: { field: category.parent, as: { by: key } }\n  Name: category.name@en\n  Nr: { field: category.position, as: integer }\n",
    csv: "Id;Up;Name;Nr\nb;a;Frames;2\na;;Hives;1\nc;b;Deep;\n",
  },
  "S2, grouped rows with the product's cells on the first": {
    layout: rangeLayout,
    csv: rangeCsv(
      {
        Range: "hive",
        No: "H-1",
        Name: "Hive",
        Shelf: "Hives / Full; New",
        "Feature 1": "Wood",
        "Feature 1 is": "Cedar",
        "Feature 2": "Size",
        "Feature 2 is": "10",
        Price: "129,5",
        From: "5",
        Tier: "119",
        Stock: "3",
        EAN: "40123455",
        Web: "yes",
      },
      { From: "10", Tier: "109,9" },
      { Range: "hive", No: "H-2", "Feature 1 is": "Pine", "Feature 2 is": "12", Price: "99" },
      { Range: "stand", No: "S-1", Name: 'Stand; "low"', Price: "20", Photos: "a.png, b.png", "Goes with": "H-1" },
    ),
  },
  "S2, the product's cells on every row": {
    layout:
      "layout: a\nformat: { csv: { delimiter: ';' } }\nrows: { each: value, of: axis, grouped by: Axis, shared cells: every row }\ncolumns:\n  Axis: axis.name@en\n  Achse: axis.name@de\n  Value: value.name@en\n",
    csv: "Axis;Achse;Value\nWood;Holz;Cedar\nWood;Holz;Pine\nSize;Größe;Small\n",
  },
  "S3, a product's own row and variants that name it": {
    layout:
      "layout: a\nformat: { csv: { delimiter: ';' } }\nrows: { each: variant, of: product, shared cells: own row, marker: { column: T, parent: P, child: V }, joined by: { column: Of, names: key } }\ncolumns:\n  Key: product.key\n  No: variant.code\n  Name: product.name@en\n  Wood: { axis: Wood, holds: value@en }\n",
    csv: "T;Of;Key;No;Name;Wood\nP;;hive;;Hive;\nV;hive;;H-1;;Cedar\nV;hive;;H-2;;Pine\nP;;stand;S-1;Stand;\n",
  },
  "S3, variants that simply follow": {
    layout:
      "layout: a\nformat: { csv: { delimiter: ';' } }\nrows: { each: variant, of: product, shared cells: own row, marker: { column: T, parent: P, child: V }, joined by: following }\ncolumns:\n  Key: product.key\n  No: variant.code\n  Name: product.name@en\n  Wood: { axis: Wood, holds: value@en }\n",
    csv: "T;Key;No;Name;Wood\nP;hive;;Hive;\nV;;H-1;;Cedar\nV;;H-2;;Pine\nP;stand;S-1;Stand;\n",
  },
  "S6, continuation rows of a record of its own": {
    layout:
      "layout: a\nformat: { csv: { delimiter: ';' } }\nrows: { each: product }\nlanes:\n  more: { entries: product.pictures, continued when blank: [Key] }\ncolumns:\n  Key: product.key\n  Name: product.name@en\n  Picture: more.file\n  Words: more.alternative@en\n",
    csv: "Key;Name;Picture;Words\nhive;Hive;a.png;Front\n;;b.png;\n;;c.png;Back\nstand;Stand;;\n",
  },
  "S6, a product's pictures running beside its variants' rows, longer and shorter than they": {
    layout:
      "layout: a\nformat: { csv: { delimiter: ';' } }\nrows: { each: variant, of: product, grouped by: Key, shared cells: first row }\nlanes:\n  more: { entries: product.pictures, continued when blank: [No] }\ncolumns:\n  Key: product.key\n  No: variant.code\n  Wood: { axis: Wood, holds: value@en }\n  Picture: more.file\n",
    csv: "Key;No;Wood;Picture\nhive;H-1;Cedar;a.png\nhive;H-2;Pine;b.png\nhive;;;c.png\nstand;S-1;Oak;d.png\nstand;S-2;Elm;\n",
  },
  "S6, further categories of a product on rows of their own": {
    layout:
      "layout: a\nformat: { csv: { delimiter: ';' } }\nrows: { each: variant, of: product, grouped by: Key, shared cells: first row }\nlanes:\n  shelves: { entries: product.categories, continued when blank: [No] }\ncolumns:\n  Key: product.key\n  No: variant.code\n  Wood: { axis: Wood, holds: value@en }\n  Shelf: { field: shelves.each, as: { path: ' / ', by: name@en }, missing: create }\n",
    csv: "Key;No;Wood;Shelf\nhive;H-1;Cedar;Hives / Full\nhive;H-2;Pine;New\nhive;;;Hives\nstand;S-1;;Hives\nstand;;;New\n",
  },
  "S8, a column per language; C5, fixed beginnings": {
    layout:
      "layout: a\nformat: { csv: { delimiter: ';' } }\nrows: { each: product }\ncolumns:\n  Key: { field: product.key, as: { between: ['no. ', ''] } }\n  Name: product.name@en\n  名前: product.name@ja\n  اسم: product.name@ar\n",
    csv: "Key;Name;名前;اسم\nno. hive;Hive;巣箱;خلية\n",
  },
};

for (const [name, { layout, csv }] of Object.entries(shapes)) {
  test(`writes a sheet as it read it: ${name}`, async () => {
    const compiled = layoutOf(layout);
    const { catalogue, findings } = await read([{ layout: compiled, csv }]);
    assert.deepEqual(
      codes(findings.list()).filter((code) => code !== "resolve/created"),
      [],
    );
    const [header, ...rows] = dsvFormat(";").parseRows(csv);
    const written = write(catalogue, compiled);
    const order = compiled.columns.map((column) => header!.indexOf(column.header));
    assert.deepEqual(
      written,
      rows.map((row) => order.map((at) => row[at] ?? "")),
    );
  });
}

test("takes a group of one row without a value for a single, and its columns for the product's own", async () => {
  const { catalogue } = await read([{ layout: rangeLayout, csv: rangeCsv(single("stand", { EAN: "40123455" })) }]);
  assert.equal(catalogue.table("variant").size, 0);
  assert.equal(catalogue.table("product").text("code", 0), "C-stand");
  assert.equal(catalogue.table("product.prices").text("amount", 0), "1");
});

test("takes a group of one row with a value for a product with one variant", async () => {
  const { catalogue } = await read([
    { layout: rangeLayout, csv: rangeCsv(single("hive", { "Feature 1": "Wood", "Feature 1 is": "Pine" })) },
  ]);
  assert.deepEqual(variantsOf(catalogue), ["hive: C-hive Wood/Pine"]);
});

test("never reads a scattered group silently as two", async () => {
  const rows = [
    single("hive", { "Feature 1": "Wood", "Feature 1 is": "Pine" }),
    single("stand"),
    { Range: "hive", No: "H-2", "Feature 1 is": "Oak", Price: "2" },
  ];
  const { catalogue, findings } = await read([{ layout: rangeLayout, csv: rangeCsv(...rows) }]);
  const found = one(findings.list(), "read/scattered-group");
  assert.equal(found.at?.line, 4);
  assert.equal(found.related[0]?.line, 2);
  assert.deepEqual(variantsOf(catalogue), ["hive: C-hive Wood/Pine", "hive: H-2 Wood/Oak"]);
  const scattered = layoutOf(rangeLayout.replace("shared cells:", "groups: scattered, shared cells:"));
  assert.deepEqual(
    those((await read([{ layout: scattered, csv: rangeCsv(...rows) }])).findings.list(), "read/scattered-group"),
    [],
  );
});

test("reports a product's cell that says something else on a further row, with both places", async () => {
  const rows = [
    single("hive", { "Feature 1": "Wood", "Feature 1 is": "Pine" }),
    { Range: "hive", No: "H-2", Name: "Other", "Feature 1 is": "Oak", Price: "2" },
  ];
  const { findings } = await read([{ layout: rangeLayout, csv: rangeCsv(...rows) }]);
  const found = one(findings.list(), "read/cells-disagree");
  assert.deepEqual([found.at?.line, found.at?.column, found.related[0]?.line], [3, "Name", 2]);
});

test("gives both records a key of their own where a code comes twice, so that neither is lost", async () => {
  const rows = [
    single("hive", { No: "X", "Feature 1": "Wood", "Feature 1 is": "Pine" }),
    { Range: "hive", No: "X", "Feature 1 is": "Oak", Price: "2" },
  ];
  const { catalogue } = await read([{ layout: rangeLayout, csv: rangeCsv(...rows) }]);
  assert.deepEqual(variantsOf(catalogue), ["hive: X Wood/Pine", "hive: X (2) Wood/Oak"]);
});

test("keeps what is emptied apart from what is absent", async () => {
  const layout =
    "layout: a\nformat: { csv: { delimiter: ';' } }\nrows: { each: product }\ncolumns:\n  Key: product.key\n  Name: { field: product.name@en, blank: emptied }\n  Text: product.description@en\n";
  const { catalogue } = await read([{ layout, csv: "Key;Name;Text\nhive;;\n" }]);
  assert.equal(catalogue.table("product").text("name@en", 0), null);
  assert.equal(catalogue.table("product").text("description@en", 0), undefined);
});

test("writes out what a variant has from its product", async () => {
  const products =
    "layout: a\nformat: { csv: { delimiter: ';' } }\nrows: { each: variant, of: product, grouped by: Key, shared cells: first row }\ncolumns:\n  Key: product.key\n  Weight: product.weight\n  No: variant.code\n  Own: variant.weight\n  Wood: { axis: Wood, holds: value@en }\n";
  const { catalogue } = await read([
    { layout: products, csv: "Key;Weight;No;Own;Wood\nhive;2.5;H-1;;Oak\nhive;;H-2;3;Pine\n" },
  ]);
  const out = layoutOf(products.replace("  Weight: product.weight\n", ""));
  assert.deepEqual(
    write(catalogue, out).map((cells) => cells[2]),
    ["2.5", "3"],
  );
});

test("says what a list without an escape cannot hold, and leaves the cell blank", async () => {
  const { catalogue } = await read([
    { layout: rangeLayout, csv: rangeCsv(single("hive", { Shelf: "Hives / Boxes, floors" })) },
  ]);
  const out = layoutOf(rangeLayout.replace('list: "; ", of: { path: " / "', 'list: "; ", of: { path: ", "'));
  const findings = new Findings();
  const at = out.columns.findIndex((column) => column.header === "Shelf");
  assert.equal(write(catalogue, out, findings)[0]![at], "");
  const found = one(findings.list(), "write/cannot-be-written");
  assert.deepEqual([found.at?.line, found.at?.column], [2, "Shelf"]);
});

const damaged: readonly (readonly [string, string, string, number])[] = [
  ["a row longer than its header", "read/ragged-row", "Range;No\nhive;A\nstand;B;C\n", 3],
  ["a row shorter than its header", "read/ragged-row", "Range;No;Name\nhive;A\n", 2],
  ["a row that belongs to nothing", "read/row-without-group", "Range;No\n;A\n", 2],
  ["a header that comes twice", "read/column-repeated", "Range;No;No\nhive;A;B\n", 1],
  ["a column that the layout does not know", "read/column-unbound", "Range;No;Colour\nhive;A;red\n", 1],
  ["a column that is missing", "read/column-missing", "Range;Noo\nhive;A\n", 1],
  ["a file with nothing in it", "read/empty-file", "", 0],
  ["a file with nothing but a header", "read/header-only", "Range;No\n", 1],
  ["a file of another kind", "read/no-column-known", "x;y\n1;2\n", 1],
  [
    "a hundred thousand columns",
    "read/too-many-columns",
    `${Array.from({ length: 100_000 }, (_, at) => `c${at}`).join(";")}\n`,
    1,
  ],
  ["a cell of ten megabytes", "read/cell-too-long", `Range;No;Name\nhive;A;${"x".repeat(10_000_000)}\n`, 2],
];
const small =
  "layout: a\nformat: { csv: { delimiter: ';' } }\nrows: { each: variant, of: product, grouped by: Range, shared cells: first row }\ncolumns:\n  Range: product.key\n  No: variant.code\n  Name: product.name@en\n";

for (const [what, code, csv, line] of damaged) {
  test(`reports ${what}`, async () => {
    const { findings } = await read([{ layout: small, csv }]);
    assert.ok(codes(findings.list()).includes(code), codes(findings.list()).join());
    assert.equal(those(findings.list(), code)[0]!.at?.line ?? 0, line);
  });
}

test("reports a group of more rows than any product has, once, and leaves the rest out", async () => {
  // One code on all of them: what comes again and again must not be looked for from the start each time.
  const rows = Array.from({ length: 50_100 }, () => "hive;H;");
  const { catalogue, findings } = await read([{ layout: small, csv: `Range;No;Name\n${rows.join("\n")}\n` }]);
  assert.equal(one(findings.list(), "read/group-too-large").at?.line, 50_002);
  assert.equal(catalogue.table("variant").size, 50_000);
});

test("does not call a file empty whose bytes do not fit its encoding", async () => {
  const { findings } = await read([{ layout: small, csv: new Uint8Array([0xc3, 0xa9, 0xfa, 0x80]) }]);
  assert.deepEqual(codes(findings.list()), ["read/wrong-encoding"]);
});

test("reports a continuation row with nothing above it, and a version without its product", async () => {
  const { findings } = await read([{ layout: rangeLayout, csv: rangeCsv({ From: "5", Tier: "1" }, single("hive")) }]);
  assert.equal(one(findings.list(), "read/row-above-all").at?.line, 2);
  const own = shapes["S3, a product's own row and variants that name it"]!;
  const orphan = await read([{ layout: own.layout, csv: own.csv.replace("V;hive;;H-2", "V;hife;;H-2") }]);
  assert.equal(one(orphan.findings.list(), "read/orphan-row").at?.line, 4);
});

test("reports a record that has nothing to know it by, and one whose key is taken", async () => {
  const s1 = shapes["S1, a row a record"]!.layout;
  const { findings } = await read([{ layout: s1, csv: "Id;Up;Name;Nr\n;;;1\na;;Hives;2\na;;More;3\n" }]);
  assert.equal(one(findings.list(), "read/no-key").at?.line, 2);
  assert.equal(one(findings.list(), "read/repeated-key").at?.line, 4);
});

test("reports a value whose product has no such axis", async () => {
  const { findings } = await read([
    {
      layout: rangeLayout,
      csv: rangeCsv(single("hive", { "Feature 1": "Wood", "Feature 1 is": "Oak", "Feature 2 is": "Big" })),
    },
  ]);
  assert.deepEqual([one(findings.list(), "read/value-without-axis").at?.column], ["Feature 2 is"]);
});

test("gives variants that stand far from their product the axes that it has, whichever comes first", async () => {
  const layout =
    "layout: a\nformat: { csv: { delimiter: ';' } }\nrows: { each: variant, of: product, shared cells: own row, joined by: { column: Of, names: key } }\ncolumns:\n  Key: product.key\n  No: variant.code\n  Axis: { axis: 1, holds: name@en }\n  Value: { axis: 1, holds: value@en }\n";
  const csv = "Of;Key;No;Axis;Value\nb;;B-1;;Big\n;a;;Wood;\n;b;;Size;\na;;A-1;;Oak\nb;;B-2;;Small\n";
  const { catalogue, findings } = await read([{ layout, csv }]);
  assert.deepEqual(
    codes(findings.list()).filter((code) => code !== "resolve/created"),
    [],
  );
  assert.deepEqual(variantsOf(catalogue).sort(), ["a: A-1 Wood/Oak", "b: B-1 Size/Big", "b: B-2 Size/Small"]);
});

test("names variants' products by the line of their own row", async () => {
  const layout =
    "layout: a\nformat: { csv: { delimiter: ';' } }\nrows: { each: variant, of: product, shared cells: own row, joined by: { column: Row, names: line } }\ncolumns:\n  Key: product.key\n  No: variant.code\n  Wood: { axis: Wood, holds: value@en }\n";
  const { catalogue } = await read([{ layout, csv: "Row;Key;No;Wood\n;a;;\n;b;;\n3;;B-1;Oak\n2;;A-1;Elm\n" }]);
  assert.deepEqual(variantsOf(catalogue), ["b: B-1 Wood/Oak", "a: A-1 Wood/Elm"]);
});

test("takes headers named like an object's own parts for headers", async () => {
  const layout = small.replace("Name: product.name@en", "constructor: product.name@en\n  toString: product.name@de");
  const { catalogue, findings } = await read([
    { layout, csv: "Range;No;constructor;toString;__proto__;hasOwnProperty\nhive;A;Hive;Beute;x;y\n" },
  ]);
  assert.deepEqual(codes(findings.list()), ["read/column-unbound", "read/column-unbound"]);
  const products = catalogue.table("product");
  assert.deepEqual([products.text("name@en", 0), products.text("name@de", 0)], ["Hive", "Beute"]);
});

test("a reference in several forms is looked up in their order, and written in the first that the record has", async () => {
  const yaml = (by: string) =>
    `layout: l\nformat: { csv: { delimiter: ';' } }\nrows: { each: product }\ncolumns:\n  Key: product.key\n  No: product.code\n  With: { field: product.relations(goes-with).to, as: { list: ",", of: { by: ${by} } } }\n`;
  const layout = layoutOf(yaml("code or key"));
  const csv = "Key;No;With\r\na;A1;b\r\nb;B1;A1\r\nc;;a\r\nd;D1;c\r\n";
  const { catalogue, findings } = await read([{ layout, csv }]);
  assert.deepEqual(codes(findings.list()), []);
  assert.deepEqual(write(catalogue, layout), [
    ["a", "A1", "B1"],
    ["b", "B1", "A1"],
    ["c", "", "A1"],
    ["d", "D1", "c"],
  ]);
  assert.throws(() => layoutOf(yaml("code or code")), /twice in one way/);
});
