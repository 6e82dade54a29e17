/** The files port on Node: reads below a folder. */

import { failure, success } from "../findings/result.js";
import { createReadStream } from "node:fs";
import { open, readdir, stat } from "node:fs/promises";
import { isAbsolute, join, resolve } from "node:path";
import { finding, type Finding } from "../findings/finding.js";
import { phrase } from "../phrases/phrase.js";
import { compareText } from "../location.js";
import type { FilesPort } from "../ports.js";
import { IoTrouble, reasonOf } from "./io-trouble.js";

/** The files of a folder on the disk. @param folder paths are taken as seen from here. */
export function nodeFiles(folder: string): FilesPort {
  const at = (path: string): string => (isAbsolute(path) ? path : resolve(folder, path));
  return {
    async read(path) {
      const problem = await problemOf(at(path), path);
      return problem ? failure(problem) : success(bytesOf(at(path), path));
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
    const { code } = error as NodeJS.ErrnoException;
    if (code === "ENOENT" || code === "ENOTDIR") return finding("read/missing-file", {}, { file: path });
    return finding("read/unreadable", { reason: reasonOf(error) }, { file: path });
  }
}
