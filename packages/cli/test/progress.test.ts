/** The bar that shows how far reading is: by the real binary on a pseudo-terminal, and into a pipe. */

import assert from "node:assert/strict";
import { spawnSync } from "node:child_process";
import { mkdtempSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { test } from "node:test";
import { fileURLToPath } from "node:url";

const bin = fileURLToPath(new URL("../../bin/zest-tier.js", import.meta.url));

test("a bar shows progress to someone who watches, and nothing to a pipe", () => {
  const cwd = mkdtempSync(join(tmpdir(), "zest-progress-"));
  const rows = Array.from(
    { length: 90_000 },
    (_, at) => `P-${at},Hive tool ${at},A tool of steel that lifts frames out of a hive\n`,
  );
  writeFileSync(join(cwd, "tools.csv"), `Code,Name,Text\n${rows.join("")}`);
  writeFileSync(
    join(cwd, "tools.yaml"),
    "layout: tools\nrows: { each: product }\ncolumns: { Code: [product.key, product.code], Name: product.name@en, Text: product.description@en }\n",
  );
  writeFileSync(
    join(cwd, "project.yaml"),
    "project: tools\nlanguages: [en]\nsources: [{ file: tools.csv, layout: tools.yaml }]\ntargets: [{ target: tollgate }]\n",
  );
  const line = `"${process.execPath}" "${bin}" check`;
  const options = { cwd, encoding: "utf8", maxBuffer: 1 << 26 } as const;
  // What a terminal shows goes through `script`, which is one to the command.
  const watched = spawnSync("script", ["-qec", line, "/dev/null"], options);
  assert.match(watched.stdout, /reading tools\.csv .* \d+ %/);
  const percents = [...watched.stdout.matchAll(/(\d+) %/g)].map(([, one]) => Number(one));
  assert.ok(
    percents.some((one) => one > 0 && one < 100),
    "parts of the way are shown",
  );
  assert.ok(
    percents.every((one, at) => at === 0 || one >= percents[at - 1]!),
    "it never goes back",
  );
  const piped = spawnSync("sh", ["-c", line], options);
  assert.doesNotMatch(`${piped.stdout}${piped.stderr}`, /reading/);
  rmSync(cwd, { recursive: true });
});
