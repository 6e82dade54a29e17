/**
 * How much memory a command may take. By itself the engine takes less than the machine has, and ends a command that needs more. So a command
 * that is going to read much is run again with more, before it has done anything.
 */

import { spawn } from "node:child_process";
import { once } from "node:events";
import { constants, totalmem } from "node:os";
import { getHeapStatistics } from "node:v8";

/** Bytes of memory for each byte that is read, the rehearsal included. Measured: 20 to 45. */
const perByte = 45;
/** How much of the machine's memory a command may take. */
const share = 0.75;

/** Thrown before a command has done anything: it is to be run again with so many bytes of heap. */
export class MoreHeapNeeded extends Error {
  constructor(readonly heap: number) {
    super(`a heap of ${heap} bytes is needed`);
  }
}

export interface HeapGiven {
  /** Bytes that the engine takes at most. */
  readonly limit: number;
  /** Bytes of memory that the machine has. */
  readonly machine: number;
  /** Whether whoever started the command has said how much it may take. */
  readonly isSet: boolean;
}

/** @param bytes of what is read. @returns bytes of heap to run again with; undefined where there is enough, or the machine has no more. */
export function heapNeeded(bytes: number, { limit, machine, isSet }: HeapGiven): number | undefined {
  const most = Math.floor(machine * share);
  return !isSet && bytes * perByte > limit && most > limit ? most : undefined;
}

export function heapGiven(): HeapGiven {
  const constrained = process.constrainedMemory?.() || Infinity;
  const flags = [...process.execArgv, process.env["NODE_OPTIONS"] ?? ""].join(" ");
  return {
    limit: getHeapStatistics().heap_size_limit,
    machine: Math.min(totalmem(), constrained),
    isSet: /--max[-_](old[-_]space|heap)[-_]size/.test(flags),
  };
}

/** Runs the same command with a larger heap. @returns its exit code. */
export async function runAgain({ heap }: MoreHeapNeeded): Promise<number> {
  const flags = [...process.execArgv, `--max-old-space-size=${Math.floor(heap / 1_048_576)}`];
  const again = spawn(process.execPath, [...flags, ...process.argv.slice(1)], { stdio: "inherit" });
  // What ends this process ends the other.
  for (const signal of ["SIGINT", "SIGTERM"] as const) process.on(signal, () => again.kill(signal));
  const [code, signal] = (await once(again, "exit")) as [number | null, NodeJS.Signals | null];
  return code ?? 128 + constants.signals[signal!];
}
