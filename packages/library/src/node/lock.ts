/**
 * Locks, so that two runs at once do not spoil each other: a small file beside what is locked, with the process that has it.
 *
 * A run that was killed leaves its file; the next sees that the process is gone and takes it over. Packages that know a dead holder only
 * by the age of its file were rejected: reading a large workbook keeps a process from renewing it for many seconds.
 */

import { present } from "../checked.js";
import { hostname } from "node:os";
import { open, readFile, realpath, rm, stat } from "node:fs/promises";
import { basename, dirname, join, resolve } from "node:path";
import { setTimeout as wait } from "node:timers/promises";
import { finding, Findings, type Finding, type Result } from "../findings/finding.js";
import { failure, resultOf } from "../findings/result.js";
import { isAlive, writeFully } from "./write.js";
import { reasonOf } from "./io-trouble.js";

/** What holds files for this process. */
export interface Lock {
  readonly release: () => Promise<void>;
}

interface Holder {
  readonly pid: number;
  readonly host: string;
  /** When its process began, in milliseconds since 1970. */
  readonly began: number;
}

/** Milliseconds. */
const defaultPatience = 3_000;
const betweenTries = 50;
/** Writing one's name into a lock, and taking one over, take a moment; what is older was left by a run that was killed in that moment. */
const oldestMoment = 10_000;

/**
 * Locks all of the paths, or none.
 *
 * @param paths of a project, a ledger, a folder; they need not be there. Where nothing can be written beside one, no run can write to it, and
 *   it is passed over.
 * @param patience milliseconds to wait for others that have one of them.
 */
export async function lockAll(paths: readonly string[], patience = defaultPatience): Promise<Result<Lock>> {
  const files = [...new Set(await Promise.all(paths.map(lockFileOf)))].sort();
  const held: string[] = [];
  const release = async () => {
    for (const file of held.splice(0).reverse()) await rm(file, { force: true });
  };
  const until = Date.now() + patience;
  for (const file of files) {
    const problem = await lockOne(file, until, held);
    if (!problem) continue;
    await release();
    return failure(problem);
  }
  return resultOf({ release }, new Findings());
}

/** By the path that links lead to, so that two names of one thing are one lock. */
async function lockFileOf(path: string): Promise<string> {
  const absolute = resolve(path);
  const real = await realpath(absolute).catch(async () =>
    join(await realpath(dirname(absolute)).catch(() => dirname(absolute)), basename(absolute)),
  );
  return join(dirname(real), `.${basename(real)}.lock`);
}

async function lockOne(file: string, until: number, held: string[]): Promise<Finding | undefined> {
  for (;;) {
    const tried = await tryLock(file);
    if (tried === "locked") held.push(file);
    if (tried === "locked" || tried === "nowhere") return undefined;
    if (tried !== "taken") return finding("io/cannot-write", { reason: reasonOf(tried) }, { file });
    const holder = await holderOf(file);
    if ((await isLeft(file, holder)) && (await takeOver(file))) continue;
    if (Date.now() >= until)
      return finding("io/locked", { pid: holder?.pid, host: holder?.host ?? hostname() }, { file });
    await wait(betweenTries);
  }
}

async function tryLock(file: string): Promise<"locked" | "taken" | "nowhere" | Error> {
  try {
    const handle = await open(file, "wx");
    try {
      await writeFully(handle, new TextEncoder().encode(JSON.stringify(ownHolder())));
    } finally {
      await handle.close();
    }
    return "locked";
  } catch (error) {
    const { code } = error as NodeJS.ErrnoException;
    if (code === "EEXIST") return "taken";
    if (code === "ENOENT" || code === "EACCES" || code === "EROFS" || code === "ENOTDIR" || code === "EPERM")
      return "nowhere";
    await rm(file, { force: true });
    return error as Error;
  }
}

const ownBegan = (): number => Math.round(Date.now() - process.uptime() * 1000);
const ownHolder = (): Holder => ({ pid: process.pid, host: hostname(), began: ownBegan() });

/** Undefined while its process is still writing it, or has let it go by now. */
async function holderOf(file: string): Promise<Holder | undefined> {
  try {
    const given = JSON.parse(await readFile(file, "utf8")) as Partial<Holder> | null;
    if (typeof given?.pid !== "number" || !/^[\w.-]{1,253}$/.test(given.host ?? "") || typeof given.began !== "number")
      return undefined;
    return { pid: given.pid, host: present(given.host), began: given.began };
  } catch {
    return undefined;
  }
}

async function isLeft(file: string, holder: Holder | undefined): Promise<boolean> {
  return holder ? isGone(holder) : (await ageOf(file)) > oldestMoment;
}

/** Milliseconds; nothing for a file that is not there. */
const ageOf = (file: string): Promise<number> =>
  stat(file).then(
    ({ mtimeMs }) => Date.now() - mtimeMs,
    () => 0,
  );

/** A holder on another machine cannot be asked; one with our own number is another process if it began before us. */
function isGone({ pid, host, began }: Holder): boolean {
  if (host !== hostname()) return false;
  if (pid === process.pid) return began < ownBegan() - 2_000;
  return !isAlive(pid);
}

/** Takes away the file of a holder that is gone. One at a time: else the second would take away the first one's new file. */
async function takeOver(file: string): Promise<boolean> {
  const guard = `${file}.takeover`;
  try {
    await (await open(guard, "wx")).close();
  } catch {
    if ((await ageOf(guard)) > oldestMoment) await rm(guard, { force: true });
    return false;
  }
  try {
    if (!(await isLeft(file, await holderOf(file)))) return false;
    await rm(file, { force: true });
    return true;
  } finally {
    await rm(guard, { force: true });
  }
}
