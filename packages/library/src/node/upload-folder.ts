/**
 * An upload folder on the disk: it appears whole or not at all, and takes the place of an earlier one of the same project only.
 *
 * A folder is known by the mark that a build writes with it (`build/upload-mark.ts`). Anything else in it, another project's folder, one
 * without a mark, a link: nothing of them is touched.
 */

import { lstat, mkdir, readdir, readFile, rename, rm } from "node:fs/promises";
import { basename, dirname, join, resolve } from "node:path";
import type { UploadSink } from "../build/build.js";
import { parseMark, uploadMark, type UploadMark } from "../build/upload-mark.js";
import { finding, Findings, type Finding, type Result } from "../findings/finding.js";
import { failure, resultOf } from "../findings/result.js";
import { compareText } from "../location.js";
import { nodeFiles } from "./files.js";
import { IoTrouble, reasonOf, writeTrouble } from "./io-trouble.js";
import { cleanUnfinished, syncFolder, unfinishedName, writeNewFile } from "./write.js";

/**
 * Writes into a new folder beside the one wanted, and gives it its name when all is there.
 *
 * @param project whose upload it is: only its own earlier folder is replaced.
 * Fails if something else is at that place already, or if nothing can be written there.
 * @throws IoTrouble by the sink's functions, when writing fails; then what was at that place is there as before.
 */
export async function folderSink(folder: string, project: string): Promise<Result<UploadSink>> {
  const wanted = resolve(folder);
  const unfinished = unfinishedName(wanted);
  try {
    await mkdir(dirname(wanted), { recursive: true });
    await cleanUnfinished(wanted);
    await putBack(wanted);
    const stranger = await strangerAt(wanted, folder, project);
    if (stranger) return failure(stranger);
    await mkdir(unfinished);
  } catch (error) {
    return failure(finding("build/cannot-write", { reason: reasonOf(error) }, { file: folder }));
  }
  const discard = () => rm(unfinished, { recursive: true, force: true });
  const guarded = async (name: string, work: () => Promise<void>) => {
    try {
      await work();
    } catch (error) {
      await discard().catch(() => undefined);
      throw writeTrouble(error, join(folder, name));
    }
  };
  const sink: UploadSink = {
    async write(name, chunks) {
      if (basename(name) !== name) throw new Error(`${name} would leave its folder`);
      await guarded(name, async () => void (await writeNewFile(join(unfinished, name), chunks)));
    },
    read: nodeFiles(unfinished).read,
    finish: () =>
      guarded("", async () => {
        await syncFolder(unfinished);
        // Somebody may have put a file there since.
        const stranger = await strangerAt(wanted, folder, project);
        if (stranger) throw new IoTrouble(stranger);
        await swap(unfinished, wanted);
      }),
    discard,
  };
  return resultOf(sink, new Findings());
}

/** Where the earlier folder waits until the new one has its name. */
const asideName = (wanted: string): string => join(dirname(wanted), `.${basename(wanted)}.zest-tier-old`);

async function swap(from: string, wanted: string): Promise<void> {
  const aside = asideName(wanted);
  const isThere = (await lookAt(wanted)) !== undefined;
  if (isThere) await rename(wanted, aside);
  try {
    await rename(from, wanted);
  } catch (error) {
    if (isThere) await rename(aside, wanted);
    throw error;
  }
  await syncFolder(dirname(wanted));
  await rm(aside, { recursive: true, force: true });
}

/** After a run that was killed between two renames: the earlier folder gets its name again, or goes where the new one has it. */
async function putBack(wanted: string): Promise<void> {
  const aside = asideName(wanted);
  if (!(await lookAt(aside))) return;
  if (await lookAt(wanted)) await rm(aside, { recursive: true, force: true });
  else await rename(aside, wanted);
}

/** What blocks replacing what is at that place; undefined where nothing is there, or only what we wrote for the project. */
async function strangerAt(wanted: string, folder: string, project: string): Promise<Finding | undefined> {
  const at = { file: folder };
  const there = await lookAt(wanted);
  if (!there) return undefined;
  if (there.isSymbolicLink()) return finding("build/folder-link", {}, at);
  if (!there.isDirectory()) return finding("build/folder-there", {}, at);
  const entries = await readdir(wanted, { withFileTypes: true });
  if (entries.length === 0) return undefined;
  const mark = await markIn(wanted);
  if (!mark) return finding("build/folder-there", {}, at);
  if (mark.project !== project) return finding("build/folder-of-other", { project: mark.project }, at);
  const own = new Set([...mark.files, uploadMark]);
  const others = entries.filter((entry) => !entry.isFile() || !own.has(entry.name)).map(({ name }) => name);
  return others.length > 0 ? finding("build/folder-has-others", { names: others.sort(compareText) }, at) : undefined;
}

async function markIn(folder: string): Promise<UploadMark | undefined> {
  const path = join(folder, uploadMark);
  const there = await lookAt(path);
  return there?.isFile() ? parseMark(await readFile(path, "utf8")) : undefined;
}

const lookAt = (path: string) =>
  lstat(path).catch((error: NodeJS.ErrnoException) => {
    if (error.code === "ENOENT") return undefined;
    throw error;
  });
