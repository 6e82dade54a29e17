/** The ledger: ids that are one record's only, lines that were not finished, and what it makes of the next plan. */

import assert from "node:assert/strict";
import { test } from "node:test";
import fc from "fast-check";
import { Findings, Ledger, type LedgerLine } from "#src/index.js";
import { withIds, parseLedger, thereBy, asTargetView } from "#src/parts.js";
import { codes, rangeCsv, rangeLayout, read, single } from "./support.js";

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
