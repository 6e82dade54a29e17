/**
 * The golden baseline: what the demo, suppliers' files and generated catalogues give today, recorded, so that every later difference is
 * seen and has its reason in the commit that makes it.
 *
 * `npm run golden` compares, and lists what differs; `-- --record` writes the record anew; `-- --out FOLDER` writes every text in full,
 * so that two checkouts can be compared file by file; `-- --only TEXT` takes only cases whose name holds it.
 */

import { existsSync, mkdirSync, readdirSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { join } from "node:path";
import { fileURLToPath } from "node:url";
import { fennelQuayCases, seededCases, supplierCases } from "./catalogues.js";
import { demoCases } from "./demo.js";
import { hashOf, type GoldenCase } from "./texts.js";

const recorded = fileURLToPath(new URL("../../../test/golden/recorded/", import.meta.url));
const hashesFile = join(recorded, "hashes.txt");

/** @param every of generated cases only every so manyth is taken. */
export const groups: Readonly<Record<string, (every?: number) => AsyncGenerator<GoldenCase>>> = {
  demo: demoCases,
  suppliers: supplierCases,
  "fennel-quay": fennelQuayCases,
  seeded: seededCases,
};

/** @returns a line for each aspect of a case that is not as recorded; for full ones with the first line that differs. */
export async function goldenDifferences(
  names: readonly string[] = Object.keys(groups),
  { only = "", every = 1 } = {},
): Promise<string[]> {
  const known = readHashes();
  const found: string[] = [];
  const seen = new Set<string>();
  for (const name of names)
    for await (const { id, texts, isFull } of groups[name]!(every)) {
      seen.add(id);
      if (!id.includes(only)) continue;
      for (const [aspect, text] of Object.entries(texts)) {
        const was = known.get(id)?.get(aspect);
        if (was === hashOf(text)) continue;
        found.push(
          `${id}: ${aspect}${was === undefined ? " is new" : ""}${isFull ? firstDifference(id, aspect, text) : ""}`,
        );
      }
    }
  const isWhole = names.length === Object.keys(groups).length;
  if (isWhole) for (const id of known.keys()) if (!seen.has(id)) found.push(`${id}: is gone`);
  return found;
}

async function record(): Promise<void> {
  rmSync(recorded, { recursive: true, force: true });
  mkdirSync(recorded, { recursive: true });
  const lines: string[] = [];
  for (const cases of Object.values(groups))
    for await (const { id, texts, isFull } of cases()) {
      lines.push([id, ...Object.entries(texts).map(([aspect, text]) => `${aspect}=${hashOf(text)}`)].join("\t"));
      if (isFull)
        for (const [aspect, text] of Object.entries(texts)) writeFileSync(fullFile(recorded, id, aspect), text);
    }
  writeFileSync(hashesFile, `${lines.join("\n")}\n`);
}

async function writeAll(folder: string, only: string): Promise<void> {
  mkdirSync(folder, { recursive: true });
  for (const cases of Object.values(groups))
    for await (const { id, texts } of cases())
      if (id.includes(only))
        for (const [aspect, text] of Object.entries(texts)) writeFileSync(fullFile(folder, id, aspect), text);
}

const fullFile = (folder: string, id: string, aspect: string): string =>
  join(folder, `${id.replaceAll(" ", "-")}.${aspect}.txt`);

function readHashes(): ReadonlyMap<string, ReadonlyMap<string, string>> {
  if (!existsSync(hashesFile)) return new Map();
  const lines = readFileSync(hashesFile, "utf8").split("\n").slice(0, -1);
  return new Map(
    lines.map((line) => {
      const [id, ...aspects] = line.split("\t");
      return [id!, new Map(aspects.map((one) => one.split("=") as [string, string]))] as const;
    }),
  );
}

function firstDifference(id: string, aspect: string, text: string): string {
  const file = fullFile(recorded, id, aspect);
  if (!existsSync(file)) return "";
  const [was, is] = [readFileSync(file, "utf8").split("\n"), text.split("\n")];
  const at = is.findIndex((line, index) => line !== was[index]);
  const line = at < 0 ? is.length : at;
  return `, line ${line + 1}\n  - ${was[line] ?? "(nothing)"}\n  + ${is[line] ?? "(nothing)"}`;
}

/** @returns the exit code: 1 when something is not as recorded. */
export async function runGolden(argv: readonly string[]): Promise<number> {
  const valueOf = (option: string) => (argv.includes(option) ? argv[argv.indexOf(option) + 1] : undefined);
  const only = valueOf("--only") ?? "";
  const out = valueOf("--out");
  if (argv.includes("--record")) {
    await record();
    console.log(`recorded ${readHashes().size} cases, ${readdirSync(recorded).length} files`);
    return 0;
  }
  if (out !== undefined) {
    await writeAll(out, only);
    return 0;
  }
  const found = await goldenDifferences(undefined, { only });
  console.log(found.length === 0 ? `all as recorded (${readHashes().size} cases)` : found.join("\n"));
  return found.length === 0 ? 0 : 1;
}
