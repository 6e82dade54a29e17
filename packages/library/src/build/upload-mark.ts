/** The mark of an upload folder: whose it is, and which files were written with it. Only what has it may be replaced by a later build. */

import { compareText } from "../location.js";

/** The name of the file that holds it. */
export const uploadMark = ".zest-tier-upload.json";

export interface UploadMark {
  /** The project's name. */
  readonly project: string;
  /** Names of the files, the mark itself not among them. */
  readonly files: readonly string[];
}

export function markText({ project, files }: UploadMark): string {
  return `${JSON.stringify({ project, files: [...files].sort(compareText) })}\n`;
}

/** @returns undefined for what is not a mark. */
export function parseMark(text: string): UploadMark | undefined {
  try {
    const given = JSON.parse(text) as Partial<UploadMark> | null;
    const isMark =
      typeof given?.project === "string" &&
      Array.isArray(given.files) &&
      given.files.every((name) => typeof name === "string");
    return isMark ? { project: given.project, files: given.files } : undefined;
  } catch {
    return undefined;
  }
}
