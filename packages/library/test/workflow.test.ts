/** What a person does, as functions: everything that fails answers with findings, and nothing that was opened changes. */

import assert from "node:assert/strict";
import { readFileSync } from "node:fs";
import { fileURLToPath } from "node:url";
import { test } from "node:test";
import fc from "fast-check";
import {
  build,
  calibrate,
  draft,
  finding,
  Findings,
  openLayout,
  openProject,
  openTarget,
  pairsFileText,
  planUpload,
  readSourcesOf,
  reasonsFor,
  rehearse,
  valueOf,
  type ReadonlyFindings,
  type Result,
} from "#src/index.js";
import { nodeFiles, nodePorts } from "#src/node/index.js";
import { blobFiles, memoryFolder } from "#src/web/index.js";
import { readPairs } from "#src/workflow/pairs.js";
import { filesOf, one, pennywortText, those } from "./support.js";

const demo = fileURLToPath(new URL("../../../../demo/clean/", import.meta.url));
const ports = nodePorts(demo);
const sources = async () => valueOf(await readSourcesOf(valueOf(await openProject(ports))));
const codesOf = (findings: ReadonlyFindings) => findings.list().map(({ code }) => code);
function failed(result: Result<unknown>): ReadonlyFindings {
  assert.equal(result.ok, false);
  return result.findings;
}

test("what is not there is a finding with its place: project, target, layout, bulk change, upload folder", async () => {
  assert.deepEqual(codesOf(failed(await openProject(ports, "none.yaml"))), ["project/missing"]);
  const opened = await sources();
  const target = failed(await openTarget(opened, { target: "penywort" }));
  const { at, facts } = one(target.list(), "project/mistake");
  assert.equal(at?.file, "project.yaml");
  assert.match(JSON.stringify(facts), /penywort.*pennywort/);
  const pennywort = valueOf(await openTarget(opened, { target: "pennywort" }));
  const { sink, files } = memoryFolder();
  assert.ok(codesOf(failed(await build(pennywort, { sink, bulkChange: "all" }))).includes("project/mistake"));
  assert.equal(files.size, 0);
  const planned = valueOf(await planUpload(pennywort));
  const unbuilt = failed(await rehearse(pennywort, planned, { files: blobFiles(new Map()) }));
  assert.ok(codesOf(unbuilt).includes("build/not-built"));
  assert.deepEqual(codesOf(failed(await openLayout(ports, "none.yaml"))), ["layout/none"]);
  const none = one(failed(await openLayout(ports, "pennywort/none")).list(), "layout/none");
  assert.match(JSON.stringify(none.facts), /items/);
  assert.deepEqual(reasonsFor(pennywort, planned, "no such code"), []);
});

test("an export for the whole range is refused where the platform takes none; one that is not there too", async () => {
  const opened = await sources();
  const given = (file: string, isWholeRange: boolean) => ({
    given: [{ file, files: filesOf({ "held.json": "{}" }) }],
    isWholeRange,
  });
  const whole = await openTarget(opened, { target: "pennywort", export: given("held.json", true) });
  assert.ok(codesOf(failed(whole)).includes("change/no-whole-range"));
  const missing = await openTarget(opened, { target: "pennywort", export: given("none.json", false) });
  assert.ok(codesOf(failed(missing)).includes("read/missing-file"));
  const other = await openTarget(opened, { target: "pennywort", export: given("held.json", false) });
  assert.ok(codesOf(failed(other)).includes("compare/other-export"));
});

test("a layout is drafted, opened and tested without a project", async () => {
  const drafts = valueOf(await draft(nodeFiles(demo), "sources/queen-rearing.tsv"));
  assert.deepEqual(
    drafts.map(({ sample }) => sample.columns.length),
    [19],
  );
  assert.deepEqual(codesOf(failed(await draft(nodeFiles(demo), "none.tsv"))), ["read/missing-file"]);
  const layout = valueOf(await openLayout(ports, "layouts/queen-rearing.yaml"));
  const calibration = valueOf(await calibrate(nodeFiles(demo), "sources/queen-rearing.tsv", layout));
  assert.equal(calibration.rows, 29);
  assert.ok(failed(await calibrate(nodeFiles(demo), "none.tsv", layout)).hasErrors);
});

test("a result that is none throws its errors, each with its place", () => {
  const findings = new Findings();
  findings.add(finding("read/missing-file", {}, { file: "a.csv" }));
  findings.add(finding("project/missing", {}, { file: "b.yaml" }));
  assert.throws(() => valueOf({ ok: false, findings }), /a\.csv: the file does not exist\nb\.yaml: /);
});

test("findings over their limit still count: as errors, in copies too; a copy is added to by itself", () => {
  const findings = new Findings(1);
  const error = (n: number) => finding("read/missing-file", {}, { file: `${n}.csv` });
  findings.addAll([error(1), error(2), error(3)]);
  const copy = findings.copy();
  copy.add(error(4));
  assert.deepEqual(codesOf(findings), ["read/missing-file", "findings/more"]);
  assert.deepEqual([findings.hasUnlistedErrors, copy.hasUnlistedErrors, copy.hasErrors], [true, true, true]);
  assert.deepEqual(
    [findings, copy].map((all) => one(all.list(), "findings/more").facts),
    [
      { code: "read/missing-file", more: 2 },
      { code: "read/missing-file", more: 3 },
    ],
  );
  const none = new Findings(0);
  none.add(error(1));
  assert.deepEqual([none.hasErrors, none.hasUnlistedErrors, none.copy().hasErrors], [true, true, true]);
});

test("pairs are written as their file", () => {
  const pair = { kind: "product", yours: "a", platforms: "b;c", why: "the same code", reply: undefined } as const;
  assert.equal(
    pairsFileText([pair, { ...pair, reply: "same" }]),
    'Kind;Yours;On platform;Reason;Reply\r\nproduct;a;"b;c";the same code;\r\nproduct;a;"b;c";the same code;same\r\n',
  );
});

test("the list of pairs holds no formula, and comes back as it was", async () => {
  const word = fc
    .tuple(fc.constantFrom("", "'", "''", "=", "+", "-", "@", "\t", "'="), fc.stringMatching(/^[a-z0-9='@+-]{1,6}$/))
    .map(([first, rest]) => `${first}${rest}`);
  await fc.assert(
    fc.asyncProperty(fc.uniqueArray(word, { minLength: 1, maxLength: 5 }), async (keys) => {
      const pairs = keys.map((key) => ({
        kind: "product",
        yours: key,
        platforms: `p${key}`,
        why: "names alike",
        reply: "same" as const,
      }));
      const text = pairsFileText(pairs);
      for (const cell of text.split(/[;\r\n]+/))
        assert.doesNotMatch(cell, /^"?(?:[=@\t]|[+-](?!\s?\d[\d.,]*\s?%?"?$))/);
      const findings = new Findings();
      const back = await readPairs(filesOf({ "pairs-any.csv": text }), "any", findings);
      assert.deepEqual(findings.list(), []);
      assert.deepEqual(
        back.map(({ yours, platforms, reply }) => [yours, platforms, reply]),
        pairs.map(({ yours, platforms, reply }) => [yours, platforms, reply]),
      );
    }),
    { numRuns: 200 },
  );
});

test("a layout of one's own target, with the kinds and fields of a project", async () => {
  const layout =
    "layout: own\nformat: { csv: {} }\nrows: { each: product }\ncolumns: { Key: product.key, Mark: product.hallmark }\n";
  const files = filesOf({
    "mine.yaml": pennywortText,
    "own.yaml": layout,
    "a.csv": "Key,Mark\na,925\n",
    "project.yaml":
      "project: p\nsources: [{ file: a.csv, layout: own.yaml }]\ntargets: [{ target: mine.yaml }]\nkinds: { product: { fields: { hallmark: text } } }\n",
  });
  const bare = {
    files,
    shippedTarget: () => Promise.resolve(undefined),
    shippedLayout: () => Promise.resolve(undefined),
  };
  const ofTarget = valueOf(await openLayout(bare, "mine.yaml/items"));
  assert.equal(ofTarget.file?.name, "items");
  assert.equal(valueOf(await openLayout(bare, "mine.yaml")).file?.name, "items");
  assert.deepEqual(codesOf(failed(await openLayout(bare, "mine.yaml/none"))), ["layout/none"]);
  // Without the project nothing is known of the field.
  assert.deepEqual(codesOf(failed(await openLayout(bare, "own.yaml"))), ["layout/mistake"]);
  const opened = valueOf(await openLayout(bare, "own.yaml", "project.yaml"));
  const { records } = valueOf(await calibrate(files, "a.csv", opened));
  assert.equal(records.equal, 1);
});

test("a record of a kind that the platform has is a finding with the nearest, where the project says which it has", async () => {
  const files = (has: string) => ({
    "t.yaml": readFileSync(new URL("../../targets/pennywort.yaml", import.meta.url), "utf8"),
    "a.yaml":
      "layout: a\nformat: { csv: {} }\nrows: { each: product }\ncolumns:\n  Key: product.key\n  Code: product.code\n  Name: product.name@en\n  By: { field: product.brand, as: { by: name@en }, missing: create }\n  In: { field: product.categories, as: { path: '>', by: name@en }, missing: create }\n  Price: product.prices(price).amount\n",
    "a.csv": "Key,Code,Name,By,In,Price\nrope,R,Rope,Thornapple,Garden>Ropes,2\nnail,N,Nail,Thornaple,Garden>Nails,1\n",
    "project.yaml": `project: p\nsources: [{ file: a.csv, layout: a.yaml }]\ntargets: [{ target: t.yaml${has} }]\n`,
  });
  const open = async (has: string) => {
    const ports = {
      ...nodePorts(demo),
      files: filesOf(files(has)),
      shippedTarget: () => Promise.resolve(undefined),
      shippedLayout: () => Promise.resolve(undefined),
    };
    const opened = await openProject(ports);
    return opened.ok ? await openTarget(valueOf(await readSourcesOf(opened.value))) : opened;
  };
  const notThere = async (has: string) => those((await open(has)).findings.list(), "target/not-there");
  const [brand, ...more] = await notThere(", has: { brand: [Thornapple, Sandhopper] }");
  assert.deepEqual(more, []);
  assert.deepEqual(brand?.facts, { kind: "brand", name: "Thornaple", target: "pennywort", nearest: ["Thornapple"] });
  assert.equal(brand?.at?.line, 3);
  const paths = await notThere(", has: { category: [Garden / Ropes, Yard / Nails] }");
  assert.deepEqual(
    paths.map(({ facts }) => (facts as { name: string }).name),
    ["Garden / Nails"],
  );
  assert.deepEqual(await notThere(", has: { brand: [Thornapple, Thornaple] }"), []);
  assert.deepEqual(await notThere(", has: { category: [Garden / Ropes, Garden/Nails] }"), []);
  assert.deepEqual(await notThere(""), []);
  // What has rows of its own in the files is created by them.
  assert.deepEqual(codesOf(failed(await open(", has: { product: [rope] }"))), ["project/mistake"]);
});

test("a name that is not in a list that the platform has is a finding with the nearest, and not set up", async () => {
  const tollgate = readFileSync(new URL("../../targets/tollgate.yaml", import.meta.url), "utf8");
  const project = (has: string) => ({
    "t.yaml": tollgate,
    "a.yaml":
      "layout: a\nformat: { csv: {} }\nrows: { each: product }\ncolumns: { Key: product.key, Code: product.code, Name: product.name@en, Unit: product.unit, Price: product.prices(price).amount }\n",
    "a.csv": "Key,Code,Name,Unit,Price\nrope,R,Rope,metre,2\nnail,N,Nail,pice,1\n",
    "units.csv": "Unit\npiece\nmetre\n",
    "project.yaml": `project: p\nsources: [{ file: a.csv, layout: a.yaml }]\ntables: { units: { file: units.csv, key: Unit } }\ntargets: [{ target: t.yaml${has} }]\n`,
  });
  const open = async (has: string) => {
    const files = filesOf(project(has));
    const ports = {
      ...nodePorts(demo),
      files,
      shippedTarget: () => Promise.resolve(undefined),
      shippedLayout: () => Promise.resolve(undefined),
    };
    const opened = await openProject(ports);
    return opened.ok ? await openTarget(valueOf(await readSourcesOf(opened.value))) : opened;
  };
  const setUp = async (has: string) => {
    const { plan } = valueOf(await planUpload(valueOf(await open(has))));
    return plan.steps.flatMap((step) => (step.is === "lists" ? step.lists.map(({ name }) => name) : []));
  };
  for (const has of [", has: { units: [piece, metre] }", ", has: { units: { table: units } }"]) {
    const { findings } = await open(has);
    const found = one(findings.list(), "target/not-listed");
    assert.deepEqual(found.facts, { name: "pice", list: "units", target: "tollgate", nearest: ["piece"] });
    assert.equal(found.at?.column, "Unit");
    assert.ok(!(await setUp(has)).includes("units"));
  }
  assert.ok((await setUp("")).includes("units"));
  assert.deepEqual(codesOf(failed(await open(", has: { unit: [piece] }"))), ["project/mistake"]);
  assert.deepEqual(codesOf(failed(await open(", has: { units: { table: unit } }"))), ["project/mistake"]);
});
