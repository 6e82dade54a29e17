/** Decisions that hang on one comparison or one word, each where only that word makes the difference. */

import assert from "node:assert/strict";
import { readFileSync } from "node:fs";
import { test } from "node:test";
import {
  valueOf,
  Findings,
  Ledger,
  plainRecords,
  writeWorkbook,
  type FilesPort,
  type Target,
  type Upload,
} from "#src/index.js";
import {
  balance,
  buildUpload,
  compareWithPlatform,
  digestOf,
  everything,
  openWorkbook,
  parseTarget,
  planImport,
  readSheet,
  playUpload,
  SimulatedPlatform,
  toEnding,
  type Measure,
} from "#src/parts.js";
import { hiddenIn } from "#src/verdict/hidden.js";
import { nodeSha256 } from "#src/node/index.js";
import { filesOf, kinds, memorySink, pennywort, rangeCsv, rangeLayout, read, recordIn, single } from "./support.js";

function shipped(name: string): Target {
  const text = readFileSync(new URL(`../../targets/${name}.yaml`, import.meta.url), "utf8");
  return valueOf(parseTarget(text, name, kinds));
}

const sheetOptions = { sheet: undefined, skipsHidden: false, repeatsMerged: false };

type Rows = readonly Readonly<Record<string, string>>[];

/** Builds in spite of all. */
async function build(rows: Rows, target: Target) {
  const { catalogue, findings } = await read([{ layout: rangeLayout, csv: rangeCsv(...rows) }]);
  const sink = memorySink();
  const despite = new Set(findings.list().map(({ code }) => code)).add("target/required");
  const choices = { project: "p", pictures: new Map(), holdBack: false, despite, sha256: nodeSha256 };
  const upload = findings.took(await buildUpload({ catalogue, target, ...choices, found: new Findings() }, sink));
  assert.ok(upload, JSON.stringify(findings.list().filter((one) => one.severity === "error")));
  return { catalogue, upload, files: sink.files };
}

type Built = Awaited<ReturnType<typeof build>>;

async function play(
  { catalogue, upload }: Pick<Built, "catalogue" | "upload">,
  target: Target,
  files: FilesPort,
  platform?: SimulatedPlatform,
) {
  const rehearsed = await playUpload({ catalogue, target, ...upload, files, platform });
  assert.ok(rehearsed.ok);
  return rehearsed.value;
}

const itemsName = (upload: Upload) => upload.files.find(({ name }) => name.endsWith("items.csv"))!.name;

test("links that ask for an earlier file wait, where what they name is in the same file", async () => {
  for (const [demand, waits] of [
    ["same file", 0],
    ["earlier file", 1],
  ] as const) {
    const shipped = pennywort();
    const target = { ...shipped, demands: new Map([...shipped.demands, ["product.relations", demand]]) };
    const rows = [single("a", { "Goes with": "C-b" }), single("b"), single("c", { "Goes with": "C-a" })];
    const { catalogue } = await read([{ layout: rangeLayout, csv: rangeCsv(...rows) }]);
    const options = { bytesOf: () => 0, headerBytes: () => 0, pictures: [] };
    const plan = valueOf(planImport(catalogue, target, options));
    const waiting = plan.steps.flatMap((step) => (step.is === "upload" ? [...step.waiting.keys()] : []));
    assert.deepEqual(waiting, waits === 0 ? [] : [2], demand);
  }
});

test("a code that moves to another product comes without its old values", async () => {
  const target = pennywort();
  const wood = { "Feature 1": "Wood", "Feature 1 is": "Oak", Shelf: "Hives" };
  const built = await build(
    [
      { ...single("a", wood), No: "A1" },
      { ...single("b"), No: "B1" },
    ],
    target,
  );
  const shop = new SimulatedPlatform(target, kinds);
  const name = itemsName(built.upload);
  const first = "Item;Code;Title en;Differs by en;This one en;Price\na;A1;First;Wood;Oak;1,00\na;A2;;;Elm;1,00\n";
  assert.deepEqual(
    recordIn(
      (await play(built, target, filesOf({ ...built.files, [name]: first }), shop)).held.catalogue,
      "variant",
      "A1",
    )?.references["values"]?.length,
    1,
  );
  const moved = "Item;Code;Title en;Price\nc;A1;Other;1,00\n";
  const verdict = await play(built, target, filesOf({ ...built.files, [name]: moved }), shop);
  const version = recordIn(verdict.held.catalogue, "variant", "A1")!;
  assert.deepEqual([version.of, version.references["values"]], ["c", undefined]);
});

test("a product is hidden by a closed branch anywhere above it, not only by its own", async () => {
  const target = { ...pennywort(), visible: [{ in: "categories", all: "shown", otherwise: "closed" }] } as Target;
  const sheet = (kind: string, columns: string) =>
    `layout: ${kind}\nformat: { csv: { delimiter: ';' } }\nrows: { each: ${kind} }\ncolumns: { ${columns} }\n`;
  const words = 'as: { code words: { "true": true, "false": false } }';
  const category = sheet(
    "category",
    `K: category.key, Up: { field: category.parent, as: { by: key } }, S: { field: category.shown, ${words} }`,
  );
  const product = sheet("product", "K: product.key, In: { field: product.categories, as: { by: key } }");
  const shownWith = async (root: string, middle: string, leaf: string) => {
    const { catalogue } = await read([
      { layout: category, csv: `K;Up;S\nroot;;${root}\nmiddle;root;${middle}\nleaf;middle;${leaf}\n` },
      { layout: product, csv: "K;In\np;leaf\n" },
    ]);
    return hiddenIn(catalogue, target).length === 0;
  };
  assert.equal(await shownWith("true", "true", "true"), true);
  for (const [root, middle, leaf] of [
    ["false", "true", "true"],
    ["true", "false", "true"],
    ["true", "true", "false"],
  ] as const)
    assert.equal(await shownWith(root, middle, leaf), false);
});

test("the balance tells of a picture that an operation lost, and not of one that it says is left out", () => {
  const before: Measure = { sold: new Map(), pictures: new Set(["a.png", "b.png"]), parts: [], relations: new Set() };
  const nothing = { codes: new Map(), products: new Map(), relations: new Set<string>() };
  const lostIn = (after: readonly string[], explained: readonly string[]) =>
    balance(before, { ...before, pictures: new Set(after) }, { ...nothing, pictures: new Set(explained) }).find(
      ({ what }) => what === "pictures",
    )!.unexplained;
  assert.deepEqual(lostIn(["a.png"], []), ["b.png"]);
  assert.deepEqual(lostIn(["a.png"], ["b.png"]), []);
  assert.deepEqual(lostIn(["a.png", "b.png"], []), []);
});

test("an amount between two price endings goes to the higher one", () => {
  assert.equal(toEnding("10.45", { to: "0.95", goes: "nearest" }), "10.95");
  assert.equal(toEnding("10.44", { to: "0.95", goes: "nearest" }), "9.95");
  assert.equal(toEnding("14.90", { to: "9.90", goes: "nearest" }), "19.9");
});

test("a field that was changed on both sides is reported as such, not as changed on the platform alone", async () => {
  const target = pennywort();
  const { catalogue } = await read([{ layout: rangeLayout, csv: rangeCsv(single("a", { Shelf: "Hives" })) }]);
  const compared = (delivered: string, held: string) => {
    const there = catalogue.branch();
    there.table("product").setText("name@en", 0, held);
    const platform = { catalogue: there, coverage: everything };
    const ledger = new Ledger();
    const fields = { "name@en": digestOf(delivered, nodeSha256) };
    ledger.add({ kind: "product", key: "a", entry: "delivered", fields, state: "confirmed", run: "1" });
    const input = { catalogue, target, platform, ledger, sha256: nodeSha256, pairs: [] };
    const { records } = compareWithPlatform(input, new Findings());
    const record = records.find(({ kind }) => kind === "product")!;
    return [record.state, record.fields[0]!.by];
  };
  assert.deepEqual(compared("a", "other"), ["changed on the platform", "platform"]);
  assert.deepEqual(compared("old", "other"), ["both changed", "both"]);
  assert.deepEqual(compared("old", "old"), ["changed", "you"]);
});

test("on a record that is known, a blank cell leaves the field where the column says so, and clears it elsewhere", async () => {
  const target = shipped("saltmarsh");
  const built = await build([single("a", { Shelf: "Hives" })], target);
  const name = Object.keys(built.files).find((one) => one.endsWith("branches.tsv"))!;
  const text = new TextDecoder().decode(built.files[name]);
  const [header = "", row = ""] = text.split("\n");
  const headers = header.split("\t");
  const withCells = (cells: Readonly<Record<string, string>>) =>
    [header, headers.map((one, at) => cells[one] ?? row.split("\t")[at] ?? "").join("\t"), ""].join("\n");
  const shop = new SimulatedPlatform(target, kinds);
  const onto = async (cells: Readonly<Record<string, string>>) => {
    const files = filesOf({ ...built.files, [name]: withCells(cells) });
    const verdict = await play(built, target, files, shop);
    const file = verdict.files.find((one) => one.name === name)!;
    return {
      id: [...shop.known("category")][0]!.id,
      reasons: file.rows[0]!.reasons,
      outcome: file.rows[0]!.outcome,
      record: plainRecords(verdict.held.catalogue).find(({ kind }) => kind === "category")!,
    };
  };
  const full = { Title: "Hives", Open: "yes", "Seek text": "All of them" };
  const first = await onto(full);
  assert.equal(first.outcome, "created");
  const left = await onto({ ...full, Id: first.id, Title: "", Open: "" });
  assert.deepEqual([left.outcome, left.record.texts["name@en"], left.reasons], ["unchanged", "Hives", []]);
  assert.equal(left.record.texts["shown"], first.record.texts["shown"]);
  const cleared = await onto({ ...full, Id: first.id, "Seek text": "" });
  assert.deepEqual([cleared.outcome, cleared.record.texts["searchText@en"]], ["updated", undefined]);
});

test("a code of its own beside several variants refuses the product once the file is through; beside one it is that one's", async () => {
  const target = shipped("tollgate");
  const rows: Rows = [
    { ...single("A-1", { Shelf: "Hives", "Feature 1": "Wood", "Feature 1 is": "Oak" }), No: "V-1" },
    { Range: "A-1", No: "V-2", "Feature 1 is": "Elm", Price: "2,00" },
  ];
  const built = await build(rows, target);
  const name = Object.keys(built.files).find((one) => one.endsWith(".xlsx"))!;
  const findings = new Findings();
  const book = findings.took(await openWorkbook(built.files[name]!, name))!;
  const sheet = book.names[0]!;
  const [headers = [], ...lines] = [...readSheet(book, sheet, sheetOptions, { file: name }, findings)].flatMap(
    (one) => one.rows,
  );
  const code = headers.indexOf("Code");
  const kind = headers.findIndex((_, at) => lines[0]![at] === "A" && lines[1]![at] === "V");
  assert.ok(code >= 0 && kind >= 0, headers.join());
  const reasons = async (change: (line: readonly string[]) => readonly string[]) => {
    const bytes = await writeWorkbook([{ name: sheet, rows: [headers, ...lines.map(change)] }]);
    const verdict = await play(built, target, filesOf({ ...built.files, [name]: bytes }));
    return verdict.files.flatMap((file) => file.rows.flatMap((row) => row.reasons)).join("; ");
  };
  assert.doesNotMatch(await reasons((line) => line), /a code, and variants/);
  const withCode = await reasons((line) =>
    line.map((cell, at) => (at === code && line[kind] === "A" ? "A-CODE" : cell)),
  );
  assert.match(withCode, /a code, and variants/);
});
