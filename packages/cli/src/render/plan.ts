/** A plan for people, and for programs. */

import type { Plan, Step } from "zest-tier";
import type { Colours } from "../io.js";
import { counted, wrapped } from "./text.js";

export function renderPlan(plan: Plan, colours: Colours, width: number): string {
  const { collections, uploads, postponed } = plan.cost;
  const head = `${counted(plan.steps.length, "step")}: ${counted(uploads, "upload")}, ${counted(collections, "collection")} of ids, ${counted(postponed, "link")} postponed`;
  const steps = plan.steps.flatMap((step) => [
    "",
    `${colours.bold(`${step.number}. ${step.title}`)}`,
    ...detailsOf(step).map((line) => `   ${line}`),
    wrapped(colours.dim(`   Why: ${step.why}`), width, "        "),
  ]);
  return `${[head, ...steps].join("\n")}\n`;
}

/** What a step is about, in a line for each file. */
export function detailsOf(step: Step): string[] {
  if (step.is === "pictures") return [`${step.name}  ${counted(step.files.length, "picture")}`];
  if (step.is === "upload") return step.files.map((file) => `${file.name}  ${counted(file.records.length, "product")}`);
  if (step.is === "look") return [step.products.join(", ")];
  return [];
}

export function planToJson(plan: Plan): object {
  const steps = plan.steps.map((step) => {
    const common = { number: step.number, is: step.is, title: step.title, why: step.why };
    if (step.is === "pictures") return { ...common, name: step.name, pictures: step.files };
    if (step.is === "look") return { ...common, products: step.products };
    if (step.is !== "upload") return common;
    return {
      ...common,
      slot: step.slot.name,
      mode: step.slot.mode,
      files: step.files.map(({ name, records }) => ({ name, products: records.length })),
      waiting: step.waiting.size,
    };
  });
  return { target: plan.target, cost: plan.cost, steps };
}
