/** Reports that a target reads by a layout: the records that they tell an id of were taken, and are known by it from then on. */

import assert from "node:assert/strict";
import { test } from "node:test";
import fc from "fast-check";
import { Findings, Ledger, valueOf } from "#src/index.js";
import { collectIds, nothingHeldBack, parseTarget, planImport, thereBy } from "#src/parts.js";
import { readSource } from "#src/project/sources.js";
import { codes, filesOf, kinds, read, those } from "./support.js";

const targetOf = (ids: string) => `target: quay
version: 1
languages: [en]
endpoints: { pictures: /pictures, upload: "/in/{name}", catalogue: /all }
importer: { refusal costs: row, identified by: { product: [id, key] } }
files:
  goods:
    ids: ${ids}
    layout:
      layout: quay-goods
      format: { csv: {} }
      rows: { each: product }
      columns: { Id: product.id, Item: product.key, Title: product.name@en }
imports: [{ file: goods }]
`;

const told =
  "{ told: report, matched by: [key, name], layout: { layout: answer, language: en, format: { csv: { delimiter: ';' } }, rows: { each: product }, columns: { Number: product.id, Ref: product.key, Called: product.name@en } } }";

async function collected(report: string | undefined, count: number) {
  const target = valueOf(parseTarget(targetOf(told), "quay.yaml", kinds));
  const lines = Array.from({ length: count }, (_, at) => `g${at},Good ${at}\n`);
  const layout =
    "layout: goods\nformat: { csv: {} }\nrows: { each: product }\ncolumns: { Item: product.key, Title: product.name@en }\n";
  const { catalogue } = await read([{ layout, csv: `Item,Title\n${lines.join("")}` }]);
  const ledger = new Ledger();
  const options = { bytesOf: () => 0, headerBytes: () => 0, pictures: [], there: thereBy(ledger, catalogue) };
  const plan = valueOf(planImport(catalogue, target, options));
  return collectIds({
    ...{ catalogue, kinds, target, plan, heldBack: nothingHeldBack, ledger, run: "first", reports: new Map() },
    readExport: () => Promise.resolve(false),
    async readReport(name, by, into, findings) {
      assert.equal(name, "01-goods.csv");
      if (report === undefined) return false;
      await readSource({ file: "answer.csv", layout: by }, into, filesOf({ "answer.csv": report }), findings);
      return true;
    },
  });
}

test("records that are told with an id are confirmed with it, the others are refused", async () => {
  await fc.assert(
    fc.asyncProperty(
      fc.array(fc.constantFrom("key", "name", "nothing"), { minLength: 1, maxLength: 7 }),
      async (ways) => {
        const rows = ways.flatMap((way, at) =>
          way === "nothing"
            ? []
            : [
                `${100 + at};${way === "key" ? `g${at}` : `other-${at}`};${way === "name" ? `Good ${at}` : "Renamed"}\n`,
              ],
        );
        const result = await collected(`Number;Ref;Called\n${rows.reverse().join("")}`, ways.length);
        if (rows.length === 0) return;
        const { ledger, refused, ids } = valueOf(result);
        ways.forEach((way, at) => {
          assert.equal(ledger.id("product", `g${at}`), way === "nothing" ? undefined : String(100 + at));
          assert.equal(ledger.has("product", `g${at}`), way !== "nothing");
        });
        assert.equal(ids, rows.length);
        assert.equal(refused, ways.length - rows.length);
        assert.equal(those(result.findings.list(), "collect/refused").length, refused);
      },
    ),
    { numRuns: 40 },
  );
});

test("a report that is missing, and one that tells a record twice, are findings", async () => {
  assert.ok(codes((await collected(undefined, 1)).findings.list()).includes("collect/no-report"));
  const twice = await collected("Number;Ref;Called\n1;a;Good 0\n2;b;Good 0\n", 1);
  assert.ok(codes(twice.findings.list()).includes("collect/ambiguous"));
});

test("words of ids that mean nothing are refused at their line", () => {
  for (const [ids, says] of [
    ["{ told: report, export: /ids }", /"export" means nothing without "told: export"/],
    ["{ told: report, matched by: [name] }", /"matched by" means nothing without "layout"/],
    ["{ told: export }", /need its layout/],
    [
      "{ told: report, layout: { layout: x, rows: { each: product }, columns: { Ref: product.key } } }",
      /no column with ids/,
    ],
  ] as const) {
    const text = targetOf(ids);
    const findings = new Findings();
    assert.equal(findings.took(parseTarget(text, "quay.yaml", kinds)), undefined, ids);
    const [mistake] = those(findings.list(), "target/mistake");
    assert.match(String((mistake?.facts as { problem: unknown }).problem), says);
    assert.equal(mistake?.at?.line, 8);
  }
});
