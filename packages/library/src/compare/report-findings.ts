/** What a comparison reports: what would be overwritten, what others changed, an export that is not the whole one. */

import { finding, type Findings } from "../findings/finding.js";
import { none } from "../match/correspondence.js";
import type { ComparedRecord, PlatformComparison } from "./comparison.js";

const fewestKnown = 5;

/** @param wasDelivered whether a product of yours was delivered before. */
export function reportComparison(
  { sides, collisions, records, former }: PlatformComparison,
  wasDelivered: (row: number) => boolean,
  findings: Findings,
): void {
  const { own, matched } = sides;
  for (const { kind, yours, platforms, by, value, own: row } of collisions)
    findings.add(
      finding("compare/would-overwrite", { kind, yours, platforms, by, value }, own.location(own.table(kind), row)),
    );
  const rows = Array.from({ length: own.table("product").size }, (_, row) => row);
  const known = rows.filter(wasDelivered);
  const there = known.filter((row) => matched.otherOf("product", row) !== none);
  if (known.length >= fewestKnown && there.length * 2 < known.length) {
    const facts = { known: known.length, there: there.length };
    findings.add(there.length === 0 ? finding("compare/other-shop", facts) : finding("compare/half-export", facts));
  }
  const touched = records.filter(({ state }) => state === "changed on the platform" || state === "both changed");
  const differing = touched.filter(({ kind }) => kind === "product").length;
  if (there.length >= fewestKnown && differing * 2 > there.length)
    findings.add(finding("compare/old-ledger", { differing, shared: there.length }));
  for (const { kind, key, fields, at } of touched) {
    const changed = fields.filter(({ by }) => by === "platform" || by === "both").map(({ field }) => field);
    const isBoth = fields.some(({ by }) => by === "both");
    findings.add(
      finding(isBoth ? "compare/both-changed" : "compare/changed-on-platform", { kind, key, fields: changed }, at),
    );
  }
  // What an operation made others of is gone on purpose.
  const isFormer = ({ kind, there }: ComparedRecord) => former.get(kind)?.has(there) ?? false;
  const gone = records.filter((one) => one.state === "no longer in your sources" && !isFormer(one));
  if (gone.length > 0)
    findings.add(
      finding("compare/no-longer-in-sources", {
        count: gone.length,
        examples: gone.slice(0, 5).map(({ kind, key }) => `${kind} ${key}`),
      }),
    );
}
