/** A later import, on each stand-in: exactly what was to change has changed, and nothing else. */

import assert from "node:assert/strict";
import { mkdtempSync, readFileSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { after, before, test } from "node:test";
import { fileURLToPath } from "node:url";
import { main } from "#src/main.js";
import type { LaterImport } from "#src/later-import.js";

interface Cell {
  readonly code: string;
  readonly column: string;
  readonly was: string;
  readonly now: string;
}
const changes = JSON.parse(
  readFileSync(fileURLToPath(new URL("../../../../demo/later/changes.json", import.meta.url)), "utf8"),
) as { cells: Cell[]; gone: string[]; twice: { code: string; keys: string[] } };
const of = (column: string) => changes.cells.filter((cell) => cell.column === column);

let work: string;
before(() => {
  work = mkdtempSync(join(tmpdir(), "zest-tier-later-"));
});
after(() => rmSync(work, { recursive: true, force: true }));

async function laterImport(target: string): Promise<{ result: LaterImport; held: Record<string, never[]> }> {
  let out = "";
  const io = {
    out: (text: string) => (out += text),
    err: () => undefined,
    cwd: work,
    colour: false,
    width: 120,
    height: 40,
    watched: false,
    stopped: () => Promise.resolve(),
  };
  const code = await main(["demo", "shop", "--later", "--for", target, "--format", "json"], io);
  assert.equal(code, 0);
  const [result] = (JSON.parse(out) as { imports: LaterImport[] }).imports;
  const held = JSON.parse(
    readFileSync(join(work, "shop", `later-${target}`, `export-${target}.json`), "utf8"),
  ) as Record<string, never[]>;
  return { result: result!, held };
}

const decimal = (price: string): string => String(Number(price.replace("€ ", "").replace(",", ".")));
const rowsOf = ({ rounds }: LaterImport) =>
  rounds.flatMap(({ delivered }) => delivered.map(({ name, rows }) => [name, rows.length] as const));
const assertSettled = (result: LaterImport) => {
  assert.deepEqual(result.left, []);
  assert.equal(result.again, 0);
  assert.ok(result.rounds.every(({ asExpected }) => asExpected));
  const twice = result.errors.filter(({ code }) => code === "check/repeated-code");
  assert.deepEqual(
    twice.map(({ facts }) => (facts as { code: string }).code),
    [changes.twice.code],
  );
};

test("the later sources are forty cells apart from the clean ones", () => {
  assert.equal(changes.cells.length, 40);
  assert.deepEqual(
    [of("Price").length, of("Name").length, of("Beschreibung").length, of("In stock").length],
    [30, 4, 3, 3],
  );
});

interface Item {
  item: string;
  title: { en: string; de: string | null };
  text: { de: string | null };
  shown: boolean;
  codes: { code: string; price: string; stock: number }[];
}

test("Pennywort: a row for each price, name and text that changes; codes move; what others changed stays", async () => {
  const { result, held } = await laterImport("pennywort");
  assertSettled(result);
  // Besides the forty: the set whose price is the sum of its parts; two that went with what was reshaped.
  assert.deepEqual(rowsOf(result), [
    ["01-items.csv", 12],
    ["02-links.csv", 2],
    ["03-items-changes.csv", 4 + 3],
    ["04-items-changes-of-variants.csv", 30 + 1],
    ["05-items-retired.csv", 1],
  ]);
  assert.deepEqual(result.states, {
    "changed on the platform": 5,
    "no longer in your sources": 5,
    // The code that two records have is not clear: it is not compared.
    changed: 54,
    new: 4,
  });
  const items = held["items"] as unknown as Item[];
  const codes = new Map(items.flatMap((item) => item.codes.map((code) => [code.code, { ...code, item }] as const)));
  for (const { code, now } of of("Price")) assert.equal(codes.get(code)!.price, decimal(now));
  for (const { code, now } of of("Name")) assert.equal(codes.get(code)!.item.title.en, now);
  for (const { code, now } of of("Beschreibung")) assert.equal(codes.get(code)!.item.text.de, now);
  for (const { code, was } of of("In stock")) assert.equal(String(codes.get(code)!.stock), was);
  assert.deepEqual([codes.get("BC-WK-1M")!.stock, codes.get("BC-WM")!.stock, codes.get("BC-UB")!.price], [3, 1, "61"]);
  assert.equal(items.find(({ item }) => item === "crown-board")!.title.de, "Abdeckbrett");
  assert.equal(items.find(({ item }) => item === "frame-jig")!.shown, false);
  assert.deepEqual(
    ["veils", "square-veil", "long-gloves", "long-gloves-goatskin"].map(
      (item) => items.find((one) => one.item === item)?.codes.length,
    ),
    [2, undefined, undefined, 5],
  );
  assert.equal(codes.get(changes.twice.code)!.item.item, changes.twice.keys[1]);
});

interface Good {
  tag: string;
  title: string;
  code: string | null;
  open: boolean;
  bends: { from: string }[];
  words: Record<string, { title: string | null }>;
}
interface Form {
  tag: string;
  good: string;
  code: string;
  state: string;
}

test("Saltmarsh: old records let go of their codes, new ones get ids; old addresses lead on", async () => {
  const { result, held } = await laterImport("saltmarsh");
  assertSettled(result);
  const rows = new Map(rowsOf(result));
  // Old addresses lead on when the new ones are there.
  const names = rowsOf(result).map(([name]) => name);
  const bends = names.find((name) => name.endsWith("-bends.tsv"))!;
  assert.ok(names.indexOf(bends) > names.indexOf("02-goods-changes.tsv"), names.join());
  assert.deepEqual(
    [
      "01-goods-released.tsv",
      "02-forms-released.tsv",
      "03-goods-retired.tsv",
      "02-goods.tsv",
      "01-forms.tsv",
      bends,
      "02-goods-changes.tsv",
    ].map((name) => rows.get(name)),
    // Goods gone: one that vanished, two that were combined, one that was split.
    [2, 10, 4, 3, 12, 7, 4],
  );
  assert.equal(rows.get("01-amounts.tsv"), 30 + 1 + 12);
  const [stays] = result.warnings.filter(({ code }) => code === "change/cannot-remove");
  assert.match((stays!.facts as { examples: string[] }).examples.join(), /product full-suit: relations/);
  const goods = held["goods"] as unknown as Good[];
  const forms = held["forms"] as unknown as Form[];
  const good = (tag: string) => goods.find((one) => one.tag === tag)!;
  assert.deepEqual(
    forms
      .filter((form) => form.good === "veils")
      .map((form) => form.code)
      .sort(),
    ["BC-VR", "BC-VS"],
  );
  assert.deepEqual([good("square-veil").code, good("square-veil").open, good("frame-jig").open], [null, false, false]);
  assert.ok(good("veils").bends.some(({ from }) => from === "folding-veil"));
  assert.equal(
    forms
      .filter((form) => form.good === "long-gloves")
      .every((form) => form.state === "gone" && form.code.endsWith("-old")),
    true,
  );
  assert.equal(good("crown-board").words["de"]!.title, "Abdeckbrett");
  for (const { now } of of("Name")) assert.ok(goods.some(({ title }) => title === now));
});

test("Tollgate: the whole range goes at once, every record that it deletes told before, stock as the tills left it", async () => {
  const { result, held } = await laterImport("tollgate");
  assertSettled(result);
  const deleted = result.errors
    .filter(({ code }) => code === "change/would-delete")
    .map(({ facts }) => (facts as { key: string }).key);
  // What operations made others of needs no word.
  assert.deepEqual(deleted, ["frame-jig", "BC-FJ"]);
  const articles = held["articles"] as unknown as {
    number: string;
    codes: { code: string; price: string; stock: { Barn: string } }[];
  }[];
  const codes = new Map(articles.flatMap(({ codes: own }) => own.map((code) => [code.code, code] as const)));
  for (const { code, now } of of("Price")) assert.equal(codes.get(code)!.price, decimal(now));
  for (const { code, was } of of("In stock")) if (code !== "BC-UB") assert.equal(codes.get(code)!.stock.Barn, was);
  assert.deepEqual([codes.get("BC-WK-1M")!.stock.Barn, codes.get("BC-UB")!.stock.Barn], ["3", "2"]);
  assert.ok(!articles.some(({ number }) => ["frame-jig", "long-gloves", "queen-candy"].includes(number)));
});
