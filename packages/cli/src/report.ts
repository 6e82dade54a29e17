/** Saying what a command found: text to the terminal with findings on standard error, or one document on standard output. */

import { toSarif, type Finding, type FindingCode, type ReadonlyFindings, safeJson } from "zest-tier";
import { formatOf, isJson, languageOf, listOption, textOption, type CommandLine } from "./command.js";
import { coloursOf, type Io } from "./io.js";
import { findingsToJson, renderFindings, summarise, type FindingsView } from "./render/findings.js";
import { findingTexts } from "./render/finding-texts.js";
import { version } from "./version.js";

export interface Output {
  /** For people; already painted. */
  readonly text: string;
  /** For programs; the findings are added. */
  readonly data: object;
}

/** With all findings. */
export function sayReport(report: Output, findings: ReadonlyFindings, given: CommandLine, io: Io): void {
  const list = findings.list();
  if (sayDocument(report, list, given, io)) return;
  if (report.text !== "") io.out(report.text);
  sayFindings(list, given, io);
}

/**
 * With the findings that `check` does not report; the others are counted. For commands that come after it.
 *
 * @param important what is shown although `check` reports it too.
 */
export function sayAfterCheck(
  report: Output,
  findings: ReadonlyFindings,
  given: CommandLine,
  io: Io,
  important: readonly Finding[] = [],
): void {
  const list = findings.list();
  if (sayDocument(report, list, given, io)) return;
  if (report.text !== "") io.out(report.text);
  if (given.options["all"] === true) return sayFindings(list, given, io);
  const exports = new Set([...listOption(given, "export"), ...listOption(given, "after")]);
  const isOfExport = ({ at }: Finding) => at?.file !== undefined && exports.has(at.file);
  const isKnown = (one: Finding) => isOfCheck(one) && !isOfExport(one) && !important.includes(one);
  const known = list.filter(isKnown);
  const target = textOption(given, "for");
  const command = `zest-tier check${target === undefined ? "" : ` --for ${target}`}`;
  sayFindings(
    list.filter((one) => !isKnown(one)),
    given,
    io,
  );
  if (known.length > 0) {
    const colours = coloursOf(io);
    const language = languageOf(given);
    const where = findingTexts[language].inSources(command);
    io.err(`${summarise(known, colours, language)} ${colours.dim(where)}\n`);
  }
}

/** @returns whether the report was written as a document for programs. */
function sayDocument(report: Output, list: readonly Finding[], given: CommandLine, io: Io): boolean {
  if (isJson(given)) {
    const document = { ...report.data, findings: findingsToJson(list, languageOf(given)) };
    io.out(`${safeJson(document, 2)}\n`);
    return true;
  }
  if (formatOf(given) !== "sarif") return false;
  io.out(`${safeJson(toSarif(list, version(), languageOf(given)), 2)}\n`);
  return true;
}

export function sayFindings(list: readonly Finding[], given: CommandLine, io: Io): void {
  const view: FindingsView = {
    colours: coloursOf(io),
    width: io.width,
    language: languageOf(given),
    lines: given.options["all"] === true ? undefined : io.height,
  };
  const text = renderFindings(list, view);
  if (text !== "") io.err(`\n${text}`);
}

/** Findings about reading and writing, not about what was read. */
const ofReadingAndWriting: ReadonlySet<string> = new Set<FindingCode>([
  "project/missing",
  "project/outside",
  "read/missing-file",
  "read/unreadable",
  "read/folder",
  "build/cannot-write",
  "build/not-built",
  "build/folder-there",
  "build/folder-of-other",
  "build/folder-has-others",
  "build/folder-link",
  "io/cannot-write",
  "io/failed",
  "io/locked",
]);

/** Stages whose findings `check` reports: it reads, resolves and plans. */
const stagesOfCheck: ReadonlySet<string> = new Set([
  "given",
  "layout",
  "target",
  "project",
  "read",
  "cell",
  "resolve",
  "derive",
  "check",
  "translations",
  "reshape",
  "ledger",
  "plan",
]);

export function isOfCheck(one: Finding): boolean {
  const code = one.code === "findings/more" ? one.facts.code : one.code;
  // The disk may have failed this time only, or a command have read what a check does not.
  if (ofReadingAndWriting.has(code)) return false;
  return stagesOfCheck.has(code.slice(0, code.indexOf("/")));
}

/** Exit code of a command that came to nothing: 3 where something could not be read or written, else 1. */
export const failureCode = (findings: ReadonlyFindings): 1 | 3 =>
  findings.list().some((one) => one.severity === "error" && ofReadingAndWriting.has(one.code)) ? 3 : 1;

/** Exit code for what was found. */
export const exitCode = (findings: ReadonlyFindings, despite: ReadonlySet<string> = new Set()): 0 | 1 | 3 =>
  findings.list().some((one) => one.severity === "error" && !despite.has(one.code)) ? failureCode(findings) : 0;
