/** Documents by hand: elements within elements, texts that stand further up, an element a language, elements that are found. */

import assert from "node:assert/strict";
import { test } from "node:test";
import { Findings } from "#src/index.js";
import { writeDocument } from "#src/parts.js";
import { dump } from "./dump.js";
import { layoutOf, one, read } from "./support.js";

const sorted = async (layout: string, csv: string): Promise<string[]> =>
  dump((await read([{ layout, csv }])).catalogue).sort();

/** Notes of created axes and values are wanted. */
const wrong = (findings: Findings) => findings.list().filter(({ severity }) => severity !== "note");

const looks = `layout: looks
format: { json: {} }
rows: { each: variant, of: product, element: /items, child element: /looks/sizes }
lanes: { tiers: { entries: variant.prices, with: { role: tier }, element: /looks/sizes/tiers } }
columns:
  /no: product.key
  /axis: { axis: 1, holds: name@en }
  /other: { axis: 2, holds: name@en }
  /looks/colour: { axis: 1, holds: value@en }
  /looks/sizes/size: { axis: 2, holds: value@en }
  /looks/sizes/sku: variant.code
  /looks/sizes/tiers/from: { field: tiers.quantityFrom, as: integer }
  /looks/sizes/tiers/each: { field: tiers.amount, as: decimal }
`;
const items = {
  items: [
    {
      no: "suit",
      axis: "Colour",
      other: "Size",
      looks: [
        {
          colour: "white",
          sizes: [
            {
              size: "S",
              sku: "W-S",
              tiers: [
                { from: 5, each: 40.5 },
                { from: 10, each: 38 },
              ],
            },
            { size: "M", sku: "W-M" },
          ],
        },
        { colour: "grey", sizes: [{ size: "S", sku: "G-S" }] },
      ],
    },
  ],
};

test("lists in lists: a version has what stands above it, and is written back below one element", async () => {
  const { catalogue, findings } = await read([{ layout: looks, csv: JSON.stringify(items) }]);
  assert.deepEqual(wrong(findings), []);
  const lines = dump(catalogue).filter((line) => line.startsWith("variant "));
  assert.deepEqual(lines, [
    "variant W-S code=W-S values=Colour/white,Size/S",
    "variant W-M code=W-M values=Colour/white,Size/M",
    "variant G-S code=G-S values=Colour/grey,Size/S",
    "variant W-S prices role=tier amount=40.5 quantityFrom=5",
    "variant W-S prices role=tier amount=38 quantityFrom=10",
  ]);
  const written = [...writeDocument(catalogue, layoutOf(looks), { records: [0] }, findings)].join("");
  assert.deepEqual(JSON.parse(written), items);
});

const priced = `layout: priced
format: { xml: {} }
rows: { each: product, element: /shop/item }
lanes: { prices: { entries: product.prices, with: { role: price }, element: prices/price } }
columns:
  "@no": product.key
  prices/price/../@currency: prices.currency
  prices/price: { field: prices.amount, as: decimal }
`;

test("a path that leads back is one that leads there", async () => {
  const document = `<shop><item no="hive"><prices currency="EUR"><price>9.5</price></prices><prices currency="SEK"><price>99</price></prices></item></shop>`;
  const { catalogue, findings } = await read([{ layout: priced, csv: document }]);
  assert.deepEqual(wrong(findings), []);
  assert.deepEqual(dump(catalogue), [
    "product hive",
    "product hive prices role=price amount=9.5 currency=EUR",
    "product hive prices role=price amount=99 currency=SEK",
  ]);
  const written = [...writeDocument(catalogue, layoutOf(priced), { records: [0] }, findings)].join("");
  assert.equal(written.replace(/>\s+</g, "><").split("?>")[1]?.trim(), document);
});

test("what stands once for all children, and differs between them, cannot be written", async () => {
  const layout = `layout: taxed
format: { json: {} }
rows: { each: variant, of: product, element: /items, child element: /versions }
columns: { /no: product.key, /axis: { axis: 1, holds: name@en }, /versions/sku: variant.code, /versions/is: { axis: 1, holds: value@en }, /tax: variant.tax }
`;
  const version = (sku: string) => ({ sku, is: sku });
  const document = JSON.stringify({
    items: [{ no: "a", axis: "Size", tax: "full", versions: [version("s"), version("m")] }],
  });
  const { catalogue, findings } = await read([{ layout, csv: document }]);
  assert.deepEqual(dump(catalogue).filter((line) => line.includes("tax=full")).length, 2);
  const same = [...writeDocument(catalogue, layoutOf(layout), { records: [0] }, findings)].join("");
  assert.deepEqual(JSON.parse(same), JSON.parse(document));
  assert.deepEqual(wrong(findings), []);
  const flat = `layout: flat\nrows: { each: variant, of: product, grouped by: no }\ncolumns: { no: product.key, axis: { axis: 1, holds: name@en }, sku: variant.code, is: { axis: 1, holds: value@en }, tax: variant.tax }\n`;
  const differing = await read([{ layout: flat, csv: "no,axis,sku,is,tax\na,Size,s,s,full\na,,m,m,low\n" }]);
  const said = new Findings();
  const written = [...writeDocument(differing.catalogue, layoutOf(layout), { records: [0] }, said)].join("");
  assert.match(written, /"tax":"full"/);
  assert.match(JSON.stringify(one(said.list(), "write/cannot-be-written").facts), /"text":"low"/);
});

test("an element a language: the same as a column a language; one in an unknown language is reported at its place", async () => {
  const layout = `layout: tongues
format: { xml: {} }
rows: { each: product, element: /shop/item, language: { column: "@lang", code words: { en: en, de: de } } }
columns: { "@no": product.key, name: product.name }
`;
  const item = (lang: string, name: string) => `<item lang="${lang}" no="hive"><name>${name}</name></item>`;
  const plain =
    "layout: a\nrows: { each: product }\ncolumns: { No: product.key, En: product.name@en, De: product.name@de }\n";
  assert.deepEqual(
    await sorted(layout, `<shop>${item("de", "Beute")}${item("en", "Hive")}</shop>`),
    await sorted(plain, "No,En,De\nhive,Hive,Beute\n"),
  );
  const { findings } = await read([{ layout, csv: `<shop>\n${item("en", "Hive")}\n${item("fr", "Ruche")}\n</shop>` }]);
  const found = one(findings.list(), "read/unknown-language");
  assert.deepEqual([found.at?.line, found.at?.column], [3, "@lang"]);
  assert.match(JSON.stringify(found.facts), /"fr"/);
});

test("elements that say more of records which another sheet gives", async () => {
  const goods = "layout: goods\nrows: { each: product }\ncolumns: { No: product.key, Code: product.code }\n";
  const more = `layout: more
format: { json: { lines: true } }
rows: { each: product, element: "", found by: { column: /sku, names: code } }
lanes: { shots: { entries: product.pictures, with: { role: main }, element: /photos } }
columns: { /name: product.name@en, /photos: shots.file, /key: product.key }
`;
  const lines = [
    { sku: "H-1", name: "Hive", photos: ["a.png", "b.png"], key: "hive" },
    { sku: "H-2", name: "None" },
    { sku: "B-1", key: "hive" },
    { name: "Nothing" },
  ].map((line) => JSON.stringify(line));
  const { catalogue, findings } = await read([
    { layout: goods, csv: "No,Code\nhive,H-1\nbox,B-1\n" },
    { layout: more, csv: lines.join("\n") },
  ]);
  assert.deepEqual(
    dump(catalogue).filter((line) => line.startsWith("product ")),
    [
      "product hive code=H-1 name@en=Hive",
      "product box code=B-1",
      "product hive pictures role=main file=a.png",
      "product hive pictures role=main file=b.png",
    ],
  );
  const said = findings.list().map(({ code, at }) => [code, at?.line]);
  assert.deepEqual(said, [
    ["read/names-none", 2],
    ["read/cells-disagree", 3],
    ["read/row-without-group", 4],
  ]);
});
