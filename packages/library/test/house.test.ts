/** Rules of the house: which way imports go, that each finding has a test. */

import assert from "node:assert/strict";
import { readdirSync, readFileSync } from "node:fs";
import { join } from "node:path";
import { fileURLToPath } from "node:url";
import { test } from "node:test";
import { describeFinding, finding, Findings, findingTable, type FindingCode } from "#src/index.js";

const root = fileURLToPath(new URL("../../../../", import.meta.url));
const sourcesIn = (folder: string): string[] =>
  readdirSync(join(root, folder), { recursive: true, encoding: "utf8" })
    .filter((file) => /\.tsx?$/.test(file) && !/(^|\/)(dist|node_modules)\//.test(file))
    .map((file) => `${folder}/${file}`);
const importsOf = (file: string): string[] =>
  [...readFileSync(join(root, file), "utf8").matchAll(/^(?:import|export)[^;]*?from "([^"]+)"/gms)].map(
    (match) => match[1]!,
  );

/** The stages in the order of the way through: each may take from those before it. Files beside them are the vocabulary. */
const stages = [
  "vocabulary",
  "formats",
  "codecs",
  "given",
  "catalogue",
  "layout",
  "resolve",
  "match",
  "derive",
  "reshape",
  "check",
  "draft",
  "target",
  "ledger",
  "plan",
  "build",
  "collect",
  "rehearse",
  "compare",
  "verdict",
  "change",
  "trial",
  "trace",
  "translations",
  "project",
  "workflow",
  "node",
  "web",
  "index.ts",
  "parts.ts",
  "schemas.ts",
];
const stageOf = (path: string): string => {
  const [first, rest] = path.split("/", 2) as [string, string?];
  // Texts are part of the vocabulary.
  if (first === "findings" || first === "phrases") return "vocabulary";
  return rest !== undefined || ["index.ts", "parts.ts", "schemas.ts"].includes(first) ? first : "vocabulary";
};

test("imports go one way, along the pipeline", () => {
  const breaches: string[] = [];
  let seen = 0;
  for (const file of sourcesIn("packages/library/src")) {
    const own = file.replace("packages/library/src/", "");
    const stage = stages.indexOf(stageOf(own));
    assert.ok(stage >= 0, `${own} is in no stage`);
    for (const specifier of importsOf(file).filter((one) => one.startsWith("."))) {
      seen++;
      const to = join(own, "..", specifier).replace(/\.js$/, ".ts");
      // Type checking needs both directions between findings' text and the vocabulary it is about; both are vocabulary.
      if (stages.indexOf(stageOf(to)) > stage) breaches.push(`${own} takes from ${to}`);
    }
  }
  assert.ok(seen > 100);
  assert.deepEqual(breaches, []);
});

/** These folders are rebuilt as a whole. */
const rebuilt = /^(change|draft|rehearse)\//;

test("no file of the library takes, on whatever way, from one that takes from it", () => {
  const root = "packages/library/src/";
  const takes = new Map(
    sourcesIn(root.slice(0, -1)).map((file): [string, readonly string[]] => [
      file.replace(root, ""),
      importsOf(file)
        .filter((one) => one.startsWith("."))
        .map((one) => join(file.replace(root, ""), "..", one).replace(/\.js$/, ".ts")),
    ]),
  );
  const reached = (from: string): ReadonlySet<string> => {
    const seen = new Set<string>();
    const todo = [...(takes.get(from) ?? [])];
    for (let next = todo.pop(); next !== undefined; next = todo.pop())
      if (!seen.has(next)) {
        seen.add(next);
        todo.push(...(takes.get(next) ?? []));
      }
    return seen;
  };
  assert.ok(takes.size > 150);
  const circles = [...takes.keys()].filter((file) => !rebuilt.test(file) && reached(file).has(file));
  assert.deepEqual(circles, []);
});

test("the fast path has one door: who reads a sheet", () => {
  const takers = (wanted: string) =>
    sourcesIn("packages/library/src").filter(
      (file) => !file.includes("/by-column/") && importsOf(file).some((one) => one.endsWith(wanted)),
    );
  const src = "packages/library/src";
  assert.deepEqual(takers("by-column/by-column.js"), [`${src}/layout/read/sheet.ts`]);
  assert.deepEqual(takers("/csv-spans.js"), [`${src}/formats/csv-read.ts`]);
  for (const inner of ["plan", "plain-rows", "plain-run", "plain-cells", "seen-rows", "linked-rows"])
    assert.deepEqual(takers(`by-column/${inner}.js`), []);
});

test("the library takes nothing from Node outside node/, and nothing from the command line or the stand-ins", () => {
  for (const file of sourcesIn("packages/library/src"))
    for (const specifier of importsOf(file)) {
      assert.ok(!specifier.startsWith("node:") || file.includes("/src/node/"), `${file} takes ${specifier}`);
      assert.ok(!specifier.startsWith("@zest-tier/"), `${file} takes ${specifier}`);
    }
});

test("the stand-ins take nothing from the library, and none of the parsers it uses", () => {
  const files = sourcesIn("packages/standins");
  assert.ok(files.length > 5);
  const foreign = ["zest-tier", "papaparse", "d3-dsv", "fflate"];
  for (const file of files)
    for (const specifier of importsOf(file)) {
      const inside = specifier.startsWith(".") ? join(file, "..", specifier) : undefined;
      assert.ok(inside === undefined || inside.startsWith("packages/standins/"), `${file} takes ${specifier}`);
      assert.ok(!foreign.includes(specifier) && !specifier.startsWith("zest-tier/"), `${file} takes ${specifier}`);
    }
});

test("each finding has a test that names it", () => {
  const tests = ["packages/library/test", "packages/cli/test"].flatMap(sourcesIn);
  const text =
    tests.map((file) => readFileSync(join(root, file), "utf8")).join("\n") +
    readFileSync(join(root, "demo/rough/damage.json"), "utf8");
  // Codecs say what is wrong by the second half of the code.
  const isTested = (code: string) =>
    text.includes(`"${code}"`) || (code.startsWith("cell/") && text.includes(`"${code.slice(5)}"`));
  assert.deepEqual(
    Object.keys(findingTable).filter((code) => !isTested(code)),
    [],
  );
});

test("keeps findings in source order, and counts those beyond the limit", () => {
  const findings = new Findings(2);
  for (const line of [9, 3, 5]) findings.add(finding("read/row-without-group", {}, { file: "a.csv", line }));
  const list = findings.list();
  assert.deepEqual(
    list.map((one) => one.at?.line),
    [3, 9, undefined],
  );
  assert.deepEqual(list[2]!.facts, { code: "read/row-without-group" satisfies FindingCode, more: 1 });
  assert.equal(list[2]!.code, "findings/more");
  assert.equal(describeFinding(list[2]!).message, "1 more read/row-without-group finding is not listed");
});

test("no file of the library has more than 300 lines but those that are rebuilt as a whole", () => {
  const root = "packages/library/src/";
  const long = sourcesIn(root.slice(0, -1))
    .filter((file) => !rebuilt.test(file.replace(root, "")))
    .flatMap((file) => {
      const lines = readFileSync(file, "utf8").split("\n").length - 1;
      return lines > 300 ? [`${file} has ${lines}`] : [];
    });
  assert.deepEqual(long, []);
});
