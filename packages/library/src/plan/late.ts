/** Links that come too late for their rows: set by a later upload, or reported where the target has none for them. */

import { entryOf } from "../checked.js";
import type { ResolvedCatalogue } from "../catalogue/catalogue.js";
import { finding, type Findings } from "../findings/finding.js";
import type { Slot } from "../target/adapter/played.js";
import type { Target, TargetFile } from "../target/target.js";
import { carriedReferences } from "./carried.js";
import type { LateLink } from "./links.js";
import { referenceFieldsOf } from "./references.js";

/** The upload that can set links once both of their records are there. */
export function laterSlot(
  { kinds }: ResolvedCatalogue,
  target: Target,
  { rules }: TargetFile,
  late: readonly LateLink[],
): Slot | undefined {
  // A cell that has to be filled cannot wait.
  const isNeeded = (header: string) => rules.get(header)?.required || rules.get(header)?.blank === "refuse";
  if (late.some(({ link }) => [...link.headers].some(isNeeded))) return undefined;
  const names = new Set(late.map(({ link }) => link.name));
  return target.slots.find((slot) => {
    if (slot.mode !== "update") return false;
    const carried = carriedReferences(target, slot, kinds);
    return [...names].every((name) => carried.some((one) => one.name === name));
  });
}

export function reportLate(
  catalogue: ResolvedCatalogue,
  target: string,
  late: readonly LateLink[],
  findings: Findings,
): void {
  const named = new Map(referenceFieldsOf(catalogue).map(({ name, to }) => [name, to]));
  for (const { link, from, to } of late) {
    const { kind, name } = link;
    const location = catalogue.location(catalogue.table(kind), from, name.slice(kind.length + 1));
    const facts = { to: catalogue.table(entryOf(named, name)).key(to), target };
    findings.add(finding("plan/late-link", facts, location));
  }
}
