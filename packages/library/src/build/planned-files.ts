/** The files of a plan without a folder: each is made when it is read. */

import type { TargetView } from "../catalogue/catalogue.js";
import { entryOf } from "../checked.js";
import { finding, Findings } from "../findings/finding.js";
import { failure, success } from "../findings/result.js";
import { stepsNow, type Plan } from "../plan/plan.js";
import type { FilesPort } from "../ports.js";
import type { Target } from "../target/target.js";
import { isHeldBack, type HeldBack } from "./hold-back.js";
import { linesIn } from "./lines-elsewhere.js";
import { encodeFile, fileRows } from "./write-file.js";

export function plannedFiles(catalogue: TargetView, target: Target, plan: Plan, heldBack: HeldBack): FilesPort {
  const steps = stepsNow(plan).flatMap((step) =>
    step.is === "upload" ? step.files.map((file) => ({ step, ...file })) : [],
  );
  const isLeftOut = isHeldBack(heldBack);
  const lineElsewhere = linesIn(catalogue, target, plan.steps, isLeftOut);
  return {
    async read(path) {
      const planned = steps.find(({ name }) => name === path);
      if (!planned) return failure(finding("read/missing-file", {}, { file: path }));
      const { step, blocks } = planned;
      const file = entryOf(target.files, step.slot.file);
      // What is wrong with cells is reported where they are checked.
      const silent = new Findings(0);
      const rows = fileRows(catalogue, file, { blocks, step, isLeftOut, lineElsewhere }, silent);
      const chunks = await encodeFile(step.from?.catalogue ?? catalogue, file, rows, silent);
      return success(piecesOf(chunks));
    },
    list: () => Promise.resolve([]),
  };
}

async function* piecesOf(chunks: Iterable<Uint8Array>): AsyncGenerator<Uint8Array> {
  yield* chunks;
}
