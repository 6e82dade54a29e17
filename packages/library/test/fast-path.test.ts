/** The fast path makes what reading row by row makes: records, entries, places, counts, findings; whatever the rows are. */

import assert from "node:assert/strict";
import { afterEach, test } from "node:test";
import fc from "fast-check";
import { Findings, type Layout } from "#src/index.js";
import { Catalogue, compileLayout, decodeText, parseGiven, readCsv, readSources, useFastPath } from "#src/parts.js";
import { CellSpans } from "#src/formats/cell-spans.js";
import { usualCaps } from "#src/caps.js";
import { givenLayout } from "#src/schemas.js";
import { generate, drawn, textOf } from "./layouts/generate.js";
import { bytesOf, codes, filesOf, kinds, layoutOf } from "./support.js";

afterEach(() => useFastPath(true));

interface Sheet {
  readonly layout: Layout;
  readonly text: string;
}

/** Everything that reading makes, in its order. */
async function readAs(isFast: boolean, sheets: readonly Sheet[], chunk: number, most: number) {
  useFastPath(isFast);
  const findings = new Findings();
  const catalogue = new Catalogue(kinds);
  const caps = { ...usualCaps, "cell characters": most };
  const sources = sheets.map(({ layout }, at) => ({ file: `f${at}`, layout, caps }));
  const files = filesOf(Object.fromEntries(sheets.map(({ text }, at) => [`f${at}`, text])));
  const read = (path: string) => Promise.resolve({ ok: true as const, value: cut(path), findings: new Findings() });
  const cut = (path: string) => bytesOf(sheets[Number(path.slice(1))]!.text, chunk);
  const counts = await readSources(sources, catalogue, { ...files, read }, findings);
  const { pool } = catalogue;
  const references = Array.from({ length: pool.size }, (_, at) => [pool.texts(at), pool.spec(at).to, pool.met(at)]);
  const tables = catalogue.tables.map((table) => {
    const rows = Array.from({ length: table.size }, (_, row) => ({
      is: [table.key(row), table.parent(row), table.sheet(row), table.line(row)],
      texts: Object.fromEntries([...table.texts].map(([name, column]) => [name, column.get(row)])),
      references: Object.fromEntries([...table.references].map(([name, column]) => [name, column.get(row)])),
    }));
    return { name: table.name, rows, origins: [...table.fieldOrigins()] };
  });
  return { counts, references, tables, findings: findings.list() };
}

async function assertSame(sheets: readonly Sheet[], chunk = 1 << 16, most = 100_000): Promise<void> {
  const [slow, fast] = [await readAs(false, sheets, chunk, most), await readAs(true, sheets, chunk, most)];
  assert.deepEqual(fast, slow, JSON.stringify(sheets.map(({ layout, text }) => [layout.name, text])));
}

/** What breaks files: at some place of the text something is put, or taken away, or said again. */
const damage = fc.array(
  fc.record({
    at: fc.double({ min: 0, max: 1, noNaN: true }),
    puts: fc.constantFrom(
      '"',
      '""',
      ";",
      "\n",
      "\r\n",
      "\r",
      "=1+1",
      " ",
      "x",
      "1,5",
      "\u0000",
      ";;;;",
      "蜂",
      '";"',
      '"a"b',
    ),
    takes: fc.nat({ max: 3 }),
    says: fc.nat({ max: 40 }),
  }),
  { maxLength: 6 },
);
type Damage = typeof damage extends fc.Arbitrary<infer D> ? D : never;

const damaged = (text: string, all: Damage): string =>
  all.reduce((before, { at, puts, takes, says }) => {
    const place = Math.floor(at * before.length);
    const again = says > 30 ? before.slice(Math.max(0, place - says), place) : "";
    return before.slice(0, place) + puts + again + before.slice(place + takes);
  }, text);

const plainLayout = `layout: plain
format: { csv: { delimiter: ";" } }
rows: { each: product }
columns:
  Key: product.key
  Code: product.code
  Name: product.name@en
  Text: product.description@de
  Kg: { field: product.weight, as: { decimal: "," } }
  Brand: { field: product.brand, as: { by: name@en } }
  Shelf: { field: product.categories, as: { list: ", ", of: { path: " / ", by: name@en } } }
  Price: { field: product.prices(price).amount, as: { decimal: "," } }
  From: { field: product.prices(price).from, as: { date: YYYY-MM-DD } }
  Was: { field: product.prices(was).amount, as: { decimal: "," } }
  Stock: { field: product.stock.quantity, as: integer }
`;
const headers = "Key;Code;Name;Text;Kg;Brand;Shelf;Price;From;Was;Stock;Note";

/** Cells as they come: mostly right, in quotes or without, sometimes blank, sometimes of another form. */
const text = fc.oneof(
  fc.constantFrom(
    "Smoker",
    'a "small"; one',
    "",
    "two\nlines",
    "蜂蜜",
    "x".repeat(30),
    "ends in\r",
    " spaced ",
    "12.05.2024",
  ),
  fc.string({ maxLength: 12 }),
);
const often = (right: fc.Arbitrary<string>) =>
  fc.oneof({ weight: 8, arbitrary: right }, { weight: 1, arbitrary: text });
const amount = often(fc.constantFrom("1,5", "12", "", "0,10", "7,00", "1.000"));
const row = fc.tuple(
  ...[
    often(fc.nat({ max: 60 }).map((n) => `k-${n}`)),
    often(fc.nat({ max: 99 }).map((n) => `C${n}`)),
    text,
    text,
    amount,
  ],
  ...[often(fc.constantFrom("Maker", "Other", "")), often(fc.constantFrom("A / B", "A / B, C", "A", "", ", ")), amount],
  ...[often(fc.constantFrom("2026-01-02", "")), amount, often(fc.nat({ max: 9 }).map(String))],
  fc.oneof(text, fc.constant("x")),
);
const asCell = (cell: string): string => (/[";\r\n]/.test(cell) ? `"${cell.replaceAll('"', '""')}"` : cell);
const sheetText = fc
  .record({ rows: fc.array(row, { maxLength: 40 }), end: fc.constantFrom("\n", "\r\n"), hasLastEnd: fc.boolean() })
  .map(({ rows, end, hasLastEnd }) => {
    const lines = [headers, ...rows.map((cells) => cells.map(asCell).join(";"))];
    return lines.join(end) + (hasLastEnd ? end : "");
  });

/** One column feeds a price and the brand: what else there is of that price goes with it. */
const mixedLayout = plainLayout.replace(
  /From: .*/,
  "From: [product.prices(price).hire, { field: product.brand, as: { by: name@de } }]",
);

/** Fixes, blank cells that stand for something or empty a field, a fixed text, and no formulas. */
const unusualLayout = plainLayout
  .replace('delimiter: ";"', 'delimiter: ";", formulas: refuse')
  .replace("Name: product.name@en", "Name: { field: product.name@en, fix: [trim, spaces] }")
  .replace("Code: product.code", "Code: { field: product.code, fix: { pad: 3 } }")
  .replace('Kg: { field: product.weight, as: { decimal: "," }', '$&, "blank means": "2,5"')
  .replace("Text: product.description@de", "Text: { field: product.description@de, blank: emptied }")
  .concat('  Note: { constant: "x" }\n');

test("plain rows by column are the same as row by row, between rows of any other kind", async () => {
  const layouts = [plainLayout, mixedLayout, unusualLayout].map((layout) => layoutOf(layout));
  let taken = 0;
  await fc.assert(
    fc.asyncProperty(sheetText, damage, fc.integer({ min: 5, max: 4_000 }), async (sheet, all, chunk) => {
      const layout = layouts[chunk % layouts.length]!;
      const broken = damaged(sheet, all);
      const most = chunk % 3 === 0 ? 25 : 100_000;
      await assertSame(
        [
          { layout, text: broken },
          { layout, text: sheet },
        ],
        chunk,
        most,
      );
      const batches = readCsv(decodeText(bytesOf(broken), "f", "utf-8", new Findings()), "f", {}, new Findings());
      for await (const batch of batches) if (batch instanceof CellSpans) taken += batch.size;
    }),
    { numRuns: 4 * Number(process.env["PROPERTY_RUNS"] ?? 60) },
  );
  assert.ok(taken > 1_000);
});

const groupedLayout = (shared: string) => `layout: grouped
format: { csv: { delimiter: ";" } }
rows: { each: variant, of: product, grouped by: Range, shared cells: ${shared} }
lanes:
  club: { entries: variant.prices, with: { role: price }, continued when blank: [Item, Range] }
columns:
  Item: variant.code
  Range: product.key
  Name: product.name@en
  Shelf: { field: product.categories, as: { list: "; ", of: { path: " / ", by: name@en } } }
  Sorts: { axes: names@en, as: { list: " + " } }
  Sort: { axes: values@en, as: { list: " + " } }
  Price: { field: variant.prices(price).amount, as: { decimal: "," } }
  Stock: { field: variant.stock.quantity, as: integer }
  Kg: { field: variant.weight, as: { decimal: "," } }
  from: { field: club.quantityFrom, as: integer }
  for: { field: club.customerGroup, as: { by: name@en } }
  each: { field: club.amount, as: { decimal: "," } }
  EAN: variant.barcode
  Photo: { field: product.pictures.file, as: { list: ", " } }
  Goes with: { field: product.relations(goes-with).to, as: { list: ", ", of: { by: code } } }
`;
const groupedHeaders = "Item;Range;Name;Shelf;Sorts;Sort;Price;Stock;Kg;from;for;each;EAN;Photo;Goes with;Note";
const seldom = (right: fc.Arbitrary<string>) =>
  fc.oneof({ weight: 9, arbitrary: fc.constant("") }, { weight: 1, arbitrary: right });

/** The rows of some products: their cells on the first row, on all, or now and then elsewhere; rows that only add a tier. */
const groupedText = fc
  .array(
    fc.record({
      range: fc.nat({ max: 30 }).map((n) => `r${n}`),
      own: fc.tuple(often(fc.constantFrom("Smoker", "Veil", "")), often(fc.constantFrom("A / B", "A; C", ""))),
      rest: fc.tuple(often(fc.constantFrom("a.jpg", "a.jpg, b.jpg", "")), often(fc.constantFrom("I1", "I2, I3", ""))),
      axes: often(fc.constantFrom("Size + Colour", "Size", "")),
      isOnAll: fc.boolean(),
      rows: fc.array(
        fc.record({
          item: often(fc.nat({ max: 60 }).map((n) => `I${n}`)),
          sort: often(fc.constantFrom("S + red", "M + red", "S", "")),
          cells: fc.tuple(amount, often(fc.constantFrom("3", "")), amount),
          tier: fc.tuple(seldom(fc.constantFrom("5", "x")), seldom(fc.constantFrom("Club")), seldom(amount)),
          more: fc.array(fc.tuple(fc.constantFrom("5", "10", ""), seldom(text), amount), { maxLength: 2 }),
          note: seldom(text),
          strays: seldom(text),
        }),
        { minLength: 1, maxLength: 4 },
      ),
    }),
    { maxLength: 9 },
  )
  .map((products) => {
    const lines = products.flatMap(({ range, own, rest, axes, isOnAll, rows }) =>
      rows.flatMap(({ item, sort, cells, tier, more, note, strays }, at) => {
        const shown = (cell: string) => (at === 0 || isOnAll ? cell : strays);
        const first = [item, range, shown(own[0]), shown(own[1]), shown(axes), sort, ...cells, ...tier];
        const blank = Array<string>(9).fill("");
        return [
          [...first, "", shown(rest[0]), shown(rest[1]), note],
          ...more.map((one) => [...blank, ...one, "", "", "", ""]),
        ];
      }),
    );
    return [groupedHeaders, ...lines.map((cells) => cells.map(asCell).join(";"))].join("\n");
  });

test("rows of records with several rows: the same, by column and row by row", async () => {
  await fc.assert(
    fc.asyncProperty(
      groupedText,
      damage,
      fc.constantFrom("first row", "every row"),
      fc.integer({ min: 5, max: 4_000 }),
      async (sheet, all, shared, chunk) => {
        const layout = layoutOf(groupedLayout(shared));
        await assertSame([{ layout, text: sheet }], chunk, chunk % 3 === 0 ? 25 : 100_000);
        await assertSame([{ layout, text: damaged(sheet, all) }], 1 << 16);
      },
    ),
    { numRuns: 4 * Number(process.env["PROPERTY_RUNS"] ?? 60) },
  );
});

/** Of products by their key, or of variants, and what is sold without any, by their code. */
const linkedLayout = (
  names: string,
  hasPhotos: boolean,
  kind = names === "key" ? "product" : "variant",
) => `layout: linked
format: { csv: { delimiter: ";" } }
rows: { each: ${kind}, found by: { column: Item, names: ${names}, otherwise: ${names === "key" ? "reported" : "ignored"} } }
lanes: { club: { entries: ${kind}.prices, with: { role: price } } }
columns:
  Name: { field: ${kind}.barcode, fix: trim${hasPhotos ? ", blank: emptied" : ""} }
  Kg: { field: ${kind}.weight, as: { decimal: "," } }
  Cost: { field: ${kind}.prices(cost).amount, as: { decimal: "," } }
  Price: { field: ${kind}.prices(price).amount, as: { decimal: "," } }
  From: { field: ${kind}.prices(price).from, as: { date: YYYY-MM-DD } }
  Stock: { field: ${kind}.stock.quantity, as: integer }
${hasPhotos ? `  Photo: { field: ${kind}.pictures.file, as: { list: ", " } }` : ""}
  for: { field: club.customerGroup, as: { by: name@en } }
  each: { field: club.amount, as: { decimal: "," } }
`;
/** A row for each language of a product. */
const spokenLayout = `layout: spoken
format: { csv: { delimiter: ";" } }
rows: { each: product, found by: { column: Item, names: key }, language: { column: Note, code words: { de: de, fr: fr } } }
columns:
  Name: product.name
  Kg: { field: product.weight, as: { decimal: "," } }
`;

const linkedText = fc
  .array(
    fc.tuple(
      often(fc.nat({ max: 60 }).chain((n) => fc.constantFrom(`I${n}`, `r${n % 31}`))),
      ...[seldom(text), amount, amount, seldom(amount), seldom(fc.constantFrom("2026-01-02"))],
      ...[often(fc.constantFrom("3", "")), seldom(fc.constantFrom("a.jpg", "b.jpg, c.jpg"))],
      often(fc.constantFrom("de", "fr")),
      ...[fc.constantFrom("Club", "Trade", ""), often(amount)],
    ),
    { maxLength: 40 },
  )
  .map((rows) => [
    "Item;Name;Kg;Cost;Price;From;Stock;Photo;Note;for;each",
    ...rows.map((cells) => cells.map(asCell).join(";")),
  ]);

test("rows that say more of records from other sheets: the same, by column and row by row", async () => {
  const layout = layoutOf(groupedLayout("first row"));
  const spoken = layoutOf(spokenLayout);
  await fc.assert(
    fc.asyncProperty(
      ...[
        groupedText,
        linkedText,
        linkedText,
        fc.constantFrom("key", "code"),
        damage,
        fc.integer({ min: 5, max: 4_000 }),
      ],
      async (first: string, rows: string[], again: string[], found: string, all: Damage, chunk: number) => {
        const linked = layoutOf(linkedLayout(found, chunk % 2 === 0));
        const sheets = [
          { layout, text: first },
          { layout: linked, text: rows.join("\n") },
          { layout: linked, text: damaged(again.join("\r\n"), all) },
          { layout: spoken, text: rows.join("\n") },
        ];
        await assertSame(sheets, chunk, chunk % 3 === 0 ? 25 : 100_000);
      },
    ),
    { numRuns: 4 * Number(process.env["PROPERTY_RUNS"] ?? 60) },
  );
});

test("the same of every layout that is generated, its sheets whole and damaged", async () => {
  await fc.assert(
    fc.asyncProperty(drawn, damage, async (given, all) => {
      const sheets = generate(given).plain.flatMap((sheet): Sheet[] => {
        const findings = new Findings();
        const parsed = findings.took(parseGiven(JSON.stringify(sheet.layout), "layout.yaml", givenLayout));
        const layout = parsed && findings.took(compileLayout(parsed.value, parsed.at, kinds));
        return layout ? [{ layout, text: textOf(sheet) }] : [];
      });
      await assertSame(sheets);
      await assertSame(sheets.map(({ layout, text: whole }) => ({ layout, text: damaged(whole, all) })));
    }),
    { numRuns: Number(process.env["PROPERTY_RUNS"] ?? 60) },
  );
});

test("columns longer than a batch: texts in the file, texts that are not, and what checks look for", async () => {
  const layout = layoutOf(plainLayout);
  const lines = Array.from({ length: 9_000 }, (_, at) => {
    const name = at % 5 === 0 ? `"called ""${at}"" here"` : at % 7 === 0 ? '"two\nlines"' : `Name ${at}`;
    return `k-${at};C${at};${name};${at % 3 === 0 ? "" : "Größe"};1,5;Maker;A;2,00;;;${at % 4 === 0 ? "x" : "3"};`;
  });
  await assertSame([{ layout, text: [headers, ...lines].join("\r\n") }]);
});

test("rows of the fast path are those of the parser, with their lines", async () => {
  const rowsOf = async (isFast: boolean, given: string, chunk: number) => {
    useFastPath(isFast);
    const findings = new Findings();
    const rows: (readonly string[])[] = [];
    const lines: number[] = [];
    const decoded = decodeText(bytesOf(given, chunk), "f", "utf-8", findings);
    for await (const batch of readCsv(decoded, "f", { delimiter: ";" }, findings)) {
      rows.push(...batch.rows);
      lines.push(...batch.lines);
    }
    return { rows, lines, found: codes(findings.list()), at: findings.list().map(({ at }) => at?.line) };
  };
  const pieces = fc.constantFrom('"', '""', ";", "\n", "\r\n", "\r", "a", " ", "b c", '"x"', '"x;y"', '"x\ny"', "");
  await fc.assert(
    fc.asyncProperty(fc.array(pieces, { maxLength: 40 }), fc.integer({ min: 1, max: 60 }), async (all, chunk) => {
      const given = all.join("");
      assert.deepEqual(await rowsOf(true, given, chunk), await rowsOf(false, given, chunk));
    }),
    { numRuns: 20 * Number(process.env["PROPERTY_RUNS"] ?? 60) },
  );
});
