/** Operations of a project: what is refused at load, what `take` chooses, and that each field is in the balance. */

import assert from "node:assert/strict";
import { test } from "node:test";
import fc from "fast-check";
import { Findings, targetsOf, type Operation, type ResolvedCatalogue } from "#src/index.js";
import { fieldBalance, loadProject, readProject, reshape } from "#src/parts.js";
import { filesOf, pennywortText } from "./support.js";

const runs = Number(process.env["PROPERTY_RUNS"] ?? 18);

const layout = `
layout: range
rows: { each: variant, of: product, grouped by: Range }
columns:
  Range: product.key
  Code: variant.code
  Name: product.name@en
  Name de: product.name@de
  Text: product.description@en
  Sort: product.sort
  Maker: { field: product.brand, as: { by: name@en } }
  Shelves: { field: product.categories, as: { list: ",", of: { by: key } } }
  Shown: { field: product.shown, as: { code words: { yes: true, no: false } } }
  Note: product.note@en
  Page: product.slug@en
  Size: { axis: Size, holds: value@en }
  Kilos: variant.weight
  Plate: variant.plate@en
  Wood: product.properties(Wood).value
  Feel: product.properties(Feel).value
`;
const shelves = `layout: shelves\nrows: { each: category }\ncolumns:\n  Key: category.key\n  Name: category.name@en\n`;
const project = (operations: string) => `
project: p
languages: [en, de]
kinds:
  product: { fields: { note: { type: text, per language: true } } }
  variant: { fields: { plate: { type: text, per language: true } } }
sources:
  - { file: shelves.csv, layout: shelves.yaml }
  - { file: range.csv, layout: range.yaml }
targets: [{ target: t.yaml }]
operations:
${operations}
`;
const header = "Range,Code,Name,Name de,Text,Sort,Maker,Shelves,Shown,Note,Page,Size,Kilos,Plate,Wood,Feel";
const usual = [
  "oak,O-1,Oak box,Eiche,Of oak,goods,Alder,hives,yes,Old,oak-box,Small,2,Brass,Oak,Rough",
  "oak,O-2,,,,,,,,,,Large,3,,,",
  "ash,A-1,Ash box,Esche,Of ash,goods,Birch,tools,no,New,ash-box,Small,4,Zinc,Ash,Rough",
  "ash,A-2,,,,,,,,,,Large,5,Tin,,",
  "elm,E-1,Elm,Ulme,,,,hives,,,elm,,1,Iron,,",
];

async function loaded(operations: string, rows: readonly string[] = usual) {
  const files = filesOf({
    "project.yaml": project(operations),
    "t.yaml": pennywortText,
    "range.yaml": layout,
    "shelves.yaml": shelves,
    "shelves.csv": "Key,Name\nhives,Hives\ntools,Tools\n",
    "range.csv": `${[header, ...rows].join("\n")}\n`,
  });
  return { files, result: await loadProject("project.yaml", files, () => Promise.resolve(undefined)) };
}

async function done(operations: string, rows?: readonly string[]) {
  const { files, result } = await loaded(operations, rows);
  assert.deepEqual(
    result.findings.list().map(({ facts }) => facts),
    [],
  );
  const findings = new Findings();
  const read = await readProject((result as { value: Parameters<typeof readProject>[0] }).value, files, findings);
  return { ...read, list: findings.list() };
}

const combining = (rest = "") =>
  `  - { combine: [oak, ash], into: both, axis: Tree, values: { oak: Oak, ash: Ash }${rest} }`;

test("a word of an operation that cannot be honoured is refused at load, at its line", async () => {
  const on = "on: { of: product }";
  const wrong: readonly [operation: string, problem: RegExp][] = [
    [combining(", take: { colour: ash }"), /no field "colour"/],
    [combining(", take: { note: ash }"), /note is a text in languages/],
    [combining(", take: { brand@en: ash }"), /brand has no language/],
    [combining(", take: { brand: elm }"), /elm is not one of the products/],
    [combining(", take: { weight: ash }"), /weight goes to the variants/],
    [combining(", take: { axes: ash }"), /axes of the combined product/],
    [combining(", name: { en: Box }, take: { name@en: ash }"), /name@en of the combined product/],
    [`  - { combine: [oak, ash], into: both, axis: Tree, values: { oak: Oak } }`, /ash has no value on Tree/],
    [`  - { combine: [oak, ash], into: both, axis: T, values: { oak: O, ash: A, elm: E } }`, /elm is not one/],
    ["  - { split: oak, along: Size, name: '{name} {size}' }", /\{size\} stands for nothing/],
    ["  - { split: oak, along: Size, key: '{name}' }", /\{name\} stands for nothing/],
    ["  - { merge: [a, b], of: product, into: a }", /combined/],
    ["  - { merge: [a, b], of: colour, into: a }", /no kind "colour"/],
    ["  - { rename: a, of: colour, to: b }", /no kind "colour"/],
    ["  - { rename: oak, of: product }", /one of: to, name/],
    ["  - { rename: O-1, of: variant, name: { en: a } }", /no field "name"/],
    [`  - { order: [Small], of: value, ${on} }`, /one order for all products/],
    ["  - { order: [Size], of: axis, on: { of: brand } }", /about product records/],
    ["  - { use axis: A, instead of: B, on: { of: variant } }", /about product records/],
    ["  - { split category: hives, into: b, name: { en: B }, take: { of: variant } }", /about product records/],
    [`  - { replace: colour, ${on}, from: a, by: b }`, /no field "colour"/],
    [`  - { replace: name, ${on}, from: a, by: b }`, /Name one: name@en/],
    [`  - { replace: shown, ${on}, from: "true", by: perhaps }`, /neither true nor false/],
    [`  - { replace: sort, ${on}, from: goods, by: bananas }`, /not one of goods/],
    [`  - { replace: weight, ${on}, from: "1", by: heavy }`, /not a number/],
    [`  - { replace: code, ${on}, from: O-1, by: O-9 }`, /renumber/],
    [`  - { add: sort, ${on}, values: [goods] }`, /not a list/],
    [`  - { add: brand, ${on}, values: [Alder] }`, /takes one record/],
    [`  - { remove: name@en, ${on}, values: [Alder] }`, /not a list/],
    ["  - { renumber: { of: category }, pattern: '{code}' }", /has no code/],
    ["  - { renumber: { of: variant }, pattern: '{cod}' }", /\{cod\} stands for nothing/],
    ["  - { renumber: { of: variant, where: 'what is this' }, pattern: '{code}' }", /cannot be read/],
    ["  - { add: categories, on: { of: price }, values: [hives] }", /no kind "price"/],
    ["  - { replace: name@en, on: { of: brand, in: hives }, from: a, by: b }", /in no category/],
  ];
  for (const [operation, problem] of wrong) {
    const { result } = await loaded(`  - { move: [hives], under: null }\n${operation}`);
    assert.equal(result.ok, false, operation);
    const [found] = result.findings.list();
    assert.equal(found?.code, "project/mistake", operation);
    assert.match(String((found?.facts as { problem: unknown }).problem), problem, operation);
    assert.equal(found?.at?.line, 13, operation);
  }
});

/** The product's own fields, each with what the two products have there. */
const differing: Readonly<Record<string, (catalogue: ResolvedCatalogue, row: number) => string>> = {
  "name@en": (catalogue, row) => catalogue.table("product").text("name@en", row) ?? "",
  "name@de": (catalogue, row) => catalogue.table("product").text("name@de", row) ?? "",
  "description@en": (catalogue, row) => catalogue.table("product").text("description@en", row) ?? "",
  "slug@en": (catalogue, row) => catalogue.table("product").text("slug@en", row) ?? "",
  shown: (catalogue, row) => catalogue.table("product").text("shown", row) ?? "",
  "note@en": (catalogue, row) => catalogue.table("product").text("note@en", row) ?? "",
  brand: (catalogue, row) =>
    targetsOf(catalogue, catalogue.table("product"), "brand", row)
      .map((one) => catalogue.table("brand").text("name@en", one))
      .join(),
  "properties(Wood)": (catalogue, row) => {
    const table = catalogue.table("product.properties");
    const own = [...table.childrenOf(row)].filter((entry) =>
      targetsOf(catalogue, table, "property", entry).some(
        (one) =>
          catalogue.table("property").key(one) === "Wood" ||
          catalogue.table("property").text("name@en", one) === "Wood",
      ),
    );
    return own.map((entry) => table.text("value", entry)).join();
  },
};

test("each field in which combined products differ is reported, and take chooses whose value counts", async () => {
  const before = await done("  - { move: [hives], under: null }");
  const rowOf = ({ catalogue }: { catalogue: ResolvedCatalogue }, key: string) => catalogue.table("product").find(key)!;
  const plain = await done(combining());
  const told = plain.list.filter(({ code }) => code === "reshape/fields-differ");
  assert.deepEqual(told.map(({ facts }) => (facts as { field: string }).field).sort(), Object.keys(differing).sort());
  for (const [field, read] of Object.entries(differing)) {
    const [oak, ash] = [read(before.catalogue, rowOf(before, "oak")), read(before.catalogue, rowOf(before, "ash"))];
    assert.notEqual(oak, ash, field);
    assert.equal(read(plain.catalogue, rowOf(plain, "both")), oak, field);
    const chosen = await done(combining(`, take: { "${field}": ash }`));
    assert.equal(read(chosen.catalogue, rowOf(chosen, "both")), ash, field);
    assert.ok(
      !chosen.list.some(
        ({ code, facts }) => code === "reshape/fields-differ" && (facts as { field: string }).field === field,
      ),
      `${field} was chosen, and needs no warning`,
    );
  }
  const categories = (one: typeof plain) =>
    targetsOf(one.catalogue, one.catalogue.table("product"), "categories", rowOf(one, "both")).map((row) =>
      one.catalogue.table("category").key(row),
    );
  assert.deepEqual(categories(plain), ["hives", "tools"]);
  assert.deepEqual(categories(await done(combining(", take: { categories: ash }"))), ["tools"]);
});

test("a value that only one of the combined products has is kept, whichever that is", async () => {
  const blank = usual.map((row) => (row.startsWith("oak,O-1") ? "oak,O-1,Oak box,,,,,,,,,Small,2,Brass,," : row));
  const { catalogue, list } = await done(combining(), blank);
  const products = catalogue.table("product");
  const row = products.find("both")!;
  assert.equal(products.text("name@de", row), "Esche");
  assert.equal(products.text("note@en", row), "New");
  assert.deepEqual(
    list.filter(({ code }) => code === "reshape/fields-differ").map(({ facts }) => (facts as { field: string }).field),
    ["name@en"],
  );
});

test("fields of the project's own go along with what is sold, in every language", async () => {
  const { catalogue } = await done(`${combining()}\n  - { make variants of: [elm], axis: Size, value: Small }`);
  const variants = catalogue.table("variant");
  const plates = Object.fromEntries(
    [...variants.keys()].map((key) => [key, variants.text("plate@en", variants.find(key)!) ?? ""]),
  );
  assert.deepEqual(plates, { "O-1": "Brass", "O-2": "", "A-1": "Zinc", "A-2": "Tin", "E-1": "Iron" });
});

test("a condition names records as the source does, also those that an operation before it has put there", async () => {
  const everywhere = "on: { of: product, keys: [oak, elm] }, values: [tools]";
  const { catalogue } = await done(
    [
      "  - { replace: brand, on: { of: product }, from: Birch, by: Alder }",
      `  - { add: categories, ${everywhere} }`,
      `  - { replace: note@en, on: { of: product, where: 'brand == "Alder" && "tools" in categories' }, from: New, by: Seen }`,
      "  - { use axis: Tallness, instead of: Size, on: { of: product, keys: [ash] } }",
      `  - { replace: plate@en, on: { of: variant, where: 'values.Tallness == "Small"' }, from: Zinc, by: Tin }`,
    ].join("\n"),
  );
  const [products, variants] = [catalogue.table("product"), catalogue.table("variant")];
  assert.equal(products.text("note@en", products.find("ash")!), "Seen");
  assert.equal(variants.text("plate@en", variants.find("A-1")!), "Tin");
});

test("an address that stays needs no redirect, and each that is gone has one", async () => {
  const redirects = async (operations: string) => {
    const { catalogue } = await done(operations);
    const table = catalogue.table("product.redirects");
    return Array.from({ length: table.size }, (_, entry) => table.text("from", entry)).sort();
  };
  assert.deepEqual(await redirects(combining()), ["ash-box"]);
  assert.deepEqual(await redirects(combining(", take: { slug@en: ash }")), ["oak-box"]);
  assert.deepEqual(await redirects(combining(", name: { en: Box }")), ["ash-box", "oak-box"]);
});

test("option groups of one product: split products get copies, and equal names of combined products become one", async () => {
  const { catalogue } = await done("  - { move: [hives], under: null }");
  const changed = catalogue.branch();
  const products = changed.table("product");
  const [groups, choices] = [changed.table("option-group"), changed.table("choice")];
  for (const key of ["oak", "ash"]) {
    const group: number = groups.append(0, 1);
    groups.nameRecord(group, `${key}-engraving`);
    groups.setText("name@en", group, "Engraving");
    const toRow = (kind: string, row: number) => [changed.pool.toRow(kind, row, { sheet: 0, line: 1 })];
    groups.referenceColumn("product").set(group, toRow("product", products.find(key)!));
    products.referenceColumn("optionGroups").set(products.find(key)!, toRow("option-group", group));
    for (const name of key === "oak" ? ["None", "Logo"] : ["None", "Text"]) {
      const choice = choices.append(0, 1, group);
      choices.nameRecord(choice, `${key}-${name}`);
      choices.setText("name@en", choice, name);
    }
  }
  const run = async (operation: Operation) => {
    const findings = new Findings();
    const made = findings.took(await reshape(changed, operation, { source: "en", toSlug: String }, { file: "p" }));
    assert.deepEqual(
      findings.list().filter(({ severity }) => severity === "error"),
      [],
    );
    return made!.catalogue;
  };
  const choicesOf = (made: ResolvedCatalogue) => made.table("choice");
  const optionsOf = (made: ResolvedCatalogue, key: string) =>
    targetsOf(made, made.table("product"), "optionGroups", made.table("product").find(key)!).map((group: number) => {
      const owners = targetsOf(made, made.table("option-group"), "product", group);
      return {
        owner: owners.map((one) => made.table("product").key(one)).join(),
        choices: [...choicesOf(made).childrenOf(group)].map((one) => choicesOf(made).text("name@en", one)),
      };
    });
  const split = await run({ split: "oak", along: "Size", name: "{name} {value}", key: "{key}-{value}" });
  for (const key of ["oak-Small", "oak-Large"])
    assert.deepEqual(optionsOf(split, key), [{ owner: key, choices: ["None", "Logo"] }]);
  const values = { oak: "Oak", ash: "Ash" };
  const combined = await run({ combine: ["oak", "ash"], into: "both", axis: "Tree", values, take: {} });
  assert.deepEqual(optionsOf(combined, "both"), [{ owner: "both", choices: ["None", "Logo", "Text"] }]);
});

test("every value that is lost or invented is in the balance, whatever field it stands in", async () => {
  const { catalogue } = await done("  - { move: [hives], under: null }");
  const nothing = { codes: new Map(), records: new Map(), made: new Map(), set: new Map() };
  assert.deepEqual(fieldBalance(catalogue, catalogue, nothing), []);
  const cells = catalogue.tables.flatMap((table) =>
    table.kind.entryKey
      ? []
      : [...table.texts.keys(), ...table.references.keys()].flatMap((field) =>
          Array.from({ length: table.size }, (_, row) => ({ table: table.name, field, row })),
        ),
  );
  const seen = new Set<string>();
  await fc.assert(
    fc.asyncProperty(fc.constantFrom(...cells), fc.boolean(), async ({ table, field, row }, isBlanked) => {
      // Codes have a line of their own; ids and positions stay with the record.
      if (field === "code" || field === "id" || field === "position") return;
      // What each variant has of its own, its product need not have.
      if (table === "product" && ["plate@en", "weight"].includes(field)) return;
      const changed = catalogue.branch();
      const own = changed.table(table);
      if (own.references.has(field)) {
        if (!own.referenceColumn(field).isSet(row)) return;
        own.referenceColumn(field).unset(row);
      } else {
        if (own.text(field, row) === undefined && isBlanked) return;
        own.setText(field, row, isBlanked ? undefined : "other");
      }
      seen.add(`${table}.${field}`);
      const lines = fieldBalance(catalogue, changed, nothing).filter(({ unexplained }) => unexplained.length > 0);
      assert.ok(lines.length > 0, `${table}.${field} of row ${row} is in no line`);
      const isSold = table === "variant" && field !== "values";
      assert.ok(lines.some(({ what }) => what === (isSold ? field : `${table}.${field}`) || what === field));
    }),
    { numRuns: runs * 10 },
  );
  for (const wanted of ["product.note@en", "variant.plate@en", "variant.values", "product.brand", "category.name@en"])
    assert.ok(seen.has(wanted), `${wanted} was never tried`);
});
