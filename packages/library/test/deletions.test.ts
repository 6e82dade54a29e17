/** Records that are deleted by a file: those that are no longer in the sources, and those that a rollback takes back. */

import assert from "node:assert/strict";
import { test } from "node:test";
import {
  build,
  collect,
  openTarget,
  planUpload,
  rehearseRollback,
  valueOf,
  type CollectedReports,
  type OpenedTarget,
} from "#src/index.js";
import { blobFiles, memoryFolder } from "#src/web/index.js";
import { openSources, openSmall, type SmallSheet } from "./small-project.js";
import { filesOf, one } from "./support.js";

const shelvesLayout = {
  layout: "shelves",
  rows: { each: "category" },
  columns: { Shelf: "category.key", Label: "category.name@en", Under: { field: "category.parent", as: { by: "key" } } },
};
const goodsLayout = {
  layout: "wares",
  rows: { each: "variant", of: "product", "grouped by": "Ware", "shared cells": "every row" },
  columns: {
    Ware: "product.key",
    No: "variant.code",
    Title: "product.name@en",
    Stands: { field: "product.categories", as: { list: ";", of: { by: "key" } } },
    Wood: { axis: "Wood", holds: "value" },
  },
};
const wares = "Ware,No,Title,Stands,Wood\nhive,H1,Hive,hives,Oak\nhive,H2,Hive,hives,Elm\nveil,V1,Veil,veils,Oak\n";
const shelves = "Shelf,Label,Under\nall,All,\nhives,Hives,all\nveils,Veils,all\nnets,Nets,veils\n";
const sheetsOf = (ofShelves: string, ofWares: string): SmallSheet[] => [
  { layout: shelvesLayout, text: ofShelves },
  { layout: goodsLayout, text: ofWares },
];

const goneOf = (name: string, kind: string) => ({
  layout: { layout: name, rows: { each: kind }, columns: { Gone: `${kind}.key` } },
});
const target = {
  target: "made-up",
  version: 1,
  languages: ["en"],
  endpoints: { pictures: "/p", upload: "/in/{name}", catalogue: "/all" },
  files: {
    shelves: { layout: shelvesLayout },
    wares: { layout: goodsLayout },
    "shelves-gone": goneOf("shelves-gone", "category"),
    "wares-gone": goneOf("wares-gone", "product"),
  },
  imports: [
    { file: "shelves" },
    { file: "wares" },
    { file: "shelves-gone", mode: "delete" },
    { file: "wares-gone", mode: "delete" },
  ],
};

interface Written {
  readonly texts: Readonly<Record<string, string>>;
  readonly folder: ReturnType<typeof blobFiles>;
}

async function written(opened: OpenedTarget): Promise<Written> {
  const { sink, files } = memoryFolder();
  const upload = valueOf(await build(opened, { sink }));
  const folder = blobFiles(files);
  const texts: Record<string, string> = {};
  for (const { name } of upload.files) {
    if (!name.endsWith(".csv")) continue;
    let text = "";
    for await (const chunk of valueOf(await folder.read(name))) text += new TextDecoder().decode(chunk);
    texts[name] = text.replaceAll("\r\n", "\n");
  }
  return { texts, folder };
}

/** All rows are taken. */
async function collected(opened: OpenedTarget, { texts, folder }: Written): Promise<CollectedReports> {
  const reports = Object.entries(texts).map(([name, text]) => {
    const rows = text.trim().split("\n").slice(1);
    return [
      `${name}.report.json`,
      JSON.stringify({ refused: null, rows: rows.map((_, at) => ({ line: at + 2, outcome: "created", reasons: [] })) }),
    ];
  });
  const prepared = valueOf(await planUpload(opened));
  const answers = filesOf(Object.fromEntries(reports) as Record<string, string>);
  return valueOf(await collect(opened, prepared, { upload: folder, uploadName: "upload", reports: answers }));
}

/** The ledger after a first import of everything. */
async function ledgerAfterFirst(): Promise<string> {
  const opened = valueOf(await openSmall(sheetsOf(shelves, wares), target, ["en"]));
  return (await collected(opened, await written(opened))).ledger.addedText();
}

async function later(
  own: readonly SmallSheet[],
  there: { readonly shelves: string; readonly wares: string },
  asked: unknown = target,
  gone = "delete",
): Promise<OpenedTarget> {
  const ledger = { "ledger-made-up.jsonl": await ledgerAfterFirst() };
  const sources = valueOf(await openSources(own, asked, ["en"], { changes: { gone } }, ledger));
  const given = (["shelves", "wares"] as const).map((file) => ({
    file: `${file}.csv`,
    files: filesOf({ [`${file}.csv`]: there[file] }),
  }));
  return valueOf(await openTarget(sources, { target: "made-up", export: { given, isWholeRange: false } }));
}

const withoutVeil = sheetsOf("Shelf,Label,Under\nall,All,\nhives,Hives,all\n", wares.replace(/veil,.*\n/, ""));

test("what is no longer in the sources is deleted by its file, with what it contains; set back it is there again", async () => {
  const opened = await later(withoutVeil, { shelves, wares });
  const { texts, folder } = await written(opened);
  assert.deepEqual(texts, {
    "01-wares-gone.csv": "Gone\nveil\n",
    "02-shelves-gone.csv": "Gone\nnets\nveils\n",
    "rollback-01-shelves-changes.csv": "Shelf,Label,Under\nveils,Veils,all\nnets,Nets,veils\n",
    "rollback-02-wares-changes.csv": "Ware,No,Title,Stands,Wood\nveil,V1,Veil,veils,Oak\n",
  });
  const prepared = valueOf(await planUpload(opened));
  assert.deepEqual(prepared.lost, []);
  const back = valueOf(await rehearseRollback(opened, prepared, { files: folder }));
  assert.deepEqual([back.rebuilt, back.counts.deleted, back.counts.created], [true, 3, 3]);
  const sent = Object.fromEntries(Object.entries(texts).filter(([name]) => !name.startsWith("rollback")));
  const { ledger, records } = await collected(opened, { texts: sent, folder });
  assert.deepEqual(
    records.map(({ kind, key, isDeleted, isTaken }) => [kind, key, isDeleted, isTaken]),
    [
      ["category", "nets", true, true],
      ["category", "veils", true, true],
      ["product", "veil", true, true],
    ],
  );
  const known = [ledger.has("category", "veils"), ledger.has("product", "veil"), ledger.has("variant", "V1")];
  assert.deepEqual([...known, ledger.has("product", "hive")], [false, false, false, true]);
  assert.equal(ledger.delivered("product", "veil"), undefined);
});

test("what others still name, or what contains what stays, is not deleted: it is reported", async () => {
  // Somebody has put a ware of their own onto the shelf.
  const there = { shelves, wares: `${wares}tin,T1,Tin,veils,Oak\n` };
  const opened = await later(withoutVeil, there);
  const { facts } = one(opened.findings.list(), "change/not-deleted");
  assert.deepEqual(facts, { count: 1, examples: ["category veils"], target: "made-up" });
  const { texts } = await written(opened);
  assert.deepEqual(
    Object.entries(texts).filter(([name]) => !name.startsWith("rollback")),
    [
      ["01-wares-gone.csv", "Gone\nveil\n"],
      ["02-shelves-gone.csv", "Gone\nnets\n"],
    ],
  );
  // A variant of somebody's own in the product.
  const kept = await later(withoutVeil, { shelves, wares: `${wares}veil,V9,Veil,veils,Elm\n` });
  const { examples } = one(kept.findings.list(), "change/not-deleted").facts as { examples: string[] };
  assert.deepEqual(examples, ["category veils", "product veil", "variant V1"]);
});

test("the records of a first import are taken back by a file, where the target has one; the others are listed", async () => {
  const opened = valueOf(await openSmall(sheetsOf(shelves, wares), target, ["en"]));
  const { texts, folder } = await written(opened);
  assert.equal(texts["rollback-01-wares-gone.csv"], "Gone\nhive\nveil\n");
  assert.equal(texts["rollback-02-shelves-gone.csv"], "Gone\nhives\nnets\nveils\nall\n");
  const prepared = valueOf(await planUpload(opened));
  const back = valueOf(await rehearseRollback(opened, prepared, { files: folder }));
  assert.deepEqual([back.rebuilt, back.counts.deleted], [true, 6]);
  const undone = valueOf(await rehearseRollback(opened, { ...prepared, rollback: [] }, { files: folder }));
  assert.equal(undone.rebuilt, false, "without its files nothing is set back");
  // Nobody takes back the shelves: they are listed.
  const fewer = { ...target, imports: target.imports.filter(({ file }) => file !== "shelves-gone") };
  const { lost = [] } = valueOf(await planUpload(valueOf(await openSmall(sheetsOf(shelves, wares), fewer, ["en"]))));
  assert.deepEqual(
    lost.filter(({ kind }) => kind === "category").map(({ key, why }) => [key, why]),
    ["all", "hives", "veils", "nets"].map((key) => [key, "made"]),
  );
});

test("a file that deletes has as many records as it takes", async () => {
  const few = { ...goneOf("shelves-gone", "category"), limits: { bytes: 14 } };
  const asked = { ...target, files: { ...target.files, "shelves-gone": few } };
  const { texts } = await written(await later(withoutVeil, { shelves, wares }, asked));
  assert.deepEqual([texts["02-shelves-gone.csv"], texts["03-shelves-gone.csv"]], ["Gone\nnets\n", "Gone\nveils\n"]);
});

test("deleting is refused at load where it cannot be carried out", async () => {
  const problemOf = async (asked: unknown, wishes: object = {}) => {
    const opened = await openSources(sheetsOf(shelves, wares), asked, ["en"], wishes);
    return opened.findings
      .list()
      .filter(({ code }) => code.endsWith("/mistake"))
      .map(({ facts, at }) => `${at?.file} ${String((facts as { problem: unknown }).problem)}`);
  };
  const without = { ...target, imports: target.imports.slice(0, 2) };
  assert.deepEqual(await problemOf(without, { changes: { gone: "delete" } }), [
    'project.yaml made-up has no import with "mode: delete"',
  ]);
  assert.deepEqual(await problemOf(without, { changes: { gone: "retire" } }), []);
  const deleting = (file: object, more: object = {}) => ({
    ...target,
    files: { ...target.files, "wares-gone": file },
    imports: [...target.imports.slice(0, 3), { file: "wares-gone", mode: "delete", ...more }],
  });
  const [grouped] = await problemOf(deleting({ layout: goodsLayout }));
  assert.match(grouped!, /"mode: delete" is for a file in which each row is a record of one kind/);
  const titled = { Gone: "product.key", Title: "product.name@en", Weight: "product.weight" };
  const wide = { layout: { layout: "gone", rows: { each: "product" }, columns: titled } };
  const [other] = await problemOf(deleting(wide));
  assert.match(other!, /"Weight" does not tell which record is deleted/);
  assert.deepEqual(await problemOf(deleting(wide, { columns: ["Gone"] })), []);
  const nameless = { layout: { layout: "gone", rows: { each: "product" }, columns: {} } };
  assert.notDeepEqual(await problemOf(deleting(nameless)), []);
  const keyless = {
    ...target,
    files: {
      ...target.files,
      "brands-gone": { layout: { layout: "gone", rows: { each: "brand" }, columns: { Gone: "brand.key" } } },
    },
    imports: [...target.imports, { file: "brands-gone", mode: "delete" }],
  };
  assert.deepEqual(await problemOf(keyless), [
    "made-up.yaml brands-gone: no other file gives the platform the keys of brand",
  ]);
  const twice = { ...target, imports: [...target.imports, { file: "wares-gone", name: "again", mode: "delete" }] };
  assert.match((await problemOf(twice)).join(), /"wares-gone" leaves no record to the imports after it/);
});

test("policies are for fields that records have: others are refused at load", async () => {
  const problemsOf = async (fields: object) => {
    const opened = await openSources(sheetsOf(shelves, wares), target, ["en"], { changes: { fields } });
    const mistakes = opened.findings.list().filter(({ code }) => code.endsWith("/mistake"));
    return mistakes.map(({ facts }) => String((facts as { problem: unknown }).problem));
  };
  const carried = [
    "variant",
    "variant.stock",
    "variant.stock(Barn)",
    "variant.prices(price).amount",
    "product.name",
    "product.name@de",
    "product.categories",
    "brand.name",
  ];
  for (const name of carried) assert.deepEqual(await problemsOf({ [name]: "leave" }), [], name);
  assert.deepEqual(await problemsOf({ "product.categories": "add", "variant.stock": "add" }), []);
  const refused: readonly (readonly [string, string, RegExp])[] = [
    ["products.name", "leave", /there is no kind "products"/],
    ["product.nmae", "leave", /"nmae" is not a field of product/],
    ["variant.stok(Barn)", "leave", /"stok\(Barn\)" is not a field of variant/],
    ["variant.prices.amount", "leave", /needs the name of an entry: variant\.prices\(…\)\.amount/],
    ["variant.prices(price).amuont", "leave", /"amuont" is not a field of/],
    ["product.weight@de", "leave", /"weight@de" is not a field of product/],
    ["product.name", "add", /"product\.name" is not a list: it cannot "add"/],
  ];
  for (const [name, policy, problem] of refused) {
    const found = await problemsOf({ [name]: policy });
    assert.equal(found.length, 1, name);
    assert.match(found[0]!, problem);
  }
});
