/** A platform that is simulated by a target: each value of each word of its importer makes it take files in another way. */

import assert from "node:assert/strict";
import { test } from "node:test";
import { z } from "zod";
import type { Target } from "#src/index.js";
import { asTargetView, parseTarget, SimulatedPlatform } from "#src/parts.js";
import { Catalogue, type ResolvedCatalogue } from "#src/catalogue/catalogue.js";
import { writeWorkbook } from "#src/formats/workbook-write.js";
import { givenImporter } from "#src/target/schema.js";
import { kinds } from "./support.js";

const header = "Product;Code;Name;Shelf;Maker;Differs in;Is;Price;Photo;With";
const columns = `
        Product: product.key
        Code: variant.code
        Name: product.name@en
        Shelf: { field: product.categories, as: { list: ",", of: { by: key } } }
        Maker: { field: product.brand, as: { by: name@en } }
        Differs in: { axis: 1, holds: name@en }
        Is: { axis: 1, holds: value@en }
        Price: { field: variant.prices(price).amount, as: decimal }
        Photo: product.pictures(main).file
        With: { field: product.relations(goes-with).to, as: { list: ",", of: { by: key } } }
`;

interface Wanted {
  readonly importer: string;
  readonly rows?: string;
  readonly format?: string;
  readonly columns?: string;
  readonly rules?: string;
}

function targetOf({
  importer,
  rows = "{ each: variant, of: product, grouped by: Product, shared cells: first row }",
  format = '{ csv: { delimiter: ";" } }',
  columns: own = columns,
  rules = "Price: { from: '0' }, Photo: { picture: true }, Maker: { unknown: create }",
}: Wanted): Target {
  const text = `target: crofts
version: 1
languages: [en]
endpoints: { pictures: /p, upload: "/i/{name}", catalogue: /c }
files:
  shelves:
    layout:
      layout: shelves
      format: { csv: { delimiter: ";" } }
      rows: { each: category }
      columns: { Shelf: category.key, Sign: category.name@en }
  goods:
    importer: { ${importer} }
    layout:
      layout: goods
      format: ${format}
      rows: ${rows}
      columns:${own}
    columns: { ${rules} }
imports: [{ file: shelves }, { file: goods }]
`;
  const parsed = parseTarget(text, "crofts.yaml", kinds);
  assert.ok(
    parsed.ok,
    JSON.stringify(
      parsed.findings.list().map(({ facts, at }) => [String((facts as { problem?: unknown }).problem), at?.line]),
    ),
  );
  return parsed.value;
}

async function* bytesOf(content: string | Uint8Array): AsyncGenerator<Uint8Array> {
  yield await Promise.resolve(typeof content === "string" ? new TextEncoder().encode(content) : content);
}

/** A platform with two shelves; what becomes of files, row by row. */
async function crofts(wanted: Wanted) {
  const target = targetOf(wanted);
  const platform = new SimulatedPlatform(target, kinds);
  const play = async (file: string, content: string | Uint8Array) => {
    const played = await platform.play(target.files.get(file)!, `${file}.csv`, bytesOf(content), "create");
    if (played.refused !== undefined && played.rows.length === 0) return `file refused: ${played.refused}`;
    return played.rows.map(({ outcome }) => outcome).join(" ");
  };
  await play("shelves", "Shelf;Sign\nhoney;Honey\ntools;Tools\n");
  const nothing = asTargetView(new Catalogue(kinds) as Catalogue & ResolvedCatalogue);
  const held = () => platform.held(nothing).catalogue;
  const keys = (kind: string) => [...held().table(kind).keys()].sort().join(" ");
  const text = (kind: string, key: string, field: string) =>
    held().table(kind).text(field, held().table(kind).find(key)!);
  const led = (key: string, field: string) => {
    const catalogue = held();
    const products = catalogue.table("product");
    return [...(products.references.get(field)?.get(products.find(key)!) ?? [])]
      .map((number) => catalogue.table("category").key(catalogue.pool.target.get(number)))
      .join(" ");
  };
  const links = () => held().table("product.relations").size;
  return {
    platform,
    play: (...rows: string[]) => play("goods", [header, ...rows, ""].join("\n")),
    playBytes: (content: string | Uint8Array) => play("goods", content),
    keys,
    text,
    led,
    links,
    held,
  };
}

const two = ["a;A-1;Ale jar;honey;;Size;Small;1;;", "a;A-2;;;;;Large;2;;"];
const base = "refusal costs: record";

/** By word and value: what a small story comes to. Every value of a word comes to something else. */
const stories: Readonly<
  Record<string, Readonly<Record<string, (importer: (value: string) => string) => Promise<string>>>>
> = {
  "refusal costs": everyValue(
    ["row", "record", "file"],
    async (value) => {
      const shop = await crofts({ importer: `refusal costs: ${value}` });
      return shop.play(two[0]!, "a;A-2;;;;;Large;-2;;", "b;B-1;Bowl;;;;;1;;");
    },
    ["created refused created", "refused refused created", "refused refused refused"],
  ),
  "at an error": everyValue(
    ["go on", "stop"],
    async (value) => {
      const shop = await crofts({ importer: `refusal costs: row, at an error: ${value}` });
      return shop.play(two[0]!, "a;A-2;;;;;Large;-2;;", "b;B-1;Bowl;;;;;1;;");
    },
    ["created refused created", "created refused refused"],
  ),
  header: everyValue(
    ["any order", "as it is"],
    async (value) => {
      const shop = await crofts({ importer: `${base}, header: ${value}` });
      return shop.playBytes("Code;Product;Name;Price\nA-1;a;Ale jar;1\n");
    },
    ["created", "file refused: the header is another"],
  ),
  "known record": everyValue(
    ["update", "refuse", "skip"],
    async (value) => {
      const shop = await crofts({ importer: `${base}, known record: ${value}` });
      await shop.play("a;A-1;Ale jar;;;;;1;;");
      return `${await shop.play("a;A-1;Jar;;;;;1;;")}, ${shop.text("product", "a", "name@en")}`;
    },
    ["updated, Jar", "refused, Ale jar", "unchanged, Ale jar"],
  ),
  lists: everyValue(
    ["replace", "add"],
    async (value) => {
      const shop = await crofts({ importer: `${base}, lists: ${value}` });
      await shop.play("a;A-1;Ale jar;honey;;;;1;;");
      await shop.play("a;A-1;Ale jar;tools;;;;1;;");
      return shop.led("a", "categories");
    },
    ["tools", "honey tools"],
  ),
  "children not named": everyValue(
    ["kept", "deleted"],
    async (value) => {
      const shop = await crofts({ importer: `${base}, children not named: ${value}` });
      await shop.play(...two);
      await shop.play(two[0]!);
      return shop.keys("variant");
    },
    ["A-1 A-2", "A-1"],
  ),
  "child of another parent": everyValue(
    ["refuse", "moves"],
    async (value) => {
      const shop = await crofts({ importer: `${base}, child of another parent: ${value}` });
      await shop.play(...two);
      return shop.play("b;A-2;Bowl;;;;;2;;");
    },
    ["refused", "updated"].map((outcome) => (outcome === "updated" ? "created" : outcome)),
  ),
  "parent without children": everyValue(
    ["kept", "deleted", "refuse"],
    async (value) => {
      const shop = await crofts({
        importer: `${base}, child of another parent: moves, parent without children: ${value}`,
      });
      const bare = await shop.play("c;;Crock;;;;;;;");
      await shop.play("a;A-1;Ale jar;;;;;1;;");
      await shop.play("b;A-1;Bowl;;;;;1;;");
      return `${bare}, ${shop.keys("product")}`;
    },
    ["created, a b c", "refused, b", "refused, a b"],
  ),
  "axes of a known parent": everyValue(
    ["must match", "replace"],
    async (value) => {
      const shop = await crofts({ importer: `${base}, axes of a known parent: ${value}` });
      await shop.play(...two);
      return shop.play("a;A-1;Ale jar;honey;;Weight;Small;1;;", two[1]!);
    },
    ["refused refused", "updated unchanged"],
  ),
  "shared cells below the first row": everyValue(
    ["refuse", "ignore"],
    async (value) => {
      const shop = await crofts({ importer: `${base}, shared cells below the first row: ${value}` });
      return shop.play(two[0]!, "a;A-2;Ale jar;;;;Large;2;;");
    },
    ["refused refused", "created created"],
  ),
  "missing pictures": everyValue(
    ["refuse", "left out", "awaited"],
    async (value) => {
      const shop = await crofts({ importer: `${base}, missing pictures: ${value}` });
      return `${await shop.play("a;A-1;Ale jar;;;;;1;a.png;")}, ${shop.held().table("product.pictures").size}`;
    },
    ["refused, 0", "created, 0", "created, 1"],
  ),
  "looked up": everyValue(
    ["as rows arrive", "at the end of the file", "before the file", "after the import"],
    async (value) => {
      const shop = await crofts({ importer: `${base}, unknown names: leave out, looked up: ${value}` });
      // Each names the other, and the shelf that was there before.
      await shop.play("a;A-1;Ale jar;honey;;;;1;;b", "b;B-1;Bowl;;;;;1;;a");
      const before = shop.links();
      shop.platform.end();
      return `${before} ${shop.links()}`;
    },
    ["1 1", "2 2", "0 0", "0 2"],
  ),
  "unknown names": everyValue(
    ["refuse", "leave out", "create"],
    async (value) => {
      const shop = await crofts({ importer: `${base}, looked up: at the end of the file, unknown names: ${value}` });
      return `${await shop.play("a;A-1;Ale jar;;;;;1;;z")}, ${shop.keys("product")}`;
    },
    ["refused, ", "created, a", "created, a z"],
  ),
  "unknown id": everyValue(
    ["refuse", "create"],
    async (value) => {
      const shop = await crofts({
        importer: `unknown id: ${value}`,
        rows: "{ each: product }",
        columns: " { No: product.id, Product: product.key, Name: product.name@en }",
        rules: "",
      });
      return shop.playBytes("No;Product;Name\n777;a;Ale jar\n");
    },
    ["refused", "created"],
  ),
};

function everyValue(
  values: readonly string[],
  story: (value: string) => Promise<string>,
  comesTo: readonly string[],
): Readonly<Record<string, () => Promise<string>>> {
  return Object.fromEntries(
    values.map((value, at) => [
      value,
      async () => {
        const found = await story(value);
        assert.equal(found, comesTo[at], value);
        return found;
      },
    ]),
  );
}

for (const [word, values] of Object.entries(stories))
  test(`each value of "${word}" takes files in its own way`, async () => {
    const found: string[] = [];
    for (const story of Object.values(values)) found.push(await story((value) => value));
    assert.equal(new Set(found).size, found.length);
  });

test("there is a story for each value of each word of an importer", () => {
  const { properties = {} } = z.toJSONSchema(givenImporter, { io: "input" });
  for (const [word, schema] of Object.entries(properties)) {
    const choices = typeof schema === "object" ? schema.enum?.map(String) : undefined;
    if (choices) assert.deepEqual(Object.keys(stories[word] ?? {}).sort(), choices.sort(), word);
  }
  assert.equal(Object.keys(stories).length, Object.keys(properties).length - 1, "all but identified by");
});

test("records are told apart by the ways that the target names, in their order", async () => {
  const again = "z;A-1;Ale jar;;;;;1;;";
  for (const [ways, comesTo] of [
    ["[key]", "created, a z"],
    ["[name]", "unchanged, a"],
    ["[key, name]", "unchanged, a"],
  ] as const) {
    const shop = await crofts({
      importer: `${base}, child of another parent: moves, identified by: { product: ${ways} }`,
    });
    await shop.play("a;A-1;Ale jar;;;;;1;;");
    assert.equal(`${await shop.play(again)}, ${shop.keys("product")}`, comesTo, ways);
  }
});

test("what a list names twice counts once", async () => {
  const shop = await crofts({ importer: `${base}, looked up: at the end of the file` });
  assert.equal(await shop.play("a;A-1;Ale jar;;;;;1;;b,b", "b;B-1;Bowl;;;;;1;;"), "created created");
  assert.equal(shop.links(), 1);
});

test("grouped rows in a workbook are taken as those in a CSV file", async () => {
  const shop = await crofts({ importer: base, format: "{ workbook: { sheet: Goods } }" });
  const rows = [header, ...two].map((row) => row.split(";"));
  assert.equal(await shop.playBytes(await writeWorkbook([{ name: "Goods", rows }])), "created created");
  assert.equal(shop.keys("variant"), "A-1 A-2");
});

test("rows of records go on in rows that are blank but for a lane, and a lane may hold references", async () => {
  const prices = {
    importer: base,
    rows: "{ each: product }\n      lanes: { steps: { entries: product.prices, with: { role: price }, continued when blank: [Product] } }",
    columns: " { Product: product.key, From: steps.quantityFrom, Amount: { field: steps.amount, as: decimal } }",
    rules: "",
  };
  const shop = await crofts(prices);
  assert.equal(
    await shop.playBytes("Product;From;Amount\na;;5\n;10;4\n;20;3\nb;;7\n"),
    "created created created created",
  );
  assert.equal(shop.held().table("product.prices").size, 4);
  assert.equal(await shop.playBytes("Product;From;Amount\na;;5\n;10;4\n"), "updated updated");
  assert.equal(shop.held().table("product.prices").size, 3);
  const places = await crofts({
    importer: base,
    rows: "{ each: product }\n      lanes: { places: { entries: product.categories, continued when blank: [Product] } }",
    columns: " { Product: product.key, Shelf: { field: places.each, as: { by: key } } }",
    rules: "",
  });
  assert.equal(await places.playBytes("Product;Shelf\na;honey\n;tools\n;none\n"), "refused refused refused");
  assert.equal(await places.playBytes("Product;Shelf\na;honey\n;tools\n"), "created created");
  assert.equal(places.led("a", "categories"), "honey tools");
});

test("rows may say more of records that are found by their keys; each in a language", async () => {
  const shop = await crofts({
    importer: "refusal costs: row",
    rows: "{ each: product, language: { column: Lang, code words: { EN: en, FR: fr } } }",
    columns: " { Product: product.key, Name: product.name, Weight: { field: product.weight, as: decimal } }",
    rules: "Name: { required: true }",
  });
  assert.equal(
    await shop.playBytes("Product;Lang;Name;Weight\na;EN;Jar;2\na;FR;Pot;\nb;XX;Bol;\n"),
    "created updated refused",
  );
  assert.deepEqual([shop.text("product", "a", "name@fr"), shop.text("product", "a", "weight")], ["Pot", "2"]);
});

test("variants share a value that they call alike in all languages; what one of them calls otherwise stays what it was for the others", async () => {
  const axis = (number: number, names: string, values: string) =>
    `${names}: { axis: ${number}, holds: name@en }, ${values}: { axis: ${number}, holds: value@en }`;
  const shop = await crofts({
    importer: "refusal costs: row",
    columns: ` { Product: product.key, Code: variant.code, ${axis(1, "Differs in", "Is")}, ${axis(2, "And in", "And is")}, Ist: { axis: 1, holds: value@de } }`,
    rules: "",
  });
  const play = (...rows: string[]) =>
    shop.playBytes(["Product;Code;Differs in;And in;Is;And is;Ist", ...rows, ""].join("\n"));
  /** By variant its values; behind them all that there are. */
  const values = () => {
    const held = shop.held();
    const [own, variants] = [held.table("value"), held.table("variant")];
    const called = (row: number) => [own.text("name@en", row), own.text("name@de", row) ?? ""].join("/");
    const led = [...variants.keys()].map((code) => {
      const numbers = variants.referencesOf("values").get(variants.find(code)!);
      return `${code} ${[...numbers].map((number) => called(held.pool.target.get(number))).join(" ")}`;
    });
    return `${led.join(", ")}; ${Array.from({ length: own.size }, (_, row) => called(row)).join(", ")}`;
  };
  assert.equal(await play("a;A-1;Size;Hue;S;red;klein", "a;A-2;;;S;blue;klein"), "created created");
  // It is alike to the first, whatever its value is called in another language.
  assert.equal(await play("a;A-3;;;S;red;Kind"), "refused");
  assert.equal(values(), "A-1 S/klein red/, A-2 S/klein blue/; S/klein, red/, blue/");
  assert.equal(await play("a;A-1;Size;Hue;S;red;kurz"), "updated");
  assert.equal(values(), "A-1 S/kurz red/, A-2 S/klein blue/; S/klein, red/, blue/, S/kurz");
  assert.equal(await play("a;A-2;Size;Hue;S;blue;kurz"), "updated");
  assert.equal(values(), "A-1 S/kurz red/, A-2 S/kurz blue/; red/, blue/, S/kurz");
  assert.equal(await play("a;A-2;Size;Hue;S;blue;kurz"), "unchanged");
});

test("records whose rows say the same of an entry share it; what one of them says later is its own", async () => {
  const shop = await crofts({
    importer: "refusal costs: row",
    columns: ` { Product: product.key, Code: variant.code, Price: { field: variant.prices(price).amount, as: { decimal: "," } }, For: variant.prices(price).hire, Was: { field: variant.prices(was).amount, as: { decimal: "," } } }`,
    rules: "Price: { blank: leave }",
  });
  const play = (...rows: string[]) => shop.playBytes(["Product;Code;Price;For;Was", ...rows, ""].join("\n"));
  const prices = () => {
    const held = shop.held();
    const [own, variants] = [held.table("variant.prices"), held.table("variant")];
    const shown = (entry: number) => ["role", "amount", "hire"].map((field) => own.text(field, entry) ?? "-").join(" ");
    return [...variants.keys()]
      .map((code) => [...own.childrenOf(variants.find(code)!)].map(shown).join(", "))
      .join(" | ");
  };
  await play("a;A;2,50;day;9", "b;B;2,50;day;9", "c;C;2,50;;", "d;D;;;", "e;E;2,50;\u0000;", "f;F;2,50;da\u0000y;");
  const others = "price 2.5 - |  | price 2.5 \u0000 | price 2.5 da\u0000y";
  assert.equal(prices(), `price 2.5 day, was 9 - | price 2.5 day, was 9 - | ${others}`);
  await play("a;A;3,00;;9", "b;B;;day;8");
  assert.equal(prices(), `price 3 -, was 9 - | price 2.5 day, was 8 - | ${others}`);
});

test("another name for what a variant has does not rename what others share with it", async () => {
  const axis = "Differs in: { axis: 1, holds: name@en }, And in: { axis: 2, holds: name@en }";
  const values = "Is: { axis: 1, holds: value@en }, And is: { axis: 2, holds: value@en }";
  const shop = await crofts({
    importer: "refusal costs: row",
    columns: ` { Product: product.key, Code: variant.code, ${axis}, ${values}, Auch: { field: variant.values.name@de, as: { list: "," } } }`,
    rules: "",
  });
  const names = () => {
    const held = shop.held();
    const [own, variants] = [held.table("value"), held.table("variant")];
    return [...variants.keys()].map((code) =>
      [...variants.referencesOf("values").get(variants.find(code)!)]
        .map((number) => own.text("name@de", held.pool.target.get(number)) ?? "-")
        .join(" "),
    );
  };
  const header = "Product;Code;Differs in;And in;Is;And is";
  const first = `${header}\na;A-1;Size;Hue;S;red\na;A-2;;;S;blue\n`;
  assert.equal(await shop.playBytes(first), "created created");
  assert.equal(await shop.playBytes("Product;Code;Auch\na;A-1;klein,rot\n"), "updated");
  assert.deepEqual(names(), ["klein rot", "- -"]);
});

test("a row of its own is a record's where the cell for its parent is blank; the others name it by its line", async () => {
  const shop = await crofts({
    importer: base,
    rows: "{ each: variant, of: product, shared cells: own row, joined by: { column: Above, names: line } }",
    columns: ` { Product: product.key, Code: variant.code, Differs in: { axis: 1, holds: name@en }, Is: { axis: 1, holds: value@en } }`,
    rules: "",
  });
  const rows = [";a;;Size;", "2;;A-1;;Small", "2;;A-2;;Large", ";b;B-1;;"];
  const file = (some: readonly string[]) => ["Above;Product;Code;Differs in;Is", ...some, ""].join("\n");
  assert.equal(await shop.playBytes(file(rows)), "created created created created");
  assert.equal(shop.keys("variant"), "A-1 A-2 B-1");
  assert.equal(await shop.playBytes(file(["9;;C-1;;"])), "refused");
  // Line 2 was a in the file before.
  assert.equal(await shop.playBytes(file(["2;;A-3;;Tiny"])), "refused");
  // Its own line 2 is found.
  assert.equal(await shop.playBytes(file([";a;;Size;", "2;;A-3;;Tiny"])), "unchanged created");
});

test("rows that list combinations are refused when the target is loaded, at their line", () => {
  const rows = "{ each: variant, of: product, expanded: { code: '{key}-{1}' } }";
  const own =
    ' { Product: product.key, Sizes: { axis: 1, holds: values@en, as: { list: "," } }, Size: { axis: 1, holds: name@en } }';
  assert.throws(() => targetOf({ importer: "refusal costs: row", rows, columns: own, rules: "" }), /list combinations/);
});

test("a row that is an entry does not wait for what it names: that is refused when the target is loaded", () => {
  const rows =
    "{ each: product }\n      lanes: { ties: { entries: product.relations, with: { name: goes-with }, continued when blank: [Product] } }";
  const own = " { Product: product.key, With: { field: ties.to, as: { by: key } } }";
  const lookedUp = (when: string) => () =>
    targetOf({ importer: `refusal costs: record, looked up: ${when}`, rows, columns: own, rules: "" });
  for (const when of ["at the end of the file", "after the import"])
    assert.throws(lookedUp(when), new RegExp(`looked up: ${when}`));
  for (const when of ["as rows arrive", "before the file"]) assert.doesNotThrow(lookedUp(when));
});

test("a file that proves wrong far down is refused as a whole, and leaves nothing behind", async () => {
  const columns = " { Product: product.key, Name: product.name@en }";
  const goods = { importer: base, rows: "{ each: product }", columns, rules: "" };
  const many = Array.from({ length: 8_000 }, (_, nth) => `p-${nth};Jar ${nth}`);
  const file = (head: string, last: string) => [head, ...many, last, ""].join("\n");
  const longer = "p;Jar;x";
  for (const [content, reason] of [
    [file("Product;Name", longer), "a row is longer than the header"],
    [file("Product;Label", longer), "a row is longer than the header"],
    [file("Product;Label", "p;Jar"), 'unknown column "Label"'],
    [file("Product;Name", 'p;"Jar'), "it cannot be read"],
  ] as const) {
    const shop = await crofts(goods);
    await shop.playBytes("Product;Name\np-3;Pot\n");
    assert.equal(await shop.playBytes(content), `file refused: ${reason}`);
    assert.deepEqual([shop.keys("product"), shop.text("product", "p-3", "name@en")], ["p-3", "Pot"]);
  }
  const shop = await crofts(goods);
  assert.match(await shop.playBytes(file("Product;Name", "p;Jar")), /^created( created){8000}$/);
});

test("what is refused leaves nothing behind, also where that shows only at the end of the file", async () => {
  const shop = await crofts({ importer: `${base}, looked up: at the end of the file` });
  const found = await shop.play("a;A-1;Ale jar;;Mill;;;1;;b", "b;B-1;Bowl;;;;;1;;none");
  // The second is refused; so the first leads nowhere, and is refused with it.
  assert.equal(found, "refused refused");
  assert.deepEqual([shop.keys("product"), shop.keys("variant"), shop.keys("brand")], ["", "", ""]);
});
