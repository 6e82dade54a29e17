/** The written files, read again by the layouts that wrote them: they say what is intended, whatever a platform makes of them. */

import { Findings, type OpenedTarget, type PlannedUpload } from "#src/index.js";
import { Catalogue } from "#src/catalogue/catalogue.js";
import { resolveReferences } from "#src/resolve/resolve.js";
import { withCreating } from "#src/layout/creating.js";
import type { FilesPort } from "#src/ports.js";
import { readSources } from "#src/project/sources.js";
import { compareHeld } from "#src/verdict/compare-held.js";
import { isHeldBack } from "#src/build/hold-back.js";

/** @returns what is otherwise, in words; undefined where some columns are not written, or ids are still to come. */
export async function differencesReadBack(
  { catalogue, target, ledger }: OpenedTarget,
  { plan, heldBack }: PlannedUpload,
  files: FilesPort,
): Promise<readonly string[] | undefined> {
  const sources = plan.steps.flatMap((step) =>
    step.is === "upload"
      ? step.files.flatMap(({ name }) =>
          target.files.get(step.slot.file)!.layouts.map((layout) => ({
            file: name,
            layout: withCreating(layout, () => true),
            translates: layout.language !== target.languages[0],
          })),
        )
      : [],
  );
  // What the platform has already is in no file.
  if (ledger.ofAssumed().isEmpty === false) return undefined;
  if (plan.steps.some((step) => step.is === "collect" || (step.is === "upload" && step.columns))) return undefined;
  const read = new Catalogue(catalogue.kinds);
  const findings = new Findings();
  await readSources(sources, read, files, findings);
  const held = resolveReferences(read, findings).catalogue;
  const { differences } = compareHeld(
    catalogue,
    target,
    { catalogue: held, isOfPlatform: () => false },
    isHeldBack(heldBack),
  );
  return differences.map((one) => JSON.stringify(one));
}
