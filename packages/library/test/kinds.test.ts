/** What the kinds of a catalogue bring along: option groups, bundles, assortments, properties, prices in time, and their rules. */

import assert from "node:assert/strict";
import { test } from "node:test";
import { BundleReader, Findings, targetsOf, type FindingCode } from "#src/index.js";
import { checkCatalogue, CodeIndex, loadProject, membersByRule, readProject } from "#src/parts.js";
import { check, codes, filesOf, pennywortText, those, type Given } from "./support.js";

const flat = (kind: string, columns: string, csv: string, rest = ""): Given => ({
  layout: `layout: ${kind}\nformat: { csv: { delimiter: ";" } }\nrows: { each: ${kind} }\n${rest}columns:\n${columns}`,
  csv,
});

const productColumns = `  Key: product.key
  Code: product.code
  Name: product.name@en
  Nature: product.sort
  Weight: product.weight
  Price: product.prices(price).amount
  Parts: { field: product.components, as: { list: " + ", of: { quantity: "x ", holds: [quantity, variant] } } }
  Stock: { field: product.stock.quantity, as: integer }
  Options: { field: product.optionGroups, as: { list: ",", of: { by: key } } }
`;
const products = (...rows: string[]): Given =>
  flat("product", productColumns, `Key;Code;Name;Nature;Weight;Price;Parts;Stock;Options\n${rows.join("\n")}\n`);

const bundleRows = [
  "frame;FR;Frame;;0.5;2.00;;100;",
  "box;BX;Box;;4;30.00;;7;",
  "super;SP;Super;;;;1x BX + 10x FR;;",
  "hive;HV;Hive;;9.5;140.00;2x SP + 1x BX;;",
];

test("a component names a variant, or a product that has none; bundles in bundles add up", async () => {
  const { catalogue, list } = await check([products(...bundleRows)]);
  assert.deepEqual(codes(list), ["check/bundle-dearer", "check/bundle-lighter"]);
  const reader = new BundleReader(catalogue);
  const table = catalogue.table("product");
  const sums = (key: string) => {
    const row = table.find(key)!;
    return reader.sumsOf({ table, row, product: row });
  };
  assert.deepEqual(sums("super"), { sum: "50", weight: "9", available: "7" });
  // Two supers of 50 and 9 kg, and a box; a super can be made 7 times: two of them for three hives.
  assert.deepEqual(sums("hive"), { sum: "130", weight: "22", available: "3" });
  assert.equal(sums("box"), undefined);
});

test("a component that names nothing is a dangling reference, with what comes nearest", async () => {
  const { list } = await check([products("frame;FR;Frame;;;2.00;;;", "box;BX;Box;;;3.00;2x FRR;;")]);
  const [dangling] = those(list, "resolve/dangling");
  assert.equal((dangling!.facts as { text: string }).text, "FRR");
  assert.deepEqual((dangling!.facts as { nearest: string[] }).nearest, ["FR"]);
});

test("derives a bundle's price, weight and stock from its components", async () => {
  const given = products(...bundleRows.slice(0, 2), "super;SP;Super;;;;1x BX + 10x FR;;");
  const files = filesOf({
    "project.yaml": `
project: p
sources: [{ file: a.csv, layout: a.yaml }]
targets: [{ target: t.yaml }]
derive:
  - { field: product.prices(price).amount, expression: 'bundle.sum * decimal("0.9")', ending: { to: "0.50", goes: down } }
  - { field: product.weight, expression: bundle.weight }
  - { field: product.stock(Barn).quantity, expression: bundle.available }
`,
    "a.yaml": given.layout as string,
    "a.csv": given.csv,
    "t.yaml": pennywortText,
  });
  const findings = new Findings();
  const project = findings.took(await loadProject("project.yaml", files, () => Promise.resolve(undefined)));
  const { catalogue } = await readProject(project!, files, findings);
  const row = catalogue.table("product").find("super")!;
  const entry = (collection: string, field: string) => {
    const table = catalogue.table(`product.${collection}`);
    return [...table.childrenOf(row)].map((at) => table.text(field, at));
  };
  assert.deepEqual(entry("prices", "amount"), ["44.5"]);
  assert.equal(catalogue.table("product").text("weight", row), "9");
  assert.deepEqual(entry("stock", "quantity"), ["7"]);
});

const optionGroups = flat(
  "choice",
  `  Group: option-group.key
  Title: option-group.name@en
  Must: { field: option-group.required, as: { code words: { yes: true, no: false } } }
  Choice: choice.key
  Says: choice.name@en
  More: choice.surcharge
  Is: choice.surchargeIs
  Takes: { field: choice.variant, as: { by: code } }
`,
  "Group;Title;Must;Choice;Says;More;Is;Takes\nbrand;Branding;no;own;Own text;12.50;amount;\n;;;logo;Logo;150;percent;\npaint;Finish;yes;oil;Linseed;5;precent;FR\n",
  "",
);
const groupedChoices: Given = {
  ...optionGroups,
  layout: (optionGroups.layout as string).replace(
    "{ each: choice }",
    "{ each: choice, of: option-group, grouped by: Group, shared cells: first row }",
  ),
  csv: (optionGroups.csv as string).replace("\n;;;logo", "\nbrand;;;logo"),
};

test("option groups have choices; a choice may be a product; surcharges and words are looked at", async () => {
  const { catalogue, list } = await check([
    groupedChoices,
    products("frame;FR;Frame;;;2.00;;;brand,paint", "box;BX;Box;;;3.00;;;brand"),
  ]);
  const choices = catalogue.table("choice");
  const oil = choices.find("oil")!;
  assert.deepEqual(targetsOf(catalogue, choices, "product", oil), [catalogue.table("product").find("frame")]);
  assert.deepEqual(targetsOf(catalogue, choices, "variant", oil), []);
  assert.deepEqual(codes(list), ["check/surcharge", "check/no-choice", "check/unknown-value"]);
  assert.equal((those(list, "check/unknown-value")[0]!.facts as { nearest: string }).nearest, "percent");
});

const priceSheet = (...rows: string[]): Given =>
  flat(
    "product",
    `  Key: product.key
  Role: lane.role
  Amount: lane.amount
  From: lane.from
  Until: lane.until
  Least: { field: lane.quantityFrom, as: integer }
  Most: { field: lane.quantityTo, as: integer }
  Period: lane.hire
`,
    `Key;Role;Amount;From;Until;Least;Most;Period\n${rows.join("\n")}\n`,
  );
const priced = (...rows: string[]): Given => {
  const given = priceSheet(...rows);
  const rest =
    "rows: { each: product, found by: { column: Key, names: key } }\nlanes:\n  lane: { entries: product.prices }\n";
  return {
    ...given,
    layout: (given.layout as string).replace("rows: { each: product }\n", rest).replace("  Key: product.key\n", ""),
  };
};
const boxOf = (nature = "", weight = ""): Given => products(`box;BX;Box;${nature};${weight};3.00;;;`);

const cases: readonly (readonly [string, FindingCode, readonly Given[]])[] = [
  [
    "a price that ends before it begins",
    "check/ends-before",
    [boxOf(), priced("box;offer;2;2027-02-01;2027-01-01;;;")],
  ],
  [
    "two prices of one role in the same time",
    "check/prices-overlap",
    [boxOf(), priced("box;offer;2;2027-01-01;2027-01-31;;;", "box;offer;1;2027-01-31;;;;")],
  ],
  ["a least quantity above the most", "check/least-above-most", [boxOf(), priced("box;price;2;;;10;5;")]],
  ["a rental without a price for a time", "check/no-hire-price", [boxOf("hire")]],
  ["a price for a time of what is not rented", "check/hire-price", [boxOf("goods"), priced("box;price;2;;;;;day")]],
  ["the weight of a service", "check/weight-of-nothing", [boxOf("service", "2")]],
  ["a component that comes no times", "check/zero", [products("a;A;A;;;1;;;", "b;B;B;;;;0x A;;")]],
  [
    "an identifier on two records",
    "check/repeated-identifier",
    [
      flat(
        "product",
        "  Key: product.key\n  Code: product.code\n  Maker no: product.identifiers(maker).value\n",
        "Key;Code;Maker no\na;A;1\nb;B;1\n",
      ),
    ],
  ],
  [
    "a property whose value is of another type",
    "check/property-type",
    [
      boxOf(),
      flat(
        "property",
        "  Key: property.key\n  Name: property.name@en\n  Type: property.type\n",
        "Key;Name;Type\nvolt;Voltage;number\n",
      ),
      {
        layout:
          'layout: facts\nformat: { csv: { delimiter: ";" } }\nrows: { each: product, found by: { column: Key, names: key } }\nlanes:\n  facts: { entries: product.properties }\ncolumns:\n  Fact: { field: facts.property, as: { by: name@en } }\n  Is: facts.value\n',
        csv: "Key;Fact;Is\nbox;Voltage;high\n",
      },
    ],
  ],
  [
    "an assortment with members and a rule",
    "check/members-and-rule",
    [
      boxOf(),
      flat(
        "assortment",
        '  Key: assortment.key\n  Rule: assortment.rule\n  In it: { field: assortment.members, as: { list: ",", of: { by: key } } }\n',
        "Key;Rule;In it\nnew;true;box\n",
      ),
    ],
  ],
  ["a negative price", "check/negative", [products("a;A;A;;;-1;;;")]],
  ["a price of nothing", "check/for-nothing", [products("a;A;A;;;0;;;")]],
  ["stock below zero", "check/below-zero", [products("a;A;A;;;1;;-4;")]],
  ["a negative weight", "check/negative", [products("a;A;A;;-2;1;;;")]],
  [
    "a component without a quantity",
    "check/no-quantity",
    [
      flat(
        "product",
        '  Key: product.key\n  Code: product.code\n  Set: { field: product.components.product, as: { list: ",", of: { by: key } } }\n',
        "Key;Code;Set\na;A;\nb;B;a\n",
      ),
    ],
  ],
  ["a component twice", "check/component-twice", [products("a;A;A;;;1;;;", "b;B;B;;;2;1x A + 2x A;;")]],
  [
    "a tier without an amount",
    "check/no-amount",
    [
      flat(
        "product",
        "  Key: product.key\n  Code: product.code\n  From: each.quantityFrom\n  Each: each.amount\n",
        "Key;Code;From;Each\na;A;5;3\n;;9;\n",
        "lanes: { each: { entries: product.prices, with: { role: price }, continued when blank: [Key] } }\n",
      ),
    ],
  ],
  [
    "tiers that reach into each other",
    "check/tiers-overlap",
    [
      flat(
        "product",
        '  Key: product.key\n  Code: product.code\n  Tiers: { field: product.prices(price), as: { list: " ", of: { parts: ":", holds: [quantityFrom, quantityTo, amount] } } }\n',
        "Key;Code;Tiers\na;A;1:5:9 5:9:8 10:20:7\n",
      ),
    ],
  ],
  [
    "brands that differ in their case alone",
    "check/look-alike-names",
    [flat("brand", "  Key: brand.key\n  Name: brand.name@en\n", "Key;Name\na;Thornapple\nb;Thorn\nc;thornapple \n")],
  ],
  ["a key with a space more", "check/look-alike-keys", [products("hive;A;A;;;1;;;", "Hive ;B;B;;;1;;;")]],
  [
    "an assortment without anything",
    "check/empty-assortment",
    [flat("assortment", "  Key: assortment.key\n  Rule: assortment.rule\n", "Key;Rule\nnew;\n")],
  ],
];
for (const [what, code, sources] of cases)
  test(`says ${what}`, async () => {
    const { list } = await check(sources);
    assert.deepEqual(codes(list), [code], JSON.stringify(list[0]?.facts));
    assert.ok(list[0]!.at?.line, "it has a place");
  });

test("says how pictures are used wrongly: twice, at one place, hidden though main, a link to a page", async () => {
  const pictures: Given = {
    layout:
      'layout: pictures\nformat: { csv: { delimiter: ";" } }\nrows: { each: product, found by: { column: Key, names: key } }\nlanes:\n  uses: { entries: product.pictures }\ncolumns:\n  File: uses.file\n  Role: uses.role\n  No: { field: uses.position, as: integer }\n  Hidden: { field: uses.hidden, as: { code words: { yes: true, no: false } } }\n',
    csv: "Key;File;Role;No;Hidden\nbox;a.png;main;1;yes\nbox;b.png;;1;no\nbox;b.png;;2;no\nbox;https://example.org/box;;3;no\n",
  };
  const { list } = await check([boxOf(), pictures], ["a.png", "b.png"]);
  assert.deepEqual(codes(list), [
    "check/role-hidden",
    "check/picture-position",
    "check/picture-twice",
    "check/no-image-link",
  ]);
});

test("a role may not name the picture of another product, which is not among its own", async () => {
  const rows = "Key;Code;Gallery;Main\nbox;B;b1.png b2.png;l1.png\nlid;L;l1.png l2.png;l2.png\nnew;N;;l1.png\n";
  const columns = `  Key: product.key\n  Code: product.code\n  Gallery: { field: product.pictures.file, as: { list: " " } }\n  Main: product.pictures(main).file\n`;
  const { list } = await check([flat("product", columns, rows)], ["b1.png", "b2.png", "l1.png", "l2.png"]);
  assert.deepEqual(codes(list), ["check/picture-of-another"]);
  assert.deepEqual(list[0]!.facts, { role: "main", file: "l1.png", of: "lid" });
  assert.deepEqual(list[0]!.at, {
    file: "source.csv",
    line: 2,
    column: "Main",
    record: { kind: "product", key: "box" },
  });
});

test("a picture without a file is a warning, of whatever kind; an error where a target refuses the row", async () => {
  const category = flat(
    "category",
    "  Key: category.key\n  Name: category.name@en\n  Photo: category.pictures(main).file\n",
    "Key;Name;Photo\na;Hives;gone.png\n",
  );
  for (const folder of [undefined, ["other.png"]]) {
    const { list } = await check([category], folder);
    const [missing] = those(list, "check/picture-missing");
    assert.equal(missing?.severity, "warning");
    assert.equal(missing.at?.column, "Photo");
  }
  const catalogue = (await check([category])).catalogue;
  const findings = new Findings();
  const picturesRefused = (table: string) => (table === "category.pictures" ? ["harbour"] : []);
  checkCatalogue({
    catalogue,
    codes: new CodeIndex(catalogue),
    pictures: undefined,
    picturesRefused,
    languages: [],
    findings,
  });
  const [refused] = those(findings.list(), "check/picture-refused");
  assert.deepEqual(refused?.facts, { file: "gone.png", refusedBy: ["harbour"] });
});

test("works out who is in an assortment by its rule, and says rules that nobody fits or that cannot be read", async () => {
  const { catalogue, findings } = await check([
    products("a;A;A;hire;;;;;", "b;B;B;;;3.00;;;", "c;C;C;hire;;;;;"),
    flat(
      "assortment",
      "  Key: assortment.key\n  Rule: assortment.rule\n",
      'Key;Rule\nrent;"sort == ""hire"""\nnone;"sort == ""service"""\nbad;sort ==\n',
    ),
  ]);
  const members = await membersByRule(catalogue, findings);
  const table = catalogue.table("assortment");
  assert.deepEqual(members.get(table.find("rent")!), [0, 2]);
  assert.deepEqual(members.get(table.find("none")!), []);
  assert.equal(members.has(table.find("bad")!), false);
  const list = findings.list();
  assert.equal(those(list, "derive/rule-fits-none").length, 1);
  assert.equal(those(list, "derive/no-rule").length, 1);
});

const ownKinds = `
project: p
sources: [{ file: a.csv, layout: a.yaml }, { file: b.csv, layout: b.yaml }]
targets: [{ target: t.yaml }]
kinds:
  product: { fields: { hallmark: text, grades: { type: text, among: [fine, rough] } } }
  apiary: { fields: { name: { type: text, per language: true }, sells: { refers to: product, list: true } } }
`;

test("a project adds fields and kinds of its own, which are read, resolved and checked like the others", async () => {
  const files = filesOf({
    "project.yaml": ownKinds,
    "a.yaml":
      "layout: a\nformat: { csv: { delimiter: ';' } }\nrows: { each: product }\ncolumns:\n  Key: product.key\n  Code: product.code\n  Mark: product.hallmark\n  Grade: product.grades\n",
    "a.csv": "Key;Code;Mark;Grade\nx;X;lion;fine\ny;Y;;ruff\n",
    "b.yaml":
      "layout: b\nformat: { csv: { delimiter: ';' } }\nrows: { each: apiary }\ncolumns:\n  Key: apiary.key\n  Name: apiary.name@en\n  Sells: { field: apiary.sells, as: { list: ',', of: { by: code } } }\n",
    "b.csv": "Key;Name;Sells\nhill;Hill;X,Y\n",
    "t.yaml": pennywortText,
  });
  const findings = new Findings();
  const project = findings.took(await loadProject("project.yaml", files, () => Promise.resolve(undefined)));
  assert.ok(project, JSON.stringify(findings.list()));
  const { catalogue } = await readProject(project, files, findings);
  assert.deepEqual(codes(findings.list()), ["check/unknown-value"]);
  assert.equal(catalogue.table("product").text("hallmark", 0), "lion");
  assert.deepEqual(targetsOf(catalogue, catalogue.table("apiary"), "sells", 0), [0, 1]);
});

for (const [what, change, problem] of [
  ["a field that is there already", "hallmark: text", "weight: text"],
  ["a kind that is none", "refers to: product", "refers to: prodct"],
] as const)
  test(`says ${what} in a project's own kinds, at its place`, async () => {
    const files = filesOf({ "project.yaml": ownKinds.replace(change, problem) });
    const findings = new Findings();
    assert.equal(findings.took(await loadProject("project.yaml", files, () => Promise.resolve(undefined))), undefined);
    const [mistake] = findings.list();
    assert.deepEqual([mistake!.code, mistake!.at?.line], ["project/mistake", what.startsWith("a field") ? 6 : 7]);
  });
