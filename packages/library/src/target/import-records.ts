/**
 * Which records each import is for: bundles here, others there. A record goes into the first import whose condition it meets; where it
 * meets none, that is reported. Records that lie within others go with them.
 */

import type { ResolvedCatalogue } from "../catalogue/catalogue.js";
import { FactReader } from "../derive/facts.js";
import { finding, type Findings } from "../findings/finding.js";
import type { Text } from "../phrases/phrase.js";
import { entryOf } from "../checked.js";
import type { Slot } from "./slot.js";
import type { Target } from "./target.js";

/** Whether a file is for a record. Files whose imports have no condition are for all. */
export type IsFor = (file: string, kind: string, row: number) => boolean;

/** The imports that share the records of a kind, in their order. */
interface Sharing {
  readonly kind: string;
  readonly imports: readonly Slot[];
}

/** By kind: the imports with conditions that make records of it, and the one without that takes all others. */
function sharingOf(target: Target): Sharing[] {
  const kinds = new Set<string>();
  const kindOf = (slot: Slot): string => entryOf(target.files, slot.file).layout.shape.parent.name;
  for (const slot of target.slots) if (slot.condition) kinds.add(kindOf(slot));
  return [...kinds].map((kind) => ({
    kind,
    imports: target.slots.filter((slot) => slot.mode === "create" && kindOf(slot) === kind),
  }));
}

/** What becomes of a record that none takes: its row; with a problem where a condition cannot be worked out for it. */
type NotTaken = (kind: string, row: number, imports: readonly Slot[], problem: Text | undefined) => void;

/** By file: the rows of its kind that it is for. */
function choose(catalogue: ResolvedCatalogue, target: Target, notTaken: NotTaken): Map<string, Uint8Array> {
  const chosen = new Map<string, Uint8Array>();
  for (const { kind, imports } of sharingOf(target)) {
    const table = catalogue.table(kind);
    const names = new Set(imports.flatMap((slot) => [...(slot.condition?.expression.names ?? [])]));
    const facts = new FactReader(catalogue, table.kind, names, catalogue);
    for (const slot of imports) chosen.set(slot.file, new Uint8Array(table.size));
    for (let row = 0; row < table.size; row++) {
      const known = facts.read(row);
      let problem: Text | undefined;
      const taken = imports.find((slot) => {
        const holds = slot.condition?.expression.evaluate(known);
        if (holds?.is === "failed") problem = holds.problem;
        return !holds || (holds.is === "flag" && holds.flag);
      });
      if (taken) entryOf(chosen, taken.file)[row] = 1;
      else notTaken(kind, row, imports, problem);
    }
  }
  return chosen;
}

const everyRecord: IsFor = () => true;
const remembered = new WeakMap<ResolvedCatalogue, WeakMap<Target, IsFor>>();

/** Works out once for a catalogue and a target which file is for which record. */
export function recordsOfImports(catalogue: ResolvedCatalogue, target: Target): IsFor {
  if (!target.slots.some((slot) => slot.condition)) return everyRecord;
  const known = remembered.get(catalogue)?.get(target);
  if (known) return known;
  const chosen = choose(catalogue, target, () => undefined);
  const isFor: IsFor = (file, kind, row) => {
    const rows = chosen.get(file);
    if (!rows) return true;
    const { parent, child } = entryOf(target.files, file).layout.shape;
    if (kind === parent.name) return rows[row] === 1;
    return kind !== child?.name || rows[catalogue.table(kind).parent(row)] === 1;
  };
  const ofCatalogue = remembered.get(catalogue) ?? new WeakMap<Target, IsFor>();
  remembered.set(catalogue, ofCatalogue.set(target, isFor));
  return isFor;
}

/** Whether a file takes every record of its kind. */
export const isForAll = (target: Target, file: string): boolean =>
  !sharingOf(target).some(({ imports }) => imports.some((slot) => slot.file === file));

/** Records of a kind that the same imports make. */
export interface Share {
  readonly rows: readonly number[];
  /** Positions of the imports. */
  readonly slots: readonly number[];
  readonly name: string;
}

/**
 * Where imports are for some records only, each of these with its import; else all records with all imports that make them.
 *
 * @param making positions of the imports that make records of the kind.
 */
export function sharesOf(
  target: Target,
  isFor: IsFor,
  kind: string,
  rows: readonly number[],
  making: readonly number[],
): readonly Share[] {
  const own = making.flatMap((at) => {
    const { file, name } = target.slots[at]!;
    const { layouts } = entryOf(target.files, file);
    const isOfKind = layouts.some(
      ({ shape, link }) => !link && (shape.parent.name === kind || shape.child?.name === kind),
    );
    return isOfKind ? [{ at, file, name }] : [];
  });
  if (own.every(({ file }) => isForAll(target, file))) return [{ rows, slots: making, name: kind }];
  return own.map(({ at, file, name }) => ({
    rows: rows.filter((row) => isFor(file, kind, row)),
    slots: [at],
    name: `${kind} in ${name}`,
  }));
}

/** Reports each record that no import takes, at its place. */
export function reportNotTaken(catalogue: ResolvedCatalogue, target: Target, findings: Findings): void {
  if (!target.slots.some((slot) => slot.condition)) return;
  choose(catalogue, target, (kind, row, imports, problem) => {
    const table = catalogue.table(kind);
    const facts = { kind, key: table.key(row), imports: imports.map(({ name }) => name), target: target.name };
    findings.add(finding("target/no-import", { ...facts, problem }, catalogue.location(table, row)));
  });
}
