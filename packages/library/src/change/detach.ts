/** What a platform refuses to change by a file: children that move, other axes. A person detaches them before the files come. */

import { asTargetView, targetsOf, type TargetView } from "../catalogue/catalogue.js";
import { phrase } from "../phrases/phrase.js";
import type { DetachStep } from "../plan/plan.js";
import type { Target, TargetFile } from "../target/target.js";
import type { ChangeView } from "./views.js";
import { added } from "../lists.js";

const mostShown = 6;

/** What has to be detached for a change; nothing, where the platform moves children and replaces axes by itself. */
export function detachSteps(target: Target, from: ChangeView, to: ChangeView): DetachStep[] {
  return [
    ...kindsWith(target, "child of another parent", "refuse").flatMap((kind) =>
      childrenThatMove(target, from, to, kind),
    ),
    ...kindsWith(target, "axes of a known parent", "must match").flatMap((kind) =>
      axesThatChange(target, from, to, kind),
    ),
  ];
}

/** What the platform has when the axes of records are detached: their variants have no values until a file brings them. */
export function withoutDetachedAxes(given: ChangeView, steps: readonly DetachStep[]): ChangeView {
  const taken = steps.filter(({ from }) => from === "axes");
  if (taken.length === 0) return given;
  const catalogue = given.catalogue.branch();
  for (const { kind, keys } of taken) {
    const [parents, child] = [catalogue.table(kind), catalogue.kinds.childOf(kind)];
    for (const key of keys) {
      const row = parents.find(key);
      if (row === undefined || !child) continue;
      parents.referenceColumn("axes").unset(row);
      const children = catalogue.table(child.name);
      for (const one of children.childrenOf(row)) children.referenceColumn("values").unset(one);
    }
  }
  return { ...given, catalogue: asTargetView(catalogue) };
}

/** A step for each record that lets go of children. */
function childrenThatMove(target: Target, from: ChangeView, to: ChangeView, kind: string): DetachStep[] {
  const [then, now] = [from.catalogue.table(kind), to.catalogue.table(kind)];
  const { of = "" } = then.kind;
  const owners = from.catalogue.table(of);
  const byOwner = new Map<number, number[]>();
  for (const row of rowsOnBoth(from, to, kind)) {
    const [before, after] = [then.parent(row), now.parent(row)];
    if (before >= 0 && after >= 0 && before !== after) byOwner.set(before, added(byOwner.get(before), row));
  }
  return [...byOwner].map(([owner, rows]): DetachStep => {
    const others = [...new Set(rows.map((row) => to.catalogue.table(of).key(now.parent(row))))];
    const names = firstOfNames(rows.map((row) => then.text("code", row) ?? then.key(row)));
    return {
      number: 0,
      is: "detach",
      from: "container",
      title: phrase("Detach variants of {0}", owners.key(owner)),
      why: phrase("They go to {0}, and {1} refuses a code of another product: {2}.", others, target.name, names),
      kind,
      keys: rows.map((row) => then.key(row)),
    };
  });
}

/** A step for all records that are to have other axes than they have, and have children on them. */
function axesThatChange(target: Target, from: ChangeView, to: ChangeView, child: string): DetachStep[] {
  const { of: kind = "" } = from.catalogue.kinds.get(child);
  const [then, now] = [from.catalogue.table(kind), to.catalogue.table(kind)];
  const axesIn = ({ catalogue }: ChangeView, row: number): string =>
    JSON.stringify(targetsOf(catalogue, catalogue.table(kind), "axes", row).map((axis) => nameOf(catalogue, axis)));
  if (!then.kind.fields.some(({ name }) => name === "axes")) return [];
  const rows = rowsOnBoth(from, to, kind).filter((row) => {
    const known = from.catalogue.table(child).childrenOf(row);
    return known.length > 0 && now.references.has("axes") && axesIn(from, row) !== axesIn(to, row);
  });
  if (rows.length === 0) return [];
  const keys = rows.map((row) => then.key(row));
  return [
    {
      number: 0,
      is: "detach",
      from: "axes",
      title: phrase("Detach the axes of {0}", firstOfNames(keys)),
      why: phrase("{0} refuses other axes for a product that it has. The file brings the new ones.", target.name),
      kind,
      keys,
    },
  ];
}

const nameOf = (catalogue: TargetView, axis: number): string =>
  [...catalogue.table("axis").texts].flatMap(([field, column]) =>
    field.startsWith("name@") ? (column.get(axis) ?? []) : [],
  )[0] ?? catalogue.table("axis").key(axis);

const rowsOnBoth = (from: ChangeView, to: ChangeView, kind: string): number[] =>
  Array.from(
    { length: Math.min(from.catalogue.table(kind).size, to.catalogue.table(kind).size) },
    (_, row) => row,
  ).filter((row) => !from.isOut(kind, row) && !to.isOut(kind, row));

const firstOfNames = (names: readonly string[]) =>
  names.length > mostShown
    ? phrase("{0} and {1} more", names.slice(0, mostShown), names.length - mostShown)
    : phrase("{0}", names);

/** The kinds of children in whose files the importer has a value. */
function kindsWith({ files }: Target, word: keyof TargetFile["importing"], value: string): string[] {
  const kinds = new Set<string>();
  for (const { importing, layouts } of files.values())
    for (const { shape, link } of layouts)
      if (shape.child && !link && importing[word] === value) kinds.add(shape.child.name);
  return [...kinds];
}
