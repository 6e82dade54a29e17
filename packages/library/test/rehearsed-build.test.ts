/** A build rehearses what it has written before that counts: what the platform would refuse is an error at its cell. */

import assert from "node:assert/strict";
import { test } from "node:test";
import {
  build,
  Findings,
  openProject,
  openTarget,
  planUpload,
  readSourcesOf,
  rehearse,
  valueOf,
  type BuildChoices,
  type Verdict,
} from "#src/index.js";
import { blobFiles, memoryFolder, webPorts } from "#src/web/index.js";
import { unforeseen } from "#src/verdict/unforeseen.js";
import { codes, one, pennywortText, those } from "./support.js";

const layout = `layout: range
format: { csv: { delimiter: ";" } }
rows: { each: variant, of: product, grouped by: Range, shared cells: first row }
columns:
  Range: product.key
  No: variant.code
  Name: product.name@en
  Merkmal: { axis: 1, holds: name@de }
  Wert: { axis: 1, holds: value@de }
  Price: { field: variant.prices(price).amount, as: { decimal: "," } }
`;
const project = `project: meadow
sources: [{ file: range.csv, layout: range.yaml }]
languages: [en, de]
targets: [{ target: pennywort }]
`;
/** Its axis has no English name, and by that Pennywort knows axes. */
const german = "hive;H-1;Hive;Holz;Kiefer;10,00\nhive;H-2;;;Eiche;12,00\n";
const plain = "smoker;S-1;Smoker;;;3,00\nveil;V-1;Veil;;;4,00\n";

async function opened(rows: string) {
  const files = {
    "project.yaml": project,
    "range.yaml": layout,
    "range.csv": `Range;No;Name;Merkmal;Wert;Price\n${rows}`,
  };
  const blobs = new Map(Object.entries(files).map(([name, text]) => [name, new Blob([text])]));
  const ports = webPorts(
    blobs,
    (name) => Promise.resolve(name === "pennywort" ? pennywortText : undefined),
    () => Promise.resolve(undefined),
  );
  const sources = valueOf(await readSourcesOf(valueOf(await openProject(ports))));
  return valueOf(await openTarget(sources, { target: "pennywort" }));
}

async function built(rows: string, choices: Omit<BuildChoices, "sink"> = {}) {
  const target = await opened(rows);
  const { sink, files } = memoryFolder();
  const result = await build(target, { ...choices, sink });
  return { target, files, result, found: result.findings.list() };
}

test("a row that only the rehearsal refuses is an error at its cell, and nothing is written", async () => {
  const { files, result, found } = await built(german + plain);
  assert.equal(result.ok, false);
  assert.equal(files.size, 0);
  const refused = one(found, "rehearse/refused");
  assert.match(JSON.stringify(refused.facts), /an axis is left out/);
  assert.deepEqual(
    [refused.at?.file, refused.at?.line, refused.at?.record],
    ["range.csv", 2, { kind: "product", key: "hive" }],
  );
  assert.equal(refused.severity, "error");
});

test("what is held back is what the rehearsal refuses too; the rest is rebuilt, and its cells add up", async () => {
  const { target, files, result, found } = await built(german + plain, { holdBack: true });
  assert.ok(result.ok, codes(found).join());
  assert.ok(codes(found).includes("rehearse/refused"));
  const planned = valueOf(await planUpload(target, { holdBack: true }));
  const verdict = valueOf(await rehearse(target, planned, { holdBack: true, files: blobFiles(files) }));
  assert.equal(verdict.rebuilt, true, JSON.stringify(verdict.differences));
  assert.equal(verdict.counts.created, 2);
  const { filled, arrived, noPlace, heldBack, different } = verdict.cells!;
  assert.equal(arrived + noPlace + heldBack + different, filled);
  assert.deepEqual([different, arrived > 0, heldBack > 0], [0, true, true]);
});

test("an error of a variant that is held back does not stand for what the platform refuses of its product", async () => {
  const rows = german.replace("12,00", "12.00") + plain;
  const { target, files, result } = await built(rows, { holdBack: true });
  assert.ok(result.ok);
  const planned = valueOf(await planUpload(target, { holdBack: true }));
  const verdict = valueOf(await rehearse(target, planned, { holdBack: true, files: blobFiles(files) }));
  assert.deepEqual([verdict.rebuilt, verdict.counts.created, verdict.counts.refused], [true, 2, 0]);
});

test("with everything held back nothing is as intended", async () => {
  const { result, found } = await built(german, { holdBack: true });
  assert.equal(result.ok, false);
  assert.ok(codes(found).includes("build/nothing-left"));
});

test("those who know build without the rehearsal, or in spite of what it finds", async () => {
  for (const choices of [{ isUnrehearsed: true }, { despite: new Set(["rehearse/refused"]) }]) {
    const { files, result, found } = await built(german + plain, choices);
    assert.ok(result.ok);
    assert.ok(files.size > 0);
    assert.equal(codes(found).includes("rehearse/refused"), choices.isUnrehearsed === undefined);
  }
});

test("a plan without the rehearsal holds back what checks find, and not what only the rehearsal refuses", async () => {
  const { target } = await built(german + plain);
  const heldBack = async (isUnrehearsed: boolean) =>
    valueOf(await planUpload(target, { holdBack: true, isUnrehearsed })).heldBack.byKind.has("product");
  assert.deepEqual([await heldBack(false), await heldBack(true)], [true, false]);
});

test("a clean upload is built as it was, and found as intended", async () => {
  const { files, result, found } = await built(plain);
  assert.ok(result.ok);
  assert.deepEqual(those(found, "rehearse/refused"), []);
  const unrehearsed = await built(plain, { isUnrehearsed: true });
  assert.deepEqual([...files.keys()], [...unrehearsed.files.keys()]);
});

test("a difference that nothing has told of is an error; so is a file that is refused as a whole", async () => {
  const { target } = await built(plain);
  const prepared = valueOf(await planUpload(target));
  const verdict = async (told: Partial<Verdict>): Promise<Verdict> => {
    const { files } = await built(plain);
    return {
      ...valueOf(await rehearse(target, valueOf(await planUpload(target)), { files: blobFiles(files) })),
      ...told,
    };
  };
  const tell = async (told: Partial<Verdict>) =>
    unforeseen(await verdict(told), target.catalogue, target.target, prepared, new Findings());
  assert.deepEqual(await tell({}), []);
  const at = { file: "range.csv", line: 2, record: { kind: "product", key: "smoker" } };
  const other = { kind: "product", key: "smoker", field: "name@en", intended: "Smoker", actual: "Smok", at };
  const [different] = await tell({ differences: [other] });
  assert.equal(different?.code, "rehearse/different");
  assert.equal(different.at, at);
  const [refused] = await tell({ files: [{ name: "01-items.csv", refused: "it is empty", rows: [] }] });
  assert.deepEqual([refused?.code, refused?.at?.file], ["rehearse/file-refused", "01-items.csv"]);
});
