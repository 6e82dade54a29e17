/** A draft as the text of a layout file: what is bound, with its reason behind it; below, what was left out, and why. */

import { stringify } from "yaml";
import type { Draft } from "./draft.js";
import type { DraftedRest } from "./drafter.js";
import type { DraftedBinding } from "./proposals.js";

const flow = (value: unknown): string =>
  stringify(value, { collectionStyle: "flow", lineWidth: 0, flowCollectionPadding: true }).trim();

/** @param made columns that are made of others, with what they are bound to. */
export function draftYaml(
  name: string,
  draft: Omit<Draft, "yaml">,
  { cells, filledDown }: Pick<DraftedRest, "cells" | "filledDown">,
  made: ReadonlyMap<string, DraftedBinding>,
): string {
  const { sample, lines, rows, lanes, language, numbered } = draft;
  const text = [`layout: ${flow(name)}`, "about: Drafted from a sample; check each line."];
  const format = formatOf(sample);
  if (format) text.push(`format: ${flow(format)}`);
  text.push(`language: ${language}`);
  if ((sample.headerLine ?? 1) > 1) text.push(`header: { line: ${sample.headerLine} }`);
  if (numbered > 1 && lines.some(({ header }) => header.includes("{n}"))) text.push(`numbered: ${numbered}`);
  text.push(`rows: ${flow(rows)} # ${draft.why}`);
  if (filledDown.length > 0)
    text.push(`filled down: ${flow(filledDown)} # it is filled on the first row of a group alone`);
  if (Object.keys(cells).length > 0) text.push("cells:");
  for (const [cell, value] of Object.entries(cells)) text.push(`  ${flow(cell)}: ${flow(value)}`);
  if (Object.keys(lanes).length > 0) text.push("lanes:");
  for (const [lane, value] of Object.entries(lanes)) text.push(`  ${lane}: ${flow(value)}`);
  const parts = new Set(Object.values(cells).flatMap((one) => (one as { join: readonly string[] }).join));
  const bound = lines.filter((line) => line.binding !== undefined && !parts.has(line.header));
  text.push(bound.length + made.size === 0 ? "columns: {}" : "columns:");
  for (const [header, binding] of made) {
    const from = lines.filter((line) => parts.has(line.header)).map(({ header: one, why }) => `${one}: ${why}`);
    text.push(`  ${flow(header)}: ${flow(binding)} # sure: ${oneLine(from.join("; "))}`);
  }
  for (const { header, binding, sure, why } of bound)
    text.push(`  ${flow(header)}: ${flow(binding)} # ${sure}: ${oneLine(why)}`);
  const left = lines.filter((line) => line.binding === undefined);
  if (left.length > 0) text.push("# Left out:");
  for (const { header, why, nearest } of left)
    text.push(`#   ${oneLine(header)}: ${oneLine(why)}${nearest === undefined ? "" : ` (nearest: ${nearest})`}`);
  return `${text.join("\n")}\n`;
}

function formatOf(sample: Draft["sample"]): object | undefined {
  if (sample.is === "xml") return { xml: {} };
  if (sample.is === "json") return { json: {} };
  if (sample.sheet !== undefined) return { workbook: { sheet: sample.sheet } };
  return sample.delimiter === undefined ? undefined : { csv: { delimiter: sample.delimiter } };
}

const oneLine = (text: string): string => text.replace(/\s+/g, " ");
