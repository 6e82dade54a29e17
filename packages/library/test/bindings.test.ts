/** Each kind of binding says the same of itself to everybody who asks: what it writes, where that is from, what it shows and refers to. */

import assert from "node:assert/strict";
import { test } from "node:test";
import { Findings, type Layout, type ResolvedCatalogue } from "#src/index.js";
import { columnGuide, writeRows, writtenKind } from "#src/parts.js";
import { feedKinds, fieldName, kindOfFeed } from "#src/layout/bindings/feed-kinds.js";
import { byLanguage, kindOfScope } from "#src/layout/layout.js";
import { codes, kinds, layoutOf, rangeCsv, rangeLayout, read, single } from "./support.js";

interface Case {
  readonly layout: string;
  readonly csv: string;
  /** The kinds of feed that its columns are of. */
  readonly feeds: readonly string[];
}

const csv = "format: { csv: { delimiter: ';' } }";

const cases: Readonly<Record<string, Case>> = {
  "a range with variants": {
    layout: rangeLayout,
    csv: rangeCsv(
      {
        Range: "hive",
        No: "H-1",
        Name: "Hive",
        Bezeichnung: "Beute",
        Shelf: "Hives / Full",
        "Feature 1": "Wood",
        "Feature 1 is": "Cedar",
        Price: "€ 189,00",
        From: "5",
        Tier: "180,00",
        Stock: "3",
        EAN: "4006381333931",
        Photos: "a.png, b.png",
        "Goes with": "C-stand",
        Web: "yes",
      },
      { Range: "hive", No: "H-2", "Feature 1 is": "Pine", Price: "€ 99,00" },
      single("stand"),
    ),
    feeds: ["axis", "entry", "key", "reference", "text"],
  },
  "all axes in one cell, code words or another text, the picture of a category": {
    layout: `
layout: cells
${csv}
rows: { each: variant, of: product, grouped by: No }
columns:
  No: product.key
  Code: variant.code
  Differ in: { axes: names@en, as: { list: ", " } }
  Are: { axes: values@en, as: { list: ", ", blanks: true } }
  Sort: { field: product.sort, as: { code words: { H: hire } }, other words: product.unit }
  Shelf: { field: product.categories, as: { by: name@en }, missing: create }
  Shelf photo: product.categories.pictures(main).file
`,
    csv: "No;Code;Differ in;Are;Sort;Shelf;Shelf photo\nhive;H-1;Wood, Size;Cedar, Small;H;Hives;hives.png\nhive;H-2;;Pine, ;;;\nveil;V-1;;;metre;Hives;hives.png\n",
    feeds: ["axes", "key", "reference", "referred", "text"],
  },
  "names beside paths, fields of what is referred to, parts, a constant": {
    layout: `
layout: feed
${csv}
rows: { each: product }
columns:
  No: product.key
  Code: product.code
  Place: { field: product.categories, as: { list: "+", of: { path: "/", by: name@en } }, missing: create }
  Ort: { beside: Place, as: { list: "+", of: { path: "/", by: name@de } } }
  Maker: { field: product.brand, as: { by: name@en }, missing: create }
  Hersteller: product.brand.name@de
  Links: { field: product.relations, as: { list: "; ", of: { parts: ":", holds: [name, { field: to, as: { by: key } }] } } }
  Sold by: { constant: Bramblecomb }
`,
    csv: "No;Code;Place;Ort;Maker;Hersteller;Links;Sold by\nhive;H;Hives/Full;Beuten/Ganz;Thornapple;Tischlerei;goes-with:stand;Bramblecomb\nstand;S;Hives;Beuten;;;;Bramblecomb\n",
    feeds: ["entries", "key", "naming", "reference", "referred", "shape", "text"],
  },
  "an axis that the layout names": {
    layout: `
layout: named
${csv}
rows: { each: variant, of: product, grouped by: P }
columns:
  P: product.key
  No: variant.code
  Wood: { axis: Wood, holds: value@en }
`,
    csv: "P;No;Wood\nhive;H-1;Cedar\nhive;H-2;Pine\n",
    feeds: ["key", "named-axis", "text"],
  },
};

/** Rows of variants alone: what contains them comes from another sheet. */
const container: Case = {
  layout: `layout: versions\n${csv}\nrows: { each: variant }\ncolumns:\n  No: variant.code\n  Of: { field: variant.product, as: { by: key } }\n  kg: variant.weight\n`,
  csv: "No;Of;kg\nH-1;hive;14.2\n",
  feeds: ["container", "text"],
};

async function readCase({ layout, csv: text }: Case): Promise<{ catalogue: ResolvedCatalogue; compiled: Layout }> {
  const before =
    layout === container.layout
      ? [{ layout: `layout: p\n${csv}\nrows: { each: product }\ncolumns: { No: product.key }\n`, csv: "No\nhive\n" }]
      : [];
  const { catalogue, findings } = await read([...before, { layout, csv: text, file: "given.csv" }]);
  assert.deepEqual(
    codes(findings.list()).filter((code) => !code.startsWith("resolve/created")),
    [],
  );
  return { catalogue, compiled: layoutOf(layout) };
}

const all = { ...cases, "rows of variants alone": container };

for (const [name, given] of Object.entries(all)) {
  test(`${name}: each column says what it is of, and has a meaning`, async () => {
    const { compiled } = await readCase(given);
    const feeds = compiled.columns.flatMap(({ bindings }) => bindings.map(({ feed }) => feed));
    assert.deepEqual([...new Set(feeds.map(({ is }) => is))].sort(), given.feeds);
    for (const feed of feeds) assert.notEqual(fieldName(feed), "");
    for (const { means } of columnGuide(compiled, kinds)) assert.notEqual(means, "");
  });

  test(`${name}: every filled cell has its origins, in the line that it came from`, async () => {
    const { catalogue, compiled } = await readCase(given);
    const kind = writtenKind(compiled, catalogue);
    const records = Array.from({ length: catalogue.table(kind).size }, (_, row) => row);
    const child = compiled.shape.child ?? (compiled.shape.parent.name === kind ? undefined : compiled.shape.parent);
    let asked = 0;
    for (const row of writeRows(catalogue, compiled, { records }, new Findings()))
      for (const [at, column] of compiled.columns.entries()) {
        const [binding] = column.bindings;
        if (!binding || row.cells[at] === "" || column.scope.is === "lane") continue;
        const isChild = row.child >= 0 && child !== undefined && column.scope.is !== "parent";
        const table = catalogue.table(isChild ? child.name : kind);
        const cell = { catalogue, layout: compiled, column, table, row: isChild ? row.child : row.parent, nth: 0 };
        const origins = kindOfFeed(binding.feed).origins(binding.feed, cell);
        if (binding.feed.is === "shape" || binding.feed.is === "referred") continue;
        asked++;
        assert.ok(origins.length > 0, `${column.header} ${row.cells[at]}`);
        for (const { field, location } of origins) {
          assert.match(field, /^[a-z-]+\./);
          assert.match(location.file, /\.csv$/);
          assert.ok(location.line !== undefined && location.line >= 2, column.header);
        }
      }
    assert.ok(asked >= 3, `${asked} cells`);
  });

  test(`${name}: what columns show, refer to and fill are fields that there are`, async () => {
    const { catalogue, compiled } = await readCase(given);
    const isField = (name: string): boolean => {
      const [table = "", field = "", inner] = name.split(".");
      const kind = kinds.find(table);
      const plain = (one: string) => one.replace(/@.*$/, "");
      const own = kind?.fields.some((one) => one.name === plain(field)) ?? false;
      const entries = kind?.entries?.[field];
      if (entries === undefined) return own;
      return inner === undefined || kinds.get(entries).fields.some((one) => one.name === plain(inner));
    };
    for (const [, layout] of byLanguage(compiled))
      for (const column of layout.columns)
        for (const { feed } of column.bindings) {
          const kind = kindOfScope(layout, column.scope);
          const { shows, refersTo, references, isFilled, describe } = kindOfFeed(feed);
          for (const one of shows(feed, kind.name, kinds)) assert.ok(isField(one), one);
          for (const { name: one, to } of refersTo(feed, kind, kinds)) {
            assert.ok(isField(one) || one === `${kind.name}.${kind.of}`, one);
            assert.ok(kinds.find(to), to);
          }
          for (const { table, field } of references(feed, kind.name)) assert.ok(isField(`${table}.${field}`), field);
          assert.equal(typeof describe(feed, kind, kinds).means, "string");
          const table = catalogue.table(kind.name);
          for (let row = 0; row < table.size; row++)
            assert.equal(typeof isFilled(feed, catalogue, table, row), "boolean");
        }
  });
}

test("each kind of binding is in a layout above", () => {
  const met = new Set(Object.values(all).flatMap(({ feeds }) => feeds));
  assert.deepEqual([...met].sort(), Object.keys(feedKinds).sort());
});
