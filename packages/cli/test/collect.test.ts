/** The whole way on a platform that gives out ids, with the real command and the real stand-in: build, send, collect, and again. */

import assert from "node:assert/strict";
import { spawn } from "node:child_process";
import { cpSync, existsSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { after, before, test } from "node:test";
import { fileURLToPath } from "node:url";
import { Findings } from "zest-tier";
import { parseLedger } from "zest-tier/parts";
import { startStandIn, type StandIn } from "@zest-tier/standins";
import { deliver } from "#src/deliver.js";
import { main } from "#src/main.js";
import { openPlanned } from "#src/planned.js";

const kills = Number(process.env["KILLS"] ?? 6);
const bin = fileURLToPath(new URL("../../bin/zest-tier.js", import.meta.url));
const shippedDemo = fileURLToPath(new URL("../../../../demo/clean", import.meta.url));

let folder: string;
let standIn: StandIn;
before(async () => {
  folder = mkdtempSync(join(tmpdir(), "zest-collect-"));
  cpSync(shippedDemo, folder, { recursive: true });
  standIn = await startStandIn("saltmarsh");
});
after(async () => {
  await standIn.stop();
  rmSync(folder, { recursive: true, force: true });
});

async function run(...argv: string[]): Promise<{ code: number; out: string; err: string }> {
  let [out, err] = ["", ""];
  const io = {
    out: (text: string) => void (out += text),
    err: (text: string) => void (err += text),
    cwd: folder,
    colour: false,
    width: 200,
    height: 40,
    watched: false,
    stopped: () => Promise.resolve(),
  };
  const code = await main([...argv, ".", "--for", "saltmarsh"], io);
  return { code, out, err };
}

const quiet = { out: () => undefined, err: () => undefined, cwd: "/", colour: false, width: 100, height: 40 };

/** Sends what was built, keeping the answers. */
async function send(): Promise<void> {
  const planned = await openPlanned({ argument: folder, options: { for: "saltmarsh" } }, quiet as never);
  assert.ok(planned.ok);
  const { opened, uploadFolder } = planned.session;
  await deliver(standIn.url, opened.target, planned.prepared.plan, uploadFolder, join(folder, "reports-saltmarsh"));
}

const ledgerText = () => readFileSync(join(folder, "ledger-saltmarsh.jsonl"), "utf8");
const idsIn = (text: string) => {
  const findings = new Findings();
  const lines = text
    .split("\n")
    .filter((line) => line !== "")
    .map((line) => JSON.parse(line) as { kind: string; key: string; id?: string });
  parseLedger(text, "l", findings);
  assert.deepEqual(findings.list(), []);
  return lines.flatMap(({ kind, key, id }) => (id === undefined ? [] : [`${kind} ${key} ${id}`]));
};

test("builds, sends and collects until nothing is left; then a build writes nothing (L4)", async () => {
  const texts: string[] = [];
  for (let round = 1; ; round++) {
    assert.ok(round < 10, "it comes to an end");
    const built = await run("build");
    assert.equal(built.code, 0, built.err);
    texts.push(built.out);
    await send();
    const collected = await run("collect");
    assert.equal(collected.code, 0, collected.err);
    if (!built.out.includes("The folder ends before step")) break;
  }
  assert.equal(
    texts.length,
    6,
    "five collections are needed: the tree is five deep, and products stand in its deepest node",
  );
  const ids = idsIn(ledgerText());
  assert.equal(new Set(ids).size, ids.length);
  const again = await run("build");
  assert.match(again.out, /Nothing to upload/);
  const plan = await run("plan");
  assert.match(plan.out, /^0 steps/);
});

test("refuses to collect for an upload folder that is not what would be built now, and for what is not a report", async () => {
  const other = await run("collect");
  assert.equal(other.code, 1);
  assert.ok(other.err.includes("collect/other-upload"));
  rmSync(join(folder, "ledger-saltmarsh.jsonl"));
  await fetch(`${standIn.url}/reset`, { method: "POST" });
  assert.equal((await run("build")).code, 0);
  rmSync(join(folder, "reports-saltmarsh"), { recursive: true });
  await send();
  writeFileSync(join(folder, "reports-saltmarsh/02-branches.tsv.report.json"), "<html>");
  const spoilt = await run("collect");
  assert.equal(spoilt.code, 1);
  assert.ok(spoilt.err.includes("collect/not-a-report"));
  assert.ok(!existsSync(join(folder, "ledger-saltmarsh.jsonl")), "a collect that fails writes nothing");
  rmSync(join(folder, "reports-saltmarsh/02-branches.tsv.report.json"));
  const lacking = await run("collect");
  assert.equal(lacking.code, 1);
  assert.match(lacking.err, /there is no report for this file\n +02-branches\.tsv/);
  assert.match(lacking.out, /Nothing was collected/);
  assert.ok(!existsSync(join(folder, "ledger-saltmarsh.jsonl")), "a collect that fails writes nothing");
});

test("refuses to collect when a source has changed since the build, though the files are called the same", async () => {
  rmSync(join(folder, "ledger-saltmarsh.jsonl"), { force: true });
  await fetch(`${standIn.url}/reset`, { method: "POST" });
  assert.equal((await run("build")).code, 0);
  await send();
  const source = join(folder, "sources/categories.csv");
  const before = readFileSync(source, "utf8");
  const [header = "", first = "", ...rest] = before.split("\r\n");
  // The first root last: every line of the file would be taken for another branch.
  writeFileSync(source, [header, ...rest.filter((line) => line !== ""), first, ""].join("\r\n"));
  const changed = await run("collect");
  assert.ok(changed.err.includes("collect/other-upload"), changed.err);
  writeFileSync(source, before);
  assert.equal((await run("collect")).code, 0);
});

test(`a collect that is killed at any of ${kills} moments loses nothing that was told and doubles nothing`, async () => {
  rmSync(join(folder, "ledger-saltmarsh.jsonl"), { force: true });
  await fetch(`${standIn.url}/reset`, { method: "POST" });
  assert.equal((await run("build")).code, 0);
  await send();
  assert.equal((await run("collect")).code, 0);
  const whole = new Set(idsIn(ledgerText()));
  assert.ok(whole.size > 20);
  let killed = 0;
  for (let at = 0; at < kills; at++) {
    rmSync(join(folder, "ledger-saltmarsh.jsonl"), { force: true });
    const child = spawn(process.execPath, [bin, "collect", ".", "--for", "saltmarsh"], {
      cwd: folder,
      stdio: "ignore",
    });
    const gone = new Promise<void>((resolve) =>
      child.on("exit", (_code, signal) => {
        if (signal) killed++;
        resolve();
      }),
    );
    setTimeout(() => child.kill("SIGKILL"), 150 + Math.random() * 900);
    await gone;
    // Collecting again comes to the same, whatever was left: nothing, some whole batch, or a line that was not finished.
    const again = await run("collect");
    const isDone = again.err.includes("collect/other-upload");
    assert.ok(again.code === 0 || isDone, again.err);
    assert.deepEqual(new Set(idsIn(ledgerText())), whole);
  }
  assert.ok(killed > 0, "some were killed before they were done");
});
