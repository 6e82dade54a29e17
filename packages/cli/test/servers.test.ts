/** Servers answer this machine by its own names, let no page of another origin change anything, and go on whatever they are sent. */

import assert from "node:assert/strict";
import { once } from "node:events";
import { request, type ClientRequest, type IncomingMessage } from "node:http";
import { test } from "node:test";
import { strToU8, zipSync } from "fflate";
import { openShopfront } from "#src/shopfront.js";
import { standInNames, startStandIn, type StandIn, type StandInName } from "@zest-tier/standins";
import { workbook } from "./hostile-files.js";

interface Asked {
  readonly method: string;
  readonly path: string;
  readonly headers: Readonly<Record<string, string>>;
}

/** With headers that a browser would set by itself. */
function ask(url: string, { method, path, headers }: Asked): ClientRequest {
  const { hostname, port } = new URL(url);
  return request({ hostname, port, method, path, headers });
}
async function statusOf(url: string, asked: Asked): Promise<number | undefined> {
  const sent = ask(url, asked);
  sent.end();
  const [answer] = (await once(sent, "response")) as [IncomingMessage];
  answer.resume();
  await once(answer, "end");
  return answer.statusCode;
}

async function withStandIn(name: StandInName, work: (shop: StandIn) => Promise<void>): Promise<void> {
  const shop = await startStandIn(name);
  try {
    await work(shop);
  } finally {
    await shop.stop();
  }
}
const post = (url: string, body: string | Uint8Array) => fetch(url, { method: "POST", body });
const said = async (answer: Response | Promise<Response>) => (await (await answer).json()) as Record<string, unknown>;

/** What a server of this machine answers to those who ask. */
async function checkWhoAsks(url: string, isChanging: boolean): Promise<void> {
  const { host: own, port } = new URL(url);
  const changing = { method: "POST", path: "/reset" };
  const status = (asked: Partial<Asked> & Pick<Asked, "headers">) => statusOf(url, { ...changing, ...asked });
  const done = isChanging ? 200 : 404;
  assert.equal(await status({ headers: {} }), done, "a program, which sends no origin");
  assert.equal(await status({ headers: { origin: `http://${own}` } }), done, "its own page");
  assert.equal(await status({ headers: { host: `localhost:${port}`, origin: `http://localhost:${port}` } }), done);
  assert.equal(await status({ headers: { origin: "https://elsewhere.example" } }), 403, "a page of another site");
  assert.equal(await status({ headers: { origin: "null" } }), 403, "a page without an origin");
  assert.equal(await status({ headers: { origin: `http://127.0.0.1:1` } }), 403, "another server of this machine");
  assert.equal(await status({ headers: { host: "elsewhere.example" } }), 421, "another name of this machine");
  const nothing = { method: "GET", path: "/nothing-here" };
  assert.equal(await status({ ...nothing, headers: { host: `elsewhere.example:${port}` } }), 421);
  assert.equal(await status({ ...nothing, headers: { host: own, origin: "https://elsewhere.example" } }), 404);
}

for (const name of standInNames)
  test(`${name} asks who asks`, () => withStandIn(name, ({ url }) => checkWhoAsks(url, true)));

test("the shopfront asks who asks", async () => {
  const shopfront = await openShopfront([]);
  try {
    await checkWhoAsks(shopfront.url, false);
  } finally {
    await shopfront.stop();
  }
});

test("a body that holds no JSON object is refused as such", () =>
  withStandIn("tollgate", async ({ url }) => {
    for (const path of ["/lists/makers", "/account", "/tills"])
      for (const body of ["null", "5", '"text"', "[", ""])
        assert.equal((await post(url + path, body)).status, 400, `${path} ${body}`);
    for (const [path, body] of [
      ["/lists/makers", "{}"],
      ["/lists/makers", "[null]"],
      ["/account", "[]"],
    ] as const)
      assert.equal((await post(url + path, body)).status, 422, `${path} ${body}`);
    assert.deepEqual(await said(post(`${url}/tills`, '{"code":{},"place":[],"count":"1"}')), { written: false });
  }));

/** Says in its directory that each file unpacks to so few bytes. */
function lying(zip: Uint8Array, size: number): Uint8Array {
  const bytes = Buffer.from(zip);
  for (let at = bytes.indexOf("PK\x01\x02", 0, "latin1"); at >= 0; at = bytes.indexOf("PK\x01\x02", at + 4, "latin1"))
    bytes.writeUInt32LE(size, at + 24);
  return bytes;
}
const called = (name: string, other: string): Uint8Array =>
  Buffer.from(
    Buffer.from(zipSync({ [name]: strToU8("a"), [other]: strToU8("b") }))
      .toString("latin1")
      .replaceAll(other, name),
    "latin1",
  );
const zeros = zipSync({ "a.png": new Uint8Array(33_000_000) });
const archives: Readonly<Record<string, readonly [Uint8Array, number]>> = {
  "unpacks to too much": [zeros, 413],
  "unpacks to more than it says": [lying(zeros, 100), 422],
  "unpacks to less than it says": [lying(zipSync({ "a.png": strToU8("a") }), 1_000_000_000), 422],
  "too many files": [zipSync(Object.fromEntries(Array.from({ length: 10_001 }, (_, n) => [`${n}`, strToU8("")]))), 413],
  "two files of one name": [called("a.png", "b.png"), 422],
  "a name that leads out of its folder": [zipSync({ "../a.png": strToU8("a") }), 422],
  "not an archive": [strToU8("PK\x03\x04 and then nothing"), 422],
  nothing: [new Uint8Array(0), 422],
};

for (const name of standInNames)
  test(`${name} takes no archive that does harm`, () =>
    withStandIn(name, async ({ url }) => {
      for (const [why, [bytes, status]] of Object.entries(archives)) {
        const answer = await post(`${url}/pictures`, bytes);
        await answer.text();
        assert.equal(answer.status, status, why);
        assert.equal((await fetch(`${url}/pictures/a.png`)).status, 404, why);
      }
      assert.deepEqual(await said(post(`${url}/pictures`, zipSync({ "a.png": strToU8("a") }))), { stored: ["a.png"] });
    }));

const cell = (at: string) => `<c r="${at}" t="inlineStr"><is><t>x</t></is></c>`;
const sheets: Readonly<Record<string, readonly [string | undefined, string]>> = {
  "a row far below": [`<sheetData><row r="4294967295">${cell("A4294967295")}</row></sheetData>`, "too-large"],
  "the last row": [`<sheetData><row r="1048576">${cell("A1048576")}</row></sheetData>`, "too-large"],
  "a cell far to the right": [`<sheetData><row r="2">${cell("ZZZZZZ2")}</row></sheetData>`, "header"],
  "a cell beside the columns": [`<sheetData><row r="2">${cell("XFD2")}</row></sheetData>`, "header"],
  "more than it may unpack to": [" ".repeat(33_000_000), "too-large"],
  "elements within each other": ["<a>".repeat(200_000), "not-xlsx"],
  "an endless row": [`<sheetData><row r="1">${"<c/>".repeat(300_000)}</row></sheetData>`, "not-xlsx"],
  "a sheet that is not there": [undefined, "not-xlsx"],
  "no cells": ["<sheetData/>", "header"],
};

test("Tollgate takes no workbook that does harm", () =>
  withStandIn("tollgate", async ({ url }) => {
    for (const [why, [sheet, reason]] of Object.entries(sheets)) {
      const report = await said(post(`${url}/imports/x`, workbook(sheet)));
      assert.equal(report["refused"], reason, why);
    }
    assert.equal((await fetch(`${url}/catalogue`)).status, 200);
  }));

/** A file that takes each stand-in a while, and where it is sent to. */
const large: Readonly<Record<StandInName, () => readonly [string, string | Uint8Array]>> = {
  pennywort: () => ["/imports/x", `Item;Code;Title en;Price\n${many(10_000, (n) => `i${n % 90};C${n};T;1\n`)}`],
  saltmarsh: () => ["/imports/makers", `Id\tTag\tTitle\n${many(60_000, (n) => `\tt${n}\tT\n`)}`],
  tollgate: () => [
    "/imports/x",
    workbook(`<sheetData>${many(60_000, (n) => `<row r="${n + 1}">${cell(`A${n + 1}`)}</row>`)}</sheetData>`),
  ],
};
const many = (count: number, make: (at: number) => string): string =>
  Array.from({ length: count }, (_, n) => make(n)).join("");

for (const name of standInNames)
  test(`${name} answers others while one upload takes long`, () =>
    withStandIn(name, async ({ url }) => {
      const slow = ask(url, { method: "POST", path: "/imports/x", headers: { "content-length": "1000" } });
      slow.on("error", () => undefined);
      slow.write("Item");
      const [path, body] = large[name]();
      let isDone = false;
      let answers = 0;
      const upload = post(url + path, body).then(async (answer) => {
        isDone = true;
        assert.equal(answer.status, 200);
        await answer.text();
      });
      while (!isDone) {
        await (await fetch(`${url}/nothing`)).text();
        if (!isDone) answers += 1;
      }
      await upload;
      assert.ok(answers >= 5, `${answers} answers`);
      slow.destroy();
    }));

const uploads = 16;
const tollgateHead =
  "Line,Number,Code,Name EN,Name DE,Name FR,Name JA,Name AR,Text EN,Text DE,Text FR,Text JA,Text AR,Section,Maker,Sort,Options,Feature 1,Feature 2,Feature 3,Pictures,Picture texts,Goes with,Spares,On sale,Is 1,Is 2,Is 3,State,Owed,Price,Was,Cost,Day,Week,Steps,Tax,Unit,Least,Most,Weight,Barcode,Supplied by,Parts,Stock Barn,Stock Mill".split(
    ",",
  );
/** Files that speak of the same records, each of them of its own too. */
const overlapping: Readonly<Record<StandInName, (n: number) => readonly [string, string | Uint8Array]>> = {
  pennywort: (n) => ["/imports/x", `Item;Code;Title en;Price;Stock\nboth;B;Both;1;7\nown${n};O${n};Own;2;${n}\n`],
  saltmarsh: (n) => ["/imports/goods", `Id\tTag\tTitle\tCode\n\tboth\tBoth\tB\n\town${n}\tOwn\tO${n}\n`],
  tollgate: (n) => [
    "/imports/x",
    tollgateFile([
      ["both", "B"],
      [`own${n}`, `O${n}`],
    ]),
  ],
};
function tollgateFile(articles: readonly (readonly [string, string])[]): Uint8Array {
  const letters = (at: number): string => (at < 26 ? "" : "A") + String.fromCharCode(65 + (at % 26));
  const row = (cells: readonly string[], line: number) =>
    `<row r="${line}">${cells.map((value, at) => `<c r="${letters(at)}${line}" t="inlineStr"><is><t>${value}</t></is></c>`).join("")}</row>`;
  const cells = ([number, code]: readonly [string, string]) =>
    tollgateHead.map(
      (name) => ({ Line: "A", Number: number, Code: code, "Name EN": number, Price: "1.00" })[name] ?? "",
    );
  return workbook(
    `<sheetData>${[tollgateHead, ...articles.map(cells)].map((own, at) => row(own, at + 1)).join("")}</sheetData>`,
  );
}

for (const name of standInNames)
  test(`${name} loses nothing and doubles nothing when uploads come at once`, () =>
    withStandIn(name, async ({ url }) => {
      const send = async (n: number) => {
        const [path, body] = overlapping[name](n);
        return (await said(post(url + path, body))) as unknown as { readonly rows: { readonly outcome: string }[] };
      };
      const reports = await Promise.all(Array.from({ length: uploads }, (_, n) => send(n)));
      const outcomes = reports.flatMap(({ rows }) => rows.map(({ outcome }) => outcome));
      assert.equal(outcomes.length, uploads * 2);
      assert.equal(outcomes.filter((outcome) => outcome === "created").length, uploads + 1, "one of both, and all own");
      const codes = [...JSON.stringify(await said(fetch(`${url}/catalogue`))).matchAll(/"code":"(\w+)"/g)];
      const wanted = ["B", ...Array.from({ length: uploads }, (_, n) => `O${n}`)];
      assert.deepEqual(codes.map(([, code]) => code!).sort(), wanted.sort());
    }));
