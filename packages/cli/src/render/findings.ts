/**
 * Findings for people: the important ones first, each sentence with its locations, once with what to do, the code last. Equal ones
 * are gathered. By default no more than a screenful; what is left out is counted. And for programs.
 */

import { describeFinding, formatLocation, type Finding, type Language, type Severity } from "zest-tier";
import type { Colours } from "../io.js";
import { findingTexts } from "./finding-texts.js";
import { wrapped } from "./text.js";

export interface FindingsView {
  readonly colours: Colours;
  readonly width: number;
  readonly language: Language;
  /** So many lines at most; all of them if undefined. */
  readonly lines: number | undefined;
}

const order: readonly Severity[] = ["error", "warning", "note"];
const shownLocations = 3;

/** The findings of one sentence: those that differ only in where they are. */
interface Gathered {
  readonly message: string;
  readonly all: readonly Finding[];
}

export function renderFindings(findings: readonly Finding[], view: FindingsView): string {
  if (findings.length === 0) return "";
  const groups = groupsOf(findings);
  // The summary and the line on what is left out belong to the screenful.
  let room = view.lines === undefined ? Infinity : view.lines - 3;
  const shown: string[] = [];
  let count = 0;
  for (const [at, group] of groups.entries()) {
    const others = groups.length - at - 1;
    const block = renderGroup(group, view, Math.max(4, room - 4 * others));
    if (block.length > room && shown.length > 0) break;
    room -= block.length;
    for (const line of block) shown.push(line);
    count++;
  }
  const left = groups.slice(count).flat();
  const more =
    left.length === 0
      ? []
      : [view.colours.dim(findingTexts[view.language].more(groups.length - count, tally(left, view.language)))];
  return `${[...shown, ...more, summarise(findings, view.colours, view.language)].join("\n")}\n`;
}

/** By code, the most severe first, and the first code in the sources before others. */
function groupsOf(findings: readonly Finding[]): Finding[][] {
  const groups = new Map<string, Finding[]>();
  for (const severity of order)
    for (const finding of findings) {
      if (finding.severity !== severity) continue;
      const group = groups.get(finding.code);
      if (group) group.push(finding);
      else groups.set(finding.code, [finding]);
    }
  return [...groups.values()];
}

function renderGroup(group: readonly Finding[], view: FindingsView, room: number): string[] {
  const { colours, width, language } = view;
  const texts = findingTexts[language];
  const [first] = group as [Finding];
  const paint = { error: colours.red, warning: colours.yellow, note: colours.cyan }[first.severity];
  const label = paint(colours.bold(texts.severity[first.severity]));
  const pad = " ".repeat(texts.severity[first.severity].length + 1);
  const lines: string[] = [];
  let told = 0;
  for (const { message, all } of gather(group, language)) {
    const places = where(all, view);
    const next = [
      ...wrapped(`${label} ${message}`, width, pad).split("\n"),
      ...(places === "" ? [] : wrapped(`${pad}${places}`, width, pad).split("\n").map(colours.dim)),
    ];
    // The remedy, the line of the code, and a blank line come too.
    if (lines.length > 0 && lines.length + next.length + 3 > room) break;
    for (const line of next) lines.push(line);
    told += all.length;
  }
  const { remedy } = describeFinding(first, language);
  const left = group.length - told;
  return [
    ...lines,
    ...(left > 0 ? [colours.dim(`${pad}${texts.alike(left, told)}`)] : []),
    ...wrapped(`${pad}${colours.green("→")} ${remedy}  ${colours.dim(first.code)}`, width, `${pad}  `).split("\n"),
    "",
  ];
}

/** Equal sentences together, in the order of their first. */
function gather(group: readonly Finding[], language: Language): Gathered[] {
  const byMessage = new Map<string, Finding[]>();
  for (const one of group) {
    const { message } = describeFinding(one, language);
    const all = byMessage.get(message);
    if (all) all.push(one);
    else byMessage.set(message, [one]);
  }
  return [...byMessage].map(([message, all]) => ({ message, all }));
}

/** "sources/range.csv:12 [EAN], variant BC-X2": the first few, and how many more. Blank if none has a location. */
function where(all: readonly Finding[], { lines, language }: FindingsView): string {
  if (all.every(({ at }) => !at)) return "";
  const texts = findingTexts[language];
  const shown = lines === undefined ? all : all.slice(0, shownLocations);
  const places = shown.map(({ at, related }) => {
    if (!at) return "";
    const record = at.record ? `, ${at.record.kind.replaceAll("-", " ")} ${at.record.key}` : "";
    const also = related.slice(0, shownLocations).map((one) => formatLocation(one));
    const rest = related.length > shownLocations ? texts.andMore(related.length - shownLocations) : "";
    const others = also.length > 0 ? ` ${texts.seeAlso(`${also.join(", ")}${rest}`)}` : "";
    return `${formatLocation(at)}${record}${others}`;
  });
  const more = all.length > shown.length ? [texts.morePlaces(all.length - shown.length)] : [];
  return [...places.filter((place) => place !== ""), ...more].join("; ");
}

const tally = (findings: readonly Finding[], language: Language): string =>
  order
    .map((severity) => [severity, findings.filter((one) => one.severity === severity).length] as const)
    .filter(([, count]) => count > 0)
    .map(([severity, count]) => findingTexts[language].count(count, severity))
    .join(", ");

/** One line: how many of each severity. */
export function summarise(findings: readonly Finding[], colours: Colours, language: Language): string {
  const texts = findingTexts[language];
  const count = (severity: Severity) => findings.filter((one) => one.severity === severity).length;
  const parts = [
    count("error") > 0 ? colours.red(texts.count(count("error"), "error")) : colours.green(texts.none),
    count("warning") > 0 && colours.yellow(texts.count(count("warning"), "warning")),
    count("note") > 0 && colours.cyan(texts.count(count("note"), "note")),
  ];
  return parts.filter((part) => part !== false).join(", ");
}

export function findingsToJson(findings: readonly Finding[], language: Language): object[] {
  return findings.map((one) => ({ ...one, at: one.at ?? null, ...describeFinding(one, language) }));
}
