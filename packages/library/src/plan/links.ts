/** Links between the records of one upload: the order of its rows, and the cells that have to wait for a later one. */

import { entryOf, firstOf } from "../checked.js";
import type { ResolvedCatalogue } from "../catalogue/catalogue.js";
import { RowSet } from "../catalogue/row-set.js";
import type { Layout } from "../layout/layout.js";
import type { Demand, Slot } from "../target/slot.js";
import type { Target } from "../target/target.js";
import { carriedReferences, demandOf } from "./carried.js";
import { columnsWith } from "./elsewhere.js";
import { orderWithFewestLate } from "./feedback.js";
import { needsGraph, orderByNeeds } from "./graph.js";
import type { PlannedBlock } from "./plan.js";
import { eachReference, referenceFieldsOf } from "./references.js";

/** Links between records that one upload writes, and what they ask of the order. */
export interface Links {
  /** `product.relations`. */
  readonly name: string;
  readonly headers: ReadonlySet<string>;
  readonly demand: Demand;
  /** Of blocks: from which to which; the same twice where one record of a block links to another of it. */
  readonly pairs: readonly (readonly [number, number])[];
  /** The kind of the records that are linked, and these themselves, pair by pair. */
  readonly kind: string;
  readonly records: readonly (readonly [number, number])[];
}

/** Links between the records of one upload, by the columns written: of those that blocks are of, and of what these contain. */
export function linksIn(
  catalogue: ResolvedCatalogue,
  target: Target,
  slot: Slot,
  { kind }: PlannedBlock,
  columns: ReadonlySet<string> | undefined,
  isLeftOut: (kind: string, row: number) => boolean,
): Links[] {
  const carried = carriedReferences(target, slot, catalogue.kinds).filter(({ headers }) =>
    [...headers].some((header) => columns?.has(header) ?? true),
  );
  /** The row of the block that a record stands in; undefined for other kinds. */
  const blockOf = (of: string): ((row: number) => number) | undefined => {
    if (of === kind) return (row) => row;
    return catalogue.kinds.get(of).of === kind ? (row) => catalogue.table(of).parent(row) : undefined;
  };
  return referenceFieldsOf(catalogue).flatMap((field): Links[] => {
    const own = carried.filter((one) => one.name === field.name);
    const [from, to] = [blockOf(field.kind), blockOf(field.to)];
    // What contains a record is its block.
    if (own.length === 0 || !from || !to || field.dependency === "containing") return [];
    const pairs: [number, number][] = [];
    const records: [number, number][] = [];
    eachReference(catalogue, field, (a, b) => {
      if ((a === b && field.kind === field.to) || isLeftOut(field.to, b) || isLeftOut(field.kind, a)) return;
      pairs.push([from(a), to(b)]);
      records.push([a, b]);
    });
    const headers = new Set(own.flatMap((one) => [...one.headers]));
    return [{ name: field.name, headers, demand: demandOf(target, firstOf(own)), pairs, kind: field.kind, records }];
  });
}

/** Records in source order, but for links that ask for an earlier row: then needs first, and few links late in circles. */
export function orderedRecords(
  catalogue: ResolvedCatalogue,
  { kind, records }: PlannedBlock,
  links: readonly Links[],
): readonly number[] {
  const pairs = links
    .filter((link) => link.demand === "earlier row")
    .flatMap((link) => link.pairs.filter(([from, to]) => from !== to));
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
  const wanted = RowSet.of(records, order.length);
  const done = new Set<number>();
  return [...order].flatMap((node) => {
    const circle = location.get(component[node]!);
    if (!circle) return wanted.has(node) ? [node] : [];
    if (done.has(component[node]!)) return [];
    done.add(component[node]!);
    return circle.filter((member) => wanted.has(member));
  });
}

/** A link that the order of rows or files does not allow. */
export interface LateLink {
  readonly link: Links;
  /** The block. */
  readonly block: number;
  /** The records that are linked. */
  readonly from: number;
  readonly to: number;
}

/** The links that the order of rows or files does not allow. */
export function lateLinks(links: readonly Links[], batches: readonly (readonly number[])[]): LateLink[] {
  const fileOf = new Map<number, number>();
  const rowOf = new Map<number, number>();
  let row = 0;
  if (links.some((link) => link.demand !== "anywhere" && link.demand !== "earlier step"))
    batches.forEach((batch, at) => batch.forEach((record) => (fileOf.set(record, at), rowOf.set(record, row++))));
  const found: LateLink[] = [];
  for (const link of links) {
    const { demand, pairs, records } = link;
    if (demand === "anywhere" || demand === "earlier step") continue;
    for (const [at, [from, to]] of pairs.entries()) {
      const [own, other] = records[at]!;
      if (!fileOf.has(from) || !fileOf.has(to)) continue;
      const isInside = from === to;
      const late =
        demand === "earlier row"
          ? isInside
            ? other > own
            : entryOf(rowOf, to) > entryOf(rowOf, from)
          : demand === "earlier file"
            ? entryOf(fileOf, to) >= entryOf(fileOf, from)
            : entryOf(fileOf, to) > entryOf(fileOf, from);
      if (late) found.push({ link, block: from, from: own, to: other });
    }
  }
  return found;
}

/** By record: the cells that wait for a later upload, with those that mean nothing without them. */
export function waitingCells(layout: Layout, late: readonly LateLink[]): Map<number, Set<string>> {
  const waiting = new Map<number, Set<string>>();
  for (const { link, block } of late) {
    const cells = waiting.get(block) ?? new Set();
    waiting.set(block, cells);
    const named = [...link.headers];
    for (const header of [...named, ...columnsWith(layout, link.name, named)]) cells.add(header);
  }
  return waiting;
}
