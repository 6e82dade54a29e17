/** What a shell completes a command line with: asked of the function, and of a real bash with the script that is printed. */

import assert from "node:assert/strict";
import { spawnSync } from "node:child_process";
import { chmodSync, mkdtempSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { after, before, test } from "node:test";
import { fileURLToPath } from "node:url";
import { completionsFor } from "#src/completions.js";
import { commands } from "#src/main.js";

let folder: string;
before(() => {
  folder = mkdtempSync(join(tmpdir(), "zest-completion-"));
  const sources = "project: p\nsources: [{ file: a.csv, layout: a.yaml }]\n";
  writeFileSync(join(folder, "project.yaml"), `${sources}targets: [{ target: tollgate }, { target: own.yaml }]\n`);
  writeFileSync(join(folder, "own.yaml"), "target: harbour\n");
});
after(() => rmSync(folder, { recursive: true, force: true }));

const complete = (line: string) => {
  const words = line.split(" ");
  return completionsFor(commands, words, words.length - 1, folder);
};

test("commands, options that are not there yet, their choices, and targets of the project", async () => {
  assert.deepEqual(await complete("zest-tier re"), ["rehearse", "reshape"]);
  assert.deepEqual(await complete("zest-tier build --ho"), ["--hold-back"]);
  assert.deepEqual(await complete("zest-tier build --hold-back --ho"), []);
  assert.deepEqual(await complete("zest-tier check --format s"), ["sarif"]);
  assert.deepEqual(await complete("zest-tier build --for "), ["tollgate", "harbour"]);
  assert.ok((await complete("zest-tier new shop a.csv --for p")).includes("pennywort"));
  assert.equal(await complete("zest-tier build "), "files");
  assert.deepEqual(await complete("zest-tier nothing --f"), []);
});

test("a real bash completes with the script that is printed", () => {
  const binary = fileURLToPath(new URL("../../bin/zest-tier.js", import.meta.url));
  const shim = join(folder, "zest-tier");
  writeFileSync(shim, `#!/bin/sh\nexec "${process.execPath}" "${binary}" "$@"\n`);
  chmodSync(shim, 0o755);
  const script = [
    "source <(zest-tier completion bash)",
    'COMP_LINE="zest-tier build --for "; COMP_POINT=${#COMP_LINE}; COMP_WORDS=(zest-tier build --for ""); COMP_CWORD=3',
    "_zest-tier_completion",
    'echo "${COMPREPLY[*]}"',
  ].join("\n");
  const env = { ...process.env, PATH: `${folder}:${process.env["PATH"]}` };
  const { stdout, stderr } = spawnSync("bash", ["-c", script], { cwd: folder, env, encoding: "utf8" });
  assert.equal(stdout.trim(), "tollgate harbour", stderr);
});
