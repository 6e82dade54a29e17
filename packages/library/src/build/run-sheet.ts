/** The run sheet: what to do on the platform, step by step, to tick off, with what to expect. Markdown. */

import type { ResolvedCatalogue } from "../catalogue/catalogue.js";
import type { Plan, Step, UploadStep } from "../plan/plan.js";
import type { Target } from "../target/target.js";
import type { PackedFile } from "./data-package.js";
import type { HeldBack } from "./hold-back.js";

export function runSheet(
  project: string,
  target: Target,
  plan: Plan,
  files: readonly PackedFile[],
  catalogue: ResolvedCatalogue,
  heldBack: HeldBack,
): string {
  const uploads = plan.steps.filter((step) => step.is === "upload").reduce((sum, step) => sum + step.files.length, 0);
  const held = heldBack.products.size + heldBack.variants.size;
  const lines = [
    `# ${project}: upload to ${target.name}`,
    "",
    `${count(plan.steps.length, "step")}, ${count(uploads, "file")} to upload, ids to collect: ${plan.cost.collections}, links that wait for a later file: ${plan.cost.postponed}.`,
    ...(held > 0
      ? [
          "",
          `**Held back:** ${count(heldBack.products.size, "product")} and ${count(heldBack.variants.size, "variant")}; they are in none of these files.`,
        ]
      : []),
    "",
    "The counts are for a platform that holds none of this yet.",
    ...plan.steps.flatMap((step) => [
      "",
      `## ${step.number}. ${step.title}`,
      "",
      ...linesOf(step, target, files, catalogue, heldBack),
      "",
      `*Why:* ${step.why}`,
    ]),
    "",
  ];
  return lines.join("\n");
}

function linesOf(
  step: Step,
  target: Target,
  files: readonly PackedFile[],
  catalogue: ResolvedCatalogue,
  heldBack: HeldBack,
): string[] {
  switch (step.is) {
    case "save":
      return [`- [ ] Open \`${target.endpoints.catalogue}\` and save what it shows, with today's date in the name.`];
    case "pictures":
      return [
        `- [ ] Send \`${step.name}\` to \`${target.endpoints.pictures}\`. Expect: ${count(step.files.length, "picture")} stored.`,
      ];
    case "collect":
      return ["- [ ] Collect the ids from the report of the last upload."];
    case "upload":
      return uploadLines(step, target, files, catalogue, heldBack);
    case "look":
      return step.products.map(
        (key) => `- [ ] Product \`${key}\`: name, price, pictures, place in the tree, every version.`,
      );
  }
}

function uploadLines(
  step: UploadStep,
  target: Target,
  files: readonly PackedFile[],
  catalogue: ResolvedCatalogue,
  heldBack: HeldBack,
): string[] {
  const variants = catalogue.table("variant");
  const rows = step.files.map(({ name, records }) => {
    const packed = files.find((file) => file.name === name)!;
    let codes = 0;
    for (const product of records) {
      const children = [...variants.childrenOf(product)].filter((row) => !heldBack.variants.has(row));
      codes += Math.max(1, children.length);
    }
    const expect =
      step.slot.mode === "create"
        ? `${count(records.length, "product")} with ${count(codes, "code")}, all ${packed.rows} rows created, none refused`
        : `${count(records.length, "product")} updated, none refused`;
    return `| [ ] | \`${name}\` | ${packed.rows} | ${expect} |`;
  });
  const headersMatch = "Columns need no mapping: the headers are the platform's own.";
  return [
    `Send each file to \`${target.endpoints.upload}\`, in this order, and read its report before the next. ${headersMatch}`,
    "",
    "| done | file | rows | expect |",
    "|---|---|---|---|",
    ...rows,
  ];
}

const count = (number: number, word: string): string => `${number} ${word}${number === 1 ? "" : "s"}`;
