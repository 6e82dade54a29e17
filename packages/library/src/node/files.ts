/** The files port on Node: reads below a folder. */

import { failure, success } from "../findings/result.js";
import { createReadStream } from "node:fs";
import { open, readdir, readlink, realpath, stat } from "node:fs/promises";
import { basename, dirname, isAbsolute, join, relative, resolve, sep } from "node:path";
import { finding, type Finding } from "../findings/finding.js";
import { phrase } from "../phrases/phrase.js";
import { compareText } from "../location.js";
import type { FilesPort } from "../ports.js";
import { IoTrouble, reasonOf } from "./io-trouble.js";

/**
 * The files of a folder on the disk. Paths can lead anywhere until the port is bound to folders (`within`): that is what a project does.
 *
 * @param folder paths are taken as seen from here.
 */
export const nodeFiles = (folder: string): FilesPort => portOf(folder, undefined);

/** @param roots folders that paths may lead to, as seen from `folder`; anywhere, if undefined. */
function portOf(folder: string, roots: readonly string[] | undefined): FilesPort {
  const at = (path: string): string => resolve(folder, path);
  const outside = async (path: string): Promise<Finding | undefined> => {
    try {
      if (roots === undefined || (await isBelow(at(path), roots.map(at)))) return undefined;
      return finding("project/outside", { path }, { file: path });
    } catch (error) {
      return finding("read/unreadable", { reason: reasonOf(error) }, { file: path });
    }
  };
  return {
    async read(path) {
      const problem = (await outside(path)) ?? (await problemOf(at(path), path));
      return problem ? failure(problem) : success(bytesOf(at(path), path));
    },
    async list(path) {
      const problem = await outside(path);
      if (problem) throw new IoTrouble(problem);
      try {
        return await filesIn(at(path));
      } catch (error) {
        if (isNotThere(error)) return [];
        throw new IoTrouble(finding("read/unreadable", { reason: reasonOf(error) }, { file: path }), error);
      }
    },
    within: (folders) => portOf(folder, [".", ...folders]),
  };
}

async function filesIn(folder: string): Promise<{ readonly name: string; readonly bytes: number }[]> {
  const entries = await readdir(folder, { withFileTypes: true });
  const names = entries.filter((entry) => entry.isFile()).map((entry) => entry.name);
  const sizes = await Promise.all(names.map(async (name) => ({ name, bytes: (await stat(join(folder, name))).size })));
  return sizes.sort((a, b) => compareText(a.name, b.name));
}

const isNotThere = (error: unknown): boolean =>
  ["ENOENT", "ENOTDIR"].includes((error as NodeJS.ErrnoException).code ?? "");

/** One after the other; a circle has more. */
const mostLinks = 40;

/** Whether a path, with all links followed, is one of the folders or lies below one. */
async function isBelow(path: string, folders: readonly string[]): Promise<boolean> {
  const real = await realPathOf(path);
  for (const folder of folders) {
    const way = relative(await realPathOf(folder), real);
    if (way !== ".." && !way.startsWith(`..${sep}`) && !isAbsolute(way)) return true;
  }
  return false;
}

/** Of what is not there: where it would be made, at the end of its links too. */
async function realPathOf(path: string, links = mostLinks): Promise<string> {
  try {
    return await realpath(path);
  } catch (error) {
    if (!isNotThere(error)) throw error;
    const parent = dirname(path);
    if (parent === path) return path;
    const leadsTo = links > 0 ? await readlink(path).catch(() => undefined) : undefined;
    const folder = await realPathOf(parent, links);
    return leadsTo === undefined ? join(folder, basename(path)) : realPathOf(resolve(folder, leadsTo), links - 1);
  }
}

/** @throws IoTrouble when the disk fails halfway: what was read until then is not a whole file. */
async function* bytesOf(absolute: string, path: string): AsyncGenerator<Uint8Array> {
  try {
    yield* createReadStream(absolute, { highWaterMark: 1 << 18 }) as AsyncIterable<Uint8Array>;
  } catch (error) {
    throw new IoTrouble(finding("read/unreadable", { reason: reasonOf(error) }, { file: path }), error);
  }
}

async function problemOf(absolute: string, path: string): Promise<Finding | undefined> {
  try {
    const status = await stat(absolute);
    if (status.isDirectory()) return finding("read/folder", {}, { file: path });
    // A device or a pipe may have no end, or wait for ever.
    if (!status.isFile())
      return finding("read/unreadable", { reason: phrase("it is a device or a pipe, not a file") }, { file: path });
    await (await open(absolute)).close();
    return undefined;
  } catch (error) {
    if (isNotThere(error)) return finding("read/missing-file", {}, { file: path });
    return finding("read/unreadable", { reason: reasonOf(error) }, { file: path });
  }
}
