/** The run sheet: what to do on the platform, step by step, to tick off, with what to expect. As data; it is shown by its siblings. */

import type { ResolvedCatalogue } from "../catalogue/catalogue.js";
import type { Plan, PlannedFile, Step, UploadStep } from "../plan/plan.js";
import type { Target, TargetFile } from "../target/target.js";
import { stepsNow } from "./build.js";
import type { PackedFile } from "./data-package.js";
import { heldCounts, heldRows, type HeldBack } from "./hold-back.js";

export interface RunSheet {
  readonly title: string;
  readonly summary: string;
  /** What has to be known before anything is done. */
  readonly warnings: readonly string[];
  readonly steps: readonly SheetStep[];
  /** Why the folder ends where it does, and what comes then. */
  readonly after: { readonly text: string; readonly titles: readonly string[] } | undefined;
}

export interface SheetStep {
  readonly number: number;
  readonly title: string;
  readonly why: string;
  readonly text: string | undefined;
  /** To tick off; words between backquotes are names. */
  readonly ticks: readonly string[];
  readonly files: readonly SheetFile[];
  /** What to choose where the platform's screen asks which column is what. */
  readonly mapping: readonly { readonly column: string; readonly holds: string }[];
}

export interface SheetFile {
  readonly name: string;
  readonly rows: number;
  readonly expect: string;
}

export interface SheetInput {
  readonly project: string;
  readonly target: Target;
  readonly plan: Plan;
  readonly files: readonly PackedFile[];
  readonly catalogue: ResolvedCatalogue;
  readonly heldBack: HeldBack;
}

export function runSheet(input: SheetInput): RunSheet {
  const { project, target, plan, heldBack } = input;
  const now = stepsNow(plan);
  const uploads = now.filter((step) => step.is === "upload").reduce((sum, step) => sum + step.files.length, 0);
  const held = heldCounts(heldBack).map(({ kind, count: rows }) => count(rows, kind.replaceAll("-", " ")));
  const rest = plan.steps.slice(now.length);
  const { collections, postponed } = plan.cost;
  const wayBack = input.files.filter(({ name }) => name.startsWith("way-back-")).length;
  return {
    title: `${project}: upload to ${target.name}`,
    summary:
      rest.length === 0
        ? `${count(now.length, "step")}, ${count(uploads, "file")} to upload, ids to collect: ${collections}, links that wait for a later file: ${postponed}.`
        : `${count(now.length, "step")} of ${plan.steps.length}, ${count(uploads, "file")} to upload; then ids have to be collected, ${collections === 1 ? "once" : `${collections} times`} in all.`,
    warnings: [
      ...(held.length > 0 ? [`Held back: ${held.join(", ")}. They are in none of these files.`] : []),
      plan.steps.some((step) => step.is === "upload" && step.files.some(({ outcomes }) => outcomes))
        ? "The counts are for a platform that holds what its export told."
        : "The counts are for a platform that holds none of this yet.",
      ...(wayBack > 0
        ? [`The files that begin with \`way-back-\` are no step: each sets back what the file of its name writes over.`]
        : []),
    ],
    steps: now.map((step) => sheetStep(step, input)),
    after:
      rest.length === 0
        ? undefined
        : {
            text: `This folder ends here: what comes next names records by ids that ${target.name} gives out with these files. Run \`zest-tier collect\` with its reports or exports, then \`zest-tier build\` again. Still to come:`,
            titles: rest.map((step) => step.title),
          },
  };
}

function sheetStep(step: Step, input: SheetInput): SheetStep {
  const common = {
    number: step.number,
    title: step.title,
    why: step.why,
    text: undefined,
    ticks: [],
    files: [],
    mapping: [],
  };
  const { target } = input;
  switch (step.is) {
    case "save":
      return {
        ...common,
        ticks: [`Open \`${target.endpoints.catalogue}\` and save what it shows, with today's date in the name.`],
      };
    case "do":
      return { ...common, ticks: ["Done."] };
    case "lists":
      return {
        ...common,
        ticks: step.lists.map(
          ({ name, entries }) => `\`${name}\` has ${entries.map((entry) => `\`${entry}\``).join(", ")}.`,
        ),
      };
    case "pictures":
      return {
        ...common,
        ticks: [
          `Send \`${step.name}\` to \`${target.endpoints.pictures}\`. Expect: ${count(step.files.length, "picture")} stored.`,
        ],
      };
    case "test":
      return {
        ...common,
        ticks: step.files.map(
          (name) => `Send \`${name}\` to \`${endpoint(target.endpoints.test!, name)}\`. Expect: nothing refused.`,
        ),
      };
    case "collect":
      return { ...common, ticks: ["Collect the ids from the reports of the last uploads, or from the export."] };
    case "upload":
      return { ...common, ...uploadStep(step, input) };
    case "look":
      return {
        ...common,
        ticks: step.products.map(
          (key) => `Product \`${key}\`: name, price, pictures, place in the tree, every version.`,
        ),
      };
  }
}

function uploadStep(step: UploadStep, input: SheetInput): Pick<SheetStep, "text" | "files" | "mapping"> {
  const { target, files } = input;
  const file = target.files.get(step.slot.file)!;
  const to = file.endpoint ?? target.endpoints.upload;
  const isOwn = to.includes("{name}");
  return {
    text: `Send each file to \`${to}\`, in this order, and read its report before the next.${isOwn ? "" : " It says which file it is."} The headers are the platform's own: where its screen asks which column is what, each is what it is called.`,
    files: step.files.map((planned) => {
      const rows = files.find(({ name }) => name === planned.name)?.rows ?? 0;
      const foretold = planned.outcomes && outcomesText(planned.outcomes);
      return { name: planned.name, rows, expect: foretold ?? expected(step, planned, rows, input) };
    }),
    mapping: mappingOf(file, step),
  };
}

/** "3 rows created, 9 rows updated": as they came out when they were played onto what the platform holds. */
function outcomesText(outcomes: Readonly<Record<string, number>>): string {
  const names = Object.entries(outcomes).map(([outcome, rows]) => `${count(rows, "row")} ${outcome}`);
  return `${names.join(", ")}${outcomes["refused"] === undefined ? ", none refused" : ""}`;
}

function expected(
  step: UploadStep,
  { blocks }: PlannedFile,
  rows: number,
  { catalogue, heldBack }: SheetInput,
): string {
  const [first] = blocks;
  const isGrouped = first?.kind === "product" && step.slot.creates.includes("variant");
  const records = blocks.reduce((sum, block) => sum + block.records.length, 0);
  if (step.slot.mode === "update" && first?.kind === "product" && blocks.length === 1 && rows === records)
    return `${count(records, "product")} updated, none refused`;
  if (!isGrouped)
    return step.slot.mode === "create"
      ? `all ${rows} created, none refused`
      : `${count(rows, "row")} taken, none refused`;
  const variants = catalogue.table("variant");
  let codes = 0;
  for (const product of first.records) {
    const children = [...variants.childrenOf(product)].filter((row) => !heldRows(heldBack, "variant").has(row));
    codes += Math.max(1, children.length);
  }
  return `${count(records, "product")} with ${count(codes, "code")}, all ${rows} rows created, none refused`;
}

function mappingOf({ layout }: TargetFile, { columns }: UploadStep): SheetStep["mapping"] {
  return layout.columns
    .filter(({ header }) => columns?.has(header) ?? true)
    .map(({ header, bindings }) => ({ column: header, holds: bindings[0]!.name }));
}

export const endpoint = (path: string, name: string): string => path.replace("{name}", encodeURIComponent(name));

const count = (number: number, word: string): string => `${number} ${word}${number === 1 ? "" : "s"}`;
