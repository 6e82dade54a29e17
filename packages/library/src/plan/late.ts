/** Links that come too late for their rows: set by a later upload, or reported where the target has none for them. */

import { entryOf } from "../checked.js";
import type { ResolvedCatalogue } from "../catalogue/catalogue.js";
import { finding, type Findings } from "../findings/finding.js";
import type { Slot } from "../target/slot.js";
import type { Target, TargetFile } from "../target/target.js";
import { carriedReferences } from "./carried.js";
import { canBeBlank, columnsWith } from "./elsewhere.js";
import type { LateLink } from "./links.js";
import { referenceFieldsOf } from "./references.js";

/** The upload that can set links once both of their records are there. */
export function laterSlot(
  { kinds }: ResolvedCatalogue,
  target: Target,
  file: TargetFile,
  late: readonly LateLink[],
): Slot | undefined {
  const links = new Map(late.map(({ link }) => [link.name, link]));
  const waiting = [...links.values()].flatMap(({ name, headers }) => {
    const named = [...headers];
    return [...named, ...file.layouts.flatMap((layout) => columnsWith(layout, name, named))];
  });
  if (!canBeBlank(file, [...new Set(waiting)])) return undefined;
  return target.slots.find((slot) => {
    if (slot.mode !== "update") return false;
    const carried = carriedReferences(target, slot, kinds);
    return [...links.keys()].every((name) => carried.some((one) => one.name === name));
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
