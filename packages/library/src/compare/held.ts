/**
 * What the platform's export holds: its catalogue in JSON, read as the target says, or one of its own files, read with its layout.
 *
 * In: bytes of an export. Out: a snapshot, or findings why it is none. Nothing of a broken export is taken.
 */

import { failure, success } from "../findings/result.js";
import { finding, Findings, type Result } from "../findings/finding.js";
import { asTargetView, Catalogue } from "../catalogue/catalogue.js";
import { nothingHeldBack } from "../build/hold-back.js";
import type { Kinds } from "../kinds.js";
import type { Layout } from "../layout/layout.js";
import { intendedByTarget } from "../rehearse/rehearse.js";
import { at, readbackSnapshot } from "../rehearse/readback.js";
import type { Snapshot } from "../rehearse/snapshot.js";
import { resolveReferences } from "../resolve/resolve.js";
import type { Target } from "../target/target.js";

/** The lists that a target's catalogue always has. */
function listsOf({ readback }: Target): string[] {
  if (!("records" in readback)) return [readback.products.each, readback.categories.each];
  return Object.values(readback.records).map(({ each }) => each);
}

/** Reads a platform's catalogue in JSON; fails for what is not a whole export of this platform. @param file as findings call it. */
export function exportFromJson(text: string, file: string, target: Target): Result<Snapshot> {
  let json: unknown;
  try {
    json = JSON.parse(text);
  } catch {
    return failure(finding("compare/not-whole", { target: target.name }, { file }));
  }
  const missing = listsOf(target).filter((list) => !Array.isArray(at(json, list)));
  if (missing.length > 0) return failure(finding("compare/other-export", { missing, target: target.name }, { file }));
  return success(readbackSnapshot(json, target));
}

/** Reads one of the target's own files as an export; fails for what is none of them. @param read puts its rows into a catalogue, with a layout. */
export async function exportFromFile(
  file: string,
  target: Target,
  kinds: Kinds,
  read: (layout: Layout, into: Catalogue, findings: Findings) => Promise<unknown>,
): Promise<Result<Snapshot>> {
  const whole = [...target.files.values()].filter(({ layout }) => layout.shape.child !== undefined);
  for (const { layout } of whole) {
    const own = new Findings();
    const catalogue = new Catalogue(kinds);
    await read(layout, catalogue, own);
    const { catalogue: resolved } = resolveReferences(catalogue, own);
    if (!own.hasErrors && resolved.table("product").size > 0)
      return success(intendedByTarget(asTargetView(resolved), target, nothingHeldBack).snapshot);
  }
  const missing = whole.map(({ layout }) => layout.name);
  return failure(finding("compare/other-export", { missing, target: target.name }, { file }));
}
