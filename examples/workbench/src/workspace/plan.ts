/** The plan as the pages show it: its steps, the diagram, and the chain of one record. */

import {
  planDiagram,
  reasonsFor,
  say,
  type Language,
  type Plan,
  type Prepared,
  type Step,
  type OpenedTarget,
} from "zest-tier";
import type { ChainLink, PlanView, StepView } from "./views.js";

export function planView(plan: Plan, language: Language): PlanView {
  const picture = planDiagram(plan, language);
  const details = new Map(picture.boxes.map(({ step, detail }) => [step.number, detail]));
  return {
    steps: plan.steps.map((step) => stepView(step, details.get(step.number) ?? "", language)),
    picture: {
      ...picture,
      boxes: picture.boxes.map(({ step, x, y, detail }) => ({ step: step.number, x, y, detail })),
    },
    ...plan.cost,
    bound: plan.bound,
  };
}

function stepView(step: Step, detail: string, language: Language): StepView {
  const files = step.is === "upload" ? step.files.map(({ name }) => name) : step.is === "pictures" ? [step.name] : [];
  const { number, is } = step;
  const [title, why] = [say(step.title, language), say(step.why, language)];
  return { number, is, title, why, files, detail, after: step.is === "upload" ? step.after : [] };
}

/** @param word a key, or a code. */
export function chainOf(
  opened: OpenedTarget,
  prepared: Prepared,
  word: string,
  language: Language,
): { readonly record: string; readonly links: ChainLink[] }[] {
  return reasonsFor(opened, prepared, word).map(({ kind, key, reasons }) => ({
    record: `${kind} ${key}`,
    links: reasons.map((link) => ({ ...link, title: say(link.title, language) })),
  }));
}
