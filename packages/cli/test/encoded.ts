/** The files of the steps of a plan that come before ids are collected, as bytes. */

import { Findings, stepsNow, type Plan, type Target, type TargetView } from "zest-tier";
import { encodeFile, fileRows } from "zest-tier/parts";

export async function encoded(
  catalogue: TargetView,
  target: Target,
  plan: Plan,
): Promise<Readonly<Record<string, Uint8Array>>> {
  const files: Record<string, Uint8Array> = {};
  for (const step of stepsNow(plan)) {
    if (step.is !== "upload") continue;
    const file = target.files.get(step.slot.file)!;
    for (const { name, blocks } of step.files) {
      const rows = fileRows(catalogue, file, { blocks, step, isLeftOut: () => false }, new Findings(0));
      files[name] = Buffer.concat([...(await encodeFile(catalogue, file, rows, new Findings(0)))]);
    }
  }
  return files;
}
