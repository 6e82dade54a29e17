/** L8 through the real command: files that were made to do harm give findings, in time and within memory. */

import assert from "node:assert/strict";
import { execFileSync, spawn } from "node:child_process";
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { fileURLToPath } from "node:url";
import { test } from "node:test";
import { capNames, capTable } from "zest-tier";
import { hostile, type Hostile } from "./hostile-files.js";

const bin = fileURLToPath(new URL("../../bin/zest-tier.js", import.meta.url));
/** No input of these may take as long; on a busy machine some more. */
const mostSeconds = 30;
const mostMegabytes = 1_000;

interface Ended {
  readonly code: number | null;
  readonly signal: NodeJS.Signals | null;
  readonly out: string;
  readonly err: string;
}

function runIn(folder: string, args: readonly string[]): Promise<Ended> {
  return new Promise((resolve) => {
    const child = spawn(process.execPath, [`--max-old-space-size=${mostMegabytes}`, bin, ...args], {
      cwd: folder,
      timeout: mostSeconds * 1_000,
      killSignal: "SIGKILL",
      stdio: ["ignore", "pipe", "pipe"],
    });
    let [out, err] = ["", ""];
    child.stdout.on("data", (chunk: Buffer) => (out += chunk.toString()));
    child.stderr.on("data", (chunk: Buffer) => (err += chunk.toString()));
    child.on("close", (code, signal) => resolve({ code, signal, out, err }));
  });
}

async function tried({ files, command = ["check"], pipes = [] }: Hostile): Promise<Ended> {
  const folder = mkdtempSync(join(tmpdir(), "hostile-"));
  try {
    for (const [name, content] of Object.entries(files)) writeFileSync(join(folder, name), content);
    for (const name of pipes) execFileSync("mkfifo", [join(folder, name)]);
    return await runIn(folder, [...command, "--format", "json"]);
  } finally {
    rmSync(folder, { recursive: true });
  }
}

for (const [name, one] of Object.entries(hostile))
  test(`hostile: ${name}`, async () => {
    const { code, signal, out, err } = await tried(one);
    assert.equal(signal, null, `killed by ${signal} after ${mostSeconds} s`);
    assert.ok(code === 0 || code === 1 || code === 3, `exit ${code}: ${err.slice(0, 300)}`);
    assert.ok(!/\n\s+at .*\.js:\d+/.test(err), err.slice(0, 500));
    if (one.says.length === 0) return;
    const { findings } = JSON.parse(out) as { readonly findings: readonly { readonly code: string }[] };
    assert.ok(
      findings.some((found) => one.says.includes(found.code)),
      [...new Set(findings.map((found) => found.code))].join(),
    );
  });

test("every cap is in the docs, and can be raised in a project", async () => {
  const folder = mkdtempSync(join(tmpdir(), "caps-"));
  try {
    writeFileSync(join(folder, "s.csv"), `Key,Name,${"x".repeat(2_000)}\na,b,c\n`);
    writeFileSync(join(folder, "l.yaml"), "layout: a\nrows: { each: product }\ncolumns: { Key: product.key }\n");
    const project = "project: p\nsources: [{ file: s.csv, layout: l.yaml }]\ntargets: [{ target: pennywort }]\n";
    const codesWith = async (caps: string): Promise<readonly string[]> => {
      writeFileSync(join(folder, "project.yaml"), `${project}${caps}`);
      const { out } = await runIn(folder, ["check", "--format", "json"]);
      return (JSON.parse(out) as { findings: { code: string }[] }).findings.map((found) => found.code);
    };
    assert.ok((await codesWith("")).includes("read/header-too-long"));
    assert.ok(!(await codesWith("caps: { header characters: 3000 }\n")).includes("read/header-too-long"));
    const all = capNames.map((cap) => `  ${cap}: ${capTable[cap].most + 1}\n`).join("");
    assert.ok(!(await codesWith(`caps:\n${all}`)).includes("given/unknown-word"));
    assert.ok((await codesWith("caps: { rows: 3 }\n")).includes("given/unknown-word"));
  } finally {
    rmSync(folder, { recursive: true });
  }
});

test("what commands a terminal is shown by its number, in JSON escaped", async () => {
  const files = {
    "s.csv": "Key,Name\na\u202eb,\u001b[31mred\u0085\u009b31m\u{e0041}\u2028\u2066\n",
    "l.yaml": "layout: a\nrows: { each: product }\ncolumns: { Key: product.key, Name: product.name@en }\n",
    "project.yaml": "project: p\nsources: [{ file: s.csv, layout: l.yaml }]\ntargets: [{ target: pennywort }]\n",
  };
  const folder = mkdtempSync(join(tmpdir(), "printed-"));
  try {
    for (const [name, content] of Object.entries(files)) writeFileSync(join(folder, name), content);
    const unsafe = /[\u0000-\u0008\u000b-\u001f\u007f-\u009f\u2028-\u202e\u2066-\u2069]|\udb40[\udc00-\udc7f]/;
    const people = await runIn(folder, ["check"]);
    assert.doesNotMatch(people.out + people.err, unsafe);
    assert.match(people.out + people.err, /a\[U\+202E\]b/);
    const programs = await runIn(folder, ["check", "--format", "json"]);
    assert.doesNotMatch(programs.out, unsafe);
    const { findings } = JSON.parse(programs.out) as {
      readonly findings: readonly {
        readonly code: string;
        readonly at?: { readonly record?: { readonly key: string } };
      }[];
    };
    assert.ok(findings.some((found) => found.code === "check/damaged-text"));
    assert.ok(findings.some((found) => found.at?.record?.key === "a\u202eb"));
  } finally {
    rmSync(folder, { recursive: true });
  }
});

test("in run sheets, drawings and guides too, and no markup of a catalogue is markup there", async () => {
  const [key, header] = ["a\u202eb `<b>` ` <b> | [x](y)", "Na\u001bme <b> | [x](y)"];
  const files = {
    "s.csv": `Key;Code;${header};Price\n${key};A;N;1\n`,
    "l.yaml": `layout: "l"\nformat: { csv: { delimiter: ";" } }\nrows: { each: product }\ncolumns: { Key: product.key, Code: product.code, ${JSON.stringify(header)}: product.name@en, Price: product.prices(price).amount }\n`,
    "project.yaml":
      'project: "p\u202e <b> [x](y)"\nsources: [{ file: s.csv, layout: l.yaml }]\ntargets: [{ target: pennywort }]\n',
  };
  const folder = mkdtempSync(join(tmpdir(), "written-"));
  const unsafe = /[\u0000-\u0008\u000b-\u001f\u007f-\u009f\u2028-\u202e\u2066-\u2069]/;
  try {
    for (const [name, content] of Object.entries(files)) writeFileSync(join(folder, name), content);
    const built = await runIn(folder, ["build"]);
    assert.equal(built.code, 0, built.err);
    assert.equal((await runIn(folder, ["plan", "--svg", "plan.svg"])).code, 0);
    assert.equal((await runIn(folder, ["guide", "l.yaml", "--out", "guide"])).code, 0);
    const papers = ["upload-pennywort/run-sheet.md", "upload-pennywort/run-sheet.html", "plan.svg", "guide/l.md"];
    for (const paper of papers) {
      const text = readFileSync(join(folder, paper), "utf8");
      assert.doesNotMatch(text, unsafe, paper);
      // In code of Markdown nothing is markup; in HTML brackets are not.
      const outside = paper.endsWith(".md") ? text.replace(/`[^`\n]*`/g, "") : text.replaceAll("[x](", "");
      assert.doesNotMatch(outside, /<b>|[^\\]\[x\]\(/, paper);
      if (!paper.endsWith(".svg")) assert.match(text, /\[U\+(202E|001B)\\?\]/, paper);
    }
    assert.match(readFileSync(join(folder, "upload-pennywort/01-items.csv"), "utf8"), /a\u202eb/, "the file is exact");
  } finally {
    rmSync(folder, { recursive: true });
  }
});
