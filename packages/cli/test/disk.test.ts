/** What the disk and other runs do to us: full disks, cut-off writes, folders of somebody else, two runs at once, runs that were killed. */

import assert from "node:assert/strict";
import { spawn } from "node:child_process";
import { createHash } from "node:crypto";
import {
  cpSync,
  existsSync,
  lstatSync,
  mkdirSync,
  mkdtempSync,
  readdirSync,
  readFileSync,
  renameSync,
  rmSync,
  statSync,
  symlinkSync,
  truncateSync,
  writeFileSync,
} from "node:fs";
import { hostname, tmpdir } from "node:os";
import { join } from "node:path";
import { after, before, test } from "node:test";
import { fileURLToPath } from "node:url";
import { startStandIn } from "@zest-tier/standins";
import { Findings } from "zest-tier";
import { lockAll, openLedger, writeFully } from "zest-tier/node";
import { deliver } from "#src/deliver.js";
import { main } from "#src/main.js";
import { openPlanned } from "#src/planned.js";

const bin = fileURLToPath(new URL("../../bin/zest-tier.js", import.meta.url));
const shippedDemo = fileURLToPath(new URL("../../../../demo/clean", import.meta.url));

let above: string;
let folder: string;
let upload: string;
before(() => {
  above = mkdtempSync(join(tmpdir(), "zest-disk-"));
  folder = join(above, "shop");
  upload = join(folder, "upload-pennywort");
  cpSync(shippedDemo, folder, { recursive: true });
});
after(() => rmSync(above, { recursive: true, force: true }));

interface Said {
  readonly code: number | null;
  readonly out: string;
  readonly err: string;
}

/** The command in this process. */
async function run(argv: readonly string[]): Promise<Said> {
  const said = { out: "", err: "" };
  const code = await main(argv, {
    out: (text) => void (said.out += text),
    err: (text) => void (said.err += text),
    cwd: folder,
    colour: false,
    width: 200,
    height: 40,
    watched: false,
    stopped: () => Promise.resolve(),
  });
  return { ...said, code };
}

/** The real binary, under what the shell sets before it. */
function spawned(argv: readonly string[], shell = "", kill?: number): Promise<Said> {
  return new Promise((resolve) => {
    const child = spawn("bash", ["-c", `${shell} exec "$0" "$@"`, process.execPath, bin, ...argv], { cwd: folder });
    const said = { out: "", err: "" };
    child.stdout.on("data", (chunk: Buffer) => (said.out += chunk.toString()));
    child.stderr.on("data", (chunk: Buffer) => (said.err += chunk.toString()));
    child.on("close", (code) => resolve({ ...said, code }));
    if (kill !== undefined) setTimeout(() => child.kill("SIGKILL"), kill);
  });
}

const sha256 = (bytes: Uint8Array): string => createHash("sha256").update(bytes).digest("hex");

/** Every file is as the manifest has it. */
function assertWhole(at: string): void {
  const manifest = JSON.parse(readFileSync(join(at, "datapackage.json"), "utf8")) as {
    resources: { path: string; hash: string }[];
  };
  assert.ok(manifest.resources.length > 2);
  for (const { path, hash } of manifest.resources)
    assert.equal(hash, `sha256:${sha256(readFileSync(join(at, path)))}`, path);
}

const unfinished = (): string[] =>
  readdirSync(folder).filter((name) => name.startsWith(".") && !name.endsWith(".lock"));
const assertPlain = ({ err }: Said): void => assert.doesNotMatch(err, /\n\s+at .*\(|node:internal|Error:/, err);

test("replaces its own earlier upload, and no other folder: none without its mark, none of another project, none with more in it", async () => {
  assert.equal((await run(["build"])).code, 0);
  writeFileSync(join(upload, "02-items.csv"), "spoilt");
  assert.equal((await run(["build"])).code, 0);
  assertWhole(upload);

  const strange: readonly (readonly [string, () => void, string])[] = [
    ["a manifest of somebody's", () => writeFileSync(join(upload, "datapackage.json"), "{}"), "build/folder-there"],
    [
      "another project's",
      () => writeFileSync(join(upload, ".zest-tier-upload.json"), '{"project":"Thornbury","files":[]}'),
      "build/folder-of-other",
    ],
  ];
  for (const [what, make, said] of strange) {
    rmSync(upload, { recursive: true });
    mkdirSync(upload);
    make();
    writeFileSync(join(upload, "accounts.ods"), "precious");
    const before = readdirSync(upload);
    const built = await run(["build"]);
    assert.deepEqual([built.code, built.out.includes("Built")], [3, false], what);
    assert.ok(built.err.includes(said), built.err);
    assert.deepEqual(readdirSync(upload), before, what);
  }
  rmSync(upload, { recursive: true });
  assert.equal((await run(["build"])).code, 0);
  for (const add of [
    () => writeFileSync(join(upload, "notes.txt"), "mine"),
    () => mkdirSync(join(upload, "kept")),
    () => (
      renameSync(join(upload, "run-sheet.md"), join(above, "x")),
      symlinkSync(join(above, "x"), join(upload, "run-sheet.md"))
    ),
  ]) {
    add();
    const before = readdirSync(upload);
    const built = await run(["build"]);
    assert.equal(built.code, 3);
    assert.ok(built.err.includes("build/folder-has-others"), built.err);
    assert.deepEqual(readdirSync(upload), before);
    rmSync(upload, { recursive: true });
    assert.equal((await run(["build"])).code, 0);
  }
});

test("neither follows nor replaces a link at the upload folder's place", async () => {
  const real = join(above, "elsewhere");
  rmSync(real, { recursive: true, force: true });
  renameSync(upload, real);
  symlinkSync(real, upload);
  const before = readdirSync(real).map((name) => [name, statSync(join(real, name)).mtimeMs]);
  const built = await run(["build"]);
  assert.equal(built.code, 3);
  assert.ok(built.err.includes("build/folder-link"), built.err);
  assert.ok(lstatSync(upload).isSymbolicLink());
  assert.deepEqual(
    readdirSync(real).map((name) => [name, statSync(join(real, name)).mtimeMs]),
    before,
  );
  rmSync(upload);
});

test("writes every byte, however few the system takes at a time, and reports when it takes none", async () => {
  for (const most of [1, 3, 1000]) {
    const taken: number[] = [];
    const bytes = Uint8Array.from({ length: 100 }, (_, at) => at);
    const write = (given: Uint8Array) => {
      taken.push(...given.subarray(0, most));
      return Promise.resolve({ bytesWritten: Math.min(most, given.length) });
    };
    await writeFully({ write }, bytes);
    assert.deepEqual(taken, [...bytes]);
  }
  await assert.rejects(writeFully({ write: () => Promise.resolve({ bytesWritten: 0 }) }, new Uint8Array(1)));
});

test("on a disk that takes only so much nothing is built: exit 3, a sentence, the earlier upload as it was, nothing left over", async () => {
  rmSync(upload, { recursive: true, force: true });
  let refused = 0;
  for (const kibibytes of [1, 60, 180]) {
    const built = await spawned(["build"], `trap '' XFSZ; ulimit -f ${kibibytes};`);
    if (built.code === 0) {
      assertWhole(upload);
      continue;
    }
    refused++;
    assert.deepEqual([built.code, /Built/.test(built.out)], [3, false]);
    assert.match(built.err, /cannot be written: the file would be larger\s+than is\s+allowed here \(EFBIG\)/);
    assertPlain(built);
    assert.ok(!existsSync(upload));
    assert.deepEqual(unfinished(), []);
  }
  assert.ok(refused >= 2, `${refused} times the disk was too small`);
  assert.equal((await run(["build"])).code, 0);
  const again = await spawned(["build"], "trap '' XFSZ; ulimit -f 20;");
  assert.equal(again.code, 3);
  assertWhole(upload);
});

test("what is written follows the umask", async () => {
  rmSync(upload, { recursive: true, force: true });
  for (const [mask, folderMode, fileMode] of [
    ["027", 0o750, 0o640],
    ["000", 0o777, 0o666],
  ] as const) {
    assert.equal((await spawned(["build"], `umask ${mask};`)).code, 0);
    assert.equal(statSync(upload).mode & 0o777, folderMode);
    for (const name of readdirSync(upload)) assert.equal(statSync(join(upload, name)).mode & 0o777, fileMode, name);
  }
});

test("cleans what killed runs left, and gives an earlier upload its name back", async () => {
  const dead = "999999999";
  mkdirSync(join(folder, `.upload-pennywort.zest-tier-new-${dead}-0123abcd`));
  const alive = join(folder, `.upload-pennywort.zest-tier-new-${process.pid}-0123abcd`);
  mkdirSync(alive);
  renameSync(upload, join(folder, ".upload-pennywort.zest-tier-old"));
  // Even where this build comes to nothing.
  assert.equal((await spawned(["build"], "trap '' XFSZ; ulimit -f 20;")).code, 3);
  assertWhole(upload);
  assert.deepEqual(unfinished(), [alive.slice(folder.length + 1)], "what a living process is writing stays");
  rmSync(alive, { recursive: true });
});

test("a build that is killed at any moment leaves the earlier upload or the new one, whole, and the next goes on at once", async () => {
  for (let at = 0; at < 3; at++) {
    await spawned(["build"], "", 300 + at * 130);
    if (existsSync(upload)) assertWhole(upload);
    const next = await run(["build"]);
    assert.equal(next.code, 0, next.err);
    assertWhole(upload);
    assert.deepEqual(unfinished(), []);
  }
});

test("of runs at once each waits, or is refused with a sentence; the upload is whole", async () => {
  const runs = await Promise.all(Array.from({ length: 4 }, () => spawned(["build"])));
  for (const one of runs) {
    assert.ok(one.code === 0 || one.code === 3, one.err);
    if (one.code === 3)
      assert.match(
        one.err,
        /another run of Zest Tier is using this project, ledger\s+or upload\s+folder \(process \d+/,
      );
    assertPlain(one);
  }
  assert.ok(runs.some(({ code }) => code === 0));
  assertWhole(upload);
  assert.deepEqual(
    readdirSync(folder).filter((name) => name.endsWith(".lock")),
    [],
  );
});

test("a project, a ledger or an upload folder that another run uses is refused; one whose run was killed is taken over", async () => {
  const elsewhere = join(above, "upload");
  const other = join(above, "other");
  cpSync(shippedDemo, other, { recursive: true });
  for (const [path, options] of [
    [join(folder, "project.yaml"), []],
    [join(folder, "ledger-pennywort.jsonl"), []],
    [elsewhere, ["--upload", elsewhere]],
  ] as const) {
    const locked = await lockAll([path]);
    assert.ok(locked.ok);
    const refused = await run(["build", ...options]);
    assert.equal(refused.code, 3, path);
    assert.ok(refused.err.includes("io/locked"), refused.err);
    await locked.value.release();
    assert.equal((await run(["build", ...options])).code, 0);
  }
  const file = join(folder, ".project.yaml.lock");
  writeFileSync(file, JSON.stringify({ pid: 999999999, host: hostname(), began: 1 }));
  assert.equal((await run(["build"])).code, 0);
  writeFileSync(file, JSON.stringify({ pid: 1, host: "another-machine", began: 1 }));
  const far = await run(["build"]);
  assert.equal(far.code, 3);
  assert.match(far.err, /process 1 on another-machine/);
  rmSync(file);
  // The same process cannot have it twice.
  const once = await lockAll([file]);
  assert.ok(once.ok);
  assert.equal((await lockAll([file], 0)).ok, false);
  await once.value.release();
});

test("whatever is in the way of reading and writing is a finding with a remedy, exit 3, and no stack", async () => {
  const cases: readonly (readonly [string, readonly string[], () => void])[] = [
    ["the ledger is a folder", ["plan"], () => mkdirSync(join(folder, "ledger-pennywort.jsonl"))],
    [
      "a list for translators has no folder",
      ["translations", "--into", "fr", "--out", "no/where.xlsx"],
      () => undefined,
    ],
    ["a drawing has no folder", ["plan", "--svg", "no/where.svg"], () => undefined],
    ["a drawing's place is a folder", ["plan", "--svg", "sources"], () => undefined],
    ["a guide's folder is below a file", ["guide", "pennywort/items", "--out", "project.yaml/guide"], () => undefined],
  ];
  for (const [what, argv, make] of cases) {
    make();
    const said = await run(argv);
    assert.equal(said.code, 3, `${what}: ${said.err}`);
    assert.match(said.err, /→ /, what);
    if (argv[0] === "guide") assert.ok(said.err.includes("io/failed"), said.err);
    assertPlain(said);
    const json = await run([...argv, "--format", "json"]);
    const { findings } = JSON.parse(json.out) as { findings: { code: string; remedy: string }[] };
    assert.ok(
      findings.some(({ remedy }) => remedy.length > 10),
      what,
    );
    assert.equal(json.code, 3);
    rmSync(join(folder, "ledger-pennywort.jsonl"), { recursive: true, force: true });
  }
});

test("from any cut of the ledger collect and build go on to the same ids, and send nothing again", async () => {
  const shop = await startStandIn("saltmarsh");
  const ledger = join(folder, "ledger-saltmarsh.jsonl");
  const files = () =>
    Object.fromEntries(
      readdirSync(join(folder, "upload-saltmarsh"))
        .filter((name) => name.endsWith(".tsv"))
        .map((name) => [name, sha256(readFileSync(join(folder, "upload-saltmarsh", name)))]),
    );
  const command = (name: string) => run([name, "--for", "saltmarsh"]);
  try {
    const texts: string[] = [""];
    const built: Record<string, string>[] = [];
    for (let round = 0; round < 3; round++) {
      assert.equal((await command("build")).code, 0);
      built.push(files());
      const quiet = { out: () => undefined, err: () => undefined, cwd: "/", colour: false, width: 100, height: 40 };
      const planned = await openPlanned({ argument: folder, options: { for: "saltmarsh" } }, quiet as never);
      assert.ok(planned.ok);
      await deliver(
        shop.url,
        planned.session.opened.target,
        planned.prepared.plan,
        join(folder, "upload-saltmarsh"),
        join(folder, "reports-saltmarsh"),
      );
      const last = round === 2;
      if (last) cpSync(join(folder, "reports-saltmarsh"), join(above, "reports"), { recursive: true });
      assert.equal((await command("collect")).code, 0);
      texts.push(readFileSync(ledger, "utf8"));
    }
    const [from, to] = [texts[2]!.length, texts[3]!.length];
    assert.equal((await command("build")).code, 0);
    const next = files();
    for (const part of [0, 0.5, 0.999]) {
      writeFileSync(ledger, texts[3]!);
      truncateSync(ledger, Math.floor(from + (to - from) * part));
      // The folder of the round that was answered, as it was when it was sent: the same is built.
      assert.equal((await command("build")).code, 0);
      assert.deepEqual(files(), built[2], `cut at ${part}`);
      assert.equal((await command("collect")).code, 0);
      assert.equal(readFileSync(ledger, "utf8"), texts[3]);
      assert.equal((await command("build")).code, 0);
      assert.deepEqual(files(), next);
    }
    // A disk that is full halfway: none of the batch counts, and the next collect writes it whole.
    writeFileSync(ledger, texts[2]!);
    assert.equal((await command("build")).code, 0);
    const full = await spawned(
      ["collect", "--for", "saltmarsh"],
      `trap '' XFSZ; ulimit -f ${Math.ceil(from / 1024) + 4};`,
    );
    assert.equal(full.code, 3, full.err);
    assert.ok(full.err.includes("io/cannot-write"), full.err);
    assertPlain(full);
    const findings = new Findings();
    const { ledger: read } = await openLedger(ledger, "l", findings);
    writeFileSync(join(above, "l"), texts[2]!);
    const { ledger: earlier } = await openLedger(join(above, "l"), "l", new Findings());
    assert.equal(read.size, earlier.size);
    assert.equal((await command("collect")).code, 0);
    assert.equal(readFileSync(ledger, "utf8"), texts[3]);
  } finally {
    await shop.stop();
  }
});
