/** A plan for people, and for programs. */

import {
  pluralOf,
  say,
  type Language,
  type Plan,
  type PlannedFile,
  type Reason,
  type Step,
  type Uncarried,
} from "zest-tier";
import type { Colours } from "../io.js";
import { counted, wrapped } from "./text.js";

export function renderPlan(plan: Plan, colours: Colours, width: number, language: Language): string {
  const { collections, uploads, postponed } = plan.cost;
  const head = `${counted(plan.steps.length, "step")}: ${counted(uploads, "upload")}, ${counted(collections, "collection")} of ids, ${counted(postponed, "link")} postponed`;
  const least = plan.bound
    ? `${plan.bound.collections === collections && plan.bound.uploads >= plannedUploads(plan) ? "No plan needs fewer" : `Every plan needs at least ${counted(plan.bound.collections, "collection")} and ${counted(plan.bound.uploads, "upload")}`} (fewest collections first, then fewest uploads, then fewest postponed links).`
    : "No plan needs fewer (fewest collections first, then fewest uploads, then fewest postponed links).";
  const steps = plan.steps.flatMap((step) => [
    "",
    `${colours.bold(`${step.number}. ${say(step.title, language)}`)}`,
    ...detailsOf(step).map((line) => `   ${line}`),
    wrapped(colours.dim(`   Why: ${say(step.why, language)}`), width, "        "),
  ]);
  return `${[head, colours.dim(least), ...steps].join("\n")}\n`;
}

/** Where records go, and for each step what has to be there before. */
export function renderWhy(
  records: readonly { readonly kind: string; readonly key: string; readonly reasons: readonly Reason[] }[],
  colours: Colours,
): string {
  const lines = records.flatMap(({ kind, key, reasons }) => [
    colours.bold(`${kind} ${key}`),
    ...(reasons.length === 0
      ? [
          "  is in no file of this plan: it is on the platform already, the platform creates it itself, or it is left out.",
        ]
      : []),
    ...reasons.flatMap(({ step, update, file, needs }) => [
      `  step ${step}, ${file}: ${update === undefined ? "is created" : `gets its ${additionText(update)}`}`,
      ...needs.map(({ record, by, createdIn, collectedIn }) => {
        const where =
          createdIn === undefined
            ? "exists by then"
            : `is created in step ${createdIn}${collectedIn === undefined ? "" : `, its id collected in step ${collectedIn}`}`;
        return colours.dim(`      after ${record.kind} ${record.key} (${by}), which ${where}`);
      }),
      ...(needs.length === 0 ? [colours.dim("      it needs nothing before it")] : []),
    ]),
    "",
  ]);
  return `${lines.join("\n").trimEnd()}\n`;
}

/** `product.prices` is prices, `product@de` texts in de. */
function additionText(update: string): string {
  const [, lang] = update.split("@");
  return lang === undefined ? update.replace(/^[^.]*\./, "") : `texts in ${lang}`;
}

/** Before splitting at limits: what the bound is of. */
const plannedUploads = ({ steps }: Plan): number => steps.filter((step) => step.is === "upload").length;

/** What a step is about, in a line for each file. */
export function detailsOf(step: Step): string[] {
  if (step.is === "pictures") return [`${step.name}  ${counted(step.files.length, "picture")}`];
  if (step.is === "upload") return step.files.map((file) => `${file.name}  ${recordsOf(file)}`);
  if (step.is === "lists")
    return step.lists.map(
      ({ name, entries }) =>
        `${name}: ${entries.length > 6 ? `${entries.slice(0, 6).join(", ")} and ${entries.length - 6} more in the run sheet` : entries.join(", ")}`,
    );
  if (step.is === "look") return [step.keys.join(", ")];
  return [];
}

/** "71 products"; "40 products, 200 variants" where a file has rows of both. */
function recordsOf({ blocks }: PlannedFile): string {
  const counts = new Map<string, number>();
  for (const { kind, records } of blocks) counts.set(kind, (counts.get(kind) ?? 0) + records.length);
  return [...counts].map(([kind, count]) => counted(count, kind.replaceAll("-", " "), pluralOf(kind))).join(", ");
}

export function planToJson(plan: Plan, language: Language): object {
  const steps = plan.steps.map((step) => {
    const common = { number: step.number, is: step.is, title: say(step.title, language), why: say(step.why, language) };
    if (step.is === "pictures") return { ...common, name: step.name, pictures: step.files };
    if (step.is === "lists") return { ...common, lists: step.lists };
    if (step.is === "look") return { ...common, kind: step.kind, keys: step.keys };
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
      after: step.after,
    };
  });
  return { target: plan.target, cost: plan.cost, bound: plan.bound ?? null, steps };
}

/** Tab-separated, for a spreadsheet: what is lost, of which record, and what can be done instead. */
export function renderLeftOut(lost: readonly Uncarried[], target: string): string {
  const rows = lost.flatMap(({ lost: field, records, instead }) =>
    [...new Set(records)].map((record) => [field, record, String(instead ?? "")]),
  );
  if (rows.length === 0) return `${target} has a place for everything.\n`;
  return [["No place for", "Record", "Instead"], ...rows].map((row) => `${row.join("\t")}\n`).join("");
}
