#!/usr/bin/env node
import { createInterface } from "node:readline/promises";
import { buildId } from "./build-id.js";
import { setUpEngine } from "./engine.js";
import { MoreHeapNeeded, runAgain } from "./heap.js";
import { keepGivenFiles } from "./kept-given.js";
import { commands, main } from "./main.js";

setUpEngine();

if (buildId !== undefined && process.env["ZEST_TIER_KEEP"] !== "off") await keepGivenFiles(buildId);

const stopped = (): Promise<void> =>
  new Promise((resolve) => ["SIGINT", "SIGTERM"].forEach((signal) => process.once(signal, () => resolve())));
const colour =
  process.env["NO_COLOR"] === undefined && (process.stdout.isTTY || process.env["FORCE_COLOR"] !== undefined);

async function ask(question: string): Promise<string> {
  const terminal = createInterface({ input: process.stdin, output: process.stderr });
  try {
    return await terminal.question(question);
  } finally {
    terminal.close();
  }
}

// A reader that stops early (`| head`) is not an error.
process.stdout.on("error", (error: NodeJS.ErrnoException) => process.exit(error.code === "EPIPE" ? 0 : 1));

/** What the script of `zest-tier completion` asks while a line is typed. */
async function complete(words: readonly string[]): Promise<number> {
  const { completionsFor } = await import("./completions.js");
  const { getShellFromEnv, log, logFiles, parseEnv } = await import("@pnpm/tabtab");
  const found = await completionsFor(commands, words, parseEnv(process.env).words, process.cwd());
  if (found === "files") logFiles();
  else log([...found], getShellFromEnv(process.env));
  return 0;
}

/** For whoever looks for a fault in what is read: row by row, without the fast path. */
if (process.env["ZEST_TIER_FAST_PATH"] === "off") {
  const { useFastPath } = await import("zest-tier/parts");
  useFastPath(false);
}

const [first, , ...line] = process.argv.slice(2);
if (first === "completion-server") process.exit(await complete(line));
process.exitCode = await main(process.argv.slice(2), {
  mayRunAgain: true,
  out: (text) => void process.stdout.write(text),
  err: (text) => void process.stderr.write(text),
  cwd: process.cwd(),
  colour,
  width: process.stdout.columns ?? 120,
  height: process.stderr.rows ?? 40,
  watched: process.stderr.isTTY,
  ask: process.stdin.isTTY && process.stderr.isTTY ? ask : undefined,
  stopped,
}).catch((error: unknown) => {
  if (error instanceof MoreHeapNeeded) return runAgain(error);
  throw error;
});
