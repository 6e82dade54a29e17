/**
 * `npm run fuzz -- --minutes N [--seed S]`: damaged inputs without end, until the time is over. An exception, more than ten seconds, or
 * more memory than the cap fails; each is printed with its seed, and can be tried again with `--only SEED`.
 * `--keep FOLDER` keeps one input of each failure: those of `corpus` run with the tests.
 */

import { fork, type ChildProcess } from "node:child_process";
import { mkdirSync, readFileSync, writeFileSync } from "node:fs";
import { join } from "node:path";
import { fileURLToPath } from "node:url";
import { parseArgs } from "node:util";

const mostSeconds = 10;
const mostMegabytes = 1_500;
const batch = 200;

const { values } = parseArgs({
  options: {
    minutes: { type: "string", default: "1" },
    seed: { type: "string" },
    only: { type: "string" },
    keep: { type: "string" },
  },
});
const first = Number(values.only ?? values.seed ?? Date.now() % 1_000_000_000);
const ends = values.only === undefined ? Date.now() + Number(values.minutes) * 60_000 : 0;

type Message =
  | { readonly begins: number; readonly name: string }
  | { readonly crashed: number; readonly name: string; readonly stack: string; readonly input?: object }
  | { readonly wholeWay: string }
  | { readonly done: number };

const counts = { inputs: 0, crashed: 0, hung: 0, "over memory": 0 };
const byFamily = new Map<string, number>();
/** Of them those that went all the way. */
const wholeWay = new Map<string, number>();

const worker = (): ChildProcess =>
  fork(fileURLToPath(new URL("./worker.js", import.meta.url)), {
    execArgv: [`--max-old-space-size=${mostMegabytes}`],
    stdio: ["ignore", "inherit", "inherit", "ipc"],
  });

/** Of a process, in megabytes; 0 where that cannot be told. */
function megabytesOf(pid: number | undefined): number {
  try {
    const pages = Number(readFileSync(`/proc/${pid}/statm`, "utf8").split(" ")[1]);
    return (pages * 4_096) / 1e6;
  } catch {
    return 0;
  }
}

/** Each message of a failure once: its input is kept, to be put into the corpus once it is fixed. */
const kept = new Set<string>();
function keep({ name, crashed, stack, input }: Extract<Message, { readonly crashed: number }>): void {
  const message = stack.split("\n")[0] ?? "";
  if (values.keep === undefined || input === undefined || kept.has(message)) return;
  kept.add(message);
  mkdirSync(values.keep, { recursive: true });
  writeFileSync(join(values.keep, `${name}-${crashed}.json`), `${JSON.stringify({ family: name, ...input })}\n`);
}

/** Tries a batch of seeds. @returns the next seed to try. */
function tryBatch(child: ChildProcess, from: number): Promise<{ readonly next: number; readonly isAlive: boolean }> {
  const to = values.only === undefined ? from + batch : from + 1;
  return new Promise((resolve) => {
    let current = from;
    let name = "";
    let since = Date.now();
    const over = (what: "crashed" | "hung" | "over memory", more = ""): void => {
      counts[what]++;
      console.log(`${what}: seed ${current}, ${name}${more}`);
      clearInterval(watch);
      child.removeAllListeners();
      child.kill("SIGKILL");
      resolve({ next: current + 1, isAlive: false });
    };
    const watch = setInterval(() => {
      if (Date.now() - since > mostSeconds * 1_000) over("hung");
      else if (megabytesOf(child.pid) > mostMegabytes) over("over memory");
    }, 200);
    child.on("message", (message: Message) => {
      if ("begins" in message) {
        [current, name, since] = [message.begins, message.name, Date.now()];
        counts.inputs++;
        byFamily.set(name, (byFamily.get(name) ?? 0) + 1);
      } else if ("wholeWay" in message) {
        wholeWay.set(message.wholeWay, (wholeWay.get(message.wholeWay) ?? 0) + 1);
      } else if ("crashed" in message) {
        counts.crashed++;
        console.log(`crashed: seed ${message.crashed}, ${message.name}\n${message.stack}\n`);
        keep(message);
      } else {
        clearInterval(watch);
        child.removeAllListeners();
        resolve({ next: message.done, isAlive: true });
      }
    });
    child.on("exit", () => over("crashed", ", the process ended"));
    child.send({ from, to });
  });
}

console.log(`first seed: ${first}`);
let child = worker();
for (let seed = first; ;) {
  const { next, isAlive } = await tryBatch(child, seed);
  seed = next;
  if (Date.now() >= ends) break;
  if (!isAlive) child = worker();
}
child.kill();
const families = [...byFamily]
  .map(([name, count]) => `${name} ${count}, all the way ${wholeWay.get(name) ?? 0}`)
  .join("; ");
console.log(
  `${counts.inputs} inputs (${families}): ${counts.crashed} crashed, ${counts.hung} hung, ${counts["over memory"]} over memory`,
);
process.exitCode = counts.crashed + counts.hung + counts["over memory"] > 0 ? 1 : 0;
