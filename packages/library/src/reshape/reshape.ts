/**
 * Reshaping: operations as data, replayed on what the sources say. Each says the steps that it needs on the platform, and has a balance of
 * the records that it touches; one whose balance does not come out even is refused.
 */

import { resultOf } from "../findings/result.js";
import { finding, Findings, type Result } from "../findings/finding.js";
import type { ResolvedCatalogue } from "../catalogue/catalogue.js";
import type { Location } from "../location.js";
import { balance, measure, type BalanceLine, type Explained } from "./balance.js";
import { fieldBalance, type ExplainedFields } from "./field-balance.js";
import { formOf, type Operation } from "./schema.js";
import { Touched, touchedSides, type TouchedSides } from "./touched.js";
import { Work, type PlatformStep, type WorkPorts } from "./work.js";
import { Workpiece, type LeadingCells } from "./workpiece.js";

/** What an operation did. */
export interface OperationDone {
  readonly steps: readonly PlatformStep[];
  /** Of the records that the operation touches: how many of each there were before and after. What there is none of has no line. */
  readonly balance: readonly BalanceLine[];
  /** Products that became others: old key to new keys. */
  readonly became: ReadonlyMap<string, readonly string[]>;
  /** The same of records of every kind; none for what is left out. */
  readonly records: ExplainedFields["records"];
}

/** What an operation made of a catalogue. */
export interface Reshaped extends OperationDone {
  readonly catalogue: ResolvedCatalogue;
}

/** An operation, and where the project says it. */
export interface OperationAt {
  readonly operation: Operation;
  readonly at: Location;
}

/** What operations made of a catalogue. */
export interface ReshapedByAll {
  readonly catalogue: ResolvedCatalogue;
  /** What each did, in their order. Fewer than there were, where one is refused. */
  readonly done: readonly OperationDone[];
  readonly findings: Findings;
}

/** Carries out one operation; fails where it is refused. @param at where the project says it. */
export async function reshape(
  given: ResolvedCatalogue,
  operation: Operation,
  ports: WorkPorts,
  at: Location,
): Promise<Result<Reshaped>> {
  const { catalogue, done, findings } = await reshapeByAll(given, [{ operation, at }], ports);
  const [one] = done;
  return resultOf(one && { catalogue, ...one }, findings);
}

/**
 * Carries out operations, one after the other, up to the first that is refused: what comes behind that would stand on nothing. An operation
 * takes as long as what it touches.
 */
export async function reshapeByAll(
  given: ResolvedCatalogue,
  operations: readonly OperationAt[],
  ports: WorkPorts,
): Promise<ReshapedByAll> {
  const findings = new Findings();
  const done: OperationDone[] = [];
  const now = new Workpiece(given);
  // Each operation is done again on a second piece, once its balance is even: until then that is how things were before.
  const before = new Workpiece(given);
  for (const { operation, at } of operations) {
    const one = findings.took(await carryOut(operation, at, ports, before, now));
    if (!one) break;
    done.push(one.done);
    const again = new Work(before, ports, new Findings(), at);
    await formOf(operation).run(again, operation);
    before.leaveOut(again.dropped, one.leading);
  }
  return { catalogue: done.length === 0 ? given : before.finish(), done, findings };
}

async function carryOut(
  operation: Operation,
  at: Location,
  ports: WorkPorts,
  before: Workpiece,
  now: Workpiece,
): Promise<Result<{ readonly done: OperationDone; readonly leading: readonly LeadingCells[] }>> {
  const findings = new Findings();
  const touched = new Touched(now);
  const work = new Work(now, ports, findings, at);
  await formOf(operation).run(work, operation);
  if (work.isStopped) return { ok: false, findings };
  const { explained, steps } = work;
  const leading = now.leaveOut(work.dropped);
  const lines = balanceOf(touchedSides(before, now, touched.end(work.dropped)), explained);
  const uneven = lines.filter(({ unexplained }) => unexplained.length > 0);
  for (const { what, unexplained } of uneven)
    findings.add(
      finding("reshape/unbalanced", { what, count: unexplained.length, examples: unexplained.slice(0, 3) }, at),
    );
  const done = { steps, balance: lines, became: explained.products, records: explained.records };
  return resultOf(uneven.length > 0 ? undefined : { done, leading }, findings);
}

function balanceOf({ before, after, untouched }: TouchedSides, explained: Explained & ExplainedFields): BalanceLine[] {
  const lines = [...balance(measure(before), measure(after), explained), ...fieldBalance(before, after, explained)];
  const touched = lines.map((line) => {
    const count = untouched.get(line.what) ?? 0;
    return count === 0 ? line : { ...line, before: line.before - count, after: line.after - count };
  });
  return touched.filter(({ before: had, after: has, unexplained }) => had + has + unexplained.length > 0);
}
