/**
 * Reshaping: operations as data, replayed on what the sources say. Each gives the catalogue as it is then, the steps that it needs on
 * the platform, and a balance; one whose balance does not come out even is refused.
 */

import { resultOf } from "../findings/result.js";
import { finding, Findings, type Result } from "../findings/finding.js";
import type { ResolvedCatalogue } from "../catalogue/catalogue.js";
import { withoutRecords } from "../catalogue/rebuild.js";
import type { Location } from "../location.js";
import { balance, measure, type BalanceLine } from "./balance.js";
import { fieldBalance, type ExplainedFields } from "./field-balance.js";
import { formOf, type Operation } from "./schema.js";
import { Work, type PlatformStep, type WorkPorts } from "./work.js";

/** What an operation made of a catalogue. */
export interface Reshaped {
  readonly catalogue: ResolvedCatalogue;
  readonly steps: readonly PlatformStep[];
  readonly balance: readonly BalanceLine[];
  /** Products that became others: old key to new keys. */
  readonly became: ReadonlyMap<string, readonly string[]>;
  /** The same of records of every kind; none for what is left out. */
  readonly records: ExplainedFields["records"];
}

/** Carries out one operation; fails where it is refused. @param at where the project says it. */
export async function reshape(
  given: ResolvedCatalogue,
  operation: Operation,
  ports: WorkPorts,
  at: Location,
): Promise<Result<Reshaped>> {
  const findings = new Findings();
  const before = measure(given);
  const catalogue = given.branch();
  const work = new Work(catalogue, ports, findings, at);
  await formOf(operation).run(work, operation);
  if (work.isStopped) return { ok: false, findings };
  const { dropped } = work;
  const made = withoutRecords(catalogue, {
    isDropped: (kind, row) => dropped.get(kind)?.has(row) ?? false,
    standIn: (kind, row) => dropped.get(kind)?.get(row),
  });
  const { explained } = work;
  const lines = [...balance(before, measure(made), explained), ...fieldBalance(given, made, explained)];
  const uneven = lines.filter(({ unexplained }) => unexplained.length > 0);
  for (const { what, unexplained } of uneven)
    findings.add(
      finding("reshape/unbalanced", { what, count: unexplained.length, examples: unexplained.slice(0, 3) }, at),
    );
  const value: Reshaped = {
    catalogue: made,
    steps: work.steps,
    balance: lines,
    became: explained.products,
    records: explained.records,
  };
  return resultOf(uneven.length > 0 ? undefined : value, findings);
}
