/** What a simulated platform holds in the form of snapshots: what changes and read-back are still compared in. */

import { nothingHeldBack } from "../../build/hold-back.js";
import { asTargetView, type ResolvedCatalogue } from "../../catalogue/catalogue.js";
import { pathOf } from "../../catalogue/path.js";
import type { CellValue } from "../../codecs/codec.js";
import { firstOf } from "../../checked.js";
import type { Target } from "../../target/target.js";
import { intendedByTarget, isOfRecords } from "../intended-by-target.js";
import { pathKey, type Snapshot } from "../snapshot.js";

export function heldSnapshot(catalogue: ResolvedCatalogue, target: Target): Snapshot {
  const { snapshot } = intendedByTarget(asTargetView(catalogue), target, nothingHeldBack);
  if (isOfRecords(target)) return snapshot;
  // Nodes that no product stands in are on the platform too.
  const table = catalogue.table("category");
  const [main, others] = [firstOf(target.languages), target.languages.slice(1)];
  const category = new Map<string, Map<string, CellValue>>();
  for (let row = 0; row < table.size; row++) {
    const names = others.flatMap((lang) => {
      const name = table.text(`name@${lang}`, row);
      return typeof name === "string" && name !== "" ? [[`name@${lang}`, name] as const] : [];
    });
    category.set(pathKey(pathOf(catalogue, table, row, main)), new Map(names));
  }
  return { ...snapshot, category };
}
