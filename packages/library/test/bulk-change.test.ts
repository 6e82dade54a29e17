/** Bulk changes: a file of the keys and one column, in whatever form of rows, rehearsed on what is there; what means nothing is refused at load. */

import assert from "node:assert/strict";
import { test } from "node:test";
import { build, openProject, openTarget, readSourcesOf, rehearseBulkChange, valueOf } from "#src/index.js";
import { blobFiles, memoryFolder, webPorts } from "#src/web/index.js";

const sheet = {
  "range.csv":
    "Key,Code,Size,Name,Name de,Kilos\nveil,V-1,S,Veil,Schleier,1\nveil,V-2,L,,,2\nhood,H-1,,Hood,Haube,3\ncap,C-1,,Cap,,4\n",
  "range.yaml": `layout: range
rows: { each: variant, of: product, grouped by: Key, shared cells: first row }
columns:
  Key: product.key
  Code: variant.code
  Size: { axis: Size, holds: value@en }
  Name: product.name@en
  Name de: product.name@de
  Kilos: variant.weight
`,
};
const head = `target: own
version: 1
languages: [en, de]
endpoints: { pictures: /p, upload: "/in/{name}", catalogue: /all }
importer: { refusal costs: row, shared cells below the first row: ignore }
`;
const grouped = (rows: string, columns: string) => `${head}files:
  goods:
    layout:
      layout: goods
      format: { csv: { delimiter: ",", line end: lf } }
      language: en
      rows: { each: variant, of: product, ${rows} }
      columns: { ${columns}, Code: variant.code, Differs: { axes: names@en, as: { list: "+" } }, Is: { axes: values@en, as: { list: "+" } }, Kg: variant.weight, On: { field: product.shown, as: { code words: { y: true, n: false } } } }
    columns: { Kg: { blank: leave }, On: { blank: leave } }
imports: [{ file: goods }]
`;
/** By form of rows: the target, and what is written of each bulk change. */
const forms: Readonly<Record<string, { target: string; shown: string; weight: string; german?: string }>> = {
  "grouped rows": {
    target: grouped("grouped by: Ref, shared cells: first row", "Ref: product.key, Name: product.name@en"),
    shown: "Ref,On\nveil,y\nhood,y\ncap,y\n",
    weight: "Ref,Code,Kg\nveil,V-1,9\nveil,V-2,9\nhood,H-1,9\ncap,C-1,9\n",
  },
  "rows in languages": {
    target: grouped(
      "grouped by: Ref, shared cells: first row, language: { column: Lang, code words: { E: en, D: de } }",
      "Ref: product.key, Name: product.name",
    ),
    // What is the same in all languages needs one row; a text has the rows of its language.
    shown: "Lang,Ref,On\nE,veil,y\nE,hood,y\nE,cap,y\n",
    weight: "",
    german: "Lang,Ref,Name\nE,veil,Veil\nD,veil,Neu\nE,hood,Hood\nD,hood,Neu\nE,cap,Cap\nD,cap,Neu\n",
  },
  "a row a record, by its code": {
    target: `${head.replace(", shared cells below the first row: ignore", "")}files:
  goods:
    layout:
      layout: goods
      format: { csv: { delimiter: ",", line end: lf } }
      rows: { each: product }
      columns: { Code: product.code, Name: product.name@en, Kg: product.weight, On: { field: product.shown, as: { code words: { y: true, n: false } } } }
    columns: { On: { blank: leave } }
imports: [{ file: goods }]
`,
    shown: "Code,On\nH-1,y\nC-1,y\n",
    weight: "",
  },
};

async function opened(target: string, bulk: string, rows = sheet["range.csv"]) {
  const files = {
    ...sheet,
    "range.csv": rows,
    "own.yaml": target,
    "project.yaml": `project: p\nlanguages: [en, de]\nsources: [{ file: range.csv, layout: range.yaml }]\ntargets:\n  - target: own.yaml\n    bulk changes: { it: ${bulk} }\n`,
  };
  const blobs = new Map(Object.entries(files).map(([name, text]) => [name, new Blob([text])]));
  const none = () => Promise.resolve(undefined);
  return openProject(webPorts(blobs, none, none));
}

async function built(target: string, bulk: string, rows?: string) {
  const own = valueOf(await openTarget(valueOf(await readSourcesOf(valueOf(await opened(target, bulk, rows))))));
  const { sink, files } = memoryFolder();
  const result = await build(own, { sink, bulkChange: "it" });
  const text = (await files.get("01-it.csv")?.text()) ?? "";
  return { own, files, text, codes: result.findings.list().filter(({ severity }) => severity === "error") };
}

const singles = "Key,Code,Size,Name,Name de,Kilos\nhood,H-1,,Hood,Haube,3\ncap,C-1,,Cap,,4\n";

for (const [form, { target, shown, weight, german = "" }] of Object.entries(forms))
  test(`a bulk change of ${form} has the columns that tell the rows, and the one; it is rehearsed`, async () => {
    const rows = form.startsWith("a row") ? singles : undefined;
    for (const [bulk, wanted] of [
      ['{ field: product.shown, constant: "true" }', shown],
      ['{ field: variant.weight, constant: "9" }', weight],
      ["{ field: product.name@de, constant: Neu }", german],
    ] as const) {
      if (wanted === "") continue;
      const { own, files, text, codes } = await built(target, bulk, rows);
      assert.deepEqual(codes, []);
      assert.equal(text, wanted);
      const verdict = valueOf(await rehearseBulkChange(own, "it", { files: blobFiles(files) }));
      assert.deepEqual([verdict.rebuilt, verdict.counts.refused, verdict.differences], [true, 0, []]);
      assert.ok(verdict.counts.updated > 0);
      // A file that does not do it is seen.
      const cut = new Blob([wanted.split("\n").slice(0, 2).join("\n")]);
      const other = new Map([...files, ["01-it.csv", cut] as const]);
      const less = valueOf(await rehearseBulkChange(own, "it", { files: blobFiles(other) }));
      assert.equal(less.rebuilt, false);
    }
  });

test("a bulk change that the platform would refuse is not written", async () => {
  const target = forms["grouped rows"]!.target.replace("Kg: { blank: leave }", 'Kg: { blank: leave, to: "5" }');
  const { files, codes } = await built(target, '{ field: variant.weight, constant: "9" }');
  assert.equal(files.size, 0);
  assert.ok(codes.length > 0);
});

test("a field that is none, or a value that it does not take, is refused at load, at its line", async () => {
  for (const [bulk, problem] of [
    ['{ field: product.colour, constant: "1" }', /no field "colour"/],
    ['{ field: colour, constant: "1" }', /not a field/],
    ['{ field: price.amount, constant: "1" }', /not a field/],
    ['{ field: product.name, constant: "1" }', /Name one: name@en/],
    ['{ field: product.shown, constant: "perhaps" }', /neither true nor false/],
    ['{ field: variant.weight, constant: "heavy" }', /not a number/],
  ] as const) {
    const result = await opened(forms["grouped rows"]!.target, bulk);
    assert.equal(result.ok, false, bulk);
    const [found] = result.findings.list();
    assert.match(String((found?.facts as { problem: unknown }).problem), problem);
    assert.equal(found?.at?.line, 6);
  }
});
