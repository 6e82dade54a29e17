/** What programs with a face need: layouts and projects changed by hand, plans laid out, rehearsals told step by step, files in memory. */

import assert from "node:assert/strict";
import { createHash } from "node:crypto";
import { test } from "node:test";
import fc from "fast-check";
import {
  valueOf,
  addSource,
  addTarget,
  bindableFields,
  bindColumn,
  combinationsOf,
  Findings,
  layoutLines,
  planDiagram,
  readWholeZip,
  writeZip,
  type PlayedStep,
} from "#src/index.js";
import { compileLayout, parseGiven, prepareBuild, playUpload, uploadRows, buildUpload } from "#src/parts.js";
import { givenLayout, givenProject } from "#src/schemas.js";
import { blobFiles, memoryFolder, webSha256 } from "#src/web/index.js";
import { bytesOf, codes, kinds, layoutOf, pennywort, read } from "./support.js";

const layout = `# By hand.
layout: hives
format: { csv: { delimiter: ";" } }
rows: { each: variant, of: product, grouped by: Range, shared cells: first row }
columns:
  Range: product.key # sure: it groups the rows
  No: variant.code
  Name: product.name@en # likely: a word
  Wood: { axis: Wood, holds: value@en }
  Price: { field: variant.prices(price).amount, as: { decimal: "," } }
ignore: [Remarks]
`;
const csv = "Range;No;Name;Wood;Price;Remarks\nh;h-1;Hive;Cedar;10,50;x\nh;h-2;;Pine;11;\ng;g-1;Glass hive;;99;\n";

const compiles = (text: string): Findings => {
  const findings = new Findings();
  const given = findings.took(parseGiven(text, "layout.yaml", givenLayout));
  if (given) findings.took(compileLayout(given.value, given.at, kinds));
  return findings;
};

test("the columns of a layout are listed in their order, each with its comment", () => {
  const lines = layoutLines(layout);
  assert.deepEqual(lines[0], { header: "Range", binding: "product.key", comment: "sure: it groups the rows" });
  assert.equal(lines.find(({ header }) => header === "Wood")?.binding, "{ axis: Wood, holds: value@en }");
  assert.deepEqual(lines.at(-1), { header: "Remarks", binding: undefined, comment: undefined });
  assert.deepEqual(layoutLines("columns: [never, closed"), []);
  assert.deepEqual(layoutLines("42"), []);
});

test("binding one column leaves all else in the layout as it was, comments too", () => {
  const bound = bindColumn(layout, "Name", "product.name@de")!;
  assert.match(bound, /^# By hand\./);
  assert.match(bound, /Range: product\.key # sure: it groups the rows/);
  assert.match(bound, /Name: product\.name@de\n/, "the old reason is gone with the old binding");
  assert.deepEqual(compiles(bound).list(), []);
  const taken = bindColumn(layout, "Remarks", "{ field: product.brand, as: { by: name@en } }")!;
  assert.deepEqual(
    layoutLines(taken).map(({ header }) => header),
    ["Range", "No", "Name", "Wood", "Price", "Remarks"],
  );
  assert.doesNotMatch(taken, /ignore/);
  assert.deepEqual(compiles(taken).list(), []);
  const ignored = bindColumn(layout, "Wood", "ignored")!;
  assert.deepEqual(
    layoutLines(ignored)
      .filter(({ binding }) => binding === undefined)
      .map(({ header }) => header),
    ["Remarks", "Wood"],
  );
  assert.deepEqual(
    layoutLines(bindColumn(layout, "Wood", undefined)!).map(({ header }) => header),
    ["Range", "No", "Name", "Price", "Remarks"],
  );
});

test("a layout, or a binding, that is not a YAML is left as it is", () => {
  assert.equal(bindColumn("columns: [never, closed", "A", "product.key"), undefined);
  assert.equal(bindColumn(layout, "Name", "{ field: product.name"), undefined);
  assert.equal(bindColumn(layout, "Name", ""), undefined);
  assert.equal(bindColumn("just a text", "Name", "product.key"), undefined);
});

test("a drafted layout without columns takes its first", () => {
  const bound = bindColumn("layout: x\nrows: { each: product }\ncolumns: {}\n", "A: b", "product.key")!;
  assert.deepEqual(layoutLines(bound), [{ header: "A: b", binding: "product.key", comment: undefined }]);
});

test("whatever the header, it is bound, told and unbound again", () => {
  fc.assert(
    fc.property(fc.string({ minLength: 1, unit: "grapheme" }), (header) => {
      const bound = bindColumn(layout, header, "product.brand");
      assert.ok(bound !== undefined);
      assert.equal(layoutLines(bound).find((line) => line.header === header)?.binding, "product.brand");
      const ignored = bindColumn(bound, header, "ignored")!;
      assert.equal(layoutLines(ignored).filter((line) => line.header === header).length, 1);
      assert.ok(!layoutLines(bindColumn(ignored, header, undefined)!).some((line) => line.header === header));
    }),
  );
});

test("every field that is offered for a column can be bound, as it is or with a codec", () => {
  const { shape } = layoutOf(layout);
  const fields = bindableFields(shape, ["en", "de"]);
  assert.ok(fields.includes("product.name@de") && fields.includes("variant.barcode") && fields.includes("product.key"));
  for (const field of fields) {
    const text = bindColumn(layout, "Remarks", field)!;
    const problems = compiles(text)
      .list()
      .map(({ facts }) => JSON.stringify(facts));
    assert.ok(!problems.some((one) => /is not a field|is nothing that/.test(one)), `${field}: ${problems.join()}`);
  }
});

test("a project takes more sources and targets", () => {
  const text =
    'project: "hives: all"\nsources:\n  - { file: a b.csv, layout: layouts/a.yaml }\npictures: pictures\ntargets:\n  - { target: pennywort }\n';
  const more = addTarget(addSource(text, { file: "c.zip", within: "c.csv", layout: "layouts/c.yaml" })!, "saltmarsh")!;
  const findings = new Findings();
  const given = findings.took(parseGiven(more, "project.yaml", givenProject));
  assert.deepEqual(findings.list(), []);
  assert.equal(given?.value.project, "hives: all");
  assert.deepEqual(
    given.value.sources.map(({ file }) => file),
    ["a b.csv", "c.zip"],
  );
  assert.deepEqual(
    given.value.targets.map(({ target }) => target),
    ["pennywort", "saltmarsh"],
  );
  assert.equal(addSource("no project", { file: "x", layout: "y" }), undefined);
});

test("combinations: which there are, which are missing, and how many there could be", async () => {
  const text = layout.replace(
    "  Wood: { axis: Wood, holds: value@en }\n",
    "  Wood: { axis: Wood, holds: value@en }\n  Size: { axis: Size, holds: value@en }\n",
  );
  const rows =
    "Range;No;Name;Wood;Size;Price\nh;h-1;Hive;Cedar;S;1\nh;h-2;;Cedar;L;1\nh;h-3;;Pine;S;1\ng;g-1;Glass;;;9\n";
  const { catalogue } = await read([{ layout: text, csv: rows }]);
  const products = catalogue.table("product");
  const { axes, values, possible, variantOf } = combinationsOf(catalogue, products.find("h")!);
  assert.equal(axes.length, 2);
  assert.equal(possible, 4);
  const codesOf = values[0]!.map((wood) =>
    values[1]!.map((size) => {
      const row = variantOf([wood, size]);
      return row === undefined ? undefined : catalogue.table("variant").text("code", row);
    }),
  );
  assert.deepEqual(codesOf, [
    ["h-1", "h-2"],
    ["h-3", undefined],
  ]);
  assert.equal(combinationsOf(catalogue, products.find("g")!).possible, 0);
});

test("an upload built into memory reads as it was written, and its rehearsal reports each step", async () => {
  const findings = new Findings();
  const { catalogue } = await read([{ layout, csv }], findings);
  const target = pennywort();
  const folder = memoryFolder();
  const common = { catalogue, target, holdBack: false, despite: new Set<string>() };
  const upload = findings.took(
    await buildUpload(
      { ...common, project: "hives", pictures: new Map(), sha256: webSha256, found: new Findings() },
      folder.sink,
    ),
  );
  assert.ok(upload, codes(findings.list()).join());
  assert.ok(folder.files.has("run-sheet.html") && folder.files.has("datapackage.json"));
  for (const { name, sha256, bytes } of upload.files) {
    if (name === "datapackage.json") continue;
    const content = new Uint8Array(await folder.files.get(name)!.arrayBuffer());
    assert.equal(content.length, bytes);
    assert.equal(createHash("sha256").update(content).digest("hex"), sha256);
  }
  const told: PlayedStep[] = [];
  const rehearsed = await playUpload({
    ...common,
    ...upload,
    files: blobFiles(folder.files),
    played: (step) => void told.push(step),
  });
  assert.ok(rehearsed.ok && rehearsed.value.rebuilt);
  assert.deepEqual(
    told.map(({ step }) => step),
    upload.plan.steps.map(({ number }) => number),
  );
  const last = told.at(-1)!.held;
  assert.deepEqual([last.get("product"), last.get("variant")], [2, 3]);
  const first = upload.plan.steps.find((step) => step.is === "upload")!;
  assert.equal(
    told.find(({ step }) => step === first.number - 1)?.held.get("product") ?? 0,
    0,
    "nothing is there before it is uploaded",
  );

  const { headers, rows } = uploadRows(catalogue, target, first, first.files[0]!, { isLeftOut: () => false });
  const listed = [...rows];
  const text = (await folder.files.get(first.files[0]!.name)!.text())
    .replace(/^\ufeff/, "")
    .trimEnd()
    .split(/\r?\n/);
  assert.equal(listed.length, text.length - 1);
  assert.deepEqual(
    listed.map(({ line }) => line),
    listed.map((_, at) => at + 2),
  );
  assert.ok(headers.every((header) => text[0]!.includes(header)));
});

test("a sink that is discarded leaves nothing", async () => {
  const folder = memoryFolder();
  await folder.sink.write("a.csv", [new Uint8Array([1])]);
  assert.equal(folder.files.size, 0);
  await folder.sink.discard();
  await folder.sink.finish();
  assert.equal(folder.files.size, 0);
});

test("dropped files are read by their paths, listed by their folder, and missing ones are reported", async () => {
  const files = blobFiles(
    new Map([
      ["sources/a.csv", new Blob(["12"])],
      ["sources/deep/b.csv", new Blob(["3"])],
      ["c.csv", new Blob([])],
    ]),
  );
  assert.deepEqual(await files.list("sources/"), [{ name: "a.csv", bytes: 2 }]);
  assert.deepEqual(await files.list("."), [{ name: "c.csv", bytes: 0 }]);
  assert.deepEqual(await files.list("elsewhere"), []);
  const opened = await files.read("./sources/a.csv");
  assert.ok(opened.ok);
  const chunks: number[] = [];
  for await (const chunk of opened.value) chunks.push(...chunk);
  assert.deepEqual(chunks, [49, 50]);
  const missing = await files.read("nowhere.csv");
  assert.deepEqual(codes(missing.findings.list()), ["read/missing-file"]);
});

test("the plan as a picture: each step has a box but those that collect ids, and lines lead forward", async () => {
  const { catalogue } = await read([{ layout, csv }]);
  const prepared = valueOf(
    prepareBuild({
      catalogue,
      target: pennywort(),
      holdBack: false,
      despite: new Set(),
      pictureNames: [],
      found: new Findings(),
    }),
  );
  const { boxes, bars, edges, width, height, box } = planDiagram(prepared.plan);
  const { steps } = prepared.plan;
  assert.equal(boxes.length + bars.length, steps.length);
  for (const { x, y } of boxes) assert.ok(x >= 0 && y >= 0 && x + box.width <= width && y + box.height <= height);
  for (const { from, to } of edges) assert.ok(from < to);
});

test("a whole archive is unpacked, and one that leads out of its folder is refused", async () => {
  const files = new Map([
    ["project.yaml", new Uint8Array([1, 2])],
    ["sources/a.csv", new Uint8Array(70_000).fill(65)],
    ["empty.csv", new Uint8Array(0)],
  ]);
  const whole = valueOf(await readWholeZip(bytesOf(writeZip(files), 1_000), "p.zip"));
  assert.deepEqual(
    new Map([...whole].map(([name, bytes]) => [name, [...bytes].join()])),
    new Map([...files].map(([name, bytes]) => [name, [...bytes].join()])),
  );
  const broken = await readWholeZip(bytesOf(writeZip(new Map([["../out.csv", new Uint8Array([1])]]))), "p.zip");
  assert.ok(!broken.ok);
  assert.deepEqual(codes(broken.findings.list()), ["read/zip-broken"]);
});
