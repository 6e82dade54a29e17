/**
 * Writing to the disk: every byte or an error, files that appear whole or not at all.
 *
 * What is not finished has a name of its own beside the wanted one, with the number of the process in it: what a killed run left is known
 * by that, and cleaned by the next.
 */

import { randomBytes } from "node:crypto";
import { cp, lstat, mkdir, open, readdir, rename, rm, type FileHandle } from "node:fs/promises";
import { basename, dirname, join } from "node:path";
import { writeTrouble } from "./io-trouble.js";

/** What is written to: a file handle, or a test's. */
export interface ByteSink {
  readonly write: (bytes: Uint8Array) => Promise<{ readonly bytesWritten: number }>;
}

/** Writes all of the bytes, however few the system takes at a time. @throws Error when it takes none. */
export async function writeFully(sink: ByteSink, bytes: Uint8Array): Promise<void> {
  let rest = bytes;
  while (rest.length > 0) {
    const { bytesWritten } = await sink.write(rest);
    if (bytesWritten <= 0) throw shortWrite();
    rest = rest.subarray(bytesWritten);
  }
}

const shortWrite = (): Error =>
  Object.assign(new Error("fewer bytes were written than were given"), { code: "ESHORTWRITE", syscall: "write" });

/** Writes a new file, and waits until it is on the disk. @returns its bytes. @throws what the system says. */
export async function writeNewFile(path: string, chunks: Iterable<Uint8Array>): Promise<number> {
  const file = await open(path, "wx");
  let bytes = 0;
  try {
    for (const chunk of chunks) {
      await writeFully(file, chunk);
      bytes += chunk.length;
    }
    await file.sync();
    const { size } = await file.stat();
    if (size !== bytes) throw shortWrite();
  } finally {
    await file.close();
  }
  return bytes;
}

const mark = ".zest-tier-new-";

/** A name beside the wanted one, for what is not finished yet. */
export function unfinishedName(wanted: string): string {
  return join(dirname(wanted), `.${basename(wanted)}${mark}${process.pid}-${randomBytes(4).toString("hex")}`);
}

/** Takes away what killed runs left beside a file or folder. What a process that still lives is writing stays. */
export async function cleanUnfinished(wanted: string): Promise<void> {
  const prefix = `.${basename(wanted)}${mark}`;
  for (const name of await readdir(dirname(wanted)).catch(() => [])) {
    if (!name.startsWith(prefix)) continue;
    const pid = Number(/^(\d+)-[0-9a-f]{8}$/.exec(name.slice(prefix.length))?.[1] ?? NaN);
    if (Number.isInteger(pid) && !isAlive(pid)) await rm(join(dirname(wanted), name), { recursive: true, force: true });
  }
}

/** Whether a process of this machine goes on. */
export function isAlive(pid: number): boolean {
  try {
    process.kill(pid, 0);
    return true;
  } catch (error) {
    return (error as NodeJS.ErrnoException).code !== "ESRCH";
  }
}

/** Makes sure that names that were given or changed in a folder are on the disk. Not every system can; then it is left. */
export async function syncFolder(folder: string): Promise<void> {
  let handle: FileHandle | undefined;
  try {
    handle = await open(folder, "r");
    await handle.sync();
  } catch {
    // Windows opens no folders; there names are written through.
  } finally {
    await handle?.close();
  }
}

/**
 * Writes a file whole or not at all: what was there before stays until all of the new one is on the disk.
 *
 * @throws IoTrouble when it cannot be written; then nothing has changed.
 */
export async function writeWholeFile(path: string, content: string | Uint8Array): Promise<void> {
  const unfinished = unfinishedName(path);
  try {
    await cleanUnfinished(path);
    await writeNewFile(unfinished, [typeof content === "string" ? new TextEncoder().encode(content) : content]);
    const there = await lstat(path).catch(() => undefined);
    if (there?.isDirectory()) throw Object.assign(new Error("is a folder"), { code: "EISDIR", syscall: "rename" });
    await rename(unfinished, path);
    await syncFolder(dirname(path));
  } catch (error) {
    await rm(unfinished, { force: true }).catch(() => undefined);
    throw writeTrouble(error, path);
  }
}

/**
 * Copies a folder to a place where nothing is, or an empty folder, whole or not at all.
 *
 * @throws IoTrouble when it cannot be written; then nothing is there.
 */
export async function copyWholeFolder(from: string, to: string): Promise<void> {
  const unfinished = unfinishedName(to);
  try {
    await mkdir(dirname(to), { recursive: true });
    await cleanUnfinished(to);
    await cp(from, unfinished, { recursive: true });
    await rename(unfinished, to);
  } catch (error) {
    await rm(unfinished, { recursive: true, force: true }).catch(() => undefined);
    throw writeTrouble(error, to);
  }
}
