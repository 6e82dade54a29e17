/** Deriving: each way of making a field, exactly, and with a place that says which rule made it. */

import assert from "node:assert/strict";
import { test } from "node:test";
import Big from "big.js";
import fc from "fast-check";
import { Findings, writeWorkbook } from "#src/index.js";
import { loadProject, readProject, loadSlugs, toEnding, withTax } from "#src/parts.js";
import { dump } from "./dump.js";
import { codes, filesOf, one, pennywortText, those } from "./support.js";

const goods = `layout: g
format: { csv: { delimiter: ";" } }
rows: { each: variant, of: product, grouped by: P }
columns:
  P: product.key
  No: variant.code
  Name: product.name@en
  De: product.name@de
  Shelf: { field: product.categories, as: { path: " / ", by: name@en }, missing: create }
  W: { axis: Wood, holds: value }
  Cost: { field: variant.prices(cost).amount, as: decimal }
  Kg: { field: variant.weight, as: decimal }
`;
const csv =
  "P;No;Name;De;Shelf;W;Cost;Kg\nhive;H-C;Große Räucherbox;;Hives / Full;Cedar;8.225;14\nhive;;;;;Pine;5;\nbox;B-1;Große Räucherbox;Kiste;Hives;;;\n";

async function derive(rules: string, extra: Record<string, string | Uint8Array> = {}, more = "") {
  const findings = new Findings();
  const files = filesOf({
    "project.yaml": `project: p\nsources: [{ file: goods.csv, layout: goods.yaml }]\ntargets: [{ target: pennywort }]\n${more}derive:\n${rules}`,
    "goods.yaml": goods,
    "goods.csv": csv,
    ...extra,
  });
  const project = findings.took(await loadProject("project.yaml", files, () => Promise.resolve(pennywortText)));
  const read = project && (await readProject(project, files, findings));
  return { read, findings, lines: read ? dump(read.catalogue) : [] };
}

const cases: readonly (readonly [name: string, rules: string, holds: readonly string[]])[] = [
  [
    "an expression with exact decimals, rounded to a price ending",
    "- { field: variant.prices(price).amount, expression: prices.cost * 1.8, ending: { to: '0.95' } }",
    ["variant H-C prices role=price amount=14.95", "variant hive/Pine prices role=price amount=9.95"],
  ],
  [
    "half a cent rounded up, where binary numbers would go down",
    "- { field: variant.prices(price).amount, expression: prices.cost * 1.8, places: 2 }",
    ["variant H-C prices role=price amount=14.81"],
  ],
  [
    "a code from a pattern with the axis values, where there is none",
    "- { field: variant.code, template: '{product.key|upper}-{values.Wood|first 2|upper}' }",
    ["variant H-C code=H-C values=Wood/Cedar weight=14", "variant hive/Pine code=HIVE-PI values=Wood/Pine"],
  ],
  [
    "slugs, transliterated, each once; a mark for texts that wait for a translator",
    "- { field: product.slug@en, slug: product.name@en }\n- { field: product.name@de, copy: product.name@en, mark: '[en] ' }",
    [
      "product hive axes=Wood categories=Hives/Full name@de=[en] Große Räucherbox name@en=Große Räucherbox slug@en=grosse-raeucherbox",
      "product box categories=Hives code=B-1 name@de=Kiste name@en=Große Räucherbox slug@en=grosse-raeucherbox-2",
    ],
  ],
  [
    "a condition, a constant, and a default from a model record",
    "- { field: product.shown, constant: 'true', where: \"code == 'B-1'\" }\n- { field: variant.weight, model: H-C }",
    [
      "product box categories=Hives code=B-1 name@de=Kiste name@en=Große Räucherbox shown=true",
      "variant hive/Pine values=Wood/Pine weight=14",
    ],
  ],
  [
    "texts changed: capitals, replaced, cut between words, split",
    "- { field: product.searchTitle@en, expression: \"name.en.replace('ä', 'ae').upper()\" }\n- { field: product.searchText@en, expression: \"name.en.shorten(8) + '|' + ' Hive box '.trim().lower().split(' ')[1]\" }",
    [
      "product box categories=Hives code=B-1 name@de=Kiste name@en=Große Räucherbox searchText@en=Große|box searchTitle@en=GROSSE RAEUCHERBOX",
    ],
  ],
  [
    "tax taken out exactly",
    "- { field: variant.prices(price).amount, tax: { of: variant.prices(cost).amount, rate: '19', does: taken out } }",
    ["variant hive/Pine prices role=price amount=4.2"],
  ],
  [
    "the path of ancestors, after references are resolved",
    "- { field: product.description@en, expression: \"path[0] + ': ' + name.en\" }",
    [
      "product box categories=Hives code=B-1 description@en=Hives: Große Räucherbox name@de=Kiste name@en=Große Räucherbox",
    ],
  ],
  [
    "a reference by a template",
    "- { field: product.brand, template: 'Made by {key}' }",
    ["product box brand=Made by box categories=Hives code=B-1 name@de=Kiste name@en=Große Räucherbox"],
  ],
];

for (const [name, rules, holds] of cases)
  test(`derives ${name}`, async () => {
    const { lines, findings } = await derive(rules);
    assert.deepEqual(
      findings.list().filter(({ severity, code }) => severity === "error" && code !== "check/no-code"),
      [],
    );
    for (const line of holds) assert.ok(lines.includes(line), `${line}\n${lines.join("\n")}`);
    assert.ok(those(findings.list(), "derive/made").every(({ at }) => at?.file === "project.yaml"));
  });

test("looks a value up in a sheet, and says what is not in it", async () => {
  const rules = "- { field: product.weight, look up: { in: kilos, by: '{key}', column: Kg } }";
  const tables = "tables: { kilos: { file: kilos.csv, key: Item } }\n";
  const { lines, findings } = await derive(rules, { "kilos.csv": "Item,Kg\nhive,20\n" }, tables);
  assert.ok(
    lines.some((line) => line.startsWith("product hive ") && line.endsWith("weight=20")),
    lines.join("\n"),
  );
  const found = one(findings.list(), "derive/failed");
  assert.deepEqual(found.at?.record, { kind: "product", key: "box" });
});

test("looks a value up in a sheet of a workbook", async () => {
  const book = await writeWorkbook([
    { name: "Notes", rows: [["x"]] },
    {
      name: "Kilos",
      rows: [
        ["Item", "Kg"],
        ["hive", "20"],
        ["box", "3"],
      ],
    },
  ]);
  const rules = "- { field: product.weight, look up: { in: kilos, by: '{key}', column: Kg } }";
  const tables = "tables: { kilos: { file: kilos.xlsx, key: Item, sheet: Kilos } }\n";
  const { lines } = await derive(rules, { "kilos.xlsx": book }, tables);
  assert.ok(
    lines.some((line) => line.startsWith("product box ") && line.endsWith("weight=3")),
    lines.join("\n"),
  );
});

test("a derived field comes from the line of its rule", async () => {
  const { read } = await derive("- { field: product.slug@en, slug: product.name@en }");
  const location = read!.catalogue.location(read!.catalogue.table("product"), 0, "slug@en");
  assert.deepEqual([location.file, location.line], ["project.yaml", 5]);
});

const mistakes: readonly (readonly [rules: string, code: string, nearest?: string])[] = [
  ["- { field: product.nam@en, constant: x }", "project/mistake", "name"],
  ["- { field: product.name, constant: x }", "project/mistake"],
  ["- { field: product.name@en, constant: x, copy: product.name@de }", "given/wrong-value"],
  ["- { field: product.name@en, expression: '1 +' }", "project/mistake"],
  ["- { field: product.name@en, expression: 'process.env' }", "project/mistake"],
  ["- { field: product.name@en, template: '{key|shout}' }", "project/mistake"],
  ["- { field: product.name@en, look up: { in: t, by: '{key}', column: c } }", "project/mistake"],
  ["- { field: product.name@en, template: '{cod}' }", "project/mistake", "code"],
  ["- { field: product.name@en, template: '{entry.role}' }", "project/mistake"],
  ["- { field: product.components.product, constant: box }", "project/mistake"],
  ["- { field: product.relations(goes-with).to, selection: 'code == key', as: { by: key } }", "project/mistake"],
  ["- { field: product.name@en, constant: box, as: { by: key } }", "project/mistake"],
  ["- { field: product.name@en, constant: box, places: 2 }", "project/mistake"],
  ["- { field: product.name@en, constant: box, ending: { to: '0.95' } }", "project/mistake"],
];
for (const [rules, code, nearest] of mistakes)
  test(`a mistake in a rule is reported at its place: ${rules}`, async () => {
    const { findings, read } = await derive(rules);
    assert.equal(read, undefined);
    const found = one(findings.list(), code);
    assert.equal(found.at?.line, 5);
    if (nearest !== undefined) assert.equal((found.facts as { nearest?: string }).nearest, nearest);
  });

test("a value that the field cannot hold is an error, and is not set", async () => {
  const { findings, lines } = await derive("- { field: variant.weight, template: '{key}' }");
  assert.equal(those(findings.list(), "derive/failed").length, 1);
  assert.ok(lines.every((line) => !line.includes("weight=hive")));
  assert.ok(!codes(findings.list()).includes("resolve/dangling"));
});

test("slugs: German, French, Polish, Greek, Cyrillic, kana; nothing of signs with many sounds", async () => {
  const slugOf = await loadSlugs();
  const texts = [
    "Große Räucherbox",
    "L’Été à vélo",
    "Żółta łąka",
    "Κυψέλη",
    "Улей",
    "ハチ",
    "Wax’s ハチミツ 3-é",
    "蜂箱",
    "",
  ];
  assert.deepEqual(texts.map(slugOf), [
    "grosse-raeucherbox",
    "l-ete-a-velo",
    "zolta-laka",
    "kypseli",
    "uley",
    "hachi",
    "waxs-hachimitsu-3",
    "",
    "",
  ]);
});

test("price endings: the next one up, down or nearest, exactly", () => {
  assert.deepEqual(
    (["up", "down", "nearest"] as const).map((goes) => toEnding("14.95", { to: "0.95", goes })),
    ["14.95", "14.95", "14.95"],
  );
  assert.deepEqual(
    (["up", "down", "nearest"] as const).map((goes) => toEnding("15.2", { to: "0.95", goes })),
    ["15.95", "14.95", "14.95"],
  );
  assert.equal(toEnding("12", { to: "9.90", goes: "up" }), "19.9");
  assert.equal(toEnding("0.5", { to: "0.95", goes: "down" }), "0.95");
});

test("price endings and taxes hold for any amount", () => {
  const amount = fc.integer({ min: 0, max: 10_000_000 }).map((cents) => new Big(cents).div(100).toFixed());
  fc.assert(
    fc.property(amount, fc.integer({ min: 0, max: 99 }), (given, cents) => {
      const to = new Big(cents).div(100).toFixed();
      const price = new Big(toEnding(given, { to, goes: "up" }));
      assert.ok(price.gte(given) && price.minus(given).lt(1), `${given} to ${price.toFixed()}`);
      assert.ok(price.minus(to).mod(1).eq(0));
      const gross = withTax(given, "19", "added", 2);
      assert.equal(withTax(gross, "19", "taken out", 2), given);
    }),
  );
});

const photos = `layout: photos
format: { csv: { delimiter: ";" } }
rows: { each: product }
columns:
  Key: product.key
  Code: product.code
  Main: product.pictures(main).file
  More: { field: product.pictures(view).file, as: { list: "," } }
`;

async function derived(rules: string, files: Record<string, string>, sources: string, more = "") {
  const findings = new Findings();
  const port = filesOf({
    "project.yaml": `project: p\nsources: [${sources}]\ntargets: [{ target: pennywort }]\n${more}derive:\n${rules}`,
    ...files,
  });
  const project = findings.took(await loadProject("project.yaml", port, () => Promise.resolve(pennywortText)));
  assert.ok(project, JSON.stringify(findings.list()));
  const read = await readProject(project, port, findings);
  return { lines: dump(read.catalogue), findings };
}

test("rules over entries: positions in their order, and the list picture from the main one", async () => {
  const { lines } = await derived(
    "- { field: product.pictures.position, expression: entry.nth * 10 }\n- { field: product.pictures.alternative@en, template: '{code} {entry.role} {entry.nth}' }\n- { field: product.pictures(list).file, copy: product.pictures(main).file }",
    { "a.yaml": photos, "a.csv": "Key;Code;Main;More\nbox;B;b.png;b1.png,b2.png\n" },
    "{ file: a.csv, layout: a.yaml }",
  );
  assert.deepEqual(
    lines.filter((line) => line.includes(" pictures ")),
    [
      "product box pictures role=main file=b.png alternative@en=B main 1 position=10",
      "product box pictures role=view file=b1.png alternative@en=B view 2 position=20",
      "product box pictures role=view file=b2.png alternative@en=B view 3 position=30",
      "product box pictures role=list file=b.png",
    ],
  );
});

test("codes that a rule makes are there when another source finds its records by them", async () => {
  const { lines, findings } = await derived(
    "- { field: product.code, template: 'X-{key|upper}' }",
    {
      "a.yaml": `layout: a\nformat: { csv: {} }\nrows: { each: product }\ncolumns: { Key: product.key }\n`,
      "a.csv": "Key\nbox\nlid\n",
      "p.yaml": `layout: p\nformat: { csv: {} }\nrows: { each: product, found by: { column: No, names: code } }\ncolumns: { Kg: product.weight }\n`,
      "p.csv": "No,Kg\nX-LID,2\n",
    },
    "{ file: p.csv, layout: p.yaml }, { file: a.csv, layout: a.yaml }",
  );
  assert.deepEqual(lines, ["product box code=X-BOX", "product lid code=X-LID weight=2"]);
  assert.deepEqual(those(findings.list(), "derive/made").length, 1);
});

test("a rule that makes nothing is reported, with the reason", async () => {
  const { findings } = await derive("- { field: product.shown, constant: 'true', where: \"code == 'Z'\" }");
  assert.deepEqual(one(findings.list(), "derive/made-nothing").facts, {
    field: "product.shown",
    method: "constant",
    kept: 0,
    unfit: 2,
    lacking: 0,
  });
});

test("the records that a record names are there for rules, one as a text and many as a list", async () => {
  const { lines } = await derived(
    "- { field: product.name@en, template: '{brand} {code}' }\n- { field: product.searchTitle@en, expression: '\"Hives\" in categories ? brand : \"-\"' }",
    {
      "a.yaml":
        "layout: a\nformat: { csv: {} }\nrows: { each: product }\ncolumns:\n  Code: product.code\n  Brand: product.brand\n  Shelves: { field: product.categories, as: { list: ';', of: { by: name@en } }, missing: create }\n",
      "a.csv": "Code,Brand,Shelves\nA,Fernhollow,Hives;New\nB,,Hives\nC,Fernhollow,New\n",
    },
    "{ file: a.csv, layout: a.yaml }",
  );
  assert.deepEqual(
    lines.filter((line) => line.startsWith("product")).map((line) => line.replace(/ categories=\S+/, "")),
    [
      "product A brand=Fernhollow code=A name@en=Fernhollow A searchTitle@en=Fernhollow",
      "product B code=B",
      "product C brand=Fernhollow code=C name@en=Fernhollow C searchTitle@en=-",
    ],
  );
});

test("a rule that fails on each record is reported for each, and not as one that finds nothing to do", async () => {
  const { findings } = await derive("- { field: product.weight, expression: key + 1 }");
  assert.equal(those(findings.list(), "derive/failed").length, 2);
  assert.ok(!codes(findings.list()).includes("derive/made-nothing"));
});

test("a record that the condition of a selection fails on is the one that is reported", async () => {
  const { findings } = await derived(
    "- { field: product.relations(goes-with).to, selection: int(code) > 5 }",
    { "a.yaml": photos, "a.csv": "Key;Code;Main;More\na;7;;\nb;seven;;\n" },
    "{ file: a.csv, layout: a.yaml }",
  );
  assert.deepEqual(one(findings.list(), "derive/failed").at?.record, { kind: "product", key: "b" });
});

test("a field that a project adds to variants is one of products without variants too", async () => {
  const { lines } = await derived(
    "- { field: product.drawer, constant: '7' }",
    {
      "a.yaml": goods.replace("  Kg: {", "  Drawer: variant.drawer\n  Kg: {"),
      "a.csv": "P;No;Name;De;Shelf;W;Cost;Drawer;Kg\nhive;H-C;;;;Cedar;;3;\nhive;H-P;;;;Pine;;4;\nbox;B-1;;;;;;5;\n",
    },
    "{ file: a.csv, layout: a.yaml }",
    "kinds: { variant: { fields: { drawer: text } } }\n",
  );
  assert.ok(
    lines.some((line) => line.startsWith("product box") && line.includes("drawer=5")),
    lines.join("\n"),
  );
  assert.ok(
    lines.some((line) => line.startsWith("variant H-P") && line.includes("drawer=4")),
    lines.join("\n"),
  );
});

test("translations follow keys that operations give", async () => {
  const { lines, findings } = await derived(
    "- { field: product.shown, constant: 'true' }",
    {
      "a.yaml": photos.replace("  Main", "  Name: product.name@en\n  Main"),
      "a.csv": "Key;Code;Name;Main;More\nbox;B;Box;;\n",
      "de.csv": "Kind,Key,Field,State,en,de\nproduct,crate,name,new,Box,Kiste\n",
    },
    "{ file: a.csv, layout: a.yaml }",
    "languages: [en, de]\ntranslations: [{ file: de.csv, language: de }]\noperations: [{ rename: box, of: product, to: crate }]\n",
  );
  assert.ok(lines.join().includes("name@de=Kiste"), `${lines.join("\n")} ${JSON.stringify(findings.list())}`);
});

test("keys are made before other sources join by them, and what named the old key still leads there", async () => {
  const { lines, findings } = await derived(
    "- { field: product.key, template: 'p-{code|lower}', overwrite: true }",
    {
      "a.yaml": photos.replace("  Main", "  With: { field: product.relations(with).to, as: { by: key } }\n  Main"),
      "a.csv": "Key;Code;With;Main;More\n1;H1;2;;\n2;H2;;;\n",
      "b.yaml": `layout: b\nformat: { csv: {} }\nrows: { each: product, found by: { column: P, names: key } }\ncolumns: { Name: product.name@en }\n`,
      "b.csv": "P,Name\np-h1,One\np-h2,Two\n",
    },
    "{ file: b.csv, layout: b.yaml }, { file: a.csv, layout: a.yaml }",
  );
  assert.deepEqual(codes(findings.list()), ["derive/made"]);
  assert.deepEqual(
    lines.filter((line) => line.startsWith("product")),
    [
      "product p-h1 code=H1 name@en=One",
      "product p-h2 code=H2 name@en=Two",
      "product p-h1 relations name=with to=p-h2",
    ],
  );
});

test("a rule for codes is run once over each record, whether it came before linked rows or with them", async () => {
  const { lines, findings } = await derived(
    "- { field: product.code, template: 'X-{key}-{code}', overwrite: true }",
    {
      "a.yaml": photos,
      "a.csv": "Key;Code;Main;More\n1;H1;;\n2;H2;;\n",
      "b.yaml": `layout: b\nformat: { csv: {} }\nrows: { each: product, found by: { column: P, names: code } }\ncolumns: { Name: product.name@en }\n`,
      "b.csv": "P,Name\nX-1-H1,One\n",
    },
    "{ file: b.csv, layout: b.yaml }, { file: a.csv, layout: a.yaml }",
  );
  assert.deepEqual(codes(findings.list()), ["derive/made"]);
  assert.deepEqual(one(findings.list(), "derive/made").facts, { field: "product.code", method: "template", count: 2 });
  assert.deepEqual(
    lines.filter((line) => line.startsWith("product")),
    ["product 1 code=X-1-H1 name@en=One", "product 2 code=X-2-H2"],
  );
});

test("what records are known by, and what they refer to, is the same for all targets", async () => {
  for (const rule of [
    "{ field: product.code, template: 'T-{code}', overwrite: true }",
    "{ field: product.brand, constant: Fernhollow }",
  ]) {
    const findings = new Findings();
    const port = filesOf({
      "project.yaml": `project: p\nsources: [{ file: a.csv, layout: a.yaml }]\ntargets:\n  - target: pennywort\n    derive:\n      - ${rule}\n`,
      "a.yaml": photos,
    });
    assert.ok(!findings.took(await loadProject("project.yaml", port, () => Promise.resolve(pennywortText))));
    assert.equal(one(findings.list(), "project/mistake").at?.line, 6);
  }
});

test("keys that a rule makes are different, or records keep the old one, and each of them is reported", async () => {
  const key = fc.constantFrom("a", "b", "c", "d", "e");
  await fc.assert(
    fc.asyncProperty(
      fc.uniqueArray(key, { minLength: 1 }),
      fc.array(key, { minLength: 5, maxLength: 5 }),
      async (keys, to) => {
        const { lines, findings } = await derived(
          "- { field: product.key, template: '{code}', overwrite: true }",
          {
            "a.yaml": photos,
            "a.csv": `Key;Code;Main;More\n${keys.map((one, at) => `${one};${to[at]!};;`).join("\n")}\n`,
          },
          "{ file: a.csv, layout: a.yaml }",
        );
        const made = lines.filter((line) => line.startsWith("product")).map((line) => line.split(" ")[1]!);
        assert.equal(new Set(made).size, keys.length);
        const kept = made.filter((one, at) => one !== to[at]).length;
        assert.ok(those(findings.list(), "derive/failed").length >= kept);
        // Where all are to be different, all are.
        if (new Set(to.slice(0, keys.length)).size === keys.length) assert.deepEqual(made, to.slice(0, keys.length));
      },
    ),
    { numRuns: 100 },
  );
});

test("references to a selection: every other record that fits", async () => {
  const { lines } = await derived(
    "- { field: product.relations(goes-with).to, selection: \"code.startsWith('H')\", where: code != 'X' }",
    { "a.yaml": photos, "a.csv": "Key;Code;Main;More\na;H1;;\nb;H2;;\nc;X;;\nd;Y;;\n" },
    "{ file: a.csv, layout: a.yaml }",
  );
  assert.deepEqual(
    lines.filter((line) => line.includes("relations")).map((line) => line.replace("product ", "")),
    [
      "a relations name=goes-with to=b",
      "b relations name=goes-with to=a",
      "d relations name=goes-with to=a",
      "d relations name=goes-with to=b",
    ],
  );
});
