/** What goes wrong between us and the disk, as findings. */

import { finding, type Finding } from "../findings/finding.js";

/** Thrown where reading or writing fails halfway; carries the finding that tells of it. Callers end with it, nothing is half-written. */
export class IoTrouble extends Error {
  constructor(
    readonly finding: Finding,
    cause?: unknown,
  ) {
    super(`${finding.code} ${finding.at?.file ?? ""}`, { cause });
  }
}

const reasons: Readonly<Record<string, string>> = {
  ENOSPC: "the disk is full",
  EDQUOT: "your share of the disk is used up",
  EFBIG: "the file would be larger than is allowed here",
  EACCES: "you may not do that here",
  EPERM: "you may not do that here",
  EROFS: "the disk can only be read",
  EIO: "the disk reports a fault",
  ESHORTWRITE: "the disk took fewer bytes than it was given",
  EMFILE: "too many files are open",
  ENFILE: "too many files are open",
  ENAMETOOLONG: "the name is too long",
  EISDIR: "it is a folder",
  ENOTDIR: "a part of its path is a file, not a folder",
  ENOENT: "it is not there",
  ELOOP: "its links lead in a circle",
};

/** The reason in words where we have them, with the system's own code behind. */
export function reasonOf(error: unknown): string {
  const code = (error as NodeJS.ErrnoException | undefined)?.code;
  if (code === undefined) return error instanceof Error ? error.message : String(error);
  return Object.hasOwn(reasons, code) ? `${reasons[code]} (${code})` : code;
}

/** Whether an error is the system's, of a file: those become findings; others are our own bugs. */
export function isSystemError(error: unknown): error is NodeJS.ErrnoException {
  const { code, syscall } = (error ?? {}) as NodeJS.ErrnoException;
  return error instanceof Error && typeof code === "string" && typeof syscall === "string";
}

/** @returns for what the system says, a trouble that tells that the file cannot be written; all else, our own bugs too, as it is. */
export function writeTrouble(error: unknown, file: string): unknown {
  if (!isSystemError(error)) return error;
  return new IoTrouble(finding("io/cannot-write", { reason: reasonOf(error) }, { file }), error);
}
