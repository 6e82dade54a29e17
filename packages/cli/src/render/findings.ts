/** Findings for people: grouped by code, errors first, each with its place and once with its remedy. And for programs. */

import { describeFinding, formatLocation, type Finding, type Severity } from "zest-tier";
import type { Colours } from "../io.js";
import { counted, wrapped } from "./text.js";

const order: readonly Severity[] = ["error", "warning", "note"];
const shownPerCode = 8;

/** @param tellAll lists every place; otherwise the first few of each code. */
export function renderFindings(
  findings: readonly Finding[],
  colours: Colours,
  tellAll: boolean,
  width: number,
): string {
  const groups = new Map<string, Finding[]>();
  for (const severity of order) {
    for (const finding of findings) {
      if (finding.severity !== severity) continue;
      const group = groups.get(finding.code);
      if (group) group.push(finding);
      else groups.set(finding.code, [finding]);
    }
  }
  const blocks = [...groups.values()].map((group) => renderGroup(group, colours, tellAll, width));
  return blocks.length === 0 ? "" : `${blocks.join("\n")}\n${summarise(findings, colours)}\n`;
}

function renderGroup(group: readonly Finding[], colours: Colours, tellAll: boolean, width: number): string {
  const first = group[0]!;
  const paint = { error: colours.red, warning: colours.yellow, note: colours.cyan }[first.severity];
  const shown = tellAll ? group : group.slice(0, shownPerCode);
  const lines = shown.flatMap((one) => {
    const related = one.related.slice(0, 3).map((location) => formatLocation(location));
    return [
      wrapped(
        `  ${colours.bold(one.at ? formatLocation(one.at) : "(whole project)")}  ${describeFinding(one).message}`,
        width,
        "      ",
      ),
      ...(related.length > 0
        ? [colours.dim(`      see also ${related.join(", ")}${one.related.length > 3 ? " …" : ""}`)]
        : []),
    ];
  });
  const more = group.length - shown.length;
  return [
    `${paint(colours.bold(first.severity))} ${paint(first.code)}${group.length > 1 ? ` × ${group.length}` : ""}`,
    ...lines,
    ...(more > 0 ? [colours.dim(`  … and ${more} more: --all lists them`)] : []),
    `  ${colours.green("→")} ${describeFinding(first).remedy}`,
    "",
  ].join("\n");
}

/** One line: how many of each severity. */
export function summarise(findings: readonly Finding[], colours: Colours): string {
  const count = (severity: Severity) => findings.filter((one) => one.severity === severity).length;
  const parts = [
    count("error") > 0 ? colours.red(counted(count("error"), "error")) : colours.green("no errors"),
    count("warning") > 0 && colours.yellow(counted(count("warning"), "warning")),
    count("note") > 0 && colours.cyan(counted(count("note"), "note")),
  ];
  return parts.filter((part) => part !== false).join(", ");
}

export function findingsToJson(findings: readonly Finding[]): object[] {
  return findings.map((one) => ({ ...one, at: one.at ?? null, ...describeFinding(one) }));
}
