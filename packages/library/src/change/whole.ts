/** Replacing everything: one file with all that is intended; what it does not name is taken out there. */

import { entryOf, present } from "../checked.js";
import { isHeldBack } from "../build/hold-back.js";
import type { Prepared } from "../build/prepare.js";
import { writtenKind } from "../layout/write/rows.js";
import { listsStep, neededLists } from "../plan/lists.js";
import type { PlannedBlock, Step, UploadStep } from "../plan/plan.js";
import { takesPicturesLast } from "../target/pictures.js";
import type { ChangeInput } from "./changes.js";
import { endingOf } from "./literal.js";
import { phrase } from "../phrases/phrase.js";

/** @param cells what is left as it is there. @returns the plan; its steps are not numbered yet. */
export function planWhole(input: ChangeInput, prepared: Prepared, cells: NonNullable<UploadStep["cells"]>): Prepared {
  const { catalogue, target, tasks } = input;
  const slot = present(target.replacing);
  const file = entryOf(target.files, slot.file);
  const isLeftOut = isHeldBack(prepared.heldBack);
  const blocks = file.layouts.map((layout, at): PlannedBlock => {
    const kind = writtenKind(layout, catalogue);
    const records = Array.from({ length: catalogue.table(kind).size }, (_, row) => row).filter(
      (row) => !isLeftOut(kind, row),
    );
    return { layout: at, kind, records };
  });
  const name = `01-${slot.name}.${endingOf(file)}`;
  const lists = neededLists(catalogue, target, isLeftOut);
  const pictures = prepared.plan.steps.filter(({ is }) => is === "pictures");
  const isLast = takesPicturesLast(target);
  const upload: UploadStep = {
    number: 0,
    is: "upload",
    title: phrase("Upload {0}: the whole range", slot.name),
    why: slot.why ?? `What the file does not name is taken out of ${target.name}.`,
    slot: { ...slot, creates: [], updates: [] },
    files: [{ name, blocks }],
    columns: undefined,
    waiting: new Map(),
    cells,
    places: ["product", "variant"].map((kind) => ({
      kind,
      update: undefined,
      records: Array.from({ length: catalogue.table(kind).size }, (_, row) => row),
    })),
    after: [],
  };
  const steps = [
    ...tasks.map((task): Step => ({ number: 0, is: "do", ...task })),
    ...(lists.length > 0 ? [listsStep(target.name, lists, 0)] : []),
    ...(isLast ? [] : pictures),
    upload,
    ...(isLast ? pictures : []),
  ];
  return {
    ...prepared,
    plan: { ...prepared.plan, steps, cost: { collections: 0, uploads: 1, postponed: 0 } },
  };
}
