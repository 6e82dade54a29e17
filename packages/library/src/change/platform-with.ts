/** A simulated platform that has the records of a view, and what they name. */

import { picturesNamed } from "../check/pictures.js";
import { neededLists } from "../plan/lists.js";
import type { NeededList } from "../plan/plan.js";
import { SimulatedPlatform } from "../rehearse/platform/platform.js";
import { putRecords } from "../rehearse/platform/put-records.js";
import type { GiveId } from "../rehearse/platform/store.js";
import type { Target } from "../target/target.js";
import { asStored } from "./stored.js";
import type { ChangeView } from "./views.js";

/** @param giveId the ids of its records. */
export function platformWith({ catalogue, isOut }: ChangeView, target: Target, giveId?: GiveId): SimulatedPlatform {
  const platform = new SimulatedPlatform(target, catalogue.kinds, giveId);
  const isThere = (kind: string, row: number) => !isOut(kind, row);
  putRecords(platform, asStored(catalogue, target), isThere);
  platform.addPictures(picturesNamed(catalogue, isThere));
  // What is listed there is not told; what its records show is.
  for (const { name, entries } of withoutPresets(neededLists(catalogue, target, isOut), target))
    platform.setUp(name, entries);
  return platform;
}

/** What records begin with by themselves need not be listed. */
export function withoutPresets(lists: readonly NeededList[], { files }: Target): NeededList[] {
  const presets = new Set(
    [...files.values()].flatMap(({ rules }) => [...rules.values()].map((rule) => rule["starts as"])),
  );
  return lists.flatMap(({ name, entries }) => {
    const own = entries.filter((entry) => !presets.has(entry));
    return own.length === 0 ? [] : [{ name, entries: own }];
  });
}
