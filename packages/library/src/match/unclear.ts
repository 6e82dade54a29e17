/** What is reported where it is not clear which record is which: several of yours that would be one there, one that may be several. */

import { firstOf } from "../checked.js";
import { finding, type Finding } from "../findings/finding.js";
import type { Correspondence, MatchedBy } from "./correspondence.js";

const mostNamed = 5;

/** Reports what is not clear. @param target the platform that the other catalogue is of. @returns a finding for each open question, at the first of your records. */
export function unclearFindings(
  { own, other, unclear }: Pick<Correspondence, "own" | "other" | "unclear">,
  target: string,
): Finding[] {
  return unclear.map((open) => {
    const table = own.table(open.kind);
    const [at, ...related] = open.own.map((row) => own.location(table, row));
    const there = other.table(open.kind);
    const keys = open.own.map((row) => table.key(row));
    const others = open.others.map((row) => there.key(row));
    const facts = { kind: open.kind, count: keys.length, by: wordOf(open.by), target };
    return others.length === 1
      ? finding(
          "compare/several-are-one",
          { ...facts, examples: keys.slice(0, mostNamed), other: firstOf(others) },
          at,
          related,
        )
      : finding(
          "compare/may-be-several",
          { ...facts, key: firstOf(keys), candidates: others.slice(0, mostNamed) },
          at,
          related,
        );
  });
}

const wordOf = (by: MatchedBy): string => (typeof by === "string" ? by : by.is);
