/** A draft as the text of a layout file: what is bound, with its reason behind it; below, what was left out, and why. */

import { stringify } from "yaml";
import type { Draft } from "./draft.js";

const flow = (value: unknown): string =>
  stringify(value, { collectionStyle: "flow", lineWidth: 0, flowCollectionPadding: true }).trim();

export function draftYaml(name: string, draft: Omit<Draft, "yaml">): string {
  const { sample, lines, rows, lanes, language, numbered } = draft;
  const text = [`layout: ${flow(name)}`, "about: Drafted from a sample; check each line."];
  const format = formatOf(sample);
  if (format) text.push(`format: ${flow(format)}`);
  text.push(`language: ${language}`);
  if ((sample.headerLine ?? 1) > 1) text.push(`header: { line: ${sample.headerLine} }`);
  if (numbered > 1 && lines.some(({ header }) => header.includes("{n}"))) text.push(`numbered: ${numbered}`);
  text.push(`rows: ${flow(rows)} # ${draft.why}`);
  if (Object.keys(lanes).length > 0)
    text.push("lanes:", ...Object.entries(lanes).map(([lane, value]) => `  ${lane}: ${flow(value)}`));
  const bound = lines.filter((line) => line.binding !== undefined);
  text.push(bound.length === 0 ? "columns: {}" : "columns:");
  for (const { header, binding, sure, why } of bound)
    text.push(`  ${flow(header)}: ${flow(binding)} # ${sure}: ${oneLine(why)}`);
  const left = lines.filter((line) => line.binding === undefined);
  if (left.length > 0)
    text.push("# Left out:", ...left.map(({ header, why }) => `#   ${oneLine(header)}: ${oneLine(why)}`));
  return `${text.join("\n")}\n`;
}

function formatOf(sample: Draft["sample"]): object | undefined {
  if (sample.is === "xml") return { xml: {} };
  if (sample.is === "json") return { json: {} };
  if (sample.sheet !== undefined) return { workbook: { sheet: sample.sheet } };
  return sample.delimiter === undefined ? undefined : { csv: { delimiter: sample.delimiter } };
}

const oneLine = (text: string): string => text.replace(/\s+/g, " ");
