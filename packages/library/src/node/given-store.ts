/** Parsed files of earlier runs, in a folder that can be deleted at any time. */

import { createHash } from "node:crypto";
import { mkdirSync, readdirSync, readFileSync, renameSync, rmSync, statSync, writeFileSync } from "node:fs";
import { join } from "node:path";
import type { GivenStore } from "../given/store.js";
import { unfinishedName } from "./write.js";

/** A file that has been edited often leaves as many: the oldest go. */
const mostFiles = 200;

/**
 * A store on the disk. What cannot be read or written there is as if it was not kept: no error is thrown. A file that
 * is not as it was written is not believed.
 *
 * @param folder made when there is something to keep.
 * @param version of the program: each parses for itself.
 */
export function givenStoreIn(folder: string, version: string): GivenStore {
  const fileOf = (kind: string, text: string): string => join(folder, `${hashOf(version, kind, text)}.json`);
  return {
    get: (kind, text) => {
      const found = unlessTrouble(() => readFileSync(fileOf(kind, text), "utf8"));
      const end = found?.indexOf("\n") ?? -1;
      if (found === undefined || end < 0) return undefined;
      const content = found.slice(end + 1);
      return hashOf(content) === found.slice(0, end) ? content : undefined;
    },
    add: (kind, text, kept) => {
      const file = fileOf(kind, text);
      const unfinished = unfinishedName(file);
      unlessTrouble(() => {
        mkdirSync(folder, { recursive: true, mode: 0o700 });
        writeFileSync(unfinished, `${hashOf(kept)}\n${kept}`, { flag: "wx", mode: 0o600 });
        renameSync(unfinished, file);
        forgetOldest(folder);
      });
      unlessTrouble(() => rmSync(unfinished, { force: true }));
    },
  };
}

function hashOf(...texts: readonly string[]): string {
  const hash = createHash("sha256");
  for (const text of texts) hash.update(`${text.length}:${text}`);
  return hash.digest("hex");
}

/** Undefined where the system refuses. */
function unlessTrouble<T>(task: () => T): T | undefined {
  try {
    return task();
  } catch {
    return undefined;
  }
}

/** Also what a killed run left unfinished. */
function forgetOldest(folder: string): void {
  const files = readdirSync(folder).map((name) => join(folder, name));
  if (files.length <= mostFiles) return;
  const byAge = files.map((file) => ({ file, age: statSync(file).mtimeMs })).sort((a, b) => a.age - b.age);
  for (const { file } of byAge.slice(0, files.length / 2)) rmSync(file, { force: true });
}
