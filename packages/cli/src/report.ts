/** Saying what a command found: text to the terminal with findings on standard error, or one JSON document on standard output. */

import type { Finding, FindingCode, Findings } from "zest-tier";
import { isJson, type CommandLine } from "./command.js";
import { coloursOf, type Io } from "./io.js";
import { findingsToJson, renderFindings } from "./render/findings.js";

export interface Output {
  /** For people; already painted. */
  readonly text: string;
  /** For programs; the findings are added. */
  readonly data: object;
}

/** @param isQuiet notes are for programs, and for those who ask for all: what is said is of something else. */
export function sayReport(report: Output, findings: Findings, given: CommandLine, io: Io, isQuiet = false): void {
  const list = findings.list();
  if (isJson(given)) {
    io.out(`${JSON.stringify({ ...report.data, findings: findingsToJson(list) }, null, 2)}\n`);
    return;
  }
  if (report.text !== "") io.out(report.text);
  const isWanted = (one: Finding) => !isQuiet || given.options["all"] === true || one.severity !== "note";
  sayFindings(list.filter(isWanted), given, io);
}

export function sayFindings(list: readonly Finding[], given: CommandLine, io: Io): void {
  const text = renderFindings(list, coloursOf(io), given.options["all"] === true, io.width);
  if (text !== "") io.err(`\n${text}`);
}

/** Findings that tell of reading and writing, not of what was read. */
const ofReadingAndWriting: ReadonlySet<string> = new Set<FindingCode>([
  "project/missing",
  "read/missing-file",
  "read/unreadable",
  "read/folder",
  "build/cannot-write",
  "build/folder-there",
  "build/folder-of-other",
  "build/folder-has-others",
  "build/folder-link",
  "io/cannot-write",
  "io/failed",
  "io/locked",
]);

/** Exit code of a command that came to nothing: 3 where something could not be read or written, else 1. */
export const failureCode = (findings: Findings): 1 | 3 =>
  findings.list().some((one) => one.severity === "error" && ofReadingAndWriting.has(one.code)) ? 3 : 1;

/** Exit code for what was found. */
export const exitCode = (findings: Findings, despite: ReadonlySet<string> = new Set()): 0 | 1 | 3 =>
  findings.list().some((one) => one.severity === "error" && !despite.has(one.code)) ? failureCode(findings) : 0;
