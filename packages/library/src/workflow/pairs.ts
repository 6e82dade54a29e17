/** The list of pairs that a specialist answers: which record on the platform is which record of the sources. It lies beside the project file. */

import { isMissingFile } from "../findings/result.js";
import { pairRows, pairsOfRows, type RepliedPair } from "../compare/pairs.js";
import type { Comparison } from "../compare/comparison.js";
import type { Findings } from "../findings/finding.js";
import { asGiven, neutralised } from "../formats/formulas.js";
import { csvLine } from "../formats/csv-write.js";
import { readCsv } from "../formats/csv-read.js";
import { decodeText } from "../formats/decode.js";
import type { FilesPort } from "../ports.js";
import { pushAll } from "../lists.js";

/** What the pairs of a target are saved as, beside the project file. */
export const pairsFileName = (target: string): string => `pairs-${target}.csv`;

/** The pairs that the specialist has answered; none if there is no such file. */
export async function readPairs(files: FilesPort, target: string, findings: Findings): Promise<readonly RepliedPair[]> {
  const name = pairsFileName(target);
  const opened = await files.read(name);
  if (isMissingFile(opened)) return [];
  const bytes = findings.took(opened);
  if (!bytes) return [];
  const rows: (readonly string[])[] = [];
  const lines: number[] = [];
  for await (const batch of readCsv(decodeText(bytes, name, undefined, findings), name, {}, findings)) {
    for (const row of batch.rows) rows.push(row.map(asGiven));
    pushAll(lines, batch.lines);
  }
  return findings.took(pairsOfRows(rows, lines, name)) ?? [];
}

/** Pairs as the text of their file. People open it in a spreadsheet. */
export const pairsFileText = (pairs: readonly RepliedPair[]): string =>
  pairRows(pairs)
    .map((row) => row.map(neutralised))
    .map(csvLine({ delimiter: ";", lineEnd: "\r\n" }))
    .join("");

/** The pairs of a comparison that are not answered yet, behind those that were given. */
export function pairsToAnswer(
  { collisions, suggestions }: Comparison,
  given: readonly RepliedPair[],
): { readonly all: readonly RepliedPair[]; readonly added: number } {
  const nameOf = ({ kind, yours, platforms }: Pick<RepliedPair, "kind" | "yours" | "platforms">): string =>
    JSON.stringify([kind, yours, platforms]);
  const known = new Set(given.map(nameOf));
  const open = [...collisions, ...suggestions].filter((pair) => !known.has(nameOf(pair)));
  return { all: [...given, ...open.map((pair) => ({ ...pair, reply: undefined }))], added: open.length };
}
