/**
 * Faults of the disk, and a sudden end, at one call of the file system: the first, the second, and so on. Calls count where their path lies
 * in the folder that is watched.
 */

import { writeSync } from "node:fs";
import { createRequire, syncBuiltinESMExports } from "node:module";

export const faults = ["ENOSPC", "EIO", "EACCES", "short write", "kill"] as const;
export type Fault = (typeof faults)[number];

type Call = (...given: unknown[]) => unknown;
interface Handle {
  write: Call;
  [name: string]: unknown;
}

/** How many calls there were, and at which of them what happens. */
class Injector {
  calls = 0;
  /** What was called at the place of the fault; undefined where there were fewer calls. */
  struck: string | undefined;

  constructor(
    readonly folder: string,
    readonly fault: Fault | undefined,
    readonly at: number,
  ) {}

  /** @returns whether this call is the one; it does not come back from the end of the process, and throws what a disk says. */
  meets(name: string, path: unknown, halfway?: () => unknown): boolean {
    this.calls += 1;
    if (this.calls !== this.at || this.fault === undefined) return false;
    this.struck = `${name} ${String(path)}`;
    if (this.fault === "kill") {
      halfway?.();
      process.kill(process.pid, "SIGKILL");
    }
    // Only a write can be short.
    if (this.fault === "short write") return halfway !== undefined;
    const error = new Error(`${this.fault}: injected, ${this.struck}`);
    throw Object.assign(error, { code: this.fault, syscall: name.split(".").at(-1) });
  }
}

const later = ["open", "rename", "rm", "mkdir", "readdir", "stat", "lstat", "realpath", "readFile", "readlink"];
const more = ["truncate", "cp", "writeFile"];
const atOnce = ["statSync", "readdirSync", "rmSync", "existsSync", "mkdirSync", "cpSync", "writeFileSync"];
const ofHandle = ["sync", "stat", "close"];

/**
 * Puts the fault in place for this process, until `stop`.
 *
 * @param folder whose files count, and those below it.
 * @param at from 1; 0 for no fault: then calls are only counted.
 */
export function inject(
  folder: string,
  fault: Fault | undefined,
  at: number,
): { readonly injector: Injector; readonly stop: () => void } {
  const require = createRequire(import.meta.url);
  const injector = new Injector(folder, fault, at);
  const before: (() => void)[] = [];
  const replace = (owner: Record<string, unknown>, name: string, make: (real: Call) => Call) => {
    const real = owner[name] as Call;
    owner[name] = make((...given) => real.apply(owner, given));
    before.push(() => void (owner[name] = real));
  };
  const isWatched = (path: unknown): boolean => typeof path === "string" && path.startsWith(folder);
  const promises = require("node:fs/promises") as Record<string, unknown>;
  const fs = require("node:fs") as Record<string, unknown>;
  for (const name of [...later, ...more])
    replace(promises, name, (real) => async (...given) => {
      if (!given.some(isWatched)) return real(...given);
      injector.meets(name, given[0]);
      const made = await real(...given);
      return name === "open" ? watchHandle(made as Handle, injector) : made;
    });
  for (const name of atOnce)
    replace(fs, name, (real) => (...given) => {
      if (given.some(isWatched)) injector.meets(name, given[0]);
      return real(...given);
    });
  // Streams open and read by these.
  replace(fs, "open", (real) => (...given) => {
    const done = given.at(-1) as (error: unknown) => void;
    try {
      if (isWatched(given[0])) injector.meets("stream.open", given[0]);
    } catch (error) {
      return process.nextTick(done, error);
    }
    return real(...given);
  });
  replace(fs, "read", (real) => (...given) => {
    const done = given.at(-1) as (error: unknown) => void;
    try {
      injector.meets("stream.read", "");
    } catch (error) {
      return process.nextTick(done, error);
    }
    return real(...given);
  });
  syncBuiltinESMExports();
  const stop = () => {
    for (const undo of before) undo();
    syncBuiltinESMExports();
  };
  return { injector, stop };
}

/** A handle whose calls count too. */
function watchHandle(handle: Handle, injector: Injector): Handle {
  for (const name of ofHandle) {
    const real = (handle[name] as Call).bind(handle);
    handle[name] = async (...given: unknown[]) => {
      try {
        injector.meets(`handle.${name}`, "");
      } catch (error) {
        if (name === "close") await real();
        throw error;
      }
      return real(...given);
    };
  }
  const write = handle.write.bind(handle);
  handle.write = async (bytes) => {
    const whole = bytes as Uint8Array;
    const half = whole.subarray(0, Math.ceil(whole.length / 2));
    return injector.meets(
      "handle.write",
      "",
      () => injector.fault === "kill" && writeSync(handle["fd"] as number, half),
    )
      ? write(half)
      : write(whole);
  };
  return handle;
}
