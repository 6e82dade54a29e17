/**
 * A small mutation run over the library's own code: one change at a time, by the compiler's syntax tree, and the tests must notice.
 *
 * `npm run mutants -- --sample 20` takes that many of all possible changes, by a fixed seed (`--seed`); `--only FOLDER` those in one folder
 * of the library; `--all-tests` also runs the command line's tests, which takes much longer. Survivors are printed with their place.
 */

import { spawn } from "node:child_process";
import { readdirSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { join, relative } from "node:path";
import { clearTimeout, setTimeout } from "node:timers";
import { fileURLToPath } from "node:url";
import { parseArgs } from "node:util";
import ts from "typescript";

const root = fileURLToPath(new URL("../", import.meta.url));
const source = join(root, "packages/library/src");
const compiled = join(root, "packages/library/dist/src");
/** Milliseconds; what takes longer has lost its end. */
const patience = 240_000;

const { values: given } = parseArgs({
  options: {
    sample: { type: "string", default: "20" },
    seed: { type: "string", default: "20261127" },
    only: { type: "string", default: "" },
    "all-tests": { type: "boolean", default: false },
  },
});

const { SyntaxKind } = ts;
const turned = new Map([
  [SyntaxKind.LessThanToken, "<="],
  [SyntaxKind.LessThanEqualsToken, "<"],
  [SyntaxKind.GreaterThanToken, ">="],
  [SyntaxKind.GreaterThanEqualsToken, ">"],
  [SyntaxKind.EqualsEqualsEqualsToken, "!=="],
  [SyntaxKind.ExclamationEqualsEqualsToken, "==="],
  [SyntaxKind.AmpersandAmpersandToken, "||"],
  [SyntaxKind.BarBarToken, "&&"],
  [SyntaxKind.PlusToken, "-"],
  [SyntaxKind.MinusToken, "+"],
]);

/** Places that can be changed: where, from what, into what. Types are left alone: they do nothing. */
function changesIn(text) {
  const file = ts.createSourceFile("x.ts", text, ts.ScriptTarget.Latest, true);
  const changes = [];
  const add = (node, to) => changes.push({ start: node.getStart(), end: node.getEnd(), to });
  const visit = (node) => {
    if (ts.isTypeNode(node) || ts.isInterfaceDeclaration(node) || ts.isTypeAliasDeclaration(node)) return;
    if (ts.isImportDeclaration(node)) return;
    if (ts.isBinaryExpression(node)) {
      const to = turned.get(node.operatorToken.kind);
      const isText = [node.left, node.right].some(
        (side) => ts.isStringLiteralLike(side) || ts.isTemplateExpression(side),
      );
      if (to !== undefined && !(isText && node.operatorToken.kind === SyntaxKind.PlusToken))
        add(node.operatorToken, to);
    }
    if (node.kind === SyntaxKind.TrueKeyword) add(node, "false");
    if (node.kind === SyntaxKind.FalseKeyword) add(node, "true");
    if (ts.isIfStatement(node)) add(node.expression, `!(${node.expression.getText()})`);
    if (ts.isConditionalExpression(node)) add(node.condition, `!(${node.condition.getText()})`);
    if (ts.isNumericLiteral(node) && (node.text === "0" || node.text === "1")) add(node, node.text === "0" ? "1" : "0");
    if (ts.isPropertyAccessExpression(node) && (node.name.text === "some" || node.name.text === "every"))
      add(node.name, node.name.text === "some" ? "every" : "some");
    ts.forEachChild(node, visit);
  };
  visit(file);
  return changes;
}

/** A number from 0 to below 1, the same row of them for the same seed (mulberry32). */
function randomBy(seed) {
  let state = seed >>> 0;
  return () => {
    state = (state + 0x6d2b79f5) | 0;
    let mixed = Math.imul(state ^ (state >>> 15), 1 | state);
    mixed = (mixed + Math.imul(mixed ^ (mixed >>> 7), 61 | mixed)) ^ mixed;
    return ((mixed ^ (mixed >>> 14)) >>> 0) / 4294967296;
  };
}

// The command runs as it is compiled: of what was put into one file a change here would reach nothing.
rmSync(join(root, "packages/cli/dist/command"), { recursive: true, force: true });

const files = readdirSync(join(source, given.only), { recursive: true })
  .filter((name) => name.endsWith(".ts"))
  .map((name) => join(source, given.only, name))
  .sort();
const all = files.flatMap((file) => changesIn(readFileSync(file, "utf8")).map((change) => ({ file, ...change })));
const random = randomBy(Number(given.seed));
const sample = [];
for (const rest = [...all]; sample.length < Number(given.sample) && rest.length > 0;)
  sample.push(...rest.splice(Math.floor(random() * rest.length), 1));

const tests = [
  join(root, "packages/library/dist/test"),
  ...(given["all-tests"] ? [join(root, "packages/cli/dist/test")] : []),
]
  .flatMap((folder) => readdirSync(folder).map((name) => join(folder, name)))
  // What compares with the sources or with what was recorded would notice any change, whatever it does.
  .filter((name) => name.endsWith(".test.js") && !/house|golden/.test(name));

/** Whether the tests notice. */
function isKilled() {
  return new Promise((resolve) => {
    const child = spawn(
      process.execPath,
      ["--import", "./scripts/property-runs.js", "--test", "--test-concurrency=2", "--test-reporter=tap", ...tests],
      { cwd: root, env: { ...process.env, PROPERTY_RUNS: process.env["PROPERTY_RUNS"] ?? "20" }, detached: true },
    );
    const end = (killed) => {
      clearTimeout(timer);
      try {
        process.kill(-child.pid, "SIGKILL");
      } catch {
        // It has ended by itself.
      }
      resolve(killed);
    };
    const timer = setTimeout(() => end("too slow"), patience);
    child.stdout.on("data", (chunk) => /^(not ok|# Subtest.*\n\s*not ok)/m.test(String(chunk)) && end("killed"));
    child.on("close", (code) => end(code === 0 ? "survived" : "killed"));
  });
}

const counts = { killed: 0, "too slow": 0, survived: 0 };
for (const { file, start, end, to } of sample) {
  const text = readFileSync(file, "utf8");
  const js = join(compiled, relative(source, file).replace(/\.ts$/, ".js"));
  const before = readFileSync(js, "utf8");
  const { outputText } = ts.transpileModule(text.slice(0, start) + to + text.slice(end), {
    compilerOptions: { target: ts.ScriptTarget.ES2022, module: ts.ModuleKind.ESNext, verbatimModuleSyntax: true },
  });
  const restore = () => writeFileSync(js, before);
  process.once("SIGINT", () => (restore(), process.exit(1)));
  try {
    writeFileSync(js, outputText);
    const outcome = await isKilled();
    counts[outcome]++;
    const line = text.slice(0, start).split("\n").length;
    console.log(
      `${outcome}: ${relative(root, file)}:${line} ${JSON.stringify(text.slice(start, end).slice(0, 60))} as ${JSON.stringify(to.slice(0, 60))}`,
    );
  } finally {
    restore();
    process.removeAllListeners("SIGINT");
  }
}
const dead = counts.killed + counts["too slow"];
console.log(
  `${dead} of ${sample.length} killed (${Math.round((100 * dead) / sample.length)} %), of ${all.length} possible changes`,
);
