/**
 * Planning.
 *
 *   1. what has to be placed, and what it needs        placements.ts
 *   2. the sequence of slots, with collections of ids  sequence.ts, rounds.ts
 *   3. the records of each file, links that wait       steps.ts
 *
 * In: the resolved catalogue, the target, what the platform has already. Out: a plan, as data.
 */

import type { TargetView } from "../catalogue/catalogue.js";
import { entryOf } from "../checked.js";
import { finding, Findings, type Result } from "../findings/finding.js";
import { failure } from "../findings/result.js";
import { hasRowsOf } from "../target/row-form.js";
import type { Target } from "../target/target.js";
import { nothingThere, type Plan, type PlanOptions } from "./plan.js";
import { PlacementFinder } from "./placements.js";
import { findRounds } from "./rounds.js";
import { exactUpTo, findSequence } from "./sequence.js";
import { StepMaker } from "./steps.js";

/**
 * Plans the import of a catalogue; fails with `plan/no-order` where the target's slots offer no order. A product that no file can take
 * is left out of the files, with the finding `plan/too-large`.
 */
export function planImport(catalogue: TargetView, target: Target, options: PlanOptions): Result<Plan> {
  const findings = new Findings();
  const { there = nothingThere, isLeftOut = () => false } = options;
  const placements = new PlacementFinder(catalogue, target, there, isLeftOut).find();
  const stuck = placements.filter((one) => one.slots.length === 0).map((one) => one.name);
  const isSmall = target.slots.length <= exactUpTo.slots && placements.length <= exactUpTo.placements;
  const rounds = stuck.length > 0 || isSmall ? undefined : findRounds(placements, target.slots.length);
  const sequence =
    stuck.length > 0 ? undefined : (rounds ?? (isSmall ? findSequence(placements, target.slots.length) : undefined));
  if (!sequence) {
    const kinds = stuck.length > 0 ? stuck : placements.map((one) => one.name);
    return failure(finding("plan/no-order", { kinds, target: target.name }));
  }
  // What only names make needs rows that name it.
  const isAny = target.slots.some(({ file, creates }) =>
    creates.some((kind) => catalogue.table(kind).size > 0 && hasRowsOf(kind, entryOf(target.files, file).layouts)),
  );
  if (!isAny) findings.add(finding("plan/nothing-to-upload", { target: target.name }));
  const steps = new StepMaker(catalogue, target, options, findings);
  if (sequence.steps.length > 0) steps.begin();
  for (const [at, step] of sequence.steps.entries()) {
    if (step.collectBefore) {
      const rest = sequence.steps.slice(at);
      const end = rest.findIndex((one, location) => location > 0 && one.collectBefore);
      const next = (end < 0 ? rest : rest.slice(0, end)).flatMap(({ placed }) => placed.map((one) => placements[one]!));
      steps.collect(next.filter(({ needs }) => needs.some(({ demand }) => demand === "earlier step")));
    }
    steps.upload(
      target.slots[step.slot]!,
      step.placed.map((one) => placements[one]!),
      placements,
    );
  }
  steps.finish();
  const plan: Plan = {
    target: target.name,
    steps: steps.steps,
    cost: { ...sequence.cost, uploads: steps.uploads, postponed: sequence.cost.postponed + steps.postponed },
    bound: rounds?.bound,
  };
  return { ok: true, value: plan, findings };
}
