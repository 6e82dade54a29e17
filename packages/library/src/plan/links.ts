/** Links between the records of one upload: the order of its rows, and the cells that have to wait for a later one. */

import { entryOf, firstOf } from "../checked.js";
import type { ResolvedCatalogue } from "../catalogue/catalogue.js";
import type { Demand, Slot } from "../target/adapter/played.js";
import type { Target } from "../target/target.js";
import { carriedReferences, demandOf } from "./carried.js";
import { orderWithFewestLate } from "./feedback.js";
import { needsGraph, orderByNeeds } from "./graph.js";
import type { PlannedBlock } from "./plan.js";
import { eachReference, referenceFieldsOf } from "./references.js";

/** Links between records that one upload writes, and what they ask of the order. */
export interface Links {
  readonly headers: ReadonlySet<string>;
  readonly demand: Demand;
  readonly pairs: readonly (readonly [number, number])[];
}

/** Links between the records of a block, by the columns written. */
export function linksIn(
  catalogue: ResolvedCatalogue,
  target: Target,
  slot: Slot,
  { kind }: PlannedBlock,
  columns: ReadonlySet<string> | undefined,
  isLeftOut: (kind: string, row: number) => boolean,
): Links[] {
  const carried = carriedReferences(target, slot, catalogue.kinds).filter(
    (one) => one.kind === kind && one.to === kind && [...one.headers].some((header) => columns?.has(header) ?? true),
  );
  return referenceFieldsOf(catalogue).flatMap((field) => {
    const own = carried.filter((one) => one.name === field.name);
    if (own.length === 0 || field.kind !== kind || field.to !== kind) return [];
    const pairs: [number, number][] = [];
    eachReference(catalogue, field, (from, to) => {
      if (from !== to && !isLeftOut(kind, to) && !isLeftOut(kind, from)) pairs.push([from, to]);
    });
    return [
      {
        headers: new Set(own.flatMap((one) => [...one.headers])),
        demand: demandOf(target, firstOf(own)),
        pairs,
      },
    ];
  });
}

/** Records in source order, but for links that ask for an earlier row: then needs first, and few links late in circles. */
export function orderedRecords(
  catalogue: ResolvedCatalogue,
  { kind, records }: PlannedBlock,
  links: readonly Links[],
): readonly number[] {
  const pairs = links.filter((link) => link.demand === "earlier row").flatMap((link) => link.pairs);
  if (pairs.length === 0) return records;
  const graph = needsGraph(
    catalogue.table(kind).size,
    Int32Array.from(pairs, ([from]) => from),
    Int32Array.from(pairs, ([, to]) => to),
  );
  const { order, component, cycles } = orderByNeeds(graph);
  const location = new Map<number, number[]>();
  for (const members of cycles) {
    const position = new Map(members.map((node, at) => [node, at]));
    const needs = members.map((node) =>
      [...graph.needs.subarray(graph.starts[node], graph.starts[node + 1])].flatMap((need) => position.get(need) ?? []),
    );
    location.set(
      component[firstOf(members)]!,
      orderWithFewestLate(needs).map((at) => members[at]!),
    );
  }
  const wanted = new Set(records);
  const done = new Set<number>();
  return [...order].flatMap((node) => {
    const circle = location.get(component[node]!);
    if (!circle) return wanted.has(node) ? [node] : [];
    if (done.has(component[node]!)) return [];
    done.add(component[node]!);
    return circle.filter((member) => wanted.has(member));
  });
}

/** Records with a link that the order of rows or files does not allow, and the cells that wait. */
export function waitingCells(
  links: readonly Links[],
  batches: readonly (readonly number[])[],
): Map<number, Set<string>> {
  const fileOf = new Map<number, number>();
  const rowOf = new Map<number, number>();
  let row = 0;
  if (links.some((link) => link.demand !== "anywhere" && link.demand !== "earlier step"))
    batches.forEach((batch, at) => batch.forEach((record) => (fileOf.set(record, at), rowOf.set(record, row++))));
  const waiting = new Map<number, Set<string>>();
  for (const { headers, demand, pairs } of links) {
    if (demand === "anywhere" || demand === "earlier step") continue;
    for (const [from, to] of pairs) {
      if (!fileOf.has(from) || !fileOf.has(to)) continue;
      const late =
        demand === "earlier row"
          ? entryOf(rowOf, to) > entryOf(rowOf, from)
          : demand === "earlier file"
            ? entryOf(fileOf, to) >= entryOf(fileOf, from)
            : entryOf(fileOf, to) > entryOf(fileOf, from);
      if (late) waiting.set(from, new Set([...(waiting.get(from) ?? []), ...headers]));
    }
  }
  return waiting;
}
