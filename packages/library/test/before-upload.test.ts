/** What would go wrong on a platform without a word is reported before anything is written; what is held back leaves a closed rest. */

import assert from "node:assert/strict";
import { readFileSync } from "node:fs";
import { test } from "node:test";
import fc from "fast-check";
import {
  valueOf,
  findingTable,
  Findings,
  targetsOf,
  type ResolvedCatalogue,
  type Target,
  type Upload,
} from "#src/index.js";
import { buildUpload, isHeldBack, parseTarget, prepareBuild, playUpload } from "#src/parts.js";
import { nodeSha256 } from "#src/node/index.js";
import {
  codes,
  filesOf,
  kinds,
  memorySink,
  one,
  pennywort,
  rangeCsv,
  rangeLayout,
  read,
  single,
  those,
  type Given,
} from "./support.js";

function shipped(name: string): Target {
  const text = readFileSync(new URL(`../../targets/${name}.yaml`, import.meta.url), "utf8");
  return valueOf(parseTarget(text, name, kinds));
}

const runs = Number(process.env["PROPERTY_RUNS"] ?? 60);
const csv = "format: { csv: { delimiter: ';' } }";
const bundles = `layout: bundles
${csv}
rows: { each: product, found by: { column: Set, names: key } }
columns:
  Parts: { field: product.components, as: { list: " + ", of: { quantity: "*", holds: [quantity, { field: product, as: { by: key } }] } } }
`;
const options = `layout: options
${csv}
rows: { each: product, found by: { column: Item, names: key } }
columns:
  Options: { field: product.optionGroups, as: { list: "|", of: { parts: ":", holds: [name@en, { field: choice, as: { list: ",", of: { parts: "=", holds: [name@en, surcharge] } } }] } }, missing: create }
`;
const range = (...rows: readonly Readonly<Record<string, string>>[]): Given => ({
  layout: rangeLayout,
  csv: rangeCsv(...rows),
});

async function prepared(sources: readonly Given[], target: Target, holdBack = false) {
  const { catalogue, findings: found } = await read(sources);
  const choices = { holdBack, despite: new Set<string>(), pictureNames: [] };
  const result = prepareBuild({ catalogue, target, ...choices, found });
  return { catalogue, findings: result.findings, prepared: result.ok ? result.value : undefined };
}

const family: readonly Readonly<Record<string, string>>[] = [
  { ...single("hive"), No: "H-1", "Feature 1": "Wood", "Feature 1 is": "Oak" },
  { Range: "hive", No: "H-2", "Feature 1 is": "Elm", Price: "2,00" },
];

test("a component that names a product with variants is reported with its cell, where only codes can be named", async () => {
  const sources = [
    range(...family, single("set"), single("lid")),
    { file: "sets.csv", layout: bundles, csv: "Set;Parts\nset;2*hive + 1*lid\n" },
  ];
  const { findings } = await prepared(sources, shipped("tollgate"));
  const found = one(findings.list(), "target/variants-only");
  assert.deepEqual(
    [found.at?.file, found.at?.line, found.at?.record?.key, found.severity],
    ["sets.csv", 2, "set", "error"],
  );
  assert.deepEqual(found.facts, { column: "Parts", product: "hive", variants: 2, target: "tollgate" });
});

test("such a component is never written as one of the variants, not even in spite of the error", async () => {
  const sources = [
    range(...family, single("set")),
    { file: "sets.csv", layout: bundles, csv: "Set;Parts\nset;2*hive\n" },
  ];
  const { catalogue, findings } = await read(sources);
  const sink = memorySink();
  const choices = {
    project: "p",
    pictures: new Map(),
    holdBack: false,
    despite: new Set(Object.keys(findingTable)),
    sha256: nodeSha256,
  };
  const target = shipped("tollgate");
  const upload = findings.took(await buildUpload({ catalogue, target, ...choices, found: new Findings() }, sink))!;
  const rehearsed = await playUpload({ catalogue, target, ...upload, files: filesOf(sink.files) });
  assert.ok(rehearsed.ok && !rehearsed.value.rebuilt);
  assert.match(JSON.stringify(rehearsed.value.files), /hive/);
});

test("option groups of one name with other choices in two products are reported with both places", async () => {
  const tell = (...rows: readonly string[]) => [
    range(single("a"), single("b")),
    { file: "options.csv", layout: options, csv: `Item;Options\n${rows.join("\n")}\n` },
  ];
  const codesOf = async (...rows: readonly string[]) => (await read(tell(...rows))).findings.list();
  const found = one(await codesOf("a;Size:S=0,M=1", "b;Size:L=2"), "resolve/contents-differ");
  assert.deepEqual(
    [found.severity, found.at?.line, found.at?.column, found.related[0]?.line, found.at?.record],
    ["error", 3, "Options", 2, { kind: "option-group", key: "Size" }],
  );
  // The same choices, in whatever order, are the same group; other surcharges are not.
  assert.ok(!codes(await codesOf("a;Size:S=0,M=1", "b;Size:M=1,S=0")).includes("resolve/contents-differ"));
  assert.ok(codes(await codesOf("a;Size:S=0,M=1", "b;Size:S=0,M=3")).includes("resolve/contents-differ"));
  assert.ok(!codes(await codesOf("a;Size:S=0,M=1", "b;Width:L=2")).includes("resolve/contents-differ"));
});

test("a choice that a sheet of its own adds to a product's group is reported with its place", async () => {
  const sheet = `layout: groups\n${csv}\nrows: { each: choice, of: option-group, grouped by: Group }\ncolumns:\n  Group: option-group.key\n  Title: option-group.name@en\n  Choice: choice.key\n  Says: choice.name@en\n`;
  const { findings } = await read([
    { file: "groups.csv", layout: sheet, csv: "Group;Title;Choice;Says\nSize;Size;s;S\nSize;;xl;XL\n" },
    range(single("a")),
    { file: "options.csv", layout: options, csv: "Item;Options\na;Size:S=0\n" },
  ]);
  const found = one(findings.list(), "resolve/contents-differ");
  assert.deepEqual([found.at?.file, found.related[0]?.file, found.related[0]?.line], ["options.csv", "groups.csv", 3]);
});

test("cells that begin like formulas are reported, signed numbers and percentages are not", async () => {
  const begins = ["=1+1", "+1 and", "-wood", "@home", "\tx", "=", "+49 30 12", "-"];
  const plain = ["-5", "+3,5", "-10%", "+ 2.5 %", "a=1", "x-1", ""];
  for (const [names, wanted] of [
    [begins, true],
    [plain, false],
  ] as const)
    for (const name of names) {
      const { findings } = await prepared([range({ ...single("a"), Name: name || "x" })], pennywort());
      const found = those(findings.list(), "target/formula");
      assert.equal(found.length > 0, wanted, JSON.stringify(name));
      if (wanted) assert.deepEqual([found[0]!.at?.column, found[0]!.severity], ["Name", "warning"]);
    }
  const workbook = await prepared([range({ ...single("a"), Name: "=1+1" })], shipped("tollgate"));
  assert.deepEqual(those(workbook.findings.list(), "target/formula"), [], "cells of workbooks are written as text");
});

const tree = `layout: tree\n${csv}\nrows: { each: category }\ncolumns:\n  Key: category.key\n  Up: { field: category.parent, as: { by: key } }\n  Name: category.name@en\n  Rank: { field: category.position, as: integer }\n`;
const inTree = rangeLayout.replace(
  'as: { list: "; ", of: { path: " / ", by: name@en } }, missing: create',
  'as: { list: "; ", of: { by: key } }',
);

test("holds back a faulty category with all below it and all that stands there; an error that no record answers stops the build", async () => {
  const sources = [
    {
      file: "tree.csv",
      layout: tree,
      csv: "Key;Up;Name;Rank\nroot;;Root;1\nbad;root;Bad;many\nleaf;bad;Leaf;1\ngood;root;Good;2\n",
    },
    {
      layout: inTree,
      csv: rangeCsv(
        single("a", { Shelf: "leaf" }),
        single("b", { Shelf: "good" }),
        single("c", { Shelf: "good", "Goes with": "C-a" }),
      ),
    },
  ];
  const { catalogue, findings, prepared: plan } = await prepared(sources, shipped("saltmarsh"), true);
  const keys = (kind: string) =>
    [...(plan!.heldBack.byKind.get(kind) ?? [])].map((row) => catalogue.table(kind).key(row));
  assert.deepEqual([keys("category"), keys("product")], [["bad", "leaf"], ["a"]]);
  assert.equal(one(findings.list(), "build/link-left-out").at?.record?.key, "c");
  const [upload] = plan!.plan.steps.filter((step) => step.is === "upload");
  assert.ok(
    upload?.is === "upload" &&
      !upload.places[0]!.records.some((row) => ["bad", "leaf"].includes(catalogue.table("category").key(row))),
  );
});

test("when everything is held back, nothing is built, and it is an error that says how much", async () => {
  const { catalogue, findings } = await read([
    range(single("a", { EAN: "4012345678902" }), { ...single("b"), Price: "none" }),
  ]);
  findings.add({
    ...one((await read([range({ ...single("a"), Price: "x" })])).findings.list(), "cell/not-a-decimal"),
    at: { file: "source.csv", line: 2, record: { kind: "product", key: "a" } },
  });
  const sink = memorySink();
  const choices = { project: "p", pictures: new Map(), holdBack: true, despite: new Set<string>(), sha256: nodeSha256 };
  const upload = await buildUpload({ catalogue, target: pennywort(), ...choices, found: findings }, sink);
  assert.deepEqual([upload.ok, sink.state], [false, "discarded"]);
  assert.equal(
    String((one(upload.findings.list(), "build/nothing-left").facts as { held: unknown }).held),
    "2 products",
  );
});

test("a rehearsal of nothing, as all is held back, is not rebuilt", async () => {
  const { catalogue } = await read([range(single("a"))]);
  const heldBack = { byKind: new Map([["product", new Set([0])]]), unanswered: [] };
  const plan = {
    target: "pennywort",
    steps: [],
    cost: { collections: 0, uploads: 0, postponed: 0 },
    bound: undefined,
  } as unknown as Upload["plan"];
  const rehearsed = await playUpload({ catalogue, target: pennywort(), plan, heldBack, files: filesOf({}) });
  assert.ok(rehearsed.ok);
  assert.equal(rehearsed.value.rebuilt, false);
});

/** Each reference of what is left, of records and of their entries, that leads to what is held back and is more than a link. */
function open(catalogue: ResolvedCatalogue, isOut: (kind: string, row: number) => boolean): string[] {
  return catalogue.tables.flatMap((table) =>
    table.kind.fields.flatMap(({ name, reference }) => {
      if (!reference || reference.dependency === "linking") return [];
      return Array.from({ length: table.size }, (_, row) => row).flatMap((row) => {
        const owner = catalogue.ownerOf(table, row);
        if (isOut(owner.table.name, owner.row)) return [];
        const leads = targetsOf(catalogue, table, name, row).some((to) => isOut(reference.to, to));
        return leads ? [`${table.name}.${name} of ${owner.table.key(owner.row)}`] : [];
      });
    }),
  );
}

test("what is held back leaves a closed rest, whichever records of whatever kind are faulty", async () => {
  const sheet = (...rows: readonly string[]) => ({
    file: "tree.csv",
    layout: tree,
    csv: `Key;Up;Name;Rank\n${rows.join("\n")}\n`,
  });
  const goods = [
    ...family.map((row) => ({ ...row, Shelf: row.Range === "hive" && "Name" in row ? "b" : "" })),
    single("set", { Shelf: "a" }),
    single("lid", { Shelf: "c", "Goes with": "C-set" }),
  ];
  const sources = [
    sheet("a;;A;1", "b;a;B;2", "c;b;C;3"),
    { layout: inTree, csv: rangeCsv(...goods) },
    { file: "sets.csv", layout: bundles, csv: "Set;Parts\nset;2*lid\n" },
    { file: "options.csv", layout: options, csv: "Item;Options\nlid;Size:S=0,M=1\n" },
  ];
  const whole = (await read(sources)).catalogue;
  const records = whole.kinds.roots.flatMap(({ name }) =>
    Array.from({ length: whole.table(name).size }, (_, row) => ({ kind: name, key: whole.table(name).key(row) })),
  );
  assert.ok(records.length > 12);
  let held = 0;
  await fc.assert(
    fc.asyncProperty(fc.uniqueArray(fc.nat(records.length - 1), { minLength: 1, maxLength: 3 }), async (faulty) => {
      const { catalogue, findings } = await read(sources);
      const cause = one((await read([range({ ...single("x"), Price: "x" })])).findings.list(), "cell/not-a-decimal");
      for (const at of faulty) findings.add({ ...cause, at: { file: "x.csv", record: records[at]! } });
      const choices = { holdBack: true, despite: new Set(["target/variants-only"]), pictureNames: [] };
      const plan = valueOf(prepareBuild({ catalogue, target: shipped("saltmarsh"), ...choices, found: findings }));
      const isOut = isHeldBack(plan.heldBack);
      for (const at of faulty) {
        const { kind, key } = records[at]!;
        assert.ok(isOut(kind, catalogue.table(kind).find(key)!), `${kind} ${key}`);
      }
      assert.deepEqual(open(catalogue, isOut), []);
      for (const { name, of } of catalogue.kinds.roots)
        for (let row = 0; of !== undefined && row < catalogue.table(name).size; row++)
          if (isOut(of, catalogue.table(name).parent(row))) assert.ok(isOut(name, row), `${name} without its ${of}`);
      held += [...plan.heldBack.byKind.values()].reduce((sum, rows) => sum + rows.size, 0);
    }),
    { numRuns: runs },
  );
  assert.ok(held > runs, `${held} held back`);
});
