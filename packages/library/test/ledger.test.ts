/** The ledger: ids that are one record's only, lines that were not finished, and what it makes of the next plan. */

import assert from "node:assert/strict";
import { test } from "node:test";
import fc from "fast-check";
import { Findings, Ledger, valueOf, type LedgerLine } from "#src/index.js";
import {
  asTargetView,
  nothingHeldBack,
  parseLedger,
  parseTarget,
  planImport,
  rehearseThrough,
  thereBy,
  withIds,
} from "#src/parts.js";
import { withSourceIds } from "#src/ledger/there.js";
import { codes, kinds, pennywort, rangeCsv, rangeLayout, read, single, those } from "./support.js";

const line = (kind: string, key: string, id?: string): LedgerLine => ({
  kind,
  key,
  ...(id === undefined ? {} : { id }),
  state: "confirmed",
  run: "r",
});

test("never gives one id to two records, nor a record two ids, whatever comes", () => {
  const given = fc.array(
    fc.tuple(fc.constantFrom("a", "b", "c"), fc.constantFrom("1", "2", "3"), fc.constantFrom("product", "variant")),
  );
  fc.assert(
    fc.property(given, (lines) => {
      const ledger = new Ledger();
      for (const [key, id, kind] of lines) {
        const before = ledger.id(kind, key);
        const problem = ledger.add(line(kind, key, id));
        if (before !== undefined && before !== id) assert.equal(problem?.code, "ledger/other-id");
        if (problem) assert.equal(ledger.id(kind, key), before);
      }
      for (const kind of ["product", "variant"]) {
        const ids = ["a", "b", "c"].flatMap((key) => ledger.id(kind, key) ?? []);
        assert.equal(new Set(ids).size, ids.length);
      }
    }),
  );
  const ledger = new Ledger();
  assert.equal(ledger.add(line("product", "a", "1")), undefined);
  assert.equal(ledger.add(line("product", "b", "1"))?.code, "ledger/id-taken");
  assert.equal(ledger.add(line("variant", "b", "1")), undefined, "ids are of a kind");
});

test("what is unconfirmed is not known, its id is free; restored, all is known again; and so it reads back", () => {
  const steps = fc.array(
    fc.tuple(fc.constantFrom("add", "unconfirm", "restore"), fc.constantFrom("a", "b"), fc.constantFrom("1", "2")),
  );
  fc.assert(
    fc.property(steps, (given) => {
      const ledger = new Ledger();
      const ids = new Map<string, string>();
      const before = new Map<string, string>();
      for (const [step, key, id] of given) {
        const isFree = ![...ids].some(([other, own]) => other !== key && own === id);
        if (step === "add") {
          const problem = ledger.add(line("product", key, id));
          const known = ids.get(key);
          assert.equal(problem === undefined, isFree && (known === undefined || known === id));
          if (!problem) ids.set(key, id);
        } else if (step === "unconfirm") {
          assert.equal(ledger.unconfirm("product", key, "r"), ids.has(key));
          if (ids.has(key)) before.set(key, ids.get(key)!);
          ids.delete(key);
        } else if (before.has(key)) {
          const own = before.get(key)!;
          const isTaken = !ids.has(key) && [...ids].some(([other, one]) => other !== key && one === own);
          assert.equal(ledger.restore("product", key, "r")?.code, isTaken ? "ledger/id-taken" : undefined);
          if (isTaken) continue;
          if (!ids.has(key)) ids.set(key, own);
          before.delete(key);
        }
        for (const one of ["a", "b"]) assert.equal(ledger.id("product", one), ids.get(one));
      }
      const again = parseLedger(ledger.addedText(), "l.jsonl", new Findings()).ledger;
      for (const one of ["a", "b"]) assert.equal(again.id("product", one), ids.get(one));
    }),
  );
  const ledger = new Ledger();
  ledger.add(line("product", "a", "1"));
  ledger.noteDelivered("product", "a", { "name@en": "0011", weight: ["22", "33"] }, "r");
  ledger.unconfirm("product", "a", "r");
  assert.deepEqual([ledger.has("product", "a"), ledger.delivered("product", "a")], [false, undefined]);
  assert.deepEqual(
    ledger.records().map(({ key, id, isUnconfirmed }) => [key, id, isUnconfirmed]),
    [["a", undefined, true]],
  );
  ledger.restore("product", "a", "r");
  assert.deepEqual(ledger.delivered("product", "a"), { "name@en": "0011", weight: ["22", "33"] });
});

test("what is appended batch by batch reads back, wherever the writing was cut off", () => {
  const batches = fc.array(fc.array(fc.tuple(fc.nat(20), fc.boolean()), { maxLength: 5 }), {
    minLength: 1,
    maxLength: 5,
  });
  fc.assert(
    fc.property(batches, fc.nat(2000), (given, cut) => {
      const ledger = new Ledger();
      let text = "";
      const ends = [0];
      for (const batch of given) {
        for (const [n, hasId] of batch) ledger.add(line("product", `p${n}`, hasId ? String(n) : undefined));
        text += ledger.addedText();
        ledger.forgetAdded();
        ends.push(text.length);
      }
      const torn = text.slice(0, Math.min(cut, text.length));
      const findings = new Findings();
      const { ledger: again, whole } = parseLedger(torn, "l.jsonl", findings);
      assert.equal(whole, Math.max(...ends.filter((end) => end <= torn.length)), "up to the last whole batch");
      const isTorn = whole < torn.length;
      assert.deepEqual(codes(findings.list()), isTorn ? ["ledger/torn-batch"] : []);
      // What is whole is as it was; nothing else is known.
      const { ledger: same } = parseLedger(text.slice(0, whole), "l.jsonl", new Findings());
      assert.equal(again.size, same.size);
      for (let n = 0; n <= 20; n++) assert.equal(again.id("product", `p${n}`), same.id("product", `p${n}`));
      if (!isTorn && torn.length === text.length)
        for (let n = 0; n <= 20; n++) assert.equal(again.id("product", `p${n}`), ledger.id("product", `p${n}`));
    }),
  );
});

test("reports lines that are none, and a batch with other lines than it was closed with", () => {
  const findings = new Findings();
  const lines = [line("product", "a", "1"), "nonsense", { kind: "x" }, line("product", "b", "2")];
  const text = lines.map((one) => `${typeof one === "string" ? one : JSON.stringify(one)}\n`).join("");
  const { ledger } = parseLedger(`${text}{"batch":"whole","lines":5}\n`, "l.jsonl", findings);
  assert.deepEqual(
    findings.list().map((one) => [one.code, one.at?.line]),
    [
      ["ledger/no-line", 2],
      ["ledger/no-line", 3],
      ["ledger/other-count", 5],
    ],
  );
  assert.equal(ledger.id("product", "b"), "2");
});

test("puts ids into the catalogue, takes back those that it does not know, and tells what is there", async () => {
  const { catalogue } = await read([{ layout: rangeLayout, csv: rangeCsv(single("a"), single("b")) }]);
  const ledger = new Ledger();
  ledger.add(line("product", "a", "17"));
  ledger.add({ kind: "product", key: "a", entry: "prices", state: "confirmed", run: "r" });
  ledger.add({ kind: "product", key: "b", lang: "de", state: "sent", run: "r" });
  const old = catalogue.branch();
  old.table("product").setText("id", 1, "99");
  const products = withIds(asTargetView(old), ledger).table("product");
  assert.deepEqual([products.text("id", 0), products.text("id", 1)], ["17", undefined]);
  assert.equal(old.table("product").text("id", 1), "99", "what was given stays as it was");
  const there = thereBy(ledger, catalogue);
  assert.deepEqual([there.isThere("product", 0), there.isThere("product", 1)], [true, false]);
  assert.equal(there.isAdded("product.prices", "product", 0), true);
  assert.equal(there.isAdded("product@de", "product", 1), false, "sent is not there");
});

const quay = `target: quay
version: 1
languages: [en]
endpoints: { pictures: /pictures, upload: "/in/{name}", catalogue: /all }
importer: { refusal costs: row, identified by: { category: [id, key], product: [id, key] } }
files:
  shelves:
    ids: { told: report }
    layout:
      layout: quay-shelves
      format: { csv: {} }
      rows: { each: category }
      columns: { Id: category.id, Tag: category.key, Title: category.name@en }
  goods:
    ids: { told: report }
    layout:
      layout: quay-goods
      format: { csv: {} }
      rows: { each: product }
      columns: { Id: product.id, Item: product.key, Title: product.name@en, Shelves: { field: product.categories, as: { list: "|", of: { by: id } } } }
imports: [{ file: shelves }, { file: goods }]
`;

/** Shelves of which the sources know some ids, and goods on them. */
async function shelvesAndGoods(ids: readonly string[]) {
  const shelves = `layout: shelves\nformat: { csv: {} }\nrows: { each: category }\ncolumns: { Tag: category.key, No: category.id, Title: category.name@en }\n`;
  const goods = `layout: goods\nformat: { csv: {} }\nrows: { each: product }\ncolumns: { Item: product.key, Title: product.name@en, Shelf: { field: product.categories, as: { list: "|", of: { by: key } } } }\n`;
  const { catalogue } = await read([
    { layout: shelves, csv: `Tag,No,Title\n${ids.map((id, at) => `s${at},${id},Shelf ${at}\n`).join("")}` },
    { layout: goods, csv: `Item,Title,Shelf\n${ids.map((_, at) => `g${at},Good ${at},s${at}\n`).join("")}` },
  ]);
  return catalogue;
}

test("ids from a column of a source are known like those of the ledger: their records are there, and named by them", async () => {
  const target = valueOf(parseTarget(quay, "quay.yaml", kinds));
  await fc.assert(
    fc.asyncProperty(fc.array(fc.boolean(), { minLength: 1, maxLength: 6 }), async (known) => {
      const given = await shelvesAndGoods(known.map((isKnown, at) => (isKnown ? String(17 + at) : "")));
      const findings = new Findings();
      const ledger = withSourceIds(new Ledger(), given, target, findings);
      const catalogue = withIds(given, ledger);
      const options = { bytesOf: () => 0, headerBytes: () => 0, pictures: [], there: thereBy(ledger, catalogue) };
      const plan = valueOf(planImport(catalogue, target, options));
      const isAll = known.every((one) => one);
      assert.equal(
        plan.steps.some(({ is }) => is === "collect"),
        !isAll,
        "only ids that are not known are collected",
      );
      assert.ok(
        plan.steps.some(({ is }) => is === "save"),
        "nothing was uploaded yet",
      );
      const verdict = await rehearseThrough({ catalogue, target, heldBack: nothingHeldBack, pictureNames: [], ledger });
      assert.equal(verdict.rebuilt, true, JSON.stringify(verdict.differences));
      assert.equal(verdict.counts.created, known.length + known.filter((one) => !one).length);
      assert.deepEqual(codes(findings.list()), known.includes(true) ? ["ledger/ids-in-sources"] : []);
      assert.equal(ledger.addedText(), "", "it is not the ledger's own");
    }),
    { numRuns: 30 },
  );
});

test("where the ids of sources and of the ledger contradict each other, it is reported and the ledger counts", async () => {
  const target = valueOf(parseTarget(quay, "quay.yaml", kinds));
  const catalogue = await shelvesAndGoods(["17", "18", "17"]);
  const own = new Ledger();
  own.add(line("category", "s1", "99"));
  const findings = new Findings();
  const ledger = withSourceIds(own, catalogue, target, findings);
  const [other] = those(findings.list(), "ledger/other-id");
  assert.deepEqual([other?.at?.line, other?.at?.column], [3, "No"]);
  const [taken] = those(findings.list(), "ledger/id-taken");
  assert.equal(taken?.at?.line, 4);
  assert.deepEqual(
    ["s0", "s1", "s2"].map((key) => ledger.id("category", key)),
    ["17", "99", undefined],
  );
  // A platform whose files know no ids is not asked for any.
  assert.equal(withSourceIds(own, catalogue, pennywort(), findings), own);
});
