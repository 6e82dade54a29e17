/**
 * Checking a plan by another way than it was made: the files are walked through row by row, as a platform would meet them, and each
 * reference of each record is looked at when it is written.
 *
 * Used by the tests on every plan they make. Knows nothing of sequences, rounds, batches or waiting.
 */

import { entryOf } from "../checked.js";
import type { ResolvedCatalogue } from "../catalogue/catalogue.js";
import type { Target } from "../target/target.js";
import { carriedReferences, demandOf, type CarriedReference } from "./carried.js";
import type { AlreadyThere } from "./placements.js";
import { nothingThere, type Plan, type UploadStep } from "./plan.js";
import { eachReference, referenceFieldsOf } from "./references.js";
import { added } from "../lists.js";

/** When a row is written: how many times ids were collected before, in which file, as which row of all. */
interface When {
  readonly round: number;
  readonly file: number;
  readonly row: number;
}

interface Write extends When {
  readonly kind: string;
  readonly record: number;
  readonly step: UploadStep;
}

/**
 * Checks a plan against the catalogue: every need is met before.
 *
 * @returns what is wrong with the plan, in words; `[]` when it holds.
 */
export function verifyPlan(
  catalogue: ResolvedCatalogue,
  target: Target,
  plan: Plan,
  isLeftOut: (kind: string, row: number) => boolean = () => false,
  there: AlreadyThere = nothingThere,
): string[] {
  const problems: string[] = [];
  const writes: Write[] = [];
  let round = 0;
  let file = 0;
  let row = 0;
  for (const step of plan.steps) {
    if (step.is === "collect") round++;
    if (step.is !== "upload") continue;
    const own = entryOf(target.files, step.slot.file);
    for (const { name, blocks } of step.files) {
      file++;
      const count = blocks.reduce((sum, { records }) => sum + records.length, 0);
      if (own.limits.products !== undefined && count > own.limits.products)
        problems.push(`${name} has ${count} products`);
      for (const { layout, kind, records } of blocks) {
        const { shape, link, lanes } = own.layouts[layout]!;
        for (const record of records) {
          row++;
          writes.push({ kind, record, round, file, row, step });
          const below = shape.child ?? (shape.parent.name === kind ? undefined : shape.parent);
          if (!below) continue;
          // Rows that are entries are there only for what has such entries.
          const hasRows = (child: number) =>
            !link ||
            lanes.length === 0 ||
            lanes.some((lane) => catalogue.table(`${below.name}.${lane.collection}`).countChildren(child) > 0);
          for (const child of catalogue.table(below.name).childrenOf(record))
            if (!isLeftOut(below.name, child) && hasRows(child))
              writes.push({ kind: below.name, record: child, round, file, row, step });
        }
      }
    }
  }
  const carriedBy = new Map(target.slots.map((slot) => [slot.name, carriedReferences(target, slot, catalogue.kinds)]));
  const created = checkCreations();
  for (const all of carriedBy.values()) for (const carried of all) checkReference(carried);
  return [...new Set(problems)];

  function nameOf(kind: string, record: number): string {
    return `${kind} ${catalogue.table(kind).key(record)}`;
  }

  /** Every record that has rows of its own is created once, and before anything is added to it. */
  function checkCreations(): Map<string, Write> {
    const found = new Map<string, Write>();
    for (const write of writes) {
      const key = `${write.kind} ${write.record}`;
      const isCreation = write.step.slot.mode === "create" && write.step.slot.creates.includes(write.kind);
      if (isCreation && !there.isThere(write.kind, write.record)) {
        if (found.has(key)) problems.push(`${nameOf(write.kind, write.record)} is created twice`);
        found.set(key, write);
      } else if (!found.has(key) && !there.isThere(write.kind, write.record))
        problems.push(`${nameOf(write.kind, write.record)} is updated before it is created`);
    }
    for (const kind of new Set(writes.filter(({ step }) => step.slot.mode === "create").map((write) => write.kind)))
      for (let record = 0; record < catalogue.table(kind).size; record++) {
        const isDue = !isLeftOut(kind, record) && !there.isThere(kind, record);
        if (found.has(`${kind} ${record}`) !== isDue)
          problems.push(`${nameOf(kind, record)} is ${isDue ? "never created" : "left out, and written"}`);
      }
    return found;
  }

  /** Each pair of a field that rows show stands in a row that it may stand in; none stands where an id is not known yet. */
  function checkReference(carried: CarriedReference): void {
    const demand = demandOf(target, carried);
    const isRowKind = writes.some(({ kind }) => kind === carried.to);
    if (!isRowKind) return;
    const own = writes.filter(
      ({ kind, record, step }) =>
        kind === carried.kind &&
        entryOf(carriedBy, step.slot.name).some((one) => one.name === carried.name && one.to === carried.to) &&
        [...carried.headers].some((header) => step.columns?.has(header) ?? true) &&
        !step.waiting.has(record),
    );
    const byRecord = new Map<number, Write[]>();
    for (const write of own) byRecord.set(write.record, added(byRecord.get(write.record), write));
    for (const field of referenceFieldsOf(catalogue)) {
      if (field.name !== carried.name || field.to !== carried.to) continue;
      eachReference(catalogue, field, (from, to) => {
        if ((from === to && field.kind === field.to) || isLeftOut(field.kind, from) || isLeftOut(field.to, to)) return;
        const at = created.get(`${field.to} ${to}`);
        const its = byRecord.get(from) ?? [];
        if (!at) return;
        const isKept = (write: Write): boolean => {
          if (demand === "earlier step") return at.round < write.round;
          if (demand === "earlier file") return at.file < write.file;
          if (demand === "earlier row") return at.row < write.row || (at.row === write.row && at.kind !== write.kind);
          return demand === "anywhere" || at.file <= write.file;
        };
        const says = `${nameOf(field.kind, from)} links to ${nameOf(field.to, to)} before it is there`;
        if (its.length > 0 && !its.some(isKept)) problems.push(says);
        if (demand === "earlier step" && its.some((write) => !isKept(write))) problems.push(says);
      });
    }
  }
}
