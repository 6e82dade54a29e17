/** Layouts: drafted for a file, tested on it, explained to whoever fills it in. */

import { loadProject } from "../project/load.js";
import { draftTogether, type Draft } from "../draft/draft.js";
import { lookAt } from "../draft/look.js";
import { finding, Findings, type Result } from "../findings/finding.js";
import { resultOf } from "../findings/result.js";
import type { SheetToWrite } from "../formats/workbook-write.js";
import { parseGiven } from "../given/yaml.js";
import { Kinds } from "../kinds.js";
import { compileLayout } from "../layout/compile/compile.js";
import type { Layout } from "../layout/layout.js";
import { givenLayout } from "../layout/schema.js";
import type { FilesPort } from "../ports.js";
import { calibrateLayout, type Calibration } from "../project/calibrate.js";
import { columnGuide, emptyWorkbook, guideMarkdown, type GuideRow } from "../project/guide.js";
import { readUtf8 } from "../formats/read-whole.js";
import { parseTarget } from "../target/parse.js";
import { type TargetFile } from "../target/target.js";
import type { ProjectPorts } from "./ports.js";

/** A layout by itself, or of a file of a target. */
export interface OpenedLayout {
  readonly layout: Layout;
  /** The file of a target that the layout belongs to, with its rules for columns. */
  readonly file: TargetFile | undefined;
  readonly kinds: Kinds;
}

/**
 * Opens a layout by itself.
 *
 * @param name the path of a layout file; or TARGET/FILE for a layout of a target. TARGET is the name of a shipped target, or a target file;
 * TARGET alone stands for its first layout.
 * @param projectFile a project whose own kinds and fields the layout may name.
 */
export async function openLayout(
  ports: Pick<ProjectPorts, "files" | "shippedTarget" | "shippedLayout">,
  name: string,
  projectFile?: string,
): Promise<Result<OpenedLayout>> {
  const findings = new Findings();
  const { files, shippedTarget } = ports;
  const project =
    projectFile === undefined
      ? undefined
      : findings.took(await loadProject(projectFile, files, shippedTarget, ports.shippedLayout));
  if (projectFile !== undefined && !project) return { ok: false, findings };
  const kinds = project?.kinds ?? new Kinds();
  // A file of a target: of one that comes with Zest Tier, or of a target file of one's own.
  const [, path = name, inFile] = /^(.*\.(?:ya?ml|json))\/([^/]+)$/.exec(name) ?? [];
  const isPath = /\.(ya?ml|json)$/.test(path);
  const [targetName = "", fileName] = isPath ? [path, inFile] : name.split("/");
  const shipped = isPath ? undefined : await shippedTarget(targetName);
  const ofTarget = (text: string, from: string): Result<OpenedLayout> => {
    const target = findings.took(parseTarget(text, from, kinds));
    if (!target) return { ok: false, findings };
    const file = fileName === undefined ? [...target.files.values()][0] : target.files.get(fileName);
    if (!file) findings.add(finding("layout/none", { name, names: [...target.files.keys()] }));
    return resultOf(file && { layout: file.layout, file, kinds }, findings);
  };
  if (shipped !== undefined) return ofTarget(shipped, `${targetName} (shipped)`);
  const read = await readUtf8(files, path);
  if (!read.ok) {
    findings.add(finding("layout/none", { name, names: [] }));
    return { ok: false, findings };
  }
  if (inFile !== undefined || /^["']?target["']?\s*:/m.test(read.value)) return ofTarget(read.value, path);
  const layout = compileText(read.value, name, kinds, findings);
  return resultOf(layout && { layout, file: undefined, kinds }, findings);
}

/** A layout by its text; fails where anything in it is wrong. @param name as findings call it. */
export function layoutOfText(text: string, name: string): Result<Layout> {
  const findings = new Findings();
  return resultOf(compileText(text, name, new Kinds(), findings), findings);
}

function compileText(text: string, name: string, kinds: Kinds, findings: Findings): Layout | undefined {
  const parsed = findings.took(parseGiven(text, name, givenLayout));
  return parsed && findings.took(compileLayout(parsed.value, parsed.at, kinds));
}

/**
 * Drafts a layout for each sheet of a file, or for a document. Fails where the file cannot be read; gives none where no header and no
 * repeated element is found.
 *
 * @param sheet only this one.
 */
export async function draft(files: FilesPort, file: string, sheet?: string): Promise<Result<readonly Draft[]>> {
  const findings = new Findings();
  const bytes = findings.took(await files.read(file));
  if (!bytes) return { ok: false, findings };
  const samples = await lookAt(bytes, file, findings);
  const wanted = samples.filter((sample) => sheet === undefined || sample.sheet === sheet);
  const given = wanted.map((sample) => ({ file, name: layoutName(file, sample.sheet), sample }));
  return resultOf(draftTogether(given), findings);
}

/** A layout is called like its file, and like its sheet. */
export const layoutName = (file: string, sheet: string | undefined): string =>
  [file.replace(/^.*\//, "").replace(/\.\w+$/, ""), ...(sheet === undefined ? [] : [sheet])]
    .join("-")
    .toLowerCase()
    .replace(/[^\p{L}\p{N}]+/gu, "-");

/** Reads a file with a layout, writes it back, and compares cell by cell. Fails where the file cannot be read. */
export function calibrate(
  files: FilesPort,
  file: string,
  { layout, kinds }: OpenedLayout,
): Promise<Result<Calibration>> {
  return calibrateLayout(file, layout, kinds, files);
}

/** The same for a drafted layout. */
export async function calibrateDraft(files: FilesPort, file: string, drafted: Draft): Promise<Result<Calibration>> {
  const findings = new Findings();
  const kinds = new Kinds();
  const layout = compileText(drafted.yaml, "drafted layout", kinds, findings);
  if (!layout) return { ok: false, findings };
  return resultOf(findings.took(await calibrateLayout(file, layout, kinds, files)), findings);
}

/** What each column of a layout takes, in three forms. */
export interface Guide {
  readonly rows: readonly GuideRow[];
  /** For whoever fills the file in. */
  readonly markdown: string;
  /** An empty workbook with drop-down lists. */
  readonly workbook: readonly SheetToWrite[];
}

/** What each column of a layout takes. */
export function guideTo({ layout, kinds, file }: OpenedLayout): Guide {
  const rows = columnGuide(layout, kinds, file);
  return { rows, markdown: guideMarkdown(layout, rows), workbook: emptyWorkbook(layout, rows) };
}
