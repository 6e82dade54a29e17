/** The parts of cells: what they are called in the rules of a target, and what stands in them. */

import type { CellValue } from "../codecs/codec.js";
import type { Feed, PartPlan, PartsPlan } from "../layout/layout.js";

const nameOf = (part: PartPlan): string =>
  part.is === "name" ? "name" : part.is === "children" ? part.spec.to : part.field;

function planOf(feed: Feed): PartsPlan {
  if (feed.is === "entries") return feed.parts;
  return feed.is === "reference" ? (feed.parts ?? []) : [];
}

/** Every part that rules can be about: `quantityFrom`, `choice/surcharge`. */
export function partsNamed(feed: Feed): string[] {
  const named = (plan: PartsPlan): string[] =>
    plan.flatMap((part) => [
      nameOf(part),
      ...(part.is === "children" ? named(part.parts ?? []).map((inner) => `${nameOf(part)}/${inner}`) : []),
    ]);
  return named(planOf(feed));
}

/** What stands in a part of a cell, once for each of its entries; blank where an entry has nothing there. */
export function valuesAt(feed: Feed, value: CellValue, path: string): CellValue[] {
  const isList = feed.is === "entries" ? feed.list : feed.is === "reference" && feed.shape !== "one";
  return within(isList ? listed(value) : [value], planOf(feed), path.split("/"));
}

function within(entries: readonly CellValue[], plan: PartsPlan, [name, ...rest]: readonly string[]): CellValue[] {
  const at = plan.findIndex((part) => nameOf(part) === name);
  const part = plan[at];
  if (!part) return [];
  const found = entries.map((entry): CellValue => listed(entry)[at] ?? "");
  if (rest.length === 0 || part.is !== "children") return found;
  return found.flatMap((inner) =>
    inner.length === 0 ? [] : within(part.list ? listed(inner) : [inner], part.parts ?? [], rest),
  );
}

const listed = (value: CellValue): readonly CellValue[] => (typeof value === "string" ? [value] : value);
