/** Saltmarsh over HTTP, rule by rule of its description. */

import assert from "node:assert/strict";
import { after, before, beforeEach, test } from "node:test";
import { startStandIn, type StandIn } from "#src/index.js";

interface Report {
  refused: string | null;
  rows: { line: number; outcome: string; reasons: string[]; id: string | null }[];
}
type Rows = readonly Readonly<Record<string, string>>[];
type Held = Record<string, unknown>;

let shop: StandIn;
before(async () => {
  shop = await startStandIn("saltmarsh");
});
after(() => shop.stop());
beforeEach(() => fetch(`${shop.url}/reset`, { method: "POST" }));

const tsv = (rows: Rows): string => {
  const header = [...new Set(rows.flatMap((row) => Object.keys(row)))];
  return [header, ...rows.map((row) => header.map((column) => row[column] ?? ""))]
    .map((cells) => `${cells.join("\t")}\n`)
    .join("");
};
const post = async (file: string, body: string | Uint8Array): Promise<Report> =>
  (await (await fetch(`${shop.url}/imports/${file}`, { method: "POST", body })).json()) as Report;
const send = (file: string, ...rows: Rows): Promise<Report> =>
  post(
    file,
    tsv(file.startsWith("words") || "Of" in rows[0]! ? rows : rows.map((row) => ({ Id: "", Tag: "", ...row }))),
  );
const catalogue = async (): Promise<Record<string, Held[]>> =>
  (await (await fetch(`${shop.url}/catalogue`)).json()) as Record<string, Held[]>;
const said = (report: Report) => report.rows.map(({ outcome, reasons }) => reasons[0] ?? outcome);
/** The ids that the export tells, in order. */
const ids = async (register: string): Promise<string[]> => {
  const text = await (await fetch(`${shop.url}/exports/${register}`)).text();
  return text
    .trim()
    .split("\n")
    .slice(1)
    .map((line) => line.split("\t")[0]!);
};

/** A good with two forms on one scale, a single, a circle; what most rules are about. */
async function stock() {
  const [branch] = (await send("branches", { Tag: "hives", Title: "Hives", Open: "yes" })).rows;
  const [scale] = (await send("scales", { Tag: "wood", Title: "Wood" })).rows;
  const [circle] = (await send("circles", { Tag: "guild", Title: "Guild" })).rows;
  const Scale = scale!.id!;
  await send("marks", { Tag: "pine", Title: "Pine", Scale }, { Tag: "oak", Title: "Oak", Scale });
  const [pine, oak] = (await ids("marks")) as [string, string];
  await send(
    "goods",
    { Tag: "hive", Title: "Hive", Scales: Scale, Branches: branch!.id!, Open: "yes" },
    { Tag: "smoker", Title: "Smoker", Code: "SM", Branches: branch!.id!, Open: "yes" },
  );
  const [hive, smoker] = (await ids("goods")) as [string, string];
  await send("forms", { Tag: "hp", Good: hive, Code: "HP", Marks: pine });
  const [form] = (await ids("forms")) as [string];
  return { branch: branch!.id!, scale: Scale, circle: circle!.id!, pine, oak, hive, smoker, form };
}

test("tells the ids of some registers in its report, of others only in the export", async () => {
  const report = await send("branches", { Tag: "a", Title: "A" }, { Tag: "b", Title: "B" });
  assert.deepEqual(said(report), ["created", "created"]);
  assert.deepEqual(
    await ids("branches"),
    report.rows.map((row) => row.id),
  );
  const goods = await send("goods", { Tag: "g", Title: "G" });
  assert.equal(goods.rows[0]!.id, null);
  assert.equal((await ids("goods")).length, 1);
});

test("works the description's example through: rows by themselves, an id that is unknown costs its row", async () => {
  const first = await send("branches", { Tag: "hives", Title: "Hives", Rank: "1", Open: "yes" });
  const id = first.rows[0]!.id!;
  const second = await send(
    "branches",
    { Tag: "full", Title: "Full hives", Under: id, Rank: "1", Open: "yes" },
    { Tag: "half", Title: "Half hives", Under: "99999", Rank: "2", Open: "yes" },
    { Id: id, Title: "Beehives" },
  );
  assert.deepEqual(said(second), ["created", "unknown-id", "updated"]);
  const { branches } = await catalogue();
  assert.deepEqual(
    branches!.map(({ tag, title, under, open, rank }) => [tag, title, under, open, rank]),
    [
      ["hives", "Beehives", null, true, null],
      ["full", "Full hives", "hives", true, "1"],
    ],
  );
});

test("finds nothing to change when a row comes again, and leaves what a file has no column for", async () => {
  const { hive, branch } = await stock();
  assert.deepEqual(said(await send("goods", { Id: hive, Title: "Hive" })), ["unchanged"]);
  const { goods } = await catalogue();
  assert.deepEqual([goods![0]!["branches"], goods![0]!["open"]], [["hives"], true]);
  assert.deepEqual(said(await send("goods", { Id: hive, Branches: "" })), ["updated"]);
  assert.deepEqual(said(await send("goods", { Id: hive, Branches: branch, Open: "" })), ["updated"]);
});

test("keeps lists of a record by their keys: a known key changes, another adds, nothing is taken out", async () => {
  const { form, circle, smoker } = await stock();
  const amounts = (Amount: string) => send("amounts", { Of: form, Sort: "price", From: "", Circle: "", Amount });
  assert.deepEqual(said(await amounts("12.50")), ["created"]);
  assert.deepEqual(said(await amounts("12.5")), ["unchanged"]);
  assert.deepEqual(said(await amounts("13")), ["updated"]);
  await send("amounts", { Of: form, Sort: "price", From: "5", Circle: circle, Amount: "11" });
  await send("parts", { Of: smoker, Part: form, Count: "2" });
  const { forms, goods } = await catalogue();
  assert.deepEqual(
    (forms![0]!["amounts"] as Held[]).map(({ from, circle: group, amount }) => [from, group, amount]),
    [
      [null, null, "13"],
      ["5", "guild", "11"],
    ],
  );
  assert.deepEqual(goods![1]!["parts"], [{ part: "hp", count: "2" }]);
});

test("takes words in other languages by id, for any register", async () => {
  const { hive, pine } = await stock();
  assert.deepEqual(
    said(await send("words/de", { Id: hive, Title: "Beute", Text: "Gut." }, { Id: pine, Title: "Kiefer", Text: "" })),
    ["created", "created"],
  );
  assert.deepEqual(said(await send("words/de", { Id: hive, Title: "", Text: "Besser." })), ["updated"]);
  assert.deepEqual(said(await send("words/de", { Id: pine, Title: "", Text: "Holz" })), ["cell"]);
  const { goods, marks } = await catalogue();
  assert.deepEqual(goods![0]!["words"], { de: { title: "Beute", text: "Besser.", seekTitle: null, seekText: null } });
  assert.deepEqual(marks![0]!["words"], { de: { title: "Kiefer", text: null, seekTitle: null, seekText: null } });
  assert.equal((await fetch(`${shop.url}/imports/words/en`, { method: "POST", body: "Id\n" })).status, 404);
});

test("shows a good that is open, in an open branch below open ones, with a price", async () => {
  const { branch, form, hive } = await stock();
  const seen = async () => (await catalogue())["goods"]!.map((good) => good["seen"]);
  assert.deepEqual(await seen(), [false, false]);
  await send("amounts", { Of: form, Sort: "price", Amount: "9" });
  assert.deepEqual(await seen(), [true, false]);
  await send("branches", { Id: branch, Open: "no" });
  assert.deepEqual(await seen(), [false, false]);
  await send("branches", { Id: branch, Open: "yes" });
  await send("goods", { Id: hive, Open: "no" });
  assert.deepEqual(await seen(), [false, false]);
});

type Stock = Awaited<ReturnType<typeof stock>>;
const refused: readonly (readonly [string, string, string, (known: Stock) => Record<string, string>])[] = [
  ["a new record without a tag", "needed", "makers", () => ({ Title: "M" })],
  ["a new record without its title", "needed", "makers", () => ({ Tag: "m" })],
  ["a tag that is taken", "taken", "circles", () => ({ Tag: "guild", Title: "Guild" })],
  ["a tag that is too long", "cell", "circles", () => ({ Tag: "x".repeat(61), Title: "X" })],
  ["an id of another register", "unknown-id", "makers", ({ hive }) => ({ Id: hive, Title: "M" })],
  ["a branch below itself", "circle", "branches", ({ branch }) => ({ Id: branch, Under: branch })],
  [
    "a scale that changes",
    "fixed",
    "marks",
    ({ pine, scale, branch }) => ({ Id: pine, Scale: scale === "" ? branch : scale + "1" }),
  ],
  [
    "an id twice in a list",
    "twice",
    "goods",
    ({ branch }) => ({ Tag: "n", Title: "N", Branches: `${branch} ${branch}` }),
  ],
  ["a text that is too long", "too-long", "goods", () => ({ Tag: "n", Title: "N", Text: "x".repeat(4001) })],
  ["other scales of a good with forms", "fixed", "goods", ({ hive }) => ({ Id: hive, Scales: "" })],
  ["a code for a good with forms", "code-and-forms", "goods", ({ hive }) => ({ Id: hive, Code: "HH" })],
  ["a form of a good with a code", "code-and-forms", "forms", ({ smoker }) => ({ Tag: "s", Good: smoker, Code: "S1" })],
  ["a form without its mark", "marks", "forms", ({ hive }) => ({ Tag: "s", Good: hive, Code: "S1" })],
  [
    "marks that another form has",
    "taken",
    "forms",
    ({ hive, pine }) => ({ Tag: "s", Good: hive, Code: "S1", Marks: pine }),
  ],
  ["a code that is taken", "taken", "forms", ({ hive, oak }) => ({ Tag: "s", Good: hive, Code: "SM", Marks: oak })],
  ["a wrong barcode", "barcode", "goods", ({ smoker }) => ({ Id: smoker, Barcode: "4012345678902" })],
  ["a weight with a comma", "cell", "goods", ({ smoker }) => ({ Id: smoker, Weight: "1,5" })],
  ["a list's row of nobody", "unknown-id", "amounts", () => ({ Of: "99999", Sort: "price", Amount: "1" })],
  ["an amount without its sort", "needed", "amounts", ({ form }) => ({ Of: form, Sort: "", Amount: "1" })],
  ["an amount from 1", "cell", "amounts", ({ form }) => ({ Of: form, Sort: "price", From: "1", Amount: "1" })],
  ["a picture that is not there", "no-picture", "sights", ({ form }) => ({ Of: form, Picture: "a.png" })],
  ["parts of a form", "unknown-id", "parts", ({ form, smoker }) => ({ Of: form, Part: smoker, Count: "1" })],
  ["a good that is its own part", "circle", "parts", ({ hive, form }) => ({ Of: hive, Part: form, Count: "1" })],
  ["a part that comes no times", "cell", "parts", ({ hive, smoker }) => ({ Of: hive, Part: smoker, Count: "0" })],
  ["a good tied to itself", "circle", "ties", ({ hive }) => ({ Of: hive, Sort: "with", Good: hive })],
];
for (const [what, reason, file, row] of refused)
  test(`refuses ${what}, and changes nothing`, async () => {
    const known = await stock();
    const given = row(known);
    const prepared =
      what === "a scale that changes"
        ? { ...given, Scale: (await send("scales", { Tag: "two", Title: "Two" })).rows[0]!.id! }
        : given;
    const before = await catalogue();
    assert.deepEqual(said(await send(file, prepared)), [reason]);
    assert.deepEqual(await catalogue(), before);
  });

test("refuses more than three scales, and a row with a cell too many, and takes the rows around it", async () => {
  const scales = await send("scales", ...["a", "b", "c", "d"].map((Tag) => ({ Tag, Title: Tag })));
  const four = scales.rows.map((row) => row.id).join(" ");
  assert.deepEqual(said(await send("goods", { Tag: "g", Title: "G", Scales: four })), ["too-many"]);
  assert.deepEqual(said(await post("makers", "Id\tTag\tTitle\n\ta\tA\n\tb\tB\tmore\n\tc\tC\n")), [
    "created",
    "cells",
    "created",
  ]);
});

for (const [what, reason, body] of [
  ["a column that it does not know", "unknown-column", "Id\tTag\tName\n"],
  ["a column twice", "repeated-column", "Id\tTag\tTag\n"],
  ["no column for ids", "missing-column", "Tag\tTitle\n"],
  ["nothing in it", "empty", ""],
  ["other bytes than UTF-8", "not-utf-8", new Uint8Array([0x49, 0x64, 0x09, 0xff])],
] as const)
  test(`refuses a file with ${what}`, async () => {
    assert.deepEqual(await post("makers", body), { file: "makers", refused: reason, rows: [] });
  });

test("makes a path of the title where none is given, and leaves it when the title changes", async () => {
  await send(
    "branches",
    { Tag: "a", Title: "Full Hives & More!" },
    { Tag: "b", Title: "箱" },
    { Tag: "c", Title: "C", Path: "own-path" },
    { Tag: "d", Title: "D", Path: "No Path" },
  );
  const paths = async () => (await catalogue())["branches"]!.map(({ path }) => path);
  assert.deepEqual(await paths(), ["full-hives-more", "-", "own-path"]);
  const [first] = await ids("branches");
  await send("branches", { Id: first!, Title: "Other", Path: "" });
  assert.equal((await paths())[0], "full-hives-more");
});

test("keeps traits in clusters, tells facts of goods, and nothing but goods", async () => {
  const { smoker, form } = await stock();
  const [cluster] = (await send("clusters", { Tag: "power", Title: "Power" })).rows;
  const traits = await send(
    "traits",
    { Tag: "volt", Title: "Voltage", Cluster: cluster!.id!, Sort: "number", In: "V" },
    { Tag: "bad", Title: "Bad", Sort: "weight" },
    { Tag: "long", Title: "Long", In: "x".repeat(21) },
  );
  assert.deepEqual(said(traits), ["created", "cell", "cell"]);
  const Trait = traits.rows[0]!.id!;
  const facts = await send(
    "facts",
    { Of: smoker, Trait, Says: "12" },
    { Of: smoker, Trait, Says: "24" },
    { Of: form, Trait, Says: "12" },
    { Of: smoker, Trait, Says: "" },
    { Of: smoker, Trait: cluster!.id!, Says: "1" },
  );
  assert.deepEqual(said(facts), ["created", "updated", "unknown-id", "needed", "unknown-id"]);
  const { goods } = await catalogue();
  assert.deepEqual(goods![1]!["facts"], [{ trait: "volt", says: "24" }]);
});

test("puts goods into baskets, tells numbers, sizes and steps, and who may see", async () => {
  const { hive, smoker, circle, form } = await stock();
  assert.deepEqual(said(await send("baskets", { Tag: "new", Title: "New", Goods: `${smoker} ${hive}` })), ["created"]);
  assert.deepEqual(said(await send("baskets", { Tag: "twice", Title: "T", Goods: `${hive} ${hive}` })), ["twice"]);
  assert.deepEqual(said(await send("numbers", { Of: form, Sort: "maker", Number: "A 1" })), ["created"]);
  const sizes = (cells: Record<string, string>) => send("goods", { Id: smoker, ...cells });
  assert.deepEqual(said(await sizes({ Long: "60.50", Wide: "50", Step: "6", Circles: circle })), ["cell"]);
  assert.deepEqual(said(await sizes({ Long: "60.5", Wide: "50", Step: "0" })), ["cell"]);
  assert.deepEqual(said(await sizes({ Long: "60.5", Wide: "50", Step: "6", Circles: circle })), ["updated"]);
  const { goods, forms, baskets } = await catalogue();
  const { long, wide, high, step, circles } = goods![1]!;
  assert.deepEqual([long, wide, high, step, circles], ["60.5", "50", null, "6", ["guild"]]);
  assert.deepEqual(forms![0]!["numbers"], [{ sort: "maker", number: "A 1" }]);
  assert.deepEqual(baskets![0]!["goods"], ["smoker", "hive"]);
});

test("leads old paths here, tells stories in every language, and search engines what they are to say", async () => {
  const { branch, smoker, form } = await stock();
  const bends = await send(
    "bends",
    { Of: branch, From: "old", Lang: "" },
    { Of: branch, From: "alt", Lang: "de" },
    { Of: branch, From: "old", Lang: "" },
    { Of: form, From: "old", Lang: "" },
    { Of: branch, From: "Old", Lang: "" },
  );
  assert.deepEqual(said(bends), ["created", "created", "unchanged", "unknown-id", "cell"]);
  const story = (...rows: Rows) => post("stories", tsv(rows));
  assert.deepEqual(
    said(
      await story(
        { Id: branch, Lang: "en", Text: "All of them" },
        { Id: branch, Lang: "de", Text: "Alle" },
        { Id: branch, Lang: "de", Text: "" },
        { Id: branch, Lang: "xx", Text: "?" },
        { Id: smoker, Lang: "en", Text: "?" },
        { Id: branch, Lang: "fr", Text: "t".repeat(4001) },
      ),
    ),
    ["created", "created", "unchanged", "cell", "unknown-id", "too-long"],
  );
  const words = await send(
    "words/de",
    { Id: smoker, "Seek title": "Rauch", "Seek text": "" },
    { Id: form, "Seek title": "Rauch", "Seek text": "" },
    { Id: smoker, "Seek title": "r".repeat(71), "Seek text": "" },
  );
  assert.deepEqual(said(words), ["created", "cell", "too-long"]);
  const { branches, goods } = await catalogue();
  assert.deepEqual(branches![0]!["bends"], [
    { from: "old", lang: null },
    { from: "alt", lang: "de" },
  ]);
  assert.deepEqual(branches![0]!["stories"], { en: "All of them", de: "Alle" });
  assert.deepEqual(goods![1]!["words"], { de: { title: null, text: null, seekTitle: "Rauch", seekText: null } });
});
