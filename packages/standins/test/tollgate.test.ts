/** Tollgate over HTTP, rule by rule of its description. */

import assert from "node:assert/strict";
import { after, before, beforeEach, test } from "node:test";
import { utils, write } from "@e965/xlsx";
import { startStandIn, type StandIn } from "#src/index.js";
import { columns } from "#src/tollgate/columns.js";

interface Report {
  refused: string | null;
  rows: { line: number; outcome: string; reasons: string[] }[];
}
type Cells = Readonly<Record<string, string>>;
type Held = Record<string, unknown>;

let shop: StandIn;
before(async () => {
  shop = await startStandIn("tollgate");
});
after(() => shop.stop());
const post = (path: string, body: string | Uint8Array) => fetch(`${shop.url}${path}`, { method: "POST", body });
const setUp = (list: string, ...entries: string[]) => post(`/lists/${list}`, JSON.stringify(entries));
beforeEach(async () => {
  await post("/reset", "");
  await setUp("sections", "Hives", "Hives>Full");
  await setUp("makers", "Bramblecomb");
  await setUp("groups", "Guild");
  await setUp("taxes", "standard");
  await setUp("places", "Barn");
});

const workbook = (rows: readonly (readonly unknown[])[]): Uint8Array => {
  const book = utils.book_new();
  utils.book_append_sheet(book, utils.aoa_to_sheet(rows as unknown[][]), "Range");
  return new Uint8Array(write(book, { type: "array", bookType: "xlsx" }) as ArrayBuffer);
};
const toCells = (row: Cells) => {
  for (const name of Object.keys(row)) assert.ok(columns.includes(name), name);
  return columns.map((column) => row[column] ?? null);
};
const send = async (rows: readonly Cells[], path = "/imports/range.xlsx"): Promise<Report> =>
  (await (await post(path, workbook([columns, ...rows.map(toCells)]))).json()) as Report;
const articles = async (): Promise<Held[]> =>
  ((await (await fetch(`${shop.url}/catalogue`)).json()) as { articles: Held[] }).articles;

const hive: Cells = {
  Line: "A",
  Number: "hive",
  "Name EN": "Hive",
  "Feature 1": "Wood",
  Section: "Hives>Full",
  "On sale": "1",
};
const pine: Cells = { Line: "V", Number: "hive", Code: "HV-P", "Is 1": "Pine", Price: "129.50" };
const oak: Cells = { Line: "V", Number: "hive", Code: "HV-O", "Is 1": "Oak", Price: "189.00" };
const smoker: Cells = { Line: "A", Number: "smoker", "Name EN": "Smoker", Code: "SM", Price: "24.00" };

test("takes articles with versions and by themselves, and finds nothing to change when they come again", async () => {
  const rows = [hive, pine, oak, { ...smoker, "Goes with": "hive", Parts: "2*HV-P + 1*HV-O", "Stock Barn": "7" }];
  const first = await send(rows);
  assert.deepEqual(
    first.rows.map((row) => [row.line, row.outcome, ...row.reasons]),
    [
      [2, "created"],
      [3, "created"],
      [4, "created"],
      [5, "created"],
    ],
  );
  const [held, single] = await articles();
  assert.deepEqual([held!["sections"], held!["features"], held!["seen"]], ["Hives>Full", ["Wood"], true]);
  const [code] = single!["codes"] as Held[];
  assert.deepEqual(code!["parts"], [
    { count: "2", code: "HV-P" },
    { count: "1", code: "HV-O" },
  ]);
  assert.deepEqual(code!["stock"], { Barn: "7", Mill: "0" });
  assert.equal(single!["seen"], false);
  const again = await send(rows);
  assert.deepEqual(new Set(again.rows.map((row) => row.outcome)), new Set(["unchanged"]));
});

test("reads options, steps and picture texts out of their cells", async () => {
  await send([
    {
      ...smoker,
      Options: "Branding:may:Own text=+12.50,Log\\,o=-10%;Finish:must:Oil=+0",
      Steps: "5=20.00;10=19.00=Guild",
    },
  ]);
  const [held] = await articles();
  assert.equal(held!["options"], "Branding:may:Own text=+12.5,Log\\,o=-10%;Finish:must:Oil=+0");
  assert.deepEqual((held!["codes"] as Held[])[0]!["steps"], [
    { from: "5", price: "20", group: null },
    { from: "10", price: "19", group: "Guild" },
  ]);
});

test("keeps nothing of a file of which one row is refused, and tells every reason", async () => {
  const report = await send([hive, pine, { ...oak, Price: "1,5" }, { ...smoker, Maker: "Nobody" }]);
  assert.equal(report.refused, "rows");
  assert.deepEqual(
    report.rows.map((row) => [row.outcome, row.reasons]),
    [
      ["refused", []],
      ["refused", []],
      ["refused", ["cell"]],
      ["refused", ["not-listed"]],
    ],
  );
  assert.deepEqual(await articles(), []);
});

test("tests a file without keeping it", async () => {
  assert.equal((await send([smoker], "/tests/range.xlsx")).rows[0]!.outcome, "created");
  assert.deepEqual(await articles(), []);
});

test("shows what is on sale, in a section, sold and priced; what is hired, by its hire", async () => {
  const rented = { ...smoker, Sort: "R", Day: "9.00", Section: "Hives", "On sale": "1", Price: "0.00" };
  const seen = async (row: Cells) => {
    await send([row]);
    return (await articles())[0]!["seen"];
  };
  assert.equal(await seen(rented), true);
  assert.equal(await seen({ ...rented, Section: "" }), false);
  assert.equal(await seen({ ...rented, State: "P" }), false);
  assert.equal(await seen({ ...rented, "On sale": "0" }), false);
});

const refused: readonly (readonly [string, string, readonly Cells[]])[] = [
  ["a line that is neither", "cell", [{ ...smoker, Line: "X" }]],
  ["a row without a number", "needed", [{ ...smoker, Number: "" }]],
  ["a version without its article", "no-article", [pine]],
  ["an article's cell on a version's row", "wrong-line", [hive, { ...pine, Maker: "Bramblecomb" }]],
  ["a version's cell on the row of an article without a code", "wrong-line", [{ ...hive, Price: "1.00" }, pine]],
  ["an article without version and code", "no-version", [hive]],
  ["a code and versions", "code-and-versions", [{ ...smoker }, { ...pine, Number: "smoker", "Is 1": "" }]],
  ["a name too long", "cell", [{ ...smoker, "Name EN": "x".repeat(101) }]],
  ["no name", "needed", [{ ...smoker, "Name EN": "" }]],
  ["a section that is not set up", "not-listed", [{ ...smoker, Section: "Hives>Half" }]],
  ["a place that is not set up", "not-listed", [{ ...smoker, "Stock Mill": "1" }]],
  ["a feature left out", "gap", [{ ...smoker, "Feature 2": "Size" }]],
  ["a feature twice", "twice", [{ ...hive, "Feature 2": "Wood" }, pine]],
  ["a value without a feature", "features", [hive, { ...pine, "Is 2": "Small" }]],
  ["versions alike", "twice", [hive, pine, { ...oak, "Is 1": "Pine" }]],
  ["a code twice in a file", "twice", [hive, pine, { ...oak, Code: "HV-P" }]],
  ["a code of another article", "taken", [hive, pine, { ...smoker, Code: "HV-P" }]],
  ["a picture that is not there", "no-picture", [{ ...smoker, Pictures: "a.png" }]],
  ["picture texts without pictures", "not-parallel", [{ ...smoker, "Picture texts": "A" }]],
  ["a link to nobody", "unknown", [{ ...smoker, Spares: "nobody" }]],
  ["a link to itself", "itself", [{ ...smoker, "Goes with": "smoker" }]],
  ["money with one place", "cell", [{ ...smoker, Price: "1.5" }]],
  ["a struck price not above", "was", [{ ...smoker, Was: "24.00" }]],
  ["hire of what is not rented", "not-rented", [{ ...smoker, Day: "2.00" }]],
  ["a rented article without hire", "no-hire", [{ ...smoker, Sort: "R" }]],
  ["a step twice", "twice", [{ ...smoker, Steps: "5=2.00;5=3.00" }]],
  ["a step from 1", "cell", [{ ...smoker, Steps: "1=2.00" }]],
  ["a step of an unknown group", "not-listed", [{ ...smoker, Steps: "5=2.00=Club" }]],
  ["less at most than at least", "least", [{ ...smoker, Least: "5", Most: "4" }]],
  ["a wrong barcode", "barcode", [{ ...smoker, Barcode: "4012345678902" }]],
  ["a part that is unknown", "unknown", [{ ...smoker, Parts: "1*NO" }]],
  ["a part of itself", "itself", [{ ...smoker, Parts: "1*SM" }]],
  ["an option group twice", "twice", [{ ...smoker, Options: "A:may:x=+1;A:may:y=+1" }]],
  ["an escape of nothing", "cell", [{ ...smoker, Pictures: "a\\b" }]],
];
for (const [what, reason, rows] of refused)
  test(`refuses ${what}`, async () => {
    const report = await send(rows);
    assert.ok(
      report.rows.some((row) => row.reasons.includes(reason)),
      JSON.stringify(report),
    );
    assert.deepEqual(await articles(), []);
  });

test("refuses a file as such: not a workbook, another header, cells that are not text, too large", async () => {
  const said = async (body: Uint8Array | string) =>
    ((await (await post("/imports/a.xlsx", body)).json()) as Report).refused;
  assert.equal(await said("Line;Number"), "not-xlsx");
  assert.equal(await said(workbook([columns.slice(1)])), "header");
  assert.equal(
    await said(workbook([columns, toCells(smoker).map((cell, at) => (at === 1 ? 4711 : cell))])),
    "not-text",
  );
  assert.equal(await said(new Uint8Array(8_000_001)), "too-large");
});

test("sets up lists, and knows no others", async () => {
  assert.deepEqual(await (await setUp("taxes", "standard", "reduced")).json(), { list: "taxes", entries: 2 });
  assert.equal((await setUp("colours", "red")).status, 404);
  assert.equal((await post("/lists/taxes", '{"a":1}')).status, 422);
});
test("links lead to articles by one of their codes, or by their numbers; codes come first", async () => {
  await send([hive, pine, { ...smoker, "Goes with": "HV-P", Spares: "hive" }]);
  const [, single] = await articles();
  assert.deepEqual([single!["goesWith"], single!["spares"]], [["hive"], ["hive"]]);
  const own = await send([{ ...smoker, "Goes with": "SM" }]);
  assert.deepEqual(own.rows[0]!.reasons, ["itself"]);
});

test("a blank tax is the account's own, and a till overwrites the stock of a place", async () => {
  const held = async () => ((await articles())[0]!["codes"] as Held[])[0]!;
  await send([smoker]);
  assert.equal((await held())["tax"], "standard");
  assert.equal((await post("/account", JSON.stringify({ tax: "reduced" }))).status, 200);
  assert.equal((await post("/account", "{}")).status, 422);
  assert.deepEqual((await send([smoker])).rows[0]!.outcome, "updated");
  assert.equal((await held())["tax"], "reduced");
  const till = async (code: string) => (await post("/tills", JSON.stringify({ code, place: "Barn", count: 3 }))).json();
  assert.deepEqual([await till("SM"), await till("NO")], [{ written: true }, { written: false }]);
  assert.deepEqual((await held())["stock"], { Barn: "3", Mill: "0" });
});

test("a file that is the whole range takes out what it does not name, and nothing when it is refused", async () => {
  await send([hive, pine, oak, smoker]);
  const whole = "/imports/range.xlsx?range=whole";
  const refused = (await send([hive, { ...pine, Price: "" }], whole)) as Report & { takenOut: string[] };
  assert.deepEqual([refused.refused, refused.takenOut], ["rows", []]);
  assert.equal((await articles()).length, 2);
  const report = (await send([{ ...hive, "Goes with": "smoker" }, pine], whole)) as Report & { takenOut: string[] };
  assert.deepEqual(report.rows[0]!.reasons, ["unknown"]);
  const taken = (await send([hive, pine], whole)) as Report & { takenOut: string[] };
  assert.deepEqual(taken.takenOut, ["HV-O", "SM", "smoker"]);
  const [only, ...others] = await articles();
  assert.deepEqual([(only!["codes"] as Held[]).map(({ code }) => code), others.length], [["HV-P"], 0]);
});

test("in a file that is the whole range a code moves to another article, with its stock", async () => {
  await send([hive, pine, { ...oak, "Stock Barn": "4" }, smoker]);
  const oaks: Cells = { ...oak, Line: "A", Number: "oak-hive", "Name EN": "Oak hive", "Is 1": "" };
  assert.deepEqual((await send([oaks])).rows[0]!.reasons, ["no-version", "taken"]);
  const report = await send([hive, pine, oaks, smoker], "/imports/range.xlsx?range=whole");
  assert.deepEqual(
    report.rows.map(({ outcome }) => outcome),
    ["unchanged", "unchanged", "created", "unchanged"],
  );
  const moved = (await articles()).find(({ number }) => number === "oak-hive")!;
  assert.deepEqual((moved["codes"] as Held[])[0]!["stock"], { Barn: "4", Mill: "0" });
});
