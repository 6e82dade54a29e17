/** Replacing everything: one file with all that is intended; what it does not name is taken out there. */

import { entryOf, present } from "../checked.js";
import { isHeldBack, type HeldBack } from "../build/hold-back.js";
import type { Prepared } from "../build/prepare.js";
import { driverOf } from "../formats/drivers/drivers.js";
import { writtenKind } from "../layout/write/rows.js";
import { listsStep } from "../plan/lists.js";
import type { NeededList, PlannedBlock, Step, UploadStep } from "../plan/plan.js";
import { takesPicturesLast } from "../target/pictures.js";
import type { ChangeInput } from "./changes.js";
import { phrase } from "../phrases/phrase.js";
import { numbersWhere } from "../lists.js";

/** @returns the steps; they are not numbered yet. */
export function wholeStep(
  { catalogue, target }: ChangeInput,
  prepared: Prepared,
  heldBack: HeldBack,
  lists: readonly NeededList[],
): readonly Step[] {
  const slot = present(target.replacing);
  const file = entryOf(target.files, slot.file);
  const isLeftOut = isHeldBack(heldBack);
  const blocks = file.layouts.map((layout, at): PlannedBlock => {
    const kind = writtenKind(layout, catalogue);
    const records = numbersWhere(catalogue.table(kind).size, (row) => !isLeftOut(kind, row));
    return { layout: at, kind, records };
  });
  const name = `01-${slot.name}.${driverOf(file.layout.format).ending(file.layout.format)}`;
  const pictures = prepared.plan.steps.filter(({ is }) => is === "pictures");
  const isLast = takesPicturesLast(target);
  const upload: UploadStep = {
    number: 0,
    is: "upload",
    purpose: "change",
    title: phrase("Upload {0}: the whole range", slot.name),
    why: slot.why ?? `What the file does not name is taken out of ${target.name}.`,
    slot: { ...slot, creates: [], updates: [] },
    files: [{ name, blocks }],
    columns: undefined,
    waiting: new Map(),
    places: ["product", "variant"].map((kind) => ({
      kind,
      update: undefined,
      records: Array.from({ length: catalogue.table(kind).size }, (_, row) => row),
    })),
    after: [],
  };
  return [
    ...(lists.length > 0 ? [listsStep(target.name, lists, 0)] : []),
    ...(isLast ? [] : pictures),
    upload,
    ...(isLast ? pictures : []),
  ];
}
