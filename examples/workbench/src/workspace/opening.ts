/** From what was dropped to a project: one that is there, out of an archive too, or one drafted for files that came without. */

import {
  addPictures,
  addSource,
  draft,
  Findings,
  layoutName,
  proposeProject,
  readWholeZip,
  type DraftedSource,
  type Question,
} from "zest-tier";
import { blobFiles, webPorts } from "zest-tier/web";
import { projectFile, type Files } from "./job.js";
import { shippedLayout, shippedTarget } from "./shipped.js";

export type Dropped = readonly (readonly [path: string, blob: Blob])[];

const dataFile = /\.(csv|tsv|txt|tab|xlsx|xls|xlsm|ods|xml|json|jsonl|ndjson)$/i;
const pictureFile = /\.(png|jpe?g|webp|gif|avif|svg)$/i;
const firstTarget = "pennywort";
/** Where pictures are put of which the project does not say where they lie. */
const newPictures = "pictures";

const isData = (path: string): boolean => dataFile.test(path) && !/(^|\/)\./.test(path);

/** Names of what an archive or a folder has at its top are cut off, down to the project file. */
function fromProject(files: Map<string, Blob>): Map<string, Blob> {
  const at = [...files.keys()]
    .filter((path) => path === projectFile || path.endsWith(`/${projectFile}`))
    .sort((a, b) => a.length - b.length)[0];
  if (at === undefined) return files;
  const top = at.slice(0, -projectFile.length);
  return new Map([...files].flatMap(([path, blob]) => (path.startsWith(top) ? [[path.slice(top.length), blob]] : [])));
}

/** Archives are unpacked, unless they hold one file only: then the library reads it where it is. */
export async function unpacked(dropped: Dropped, findings: Findings): Promise<Map<string, Blob>> {
  const files = new Map<string, Blob>();
  for (const [path, blob] of dropped) {
    if (!/\.zip$/i.test(path)) {
      files.set(path, blob);
      continue;
    }
    const port = blobFiles(new Map([[path, blob]]));
    const opened = await port.read(path);
    if (!opened.ok) continue;
    for (const [name, bytes] of findings.took(await readWholeZip(opened.value, path)) ?? [])
      files.set(name, new Blob([new Uint8Array(bytes)]));
  }
  return fromProject(files);
}

/** Layouts for the files that no source names yet, and where the pictures lie. */
async function draftSources(
  files: Files,
  paths: readonly string[],
): Promise<{ readonly sources: readonly DraftedSource[]; readonly layouts: ReadonlyMap<string, string> }> {
  const sources: DraftedSource[] = [];
  const layouts = new Map<string, string>();
  const port = blobFiles(files);
  for (const file of paths) {
    const drafted = await draft(port, file);
    for (const { sample, yaml } of drafted.ok ? drafted.value : []) {
      const name = layoutName(file, sample.sheet);
      let layout = `layouts/${name}.yaml`;
      for (let n = 2; layouts.has(layout) || files.has(layout); n++) layout = `layouts/${name}-${n}.yaml`;
      layouts.set(layout, yaml);
      sources.push({ file, layout });
    }
  }
  return { sources, layouts };
}

export type Opening =
  | { readonly ok: true; readonly files: Files; readonly questions: readonly Question[] }
  | { readonly ok: false; readonly reason: "nothing" | "no header" | "archive" };

/** Up to so many bytes files are read whole to find out what the platform needs. */
const settledBytes = 3_000_000;

/** @param replies to the questions of an earlier opening of the same files. @returns the files of a project. */
export async function openDropped(dropped: Dropped, replies: ReadonlyMap<string, string>): Promise<Opening> {
  const findings = new Findings();
  const files = await unpacked(dropped, findings);
  if (findings.hasErrors) return { ok: false, reason: "archive" };
  if (files.has(projectFile)) return { ok: true, files, questions: [] };
  const paths = [...files.keys()].filter(isData);
  if (paths.length === 0) return { ok: false, reason: "nothing" };
  const folder = inOneFolder(files);
  const bytes = paths.reduce((sum, path) => sum + (files.get(path)?.size ?? 0), 0);
  const proposed = await proposeProject({
    name: layoutName(paths[0]!, undefined) || "project",
    sources: paths.map((path) => ({ file: path, path })),
    pictures: folder === undefined ? undefined : { folder, names: picturesIn(files, folder) },
    ports: webPorts(files, shippedTarget, shippedLayout),
    target: { is: "shipped", name: firstTarget },
    // Pictures may be dropped later: their columns are bound already.
    replies: new Map([["pictures", "now"], ...replies]),
    isQuick: bytes > settledBytes,
    keepsUnbound: true,
  });
  if (!proposed.ok) return { ok: false, reason: "no header" };
  for (const [path, text] of proposed.value.written) files.set(path, new Blob([text]));
  return { ok: true, files, questions: proposed.value.questions };
}

const picturesIn = (files: Files, folder: string): string[] =>
  [...files.keys()]
    .filter((path) => pictureFile.test(path) && (folder === "." || path.startsWith(`${folder}/`)))
    .map((path) => path.replace(/^.*\//, ""));

/** The folder of the pictures; where they lie in several, they are put into one. One of a name that is taken stays where it is. */
function inOneFolder(files: Map<string, Blob>): string | undefined {
  const pictures = [...files.keys()].filter((path) => pictureFile.test(path));
  const folderOf = (path: string) => (path.includes("/") ? path.slice(0, path.lastIndexOf("/")) : ".");
  const folders = new Set(pictures.map(folderOf));
  if (folders.size < 2) return [...folders][0];
  for (const path of pictures) {
    const to = `${newPictures}/${path.replace(/^.*\//, "")}`;
    if (to === path || files.has(to)) continue;
    files.set(to, files.get(path)!);
    files.delete(path);
  }
  return newPictures;
}

/** Files that come to a project: one of a source's name takes its place, others become sources of their own. */
export async function withMore(
  files: Files,
  dropped: Dropped,
  sources: readonly string[],
  pictures: string | undefined,
): Promise<Opening> {
  const findings = new Findings();
  const more = await unpacked(dropped, findings);
  if (findings.hasErrors) return { ok: false, reason: "archive" };
  if (more.has(projectFile)) return { ok: true, files: more, questions: [] };
  const all = new Map(files);
  const fresh: string[] = [];
  let hasPictures = false;
  for (const [path, blob] of more) {
    const name = path.replace(/^.*\//, "");
    const known = sources.find((file) => file.replace(/^.*\//, "") === name);
    if (known !== undefined) all.set(known, blob);
    else if (pictureFile.test(name)) {
      all.set(`${pictures ?? newPictures}/${name}`, blob);
      hasPictures = true;
    } else if (isData(path)) {
      all.set(path, blob);
      fresh.push(path);
    }
  }
  const drafted = await draftSources(all, fresh);
  let text = (await all.get(projectFile)?.text()) ?? "";
  for (const source of drafted.sources) text = addSource(text, source) ?? text;
  // What no folder is named for would neither be uploaded nor be found again.
  if (hasPictures && pictures === undefined) text = addPictures(text, newPictures) ?? text;
  for (const [path, layout] of drafted.layouts) all.set(path, new Blob([layout]));
  all.set(projectFile, new Blob([text]));
  return { ok: true, files: all, questions: [] };
}
