/** A plan for people, and for programs. */

import type { Plan, PlannedFile, Step } from "zest-tier";
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
  if (step.is === "upload") return step.files.map((file) => `${file.name}  ${recordsOf(file)}`);
  if (step.is === "look") return [step.products.join(", ")];
  return [];
}

/** "71 products"; "40 products, 200 variants" where a file has rows of both. */
function recordsOf({ blocks }: PlannedFile): string {
  const counts = new Map<string, number>();
  for (const { kind, records } of blocks) counts.set(kind, (counts.get(kind) ?? 0) + records.length);
  return [...counts].map(([kind, count]) => counted(count, kind.replaceAll("-", " "), plurals[kind])).join(", ");
}
const plurals: Readonly<Record<string, string>> = { category: "categories", axis: "axes", property: "properties" };

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
      files: step.files.map(({ name, blocks }) => ({
        name,
        records: blocks.map(({ kind, records }) => ({ kind, count: records.length })),
      })),
      waiting: step.waiting.size,
    };
  });
  return { target: plan.target, cost: plan.cost, steps };
}
