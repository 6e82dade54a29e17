/** Saying what a command found: text to the terminal with findings on standard error, or one JSON document on standard output. */

import type { Finding, Findings } from "zest-tier";
import { isJson, type Given } from "./command.js";
import { coloursOf, type Io } from "./io.js";
import { findingsToJson, renderFindings } from "./render/findings.js";

export interface Report {
  /** For people; already painted. */
  readonly text: string;
  /** For programs; the findings are added. */
  readonly data: object;
}

/** @param isQuiet notes are for programs, and for those who ask for all: what is said is of something else. */
export function sayReport(report: Report, findings: Findings, given: Given, io: Io, isQuiet = false): void {
  const list = findings.list();
  if (isJson(given)) {
    io.out(`${JSON.stringify({ ...report.data, findings: findingsToJson(list) }, null, 2)}\n`);
    return;
  }
  if (report.text !== "") io.out(report.text);
  const isWanted = (one: Finding) => !isQuiet || given.options["all"] === true || one.severity !== "note";
  sayFindings(list.filter(isWanted), given, io);
}

export function sayFindings(list: readonly Finding[], given: Given, io: Io): void {
  const text = renderFindings(list, coloursOf(io), given.options["all"] === true, io.width);
  if (text !== "") io.err(`\n${text}`);
}

/** Exit code for what was found. */
export const exitCode = (findings: Findings, despite: ReadonlySet<string> = new Set()): number =>
  findings.list().some((one) => one.severity === "error" && !despite.has(one.code)) ? 1 : 0;
