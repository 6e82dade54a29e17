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
import { intoSingle, intoVariants, merge, move, order, rename, splitCategory, useAxis } from "./change.js";
import { changeField, renumber } from "./change-fields.js";
import { combine, split } from "./combine.js";
import type { Operation } from "./schema.js";
import { Work, type PlatformStep, type WorkPorts } from "./work.js";

/** What an operation made of a catalogue. */
export interface Reshaped {
  readonly catalogue: ResolvedCatalogue;
  readonly steps: readonly PlatformStep[];
  readonly balance: readonly BalanceLine[];
  /** Products that became others: old key to new keys. */
  readonly became: ReadonlyMap<string, readonly string[]>;
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
  await carryOut(work, operation);
  if (work.isStopped) return { ok: false, findings };
  const { dropped } = work;
  const made = withoutRecords(catalogue, {
    isDropped: (kind, row) => dropped.get(kind)?.has(row) ?? false,
    standIn: (kind, row) => dropped.get(kind)?.get(row),
  });
  const lines = balance(before, measure(made), work.explained);
  const uneven = lines.filter(({ unexplained }) => unexplained.length > 0);
  for (const { what, unexplained } of uneven)
    findings.add(
      finding("reshape/unbalanced", { what, count: unexplained.length, examples: unexplained.slice(0, 3) }, at),
    );
  const value: Reshaped = { catalogue: made, steps: work.steps, balance: lines, became: work.explained.products };
  return resultOf(uneven.length > 0 ? undefined : value, findings);
}

async function carryOut(work: Work, operation: Operation): Promise<void> {
  if ("combine" in operation) combine(work, operation);
  else if ("split" in operation) split(work, operation);
  else if ("merge" in operation) merge(work, operation);
  else if ("rename" in operation) rename(work, operation);
  else if ("move" in operation) move(work, operation);
  else if ("order" in operation) await order(work, operation);
  else if ("use axis" in operation) await useAxis(work, operation);
  else if ("split category" in operation) await splitCategory(work, operation);
  else if ("renumber" in operation) await renumber(work, operation);
  else if ("make variants of" in operation) intoVariants(work, operation);
  else if ("make single" in operation) intoSingle(work, operation);
  else await changeField(work, operation);
}
