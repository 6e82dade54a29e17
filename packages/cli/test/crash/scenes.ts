/** What is going on when the disk fails or the process ends, and what must hold afterwards. */

import assert from "node:assert/strict";
import { spawn } from "node:child_process";
import { createHash } from "node:crypto";
import { cpSync, existsSync, mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { fileURLToPath } from "node:url";
import { isDeepStrictEqual } from "node:util";
import { startStandIn } from "@zest-tier/standins";
import { deliver, readBack } from "#src/deliver.js";
import type { Io } from "#src/io.js";
import { main } from "#src/main.js";
import { openPlanned } from "#src/planned.js";
import { inject, type Fault } from "./inject.js";

const bin = fileURLToPath(new URL("../../../bin/zest-tier.js", import.meta.url));
const preload = new URL("./preload.js", import.meta.url).href;
const shippedDemo = fileURLToPath(new URL("../../../../../demo/clean", import.meta.url));

/** A command on a folder, and all of what the folder may hold after it. */
export interface Scene {
  readonly name: string;
  readonly argv: readonly string[];
  /** The folder before it. */
  readonly before: string;
  /** What each file of interest holds before and after; a file that is not there holds undefined. */
  readonly states: { readonly before: State; readonly after: State };
  readonly stateOf: (folder: string) => State;
  /** Where it goes through states of its own, each of them whole. */
  readonly hasSteps?: boolean;
  /** Where it is done once: the same again, after it came to its end, has nothing to do. */
  readonly isOnce?: boolean;
}
type State = Readonly<Record<string, string | undefined>>;

export interface Outcome {
  readonly calls: number;
  readonly struck: string | undefined;
  readonly code: number | null;
  readonly err: string;
}

/** Runs a command in this process, with a fault at one call. */
async function runHere(
  folder: string,
  argv: readonly string[],
  fault: Fault | undefined,
  at: number,
): Promise<Outcome> {
  let err = "";
  const { injector, stop } = inject(folder, fault, at);
  try {
    const code = await main(argv, { ...quietIo, cwd: folder, width: 200, err: (text) => void (err += text) });
    return { calls: injector.calls, struck: injector.struck, code, err };
  } finally {
    stop();
  }
}

/** Runs the real binary, which is killed at one call. */
function runKilled(folder: string, argv: readonly string[], at: number): Promise<Outcome> {
  return new Promise((resolve) => {
    const env = { ...process.env, CRASH_FOLDER: folder, CRASH_FAULT: "kill", CRASH_AT: String(at) };
    const child = spawn(process.execPath, ["--import", preload, bin, ...argv], { cwd: folder, env, stdio: "ignore" });
    child.on("close", (code, signal) =>
      resolve({ calls: at, struck: signal === "SIGKILL" ? "kill" : undefined, code, err: "" }),
    );
  });
}

/** How many calls of the file system a command makes. */
export const callsOf = (scene: Scene): Promise<number> =>
  inCopy(scene, async (folder) => (await runHere(folder, scene.argv, undefined, 0)).calls);

/**
 * Runs a scene with a fault at one call, and then once more without: whatever the first comes to, nothing is half-written, and the second
 * goes on as if nothing had been.
 *
 * @throws AssertionError where that does not hold.
 */
export const strike = (scene: Scene, fault: Fault, at: number): Promise<Outcome> =>
  inCopy(scene, async (folder) => {
    const first =
      fault === "kill" ? await runKilled(folder, scene.argv, at) : await runHere(folder, scene.argv, fault, at);
    if (first.code !== null) {
      assert.ok([0, 1, 3].includes(first.code), `exit code ${first.code}`);
      assert.doesNotMatch(first.err, /\n\s+at .*\(|node:internal|Error:/);
      assert.ok(first.code === 0 || /→ /.test(first.err), `a finding with a remedy, not: ${first.err}`);
    }
    const { before, after } = scene.states;
    const then = scene.stateOf(folder);
    for (const [name, content] of scene.hasSteps ? [] : Object.entries(then))
      assert.ok(content === after[name] || content === before[name], `${name} is neither as before nor as after`);
    for (const name of readdirSync(folder).filter((one) => one.startsWith("upload-"))) assertWhole(join(folder, name));
    if (first.code === 0) assert.deepEqual(then, after, "it reports success");
    // In the process that goes on, what could not be taken away would count as held; a new run sees that its process is gone.
    for (const file of readdirSync(folder)) if (file.endsWith(".lock")) rmSync(join(folder, file));
    if (scene.isOnce && isDeepStrictEqual(then, after)) return first;
    const second = await runHere(folder, scene.argv, undefined, 0);
    assert.equal(second.code, 0, second.err);
    assert.deepEqual(scene.stateOf(folder), after, "after a second run");
    const left = readdirSync(folder).filter((file) => file.startsWith(".") && !/zest-tier-new-/.test(file));
    assert.deepEqual(left, [], "nothing is left over");
    return first;
  });

async function inCopy<T>(scene: Pick<Scene, "before">, work: (folder: string) => Promise<T>): Promise<T> {
  const above = mkdtempSync(join(tmpdir(), "zest-crash-"));
  const folder = join(above, "shop");
  cpSync(scene.before, folder, { recursive: true });
  try {
    return await work(folder);
  } finally {
    rmSync(above, { recursive: true, force: true });
  }
}

const hashOf = (path: string): string | undefined =>
  existsSync(path) ? createHash("sha256").update(readFileSync(path)).digest("hex") : undefined;

/** Every file is as the manifest has it. */
function assertWhole(upload: string): void {
  const manifest = JSON.parse(readFileSync(join(upload, "datapackage.json"), "utf8")) as {
    resources: { path: string; hash: string }[];
  };
  for (const { path, hash } of manifest.resources) assert.equal(hash, `sha256:${hashOf(join(upload, path))}`, path);
}

/** An upload folder counts as a whole, with all that is in it. */
function uploadState(folder: string): string | undefined {
  if (!existsSync(folder)) return undefined;
  const names = readdirSync(folder).sort();
  return JSON.stringify(names.map((name) => [name, hashOf(join(folder, name))]));
}

async function sceneOf(given: Omit<Scene, "states">): Promise<Scene> {
  const states = await inCopy(given, async (folder) => {
    const before = given.stateOf(folder);
    const { code, err } = await runHere(folder, given.argv, undefined, 0);
    assert.equal(code, 0, err);
    return { before, after: given.stateOf(folder) };
  });
  assert.notDeepEqual(states.before, states.after);
  return { ...given, states };
}

/** @param above a folder to prepare them in. */
export async function scenes(above: string): Promise<Scene[]> {
  const built = join(above, "built");
  cpSync(shippedDemo, built, { recursive: true });
  await runHere(built, ["build"], undefined, 0);
  const range = join(built, "sources/range.csv");
  writeFileSync(range, readFileSync(range, "utf8").replace("24,00", "25,00").replace("24.00", "25.00"));

  const answered = join(above, "answered");
  cpSync(shippedDemo, answered, { recursive: true });
  await answerFirstRound(answered);

  const empty = join(above, "empty");
  cpSync(shippedDemo, empty, { recursive: true });
  return [
    await sceneOf({
      name: "build",
      argv: ["build"],
      before: built,
      stateOf: (folder) => ({ upload: uploadState(join(folder, "upload-pennywort")) }),
    }),
    await sceneOf({
      name: "collect",
      argv: ["collect", "--for", "saltmarsh"],
      before: answered,
      isOnce: true,
      stateOf: (folder) => ({ ledger: hashOf(join(folder, "ledger-saltmarsh.jsonl")) }),
    }),
    await sceneOf({
      name: "demo, with its upload",
      argv: ["demo", ".", "--for", "saltmarsh"],
      before: empty,
      hasSteps: true,
      stateOf: (folder) => ({ upload: uploadState(join(folder, "upload-saltmarsh")) }),
    }),
  ];
}

/** Somebody who looks at nothing. */
export const quietIo: Io = {
  out: () => undefined,
  err: () => undefined,
  cwd: "/",
  colour: false,
  width: 100,
  height: 40,
  watched: false,
  stopped: () => Promise.resolve(),
};

/** The first files are sent to a stand-in, and its reports saved. @returns what is on it then. */
export async function answerFirstRound(folder: string): Promise<unknown> {
  await runHere(folder, ["build", "--for", "saltmarsh"], undefined, 0);
  const shop = await startStandIn("saltmarsh");
  try {
    const planned = await openPlanned({ argument: folder, options: { for: "saltmarsh" } }, quietIo);
    assert.ok(planned.ok);
    const { opened } = planned.session;
    const [upload, reports] = [join(folder, "upload-saltmarsh"), join(folder, "reports-saltmarsh")];
    await deliver(shop.url, opened.target, planned.prepared.plan, upload, reports);
    return await readBack(shop.url, opened.target);
  } finally {
    await shop.stop();
  }
}
