/** Pairs of records that may be the same: a list that the specialist answers, and what the answers come to. */

import { failure } from "../findings/result.js";
import { finding, Findings, type Result } from "../findings/finding.js";
import { asTargetView, type TargetView } from "../catalogue/catalogue.js";
import type { Location } from "../location.js";

/** A record of yours and one on the platform that may be the same. */
export interface Pair {
  readonly kind: string;
  readonly yours: string;
  readonly platforms: string;
  readonly why: string;
}

export type Reply = "same" | "different";

/** Pairs that the specialist has decided, and those still open. */
export interface RepliedPair extends Pair {
  readonly reply: Reply | undefined;
}

/** Whether a pair was answered with `different`. */
export const saidDifferent = (pairs: readonly RepliedPair[]): ((pair: Pair) => boolean) => {
  const nameOf = ({ kind, yours, platforms }: Pair) => JSON.stringify([kind, yours, platforms]);
  const different = new Set(pairs.filter(({ reply }) => reply === "different").map(nameOf));
  return (pair) => different.has(nameOf(pair));
};

/** Takes over the platform's keys for records that the specialist has said are the same. A pair that names nothing, or a key that is taken, is a finding. */
export function withPairs(
  given: TargetView,
  pairs: readonly RepliedPair[],
  placeOf: (at: number) => Location,
  findings: Findings,
): TargetView {
  const catalogue = given.branch();
  pairs.forEach(({ kind, yours, platforms, reply: answer }, at) => {
    if (answer !== "same" || yours === platforms) return;
    const table = catalogue.kinds.find(kind) && catalogue.table(kind);
    const row = table?.find(yours);
    if (!table || row === undefined)
      findings.add(finding("compare/pair-names-nothing", { kind, key: yours }, placeOf(at)));
    else if (table.find(platforms) !== undefined)
      findings.add(finding("compare/pair-taken", { kind, key: yours, platforms }, placeOf(at)));
    else table.rename(row, platforms);
  });
  return asTargetView(catalogue);
}

const columns = ["Kind", "Yours", "On platform", "Reason", "Reply"] as const;

/** The pairs as rows of a sheet, to be answered with `same` or `different`. */
export function pairRows(pairs: readonly RepliedPair[]): string[][] {
  return [
    [...columns],
    ...pairs.map(({ kind, yours, platforms, why, reply }) => [kind, yours, platforms, why, reply ?? ""]),
  ];
}

/** Reads answered pairs; fails where the header is not that of pairs. An answer that is neither is a finding. */
export function pairsOfRows(
  rows: readonly (readonly string[])[],
  lines: readonly number[],
  file: string,
): Result<RepliedPair[]> {
  const findings = new Findings();
  const [header = [], ...rest] = rows;
  if (columns.some((column) => !header.includes(column)))
    return failure(finding("compare/no-pairs", { columns }, { file }));
  const cellOf = (cells: readonly string[], name: (typeof columns)[number]): string =>
    cells[header.indexOf(name)] ?? "";
  const pairs = rest.map((cells, at): RepliedPair => {
    const reply = cellOf(cells, "Reply").trim().toLowerCase();
    const isReply = reply === "same" || reply === "different";
    if (!isReply && reply !== "")
      findings.add(finding("compare/odd-reply", { text: reply }, { file, line: lines[at + 1]!, column: "Reply" }));
    return {
      kind: cellOf(cells, "Kind"),
      yours: cellOf(cells, "Yours"),
      platforms: cellOf(cells, "On platform"),
      why: cellOf(cells, "Reason"),
      reply: isReply ? reply : undefined,
    };
  });
  return { ok: true, value: pairs, findings };
}
