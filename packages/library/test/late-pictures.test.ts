/** Pictures before the files, or after them where the platform looks for their products: in the plan, the rehearsal and what is collected. */

import assert from "node:assert/strict";
import { test } from "node:test";
import { Findings, Ledger, valueOf } from "#src/index.js";
import { buildUpload, collectIds, nothingHeldBack, parseTarget, playUpload, type PictureReport } from "#src/parts.js";
import { nodeSha256 } from "#src/node/index.js";

import { filesOf, kinds, memorySink, read } from "./support.js";

const columns = `
        Item: product.key
        Code: variant.code
        Title: product.name@en
        Pictures: { field: product.pictures.file, as: { list: "|" } }`;

const forms = {
  "grouped rows": [
    "{ each: variant, of: product, grouped by: Item, shared cells: first row }",
    "refusal costs: record, looked up: at the end of the file",
    columns,
  ],
  "a row a record": ["{ each: product }", "refusal costs: row", columns.replace("variant.code", "product.code")],
} as const;

const targetOf = (form: keyof typeof forms, missing: string) =>
  valueOf(
    parseTarget(
      `target: bothy
version: 1
languages: [en]
endpoints: { pictures: /pictures, upload: "/in/{name}", catalogue: /all }
importer: { ${forms[form][1]}, missing pictures: ${missing} }
files:
  goods:
    layout:
      layout: goods
      format: { csv: {} }
      rows: ${forms[form][0]}
      columns:${forms[form][2]}
    columns: { Pictures: { picture: true } }
imports: [{ file: goods }]
`,
      "bothy.yaml",
      kinds,
    ),
  );

const layout = `layout: source\nformat: { csv: { delimiter: ";" } }\nrows: { each: product }\ncolumns:${columns.replace("variant.code", "product.code")}`;

async function built(form: keyof typeof forms, missing: string) {
  const { catalogue } = await read([{ layout, csv: "Item;Code;Title;Pictures\na;A1;Kettle;a.png|b.png\n" }]);
  const target = targetOf(form, missing);
  const sink = memorySink();
  const pictures = new Map(["a.png", "b.png"].map((name) => [name, new Uint8Array([1])] as const));
  const choices = { holdBack: false, despite: new Set<string>(), sha256: nodeSha256, found: new Findings() };
  const upload = valueOf(await buildUpload({ catalogue, target, project: "p", pictures, ...choices }, sink));
  const verdict = valueOf(await playUpload({ catalogue, target, ...upload, files: filesOf(sink.files) }));
  return {
    catalogue,
    target,
    upload,
    verdict,
    names: Object.keys(sink.files).slice(0, 2),
    text: sink.files["01-goods.csv"] ?? "",
  };
}

for (const form of Object.keys(forms) as (keyof typeof forms)[])
  test(`pictures stand before rows that are refused without them, and after rows that await them: ${form}`, async () => {
    const early = await built(form, "refuse");
    assert.deepEqual(early.names, ["01-pictures.zip", "02-goods.csv"]);
    assert.equal(early.verdict.rebuilt, true);
    const late = await built(form, "awaited");
    assert.deepEqual(late.names, ["01-goods.csv", "02-pictures.zip"]);
    assert.equal(late.verdict.rebuilt, true, JSON.stringify(late.verdict.differences));
    assert.deepEqual(
      late.upload.plan.steps.map(({ is }) => is),
      ["save", "upload", "pictures", "look"],
    );
    // The platform that refuses rows without pictures refuses those of the files for the other one.
    const wrong = await playUpload({
      ...late,
      ...late.upload,
      target: targetOf(form, "refuse"),
      files: filesOf({ "01-goods.csv": late.text, "02-pictures.zip": "" }),
    });
    assert.equal(valueOf(wrong).counts.refused, 1);
  });

test("pictures that come last are confirmed by the answer to themselves, those before by the reports of the files", async () => {
  const report = new Map([["01-goods.csv", { refused: null, rows: [{ line: 2, outcome: "created" }] }]]);
  const told = (answer: PictureReport): ReadonlyMap<string, PictureReport> => new Map([["02-pictures.zip", answer]]);
  const taken = (file: string) => ({ file, outcome: "taken" });
  for (const [answered, refused] of [
    [new Map<string, PictureReport>(), undefined],
    [told({ refused: null }), []],
    [told({ refused: "no room" }), ["a.png", "b.png"]],
    [told({ refused: null, pictures: [] }), ["a.png", "b.png"]],
    [told({ refused: null, pictures: [taken("a.png"), { file: "b.png", outcome: "refused" }] }), ["b.png"]],
    [told({ refused: null, pictures: [taken("a.png"), taken("b.png")] }), []],
  ] as const) {
    const { catalogue, target, upload } = await built("a row a record", "awaited");
    const input = { catalogue, kinds, target, plan: upload.plan, heldBack: nothingHeldBack, run: "first" };
    const readExport = () => Promise.resolve(false);
    const collected = await collectIds({ ...input, ledger: new Ledger(), reports: report, answered, readExport });
    const { ledger, refused: count } = valueOf(collected);
    assert.deepEqual(
      collected.findings.list().map(({ code, at }) => [code, at?.file, at?.record?.key]),
      (refused ?? []).map((name) => ["collect/picture-refused", "02-pictures.zip", name]),
    );
    assert.equal(count, refused?.length ?? 0);
    for (const name of ["a.png", "b.png"])
      assert.equal(ledger.has("picture", name), refused !== undefined && !refused.some((one) => one === name));
    assert.equal(ledger.has("product", "a"), true);
  }
});
