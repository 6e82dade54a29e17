/** What the disk refuses in the middle of a command, as a finding like any other. */

import { finding, Findings, type Finding } from "zest-tier";
import { IoTrouble, isSystemError, reasonOf } from "zest-tier/node";
import type { CommandLine } from "./command.js";
import type { Io } from "./io.js";
import { sayReport } from "./report.js";

/** @returns whether the error was of reading or writing, and has been reported. */
export function sayTrouble(error: unknown, command: string, given: CommandLine, io: Io): boolean {
  const trouble = troubleOf(error);
  if (!trouble) return false;
  const findings = new Findings();
  findings.add(trouble);
  sayReport({ text: "", data: { command } }, findings, given, io);
  return true;
}

function troubleOf(error: unknown): Finding | undefined {
  if (error instanceof IoTrouble) return error.finding;
  if (!isSystemError(error)) return undefined;
  const at = error.path === undefined ? undefined : { file: error.path };
  return finding("io/failed", { reason: reasonOf(error), action: error.syscall! }, at);
}
