/** How much CPU a command takes before it does anything, and to check the demo: against a bare runtime. */

import { spawnSync } from "node:child_process";
import { fileURLToPath } from "node:url";

export interface StartFigure {
  readonly command: string;
  readonly cpuMs: number;
  /** Against a bare runtime, in the same run. */
  readonly ratio: number;
}

export const bin = fileURLToPath(new URL("../../../packages/cli/bin/zest-tier.js", import.meta.url));
const mark = "cpu of the process: ";
/** Loaded by each measured process alike: it says in the end what the process took. */
const meter = `data:text/javascript,process.on("exit",()=>{const{user,system}=process.cpuUsage();process.stderr.write(${JSON.stringify(`\n${mark}`)}+(user+system)+"\\n")})`;
const runs = 15;

export interface Started {
  readonly args: readonly string[];
  readonly env?: NodeJS.ProcessEnv;
  /** What it exits with; 0, if left out. */
  readonly exit?: number;
}

/** What a process takes of the processor, in milliseconds. */
export function cpuMs({ args, env, exit = 0 }: Started): number {
  const run = { encoding: "utf8", env: { ...process.env, ...env } } as const;
  const { stderr, status } = spawnSync(process.execPath, ["--import", meter, ...args], run);
  const told = stderr.slice(stderr.lastIndexOf(mark) + mark.length);
  const micros = Number.parseInt(told, 10);
  if (status !== exit || !(micros > 0)) throw new Error(`${args.join(" ")} did not say what it took`);
  return micros / 1000;
}

/** Turn by turn, so that what else the machine does falls on all alike; medians. */
export function measureStart(): StartFigure[] {
  const demo = fileURLToPath(new URL("../../../demo/clean/project.yaml", import.meta.url));
  const commands: Readonly<Record<string, Started>> = {
    "bare runtime": { args: ["-e", "0"] },
    "--version": { args: [bin, "--version"] },
    "--help": { args: [bin, "--help"] },
    "check of the demo": { args: [bin, "check", demo] },
    "check, nothing kept of earlier runs": { args: [bin, "check", demo], env: { ZEST_TIER_KEEP: "off" } },
  };
  const taken = new Map(Object.keys(commands).map((name): [string, number[]] => [name, []]));
  for (let run = 0; run < runs; run++)
    for (const [name, started] of Object.entries(commands)) taken.get(name)?.push(cpuMs(started));
  const median = (name: string) => (taken.get(name) ?? []).sort((a, b) => a - b)[Math.floor(runs / 2)] ?? NaN;
  const bare = median("bare runtime");
  return Object.keys(commands).map((name) => ({ command: name, cpuMs: median(name), ratio: median(name) / bare }));
}
