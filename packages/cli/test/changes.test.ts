/** Comparing with what is on a platform, and writing only what changes: policies, pairs, the rollback, broken exports. On Pennywort. */

import assert from "node:assert/strict";
import { spawn } from "node:child_process";
import { cpSync, existsSync, mkdirSync, mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { after, before, beforeEach, test } from "node:test";
import { fileURLToPath } from "node:url";
import type { Browser } from "playwright-core";
import { startStandIn, type StandIn } from "@zest-tier/standins";
import { Findings } from "zest-tier";
import { parseLedger } from "zest-tier/parts";
import { deliver, readBack } from "#src/deliver.js";
import { main } from "#src/main.js";
import { openPlanned } from "#src/planned.js";
import { openSession } from "#src/session.js";
import { openBrowser, openFile, overflowOf, problemsOf } from "@zest-tier/chromium";

const kills = Number(process.env["KILLS"] ?? 5);
const bin = fileURLToPath(new URL("../../bin/zest-tier.js", import.meta.url));
const root = fileURLToPath(new URL("../../../../", import.meta.url));
const quiet = { out: () => undefined, err: () => undefined, colour: false, width: 100, height: 40 };
let work: string;
let filled: string;
let shop: string;
let standIn: StandIn;
let browser: Browser;

/** A shop that was uploaded and collected, and the platform that holds it. */
before(async () => {
  work = mkdtempSync(join(tmpdir(), "zest-tier-changes-"));
  filled = join(work, "filled");
  cpSync(join(root, "demo/clean"), filled, { recursive: true });
  standIn = await startStandIn("pennywort");
  browser = await openBrowser();
  shop = filled;
  await run("build");
  await send();
  assert.equal((await run("collect")).code, 0);
  rmSync(join(filled, "upload-pennywort"), { recursive: true });
  await save();
});
after(async () => {
  await browser.close();
  await standIn.stop();
  rmSync(work, { recursive: true, force: true });
});
beforeEach(() => {
  shop = mkdtempSync(join(work, "shop-"));
  cpSync(filled, shop, { recursive: true });
});

async function run(...argv: string[]) {
  let out = "";
  let err = "";
  const io = {
    out: (text: string) => (out += text),
    err: (text: string) => (err += text),
    cwd: shop,
    colour: false,
    width: 160,
    height: 40,
    watched: false,
    stopped: () => Promise.resolve(),
  };
  const [command, ...rest] = argv;
  const code = await main([command!, ".", "--for", "pennywort", ...rest], io);
  return { code, out, err };
}
async function send(options: Record<string, string> = {}) {
  const planned = await openPlanned({ argument: shop, options: { for: "pennywort", ...options } }, {
    ...quiet,
    cwd: shop,
  } as never);
  assert.ok(planned.ok);
  const { opened, uploadFolder } = planned.session;
  return deliver(standIn.url, opened.target, planned.prepared.plan, uploadFolder, join(shop, "reports-pennywort"));
}
async function save(name = "held.json"): Promise<void> {
  const opened = await openSession({ argument: shop, options: { for: "pennywort" } }, {
    ...quiet,
    cwd: shop,
  } as never);
  assert.ok(opened.ok);
  writeFileSync(join(shop, name), JSON.stringify(await readBack(standIn.url, opened.session.opened.target)));
}
const post = async (csv: string) =>
  (await (await fetch(`${standIn.url}/imports/by-hand.csv`, { method: "POST", body: csv })).json()) as {
    rows: { outcome: string }[];
  };
function change(file: string, from: string | RegExp, to: string): void {
  const path = join(shop, file);
  const text = readFileSync(path, "utf8");
  const changed = text.replace(from, to);
  assert.notEqual(changed, text, `${file}: ${from}`);
  writeFileSync(path, changed);
}
const against = ["--export", "held.json"] as const;
const upload = (name: string) => readFileSync(join(shop, "upload-pennywort", name), "utf8");
const files = () => readdirSync(join(shop, "upload-pennywort")).filter((name) => name.endsWith(".csv"));
/** What an export would state for an item. */
function editHeld(edit: (item: Record<string, object>) => void, word: string): void {
  const path = join(shop, "held.json");
  const held = JSON.parse(readFileSync(path, "utf8")) as { items: Record<string, object>[] };
  edit(held.items.find((item) => (item["item"] as unknown) === word)!);
  writeFileSync(path, JSON.stringify(held));
}
const codesIn = ({ out }: { out: string }) => [
  ...new Set((JSON.parse(out) as { findings: { code: string }[] }).findings.map(({ code }) => code)),
];
const compared = async (...more: string[]) => {
  const said = await run("compare", ...against, "--format", "json", ...more);
  return {
    ...said,
    json: JSON.parse(said.out) as {
      unchanged: number;
      records: { kind: string; key: string; state: string; fields: { field: string; by: string }[] }[];
    },
  };
};

test("an export that is as it was delivered differs in nothing, and nothing is built", async () => {
  const { code, json } = await compared();
  assert.deepEqual([code, json.records, json.unchanged], [0, [], 409]);
  const built = await run("build", ...against);
  assert.equal(built.code, 0);
  assert.ok(!existsSync(join(shop, "upload-pennywort")));
});

test("a changed price is one row of three cells; the rollback restores what was there", async () => {
  change("sources/range.csv", "€ 24,00", "€ 26,00");
  assert.equal((await run("build", ...against)).code, 0);
  assert.deepEqual(files(), ["01-items-changes-of-variants.csv", "rollback-01-items-changes-of-variants.csv"]);
  assert.equal(upload("01-items-changes-of-variants.csv"), "Item;Code;Price\r\nsquare-veil;BC-VS;26,00\r\n");
  assert.equal(upload("rollback-01-items-changes-of-variants.csv"), "Item;Code;Price\r\nsquare-veil;BC-VS;24,00\r\n");
  const rehearsed = await run("rehearse", ...against);
  assert.match(
    rehearsed.out,
    /Rebuilt as intended: everything that pennywort can store would arrive\.\nExpected: 0 rows created, 1 updated, 0 unchanged/,
  );
  const back = await run("rehearse", ...against, "--rollback");
  assert.match(back.out, /^Set back: pennywort would have what it had before the upload\./);
  const before = await readBack(standIn.url, (await targetOf())!);
  await send({ export: join(shop, "held.json") });
  const restored = await post(upload("rollback-01-items-changes-of-variants.csv"));
  assert.deepEqual(
    restored.rows.map(({ outcome }) => outcome),
    ["updated"],
  );
  assert.deepEqual(await readBack(standIn.url, (await targetOf())!), before);
});

async function targetOf() {
  const opened = await openSession({ argument: shop, options: { for: "pennywort" } }, {
    ...quiet,
    cwd: shop,
  } as never);
  return opened.ok ? opened.session.opened.target : undefined;
}

test("who changed what: you, the platform, both; the platform's value stays, and a cell left out is not a cell emptied", async () => {
  change("sources/range.csv", ";Smoker;", ";Smoker with guard;");
  editHeld((item) => Object.assign(item["title"]!, { de: "Imkerhut" }), "square-veil");
  editHeld((item) => Object.assign(item["title"]!, { en: "Smoker XL" }), "smoker");
  editHeld((item) => Object.assign(item, { brand: "Someone" }), "assembly");
  const { json, ...said } = await compared();
  const told = codesIn(said);
  assert.ok(told.includes("compare/both-changed") && told.includes("compare/changed-on-platform"));
  const shown = json.records.map(({ key, state, fields }) => [
    key,
    state,
    ...fields.map(({ field, by }) => `${field} ${by}`),
  ]);
  assert.deepEqual(shown.slice(0, 3), [
    ["smoker", "both changed", "name@en both"],
    ["assembly", "changed on the platform", "brand platform"],
    ["square-veil", "changed on the platform", "name@de platform"],
  ]);
  await run("build", ...against);
  const rows = upload("01-items-changes.csv").trim().split("\r\n");
  assert.ok(
    rows.every((row) => !row.startsWith("square-veil") && !row.startsWith("assembly")),
    rows.join("|"),
  );
});

test("policies: overwrite the platform's value, fill only blanks, leave, and live stock that is asked for", async () => {
  change("sources/range.csv", "€ 24,00;;;;;15;", "€ 24,00;;;;;60;");
  editHeld((item) => Object.assign(item["title"]!, { de: "Imkerhut" }), "square-veil");
  editHeld((item) => Object.assign(item["text"]!, { de: null }), "round-veil");
  const fields = (policy: string) =>
    change(
      "project.yaml",
      / {2}- target: pennywort\n( {4}changes: .*\n)?/,
      `  - target: pennywort\n    changes: ${policy}\n`,
    );
  const rowsWith = async (policy: string) => {
    fields(policy);
    rmSync(join(shop, "upload-pennywort"), { recursive: true, force: true });
    assert.equal((await run("build", ...against)).code, 0);
    return existsSync(join(shop, "upload-pennywort"))
      ? files()
          .filter((name) => !name.startsWith("way"))
          .map(upload)
      : [];
  };
  const description = "description@de";
  const [plain] = await rowsWith("{ fields: {} }");
  assert.equal(plain, undefined, "what others cleared or changed stays, stock is live");
  const [stock] = await rowsWith("{ fields: { variant.stock: overwrite } }");
  assert.equal(stock, "Item;Code;Stock\r\nsquare-veil;BC-VS;60\r\n");
  const [name] = await rowsWith("{ fields: { product.name: overwrite } }");
  assert.match(name!, /^Item;Title de\r\nsquare-veil;Faltschleier\r\n$/);
  const [filledIn] = await rowsWith(`{ fields: { product.${description}: fill } }`);
  assert.match(filledIn!, /^Item;Text de\r\nround-veil;[^\r]+\r\n$/);
  assert.deepEqual(await rowsWith("{ only: create, fields: { product.name: overwrite } }"), []);
  // Of names that fit the longest counts, whichever stands first.
  assert.deepEqual(await rowsWith("{ fields: { variant: overwrite, variant.stock: leave } }"), []);
  const [live] = await rowsWith("{ fields: { variant: leave, variant.stock: overwrite } }");
  assert.equal(live, "Item;Code;Stock\r\nsquare-veil;BC-VS;60\r\n");
});

test("what the platform refused, or what nobody uploaded, is not confirmed: the next build writes it again", async () => {
  const ledger = () => readFileSync(join(shop, "ledger-pennywort.jsonl"), "utf8");
  const rowsNow = async () => {
    assert.equal((await run("build", ...against)).code, 0);
    return upload("01-items-changes-of-variants.csv");
  };
  change("sources/range.csv", "€ 24,00", "€ 26,00");
  const built = await rowsNow();
  assert.equal(built, "Item;Code;Price\r\nsquare-veil;BC-VS;26,00\r\n");
  const before = ledger();
  const collect = async (report?: object) => {
    rmSync(join(shop, "reports-pennywort"), { recursive: true, force: true });
    mkdirSync(join(shop, "reports-pennywort"));
    const path = join(shop, "reports-pennywort/01-items-changes-of-variants.csv.report.json");
    if (report) writeFileSync(path, JSON.stringify(report));
    return run("collect", ...against);
  };
  const row = (outcome: string, reasons: readonly string[] = []) => ({ line: 2, outcome, reasons, id: null });
  for (const [what, report] of [
    ["not uploaded", undefined],
    ["the row refused", { refused: null, rows: [row("refused", ["price-too-high"])] }],
    ["the file refused", { refused: "try later", rows: [] }],
  ] as const) {
    const said = await collect(report);
    assert.equal(said.code, 1, what);
    assert.equal(ledger(), before, what);
    const { json } = await compared();
    const veil = json.records.find(({ key }) => key === "BC-VS");
    assert.deepEqual([veil?.state, veil?.fields[0]?.by], ["changed", "you"], what);
    assert.equal(await rowsNow(), built, what);
  }
  assert.equal((await collect({ refused: null, rows: [row("updated")] })).code, 0);
  const added = ledger().slice(before.length);
  type Line = { readonly kind?: string; readonly key?: string; readonly fields?: Readonly<Record<string, string>> };
  const linesIn = (text: string) =>
    text.split("\n").flatMap((line): Line[] => (line === "" ? [] : [JSON.parse(line) as Line]));
  const changed = linesIn(added).flatMap(({ kind, key, fields = {} }) => {
    const old = linesIn(before).findLast((one) => one.kind === kind && one.key === key && one.fields)?.fields;
    return Object.keys(fields).flatMap((field) => (fields[field] === old?.[field] ? [] : [`${kind} ${key} ${field}`]));
  });
  assert.deepEqual(changed, ["variant BC-VS prices(price).amount"], "only what the file held");
});

test("with everything held back build and rehearse say how much, and exit 1", async () => {
  const source = join(shop, "project.yaml");
  writeFileSync(
    source,
    `project: one\nsources:\n  - { file: one.csv, layout: one.yaml }\ntargets:\n  - target: pennywort\n`,
  );
  writeFileSync(
    join(shop, "one.yaml"),
    "layout: one\nformat: { csv: { delimiter: ';' } }\nrows: { each: product }\ncolumns:\n  Key: product.key\n  Code: product.code\n  Name: product.name@en\n  EAN: product.barcode\n  Price: { field: product.prices(price).amount, as: decimal }\n",
  );
  writeFileSync(join(shop, "one.csv"), "Key;Code;Name;EAN;Price\na;A1;Hive;4012345678902;3\nb;B1;Lid;;none\n");
  rmSync(join(shop, "ledger-pennywort.jsonl"));
  const built = await run("build", "--hold-back");
  assert.equal(built.code, 1);
  assert.match(built.out, /Nothing was written: everything is held back \(2 products\)/);
  assert.ok(!existsSync(join(shop, "upload-pennywort")));
  const rehearsed = await run("rehearse", "--hold-back");
  assert.equal(rehearsed.code, 1);
  assert.doesNotMatch(rehearsed.out, /^Rebuilt/m);
  writeFileSync(join(shop, "one.csv"), "Key;Code;Name;EAN;Price\na;A1;Hive;4012345678902;3\nb;B1;Lid;;5\n");
  assert.equal((await run("build", "--hold-back")).code, 0);
});

test("what a rollback cannot restore is listed before anything is written, on the run sheet too", async () => {
  change("sources/extras.csv", /$/, "new-veil;BC-NEW;Folding veil;Faltschleier;;goods;hives;20.00;;;\r\n");
  const built = await run("build", ...against, "--format", "json");
  assert.equal(built.code, 0);
  const { findings } = JSON.parse(built.out) as { findings: { code: string; facts: object }[] };
  const lost = findings.find(({ code }) => code === "change/cannot-restore");
  assert.deepEqual(lost?.facts, {
    made: 2,
    others: 0,
    examples: ["product new-veil", "variant BC-NEW"],
  });
  assert.match(upload("run-sheet.md"), /The rollback does not restore these: product new-veil/);
  assert.equal((await run("rehearse", "--rollback")).code, 1);
});

test("products that were combined come back with the rollback: their codes, their rows, and the links that led to them", async () => {
  const combine =
    "{ combine: [square-veil, round-veil], into: veils, axis: Shape, values: { square-veil: Square, round-veil: Round } }";
  change("project.yaml", "targets:\n", `operations:\n  - ${combine}\ntargets:\n`);
  assert.equal((await run("build", ...against)).code, 0);
  const back = await run("rehearse", ...against, "--rollback");
  assert.match(back.out, /^Set back: /);
  const target = (await targetOf())!;
  const before = await readBack(standIn.url, target);
  await send({ export: join(shop, "held.json") });
  const words = async () =>
    ((await readBack(standIn.url, target)) as { items: { item: string }[] }).items.map(({ item }) => item);
  assert.ok((await words()).includes("veils") && !(await words()).includes("square-veil"));
  for (const name of files().filter((one) => one.startsWith("rollback-")))
    assert.ok(
      (await post(upload(name))).rows.every(({ outcome }) => outcome !== "refused"),
      name,
    );
  assert.deepEqual(await readBack(standIn.url, target), before);
});

test("what is gone is left, hidden when that is wished, and never deleted", async () => {
  change("sources/range.csv", /^BC-FJ;.*\r\n/m, "");
  const first = await run("compare", ...against, "--format", "json");
  assert.ok(codesIn(first).includes("compare/no-longer-in-sources"));
  await run("build", ...against);
  assert.ok(!existsSync(join(shop, "upload-pennywort")));
  change("project.yaml", "  - target: pennywort\n", "  - target: pennywort\n    changes: { gone: hide }\n");
  await run("build", ...against);
  assert.equal(upload("01-items-retired.csv"), "Item;Shown\r\nframe-jig;off\r\n");
});

test("a new record with a stranger's code is an error naming both; a pair with a reply makes them one", async () => {
  const path = join(shop, "held.json");
  const held = JSON.parse(readFileSync(path, "utf8")) as { items: { item: string; codes: { code: string }[] }[] };
  const stranger = structuredClone(held.items.find(({ item }) => item === "square-veil")!);
  stranger.item = "old-veil";
  stranger.codes[0]!.code = "BC-NEW";
  writeFileSync(path, JSON.stringify({ ...held, items: [...held.items, stranger] }));
  change("sources/extras.csv", /$/, "new-veil;BC-NEW;Folding veil;Faltschleier;;goods;hives;20.00;;;\r\n");
  const said = await run("compare", ...against, "--format", "json");
  assert.equal(said.code, 1);
  const found = (JSON.parse(said.out) as { findings: { code: string; message: string }[] }).findings.find(
    ({ code }) => code === "compare/would-overwrite",
  );
  assert.match(
    found!.message,
    /product new-veil is new in your sources, but on the platform its code BC-NEW belongs to old-veil/,
  );
  const pairs = join(shop, "pairs-pennywort.csv");
  const list = readFileSync(pairs, "utf8");
  assert.match(list, /^Kind;Yours;On platform;Reason;Reply\r\nproduct;new-veil;old-veil;the same code BC-NEW;\r\n$/);
  writeFileSync(pairs, list.replace("BC-NEW;\r\n", "BC-NEW;same\r\n"));
  const { json } = await compared();
  assert.deepEqual(
    json.records
      .filter(({ key }) => key.endsWith("-veil") && key !== "round-veil")
      .map(({ key, state }) => [key, state]),
    [["old-veil", "changed"]],
  );
  writeFileSync(pairs, list.replace("BC-NEW;\r\n", "BC-NEW;maybe\r\n").replace("new-veil", "nobody"));
  assert.ok(codesIn(await run("compare", ...against, "--format", "json")).includes("compare/odd-reply"));
  writeFileSync(pairs, list.replace("BC-NEW;\r\n", "BC-NEW;same\r\n").replace("new-veil", "nobody"));
  assert.ok(codesIn(await run("compare", ...against, "--format", "json")).includes("compare/pair-names-nothing"));
  writeFileSync(pairs, list.replace("BC-NEW;\r\n", "BC-NEW;same\r\n").replace("old-veil", "smoker"));
  assert.ok(codesIn(await run("compare", ...against, "--format", "json")).includes("compare/pair-taken"));
  writeFileSync(pairs, "what;is\r\nthis;?\r\n");
  assert.ok(codesIn(await run("compare", ...against, "--format", "json")).includes("compare/no-pairs"));
});

test("names that are alike are suggested, with the reason; what has a reply is not asked again", async () => {
  const path = join(shop, "held.json");
  const held = JSON.parse(readFileSync(path, "utf8")) as {
    items: { item: string; title: { en: string }; codes: { code: string }[] }[];
  };
  const other = structuredClone(held.items.find(({ item }) => item === "wick")!);
  Object.assign(other, { item: "pen-1", title: { en: "Marking pen, blue", de: null } });
  other.codes.forEach((code, at) => (code.code = `X-${at}`));
  writeFileSync(path, JSON.stringify({ ...held, items: [...held.items, other] }));
  change("sources/extras.csv", /$/, "blue-pen;BC-PEN;Blue marking pen;;;goods;hives;3.00;;;\r\n");
  const said = await run("compare", ...against);
  assert.match(said.out, /Possible pairs are listed in pairs-pennywort\.csv/);
  const pairs = join(shop, "pairs-pennywort.csv");
  assert.match(readFileSync(pairs, "utf8"), /product;blue-pen;pen-1;the same words in the name/);
  writeFileSync(pairs, readFileSync(pairs, "utf8").replace(/;\r\n$/, ";different\r\n"));
  assert.doesNotMatch((await run("compare", ...against)).out, /Pairs wait/);
});

test("no export at all, half of one, another's, another shop's, an old ledger: each is reported, nothing is written", async () => {
  const whole = readFileSync(join(shop, "held.json"), "utf8");
  const json = JSON.parse(whole) as { items: unknown[]; tree: unknown[] };
  const cases: [string, string][] = [
    [whole.slice(0, whole.length / 2), "compare/not-whole"],
    [JSON.stringify({ articles: [] }), "compare/other-export"],
    [JSON.stringify({ ...json, items: json.items.slice(0, 20) }), "compare/half-export"],
    [JSON.stringify({ ...json, items: [] }), "compare/other-shop"],
  ];
  for (const [text, code] of cases) {
    writeFileSync(join(shop, "held.json"), text);
    const said = await run("compare", ...against, "--format", "json");
    assert.equal(said.code, 1);
    assert.ok(codesIn(said).includes(code), `${code}: ${codesIn(said).join()}`);
    assert.equal((await run("build", ...against)).code, 1);
    assert.ok(!existsSync(join(shop, "upload-pennywort")));
  }
  const items = json.items as { title: { en: string } }[];
  const other = {
    ...json,
    items: items.map((item) => ({ ...item, title: { ...item.title, en: `${item.title.en}!` } })),
  };
  writeFileSync(join(shop, "held.json"), JSON.stringify(other));
  assert.ok(codesIn(await run("compare", ...against, "--format", "json")).includes("compare/old-ledger"));
  assert.equal((await run("compare", "--export", "nobody.json")).code, 3);
  assert.equal((await run("compare")).code, 2);
});

test("one of the platform's own files serves as an export, read with its layout", async () => {
  await run("build", "--upload", "again");
  const [items] = readdirSync(join(filled)).filter((name) => name === "held.json");
  assert.ok(items);
  rmSync(join(shop, "ledger-pennywort.jsonl"));
  await run("build", "--upload", "fresh");
  cpSync(join(shop, "fresh", "02-items.csv"), join(shop, "items.csv"));
  const said = await run("compare", "--export", "items.csv", "--format", "json");
  assert.deepEqual((JSON.parse(said.out) as { records: unknown[] }).records, []);
  change("items.csv", "24,00", "25,00");
  const again = JSON.parse((await run("compare", "--export", "items.csv", "--format", "json")).out) as {
    records: { key: string }[];
  };
  assert.ok(again.records.some(({ key }) => key === "BC-VS"));
  writeFileSync(join(shop, "items.csv"), "A;B\r\n1;2\r\n");
  assert.ok(
    codesIn(await run("compare", "--export", "items.csv", "--format", "json")).includes("compare/other-export"),
  );
});

test("a bulk change is a file of two columns, named in one line of the project", async () => {
  change(
    "project.yaml",
    "  - target: pennywort\n",
    '  - target: pennywort\n    bulk changes: { show: { field: product.shown, constant: "true" }, odd: { field: product.sort, constant: goods } }\n',
  );
  assert.equal((await run("build", "--bulk-change", "show")).code, 0);
  const rows = upload("01-show.csv").trim().split("\r\n");
  assert.deepEqual([rows[0], rows[1], rows.length], ["Item;Shown", "orchard-hive;on", 85]);
  assert.equal((await run("build", "--bulk-change", "nobody")).code, 2);
  rmSync(join(shop, "upload-pennywort"), { recursive: true });
  const odd = await run("build", "--bulk-change", "odd", "--format", "json");
  assert.ok(codesIn(odd).includes("change/no-column"));
  assert.ok(!existsSync(join(shop, "upload-pennywort")));
});

test("the report as a page: axe finds nothing, wide and narrow, the most dangerous first", async () => {
  change("sources/range.csv", ";Smoker;", ";Smoker with guard;");
  editHeld((item) => Object.assign(item["title"]!, { de: "日本語の名前 و اسم عربي طويل جدا" }), "square-veil");
  await run("compare", ...against, "--report", "report.html");
  for (const width of [1280, 390]) {
    const page = await openFile(browser, join(shop, "report.html"), width);
    assert.deepEqual(await problemsOf(page), []);
    assert.equal(await overflowOf(page), 0);
    const titles = await page.locator("h2").allTextContents();
    assert.deepEqual(titles, ["Changed on the platform 1", "Changed 1"]);
    await page.close();
  }
});

test("trial: the fewest products that show everything, closed under references; build and compare take it too", async () => {
  const said = JSON.parse((await run("trial", "--format", "json")).out) as {
    products: { key: string; shows: string[] }[];
    features: number;
    least: number;
    isExact: boolean;
  };
  assert.ok(said.isExact);
  assert.equal(said.least, said.products.length);
  assert.ok(said.products.length < 42, `${said.products.length} products`);
  assert.equal(said.products.flatMap(({ shows }) => shows).length, said.features);
  const keys = new Set(said.products.map(({ key }) => key));
  for (const key of ["starter-hive", "extractor-hire", "assembly"]) assert.ok(keys.has(key), key);
  rmSync(join(shop, "ledger-pennywort.jsonl"));
  assert.equal((await run("build", "--trial")).code, 0);
  const items = new Set(
    upload("02-items.csv")
      .split("\r\n")
      .slice(1)
      .map((row) => row.split(";")[0])
      .filter((word) => word !== ""),
  );
  assert.deepEqual([...items].sort(), [...keys].sort());
  const verdict = await run("compare", "--trial", ...against);
  assert.match(verdict.out, /The trial is on the platform as intended\. You can upload the whole range\./);
});

test("trace goes both ways, and after an operation too", async () => {
  rmSync(join(shop, "ledger-pennywort.jsonl"));
  const cells = async (...argv: string[]) =>
    (
      JSON.parse((await run("trace", ...argv, "--format", "json")).out) as {
        cells: { file: string; line: number; header: string; text: string; origins: { location: string }[] }[];
      }
    ).cells;
  const [price] = await cells("--source", "sources/range.csv:3:Price");
  assert.deepEqual([price!.file, price!.header, price!.text], ["02-items.csv", "Price", "204,10"]);
  const [back] = await cells("--cell", `02-items.csv:${price!.line}:Price`);
  assert.deepEqual(
    back!.origins.map(({ location }) => location.replace(/ \{.*/, "")),
    ["sources/range.csv:3 [Price]"],
  );
  // A location as findings print it, whatever the source: a sheet of CSV or of a workbook, an element of XML or JSON.
  const printedBy = new Set<string>();
  for (const line of [2, 264, 290, 297, 302])
    for (const { file, line: own, header, origins } of await cells("--cell", `02-items.csv:${line}`))
      for (const { location } of origins.slice(0, 1)) {
        const form = location.replace(/[:#].*/, "").replace(/.*\./, "");
        if (printedBy.has(form) || !location.startsWith("sources/")) continue;
        printedBy.add(form);
        const found = await cells("--source", location);
        assert.ok(
          found.some((one) => one.file === file && one.line === own && one.header === header),
          location,
        );
        const [row] = await cells("--source", location.replace(/ \[.*\]$/, ""));
        assert.ok(row, location);
      }
  assert.deepEqual([...printedBy].sort(), ["csv", "json", "tsv", "xlsx", "xml"]);
  assert.equal((await run("trace", "--source", "nowhere")).code, 2);
  const [shelf] = await cells("--cell", "02-items.csv:2 [Place en]");
  assert.deepEqual(
    shelf!.origins.map(({ location }) => location),
    ["sources/range.csv:2 [Shelf]", "sources/categories.csv:3 [English]", "sources/categories.csv:2 [English]"],
  );
  const [made] = await cells("--source", "project.yaml:35");
  assert.equal(made!.header, "Weight kg");
  change("project.yaml", "targets:\n", "operations:\n  - { split: long-gloves, along: Material }\ntargets:\n");
  const moved = await cells("--source", "sources/range.csv:213:Price");
  assert.deepEqual(
    moved.map(({ text }) => text),
    ["24,30"],
  );
  const [row] = await cells("--cell", `02-items.csv:${moved[0]!.line}:Item`);
  assert.equal(row!.text, "long-gloves-cowhide");
  assert.deepEqual(await cells("--source", "sources/range.csv:99999"), []);
  assert.equal((await run("trace", "--cell", "nowhere")).code, 2);
  assert.equal((await run("trace")).code, 2);
});

test("reshape shows what each operation does, and says which is refused", async () => {
  change(
    "project.yaml",
    "targets:\n",
    "operations:\n  - { split: long-gloves, along: Material }\n  - { split: nobody, along: Material }\ntargets:\n",
  );
  const said = await run("reshape");
  assert.equal(said.code, 1);
  assert.match(said.out, /1\. split long-gloves\n {2}long-gloves → long-gloves-goatskin, long-gloves-cowhide\n/);
  assert.match(said.out, /relations +5 +8 +they follow the new products/);
  assert.match(said.out, /1 operation of 2 carried out\. The next one is not possible\./);
  assert.match(said.err, /there is no product "nobody"/);
});

/** Starts the real command and kills it after a while. @returns whether it was still running. */
function killed(after: number, ...argv: string[]): Promise<boolean> {
  return new Promise((resolve) => {
    const child = spawn(process.execPath, [bin, ...argv, ".", "--for", "pennywort"], { cwd: shop, stdio: "ignore" });
    const timer = setTimeout(() => child.kill("SIGKILL"), after);
    child.on("exit", (_, signal) => {
      clearTimeout(timer);
      resolve(signal === "SIGKILL");
    });
  });
}

test("killed at any moment, build leaves no half of a folder and collect doubles nothing; once more, both are done", async () => {
  change("sources/range.csv", "€ 24,00", "€ 27,00");
  const whole = async () => {
    const { code } = await run("build", ...against);
    assert.equal(code, 0);
    return files().map((name) => [name, upload(name)]);
  };
  const expected = await whole();
  let hit = 0;
  for (let at = 0; at < kills; at++) {
    rmSync(join(shop, "upload-pennywort"), { recursive: true, force: true });
    hit += Number(await killed(300 + Math.random() * 900, "build", ...against));
    if (!existsSync(join(shop, "upload-pennywort"))) continue;
    assert.ok(existsSync(join(shop, "upload-pennywort", "datapackage.json")));
    assert.deepEqual(
      files().map((name) => [name, upload(name)]),
      expected,
    );
  }
  rmSync(join(shop, "upload-pennywort"), { recursive: true, force: true });
  assert.deepEqual(await whole(), expected);
  await send({ export: join(shop, "held.json") });
  const before = readFileSync(join(shop, "ledger-pennywort.jsonl"), "utf8");
  for (let at = 0; at < kills; at++) {
    writeFileSync(join(shop, "ledger-pennywort.jsonl"), before);
    hit += Number(await killed(300 + Math.random() * 900, "collect", ...against));
    const { ledger, whole: length } = parseLedger(
      readFileSync(join(shop, "ledger-pennywort.jsonl"), "utf8"),
      "ledger",
      new Findings(),
    );
    assert.ok(length >= before.length && ledger.has("product", "square-veil"));
  }
  assert.ok(hit > 0, "none was still running");
  assert.equal((await run("collect", ...against)).code, 0);
  rmSync(join(shop, "upload-pennywort"), { recursive: true });
  await save();
  await run("build", ...against);
  assert.ok(!existsSync(join(shop, "upload-pennywort")));
});

test("pictures of combined products come once where they show the same, whatever they are called", async () => {
  cpSync(join(shop, "pictures", "square-veil.png"), join(shop, "pictures", "round-veil.png"));
  const combine =
    "{ combine: [square-veil, round-veil], into: veils, axis: Shape, values: { square-veil: Square, round-veil: Round } }";
  change("project.yaml", "targets:\n", `operations:\n  - ${combine}\ntargets:\n`);
  const said = await run("reshape");
  assert.equal(said.code, 0);
  assert.match(said.out, /pictures +6 +5 +1 equal to others/);
});

test("the ledger shows what is known; what is unconfirmed is built again, and restored it is not", async () => {
  const shown = async (...more: string[]) => {
    const said = await run("ledger", "--format", "json", ...more);
    assert.equal(said.code, 0, said.err);
    return JSON.parse(said.out) as {
      known: number;
      unconfirmed: number;
      records: { kind: string; key: string; state: string; fields: string[] }[];
    };
  };
  const all = await shown();
  assert.equal(all.known, all.records.length);
  const one = await shown("--record", "product frame-jig");
  assert.deepEqual([one.records[0]?.key, one.records[0]?.state], ["frame-jig", "confirmed"]);
  assert.ok(one.records[0]?.fields.includes("name@en"));
  const table = await run("ledger");
  assert.match(table.out, /kind +known +with an id +with fields delivered +unconfirmed/);

  const left = await shown("--unconfirm", "product frame-jig");
  assert.deepEqual([left.known, left.unconfirmed], [all.known - 1, 1]);
  await run("build");
  assert.ok(files().some((name) => upload(name).includes("frame-jig")));
  rmSync(join(shop, "upload-pennywort"), { recursive: true });
  const restored = await shown("--restore", "product frame-jig");
  assert.deepEqual([restored.known, restored.unconfirmed], [all.known, 0]);
  await run("build");
  assert.deepEqual(existsSync(join(shop, "upload-pennywort")) ? files() : [], []);
  assert.equal((await run("ledger", "--unconfirm", "product nothing")).code, 2);
  assert.equal((await run("ledger", "--restore", "product frame-jig")).code, 2);
  assert.equal((await run("ledger", "--record", "smoker")).code, 2);
});

test("what a platform made of a value that was sent counts as unchanged, once it was read back", async () => {
  const loud = (item: Record<string, object>) => Object.assign(item["title"]!, { en: "FRAME JIG, LONG" });
  change("sources/range.csv", /;Frame jig;/, ";Frame jig, long;");
  assert.equal((await run("build", ...against)).code, 0);
  await send({ export: join(shop, "held.json") });
  await save("after.json");
  const before = readFileSync(join(shop, "held.json"), "utf8");
  // The platform writes titles in capitals.
  writeFileSync(join(shop, "held.json"), readFileSync(join(shop, "after.json")));
  editHeld(loud, "frame-jig");
  writeFileSync(join(shop, "after.json"), readFileSync(join(shop, "held.json")));
  writeFileSync(join(shop, "held.json"), before);
  const collected = await run("collect", ...against, "--after", "after.json", "--format", "json");
  assert.equal(collected.code, 0, collected.err);
  // What was collected is reported by record and field.
  const { records } = (JSON.parse(collected.out) as { collected: { records: Record<string, unknown>[] } }).collected;
  const field = { field: "name@en", before: "Frame jig", sent: "Frame jig, long" };
  assert.deepEqual(records, [
    { kind: "product", key: "frame-jig", isNew: false, isTaken: true, isDeleted: false, id: null, fields: [field] },
  ]);
  rmSync(join(shop, "upload-pennywort"), { recursive: true });
  const stateOf = async (file: string) => {
    const said = await run("compare", "--export", file, "--format", "json");
    const { records } = JSON.parse(said.out) as { records: { key: string; state: string }[] };
    return records.find(({ key }) => key === "frame-jig")?.state;
  };
  assert.equal(await stateOf("after.json"), undefined);
  await run("build", "--export", "after.json");
  assert.deepEqual(existsSync(join(shop, "upload-pennywort")) ? files() : [], []);
  // Somebody else's change is one; so is one's own.
  writeFileSync(join(shop, "held.json"), readFileSync(join(shop, "after.json")));
  editHeld((item) => Object.assign(item["title"]!, { en: "Jig" }), "frame-jig");
  assert.equal(await stateOf("held.json"), "changed on the platform");
  change("sources/range.csv", /;Frame jig, long;/, ";Frame jig, longer;");
  assert.equal(await stateOf("after.json"), "changed");
  assert.equal((await run("collect", "--after", "nothing.json")).code, 3);
});
