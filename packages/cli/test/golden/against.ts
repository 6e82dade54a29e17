/**
 * Compares what two checkouts gave (`npm run golden -- --out FOLDER` in each), but for the names in `renamed.json`:
 * `node packages/cli/dist/test/golden/against.js OLD NEW`.
 *
 * Of files, verdicts, drafts and plans every line is compared, but for the sentences of plans. Of findings, codes and facts are compared: their texts are new.
 */

import { readdirSync, readFileSync } from "node:fs";
import { join } from "node:path";
import { findingTable } from "zest-tier";

interface Renamed {
  /** Names in all texts, in order: before and after. */
  readonly names: readonly (readonly [string, string])[];
  /** Names of cases. */
  readonly cases: readonly (readonly [string, string])[];
  /** Texts that differ in more than that: why. */
  readonly wanted: Readonly<Record<string, string>>;
}

const renamed = JSON.parse(
  readFileSync(new URL("../../../test/golden/renamed.json", import.meta.url), "utf8"),
) as Renamed;

const replaceAll = (text: string, pairs: Renamed["names"]): string =>
  pairs.reduce((done, [before, after]) => done.replace(new RegExp(before, "g"), after), text);

const isCode = (text: string): boolean => Object.hasOwn(findingTable, text);
const withoutTexts = (lines: readonly string[]): string[] =>
  lines.filter(
    (line) => !/^ *("(title|why|message|remedy|instead|because|range|problem|wanted)": |Why: |No plan )/.test(line),
  );

/** What is compared of a text, by line. */
function comparable(aspect: string, text: string): string[] {
  if (aspect === "papers") return text.split("\n").map((line) => line.split(" ")[0]!);
  if (aspect === "findings" && text.startsWith("[")) return withoutTexts(text.split("\n"));
  if (aspect === "findings") return [...new Set(text.match(/\b[a-z]+\/[a-z]+(-[a-z]+)+\b/g))].filter(isCode).sort();
  const lines = text.split("\n");
  if (aspect === "plan" || aspect === "calibrated") return withoutTexts(lines);
  return aspect === "draft" ? lines.map((line) => line.replace(/ # .*$|^# .*$/, "")) : lines;
}

const [old, now] = process.argv.slice(2);
let same = 0;
const differing: string[] = [];
for (const file of readdirSync(old!).sort()) {
  const [, aspect] = /\.([a-z]+)\.txt$/.exec(file)!;
  const was = comparable(aspect!, replaceAll(readFileSync(join(old!, file), "utf8"), renamed.names));
  const name = replaceAll(file, renamed.cases);
  const is = comparable(aspect!, readFileSync(join(now!, name), "utf8"));
  const gone = was.filter((line) => !is.includes(line));
  const added = is.filter((line) => !was.includes(line));
  if (gone.length + added.length === 0) same++;
  else if (renamed.wanted[name.slice(0, -".txt".length)] === undefined)
    differing.push([name, ...gone.map((line) => `  - ${line}`), ...added.map((line) => `  + ${line}`)].join("\n"));
}
console.log([...differing, `${same} texts the same, ${differing.length} not`].join("\n"));
process.exitCode = differing.length > 0 ? 1 : 0;
