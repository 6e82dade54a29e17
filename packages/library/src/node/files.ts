/** The files port on Node: reads below a folder, and an upload folder that appears whole or not at all. */

import { createReadStream } from "node:fs";
import { access, mkdir, mkdtemp, open, readdir, readFile, rename, rm, stat } from "node:fs/promises";
import { basename, dirname, isAbsolute, join, resolve } from "node:path";
import type { UploadSink } from "../build/build.js";
import { finding, type Finding } from "../finding.js";
import { compareText } from "../place.js";
import type { FilesPort } from "../ports.js";

/** @param folder paths are taken as seen from here. */
export function nodeFiles(folder: string): FilesPort {
  const at = (path: string): string => (isAbsolute(path) ? path : resolve(folder, path));
  return {
    async read(path) {
      const problem = await problemOf(at(path), path);
      if (problem) return { ok: false, finding: problem };
      return { ok: true, bytes: createReadStream(at(path), { highWaterMark: 1 << 18 }) };
    },
    async list(path) {
      const entries = await readdir(at(path), { withFileTypes: true }).catch(() => []);
      const names = entries.filter((entry) => entry.isFile()).map((entry) => entry.name);
      const sizes = await Promise.all(
        names.map(async (name) => ({ name, bytes: (await stat(join(at(path), name))).size })),
      );
      return sizes.sort((a, b) => compareText(a.name, b.name));
    },
  };
}

async function problemOf(absolute: string, path: string): Promise<Finding | undefined> {
  try {
    if ((await stat(absolute)).isDirectory()) return finding("read/folder", {}, { file: path });
    await (await open(absolute)).close();
    return undefined;
  } catch (error) {
    const { code } = error as NodeJS.ErrnoException;
    if (code === "ENOENT" || code === "ENOTDIR") return finding("read/missing-file", {}, { file: path });
    return finding("read/unreadable", { reason: code ?? "unknown" }, { file: path });
  }
}

/** The mark of an upload folder of ours: only such a one is ever replaced. */
const manifest = "datapackage.json";

/**
 * Writes into a new folder beside the one wanted, and gives it its name when all is there.
 *
 * @returns a finding if something else is at that place already.
 */
export async function folderSink(
  folder: string,
): Promise<{ readonly ok: true; readonly sink: UploadSink } | { readonly ok: false; readonly finding: Finding }> {
  const wanted = resolve(folder);
  const isThere = await exists(wanted);
  if (isThere && (await readdir(wanted).catch(() => ["?"])).length > 0 && !(await exists(join(wanted, manifest))))
    return { ok: false, finding: finding("build/folder-there", {}, { file: folder }) };
  let temporary: string;
  try {
    await mkdir(dirname(wanted), { recursive: true });
    temporary = await mkdtemp(join(dirname(wanted), `.${basename(wanted)}-`));
  } catch (error) {
    const reason = (error as NodeJS.ErrnoException).code ?? "unknown";
    return { ok: false, finding: finding("build/cannot-write", { reason }, { file: folder }) };
  }
  const sink: UploadSink = {
    async write(name, chunks) {
      if (basename(name) !== name) throw new Error(`${name} would leave its folder`);
      const file = await open(join(temporary, name), "wx");
      try {
        for (const chunk of chunks) await file.write(chunk);
        await file.sync();
      } finally {
        await file.close();
      }
    },
    async finish() {
      const old = `${temporary}-old`;
      if (isThere) await rename(wanted, old);
      await rename(temporary, wanted);
      await rm(old, { recursive: true, force: true });
    },
    async discard() {
      await rm(temporary, { recursive: true, force: true });
    },
  };
  return { ok: true, sink };
}

async function exists(path: string): Promise<boolean> {
  return access(path).then(
    () => true,
    () => false,
  );
}

/** The bytes of picture files, by name; names that are not in the folder are left out. */
export async function loadPictures(folder: string, names: readonly string[]): Promise<ReadonlyMap<string, Uint8Array>> {
  const there = new Set(await readdir(folder).catch(() => []));
  const pictures = new Map<string, Uint8Array>();
  for (const name of names) if (there.has(name)) pictures.set(name, await readFile(join(folder, name)));
  return pictures;
}
