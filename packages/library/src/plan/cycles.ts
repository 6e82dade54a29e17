/** Cycles that no order can satisfy: of containing and required references. Each is reported once, whole, with its places. */

import { firstOf, fitting, entryOf, present } from "../checked.js";
import type { ResolvedCatalogue } from "../catalogue/catalogue.js";
import { IntList } from "../catalogue/int-list.js";
import { finding, type Findings } from "../findings/finding.js";
import { cycleThrough, needsGraph, orderByNeeds, type NeedsGraph } from "./graph.js";
import { eachReference, referenceFieldsOf } from "./references.js";

/** All root records as one graph of what has to exist first. `base` is where a kind's rows begin. */
export function recordGraph(catalogue: ResolvedCatalogue): {
  readonly graph: NeedsGraph;
  readonly base: ReadonlyMap<string, number>;
} {
  const base = new Map<string, number>();
  let size = 0;
  for (const kind of catalogue.kinds.roots) {
    base.set(kind.name, size);
    size += catalogue.table(kind.name).size;
  }
  const from = new IntList();
  const to = new IntList();
  for (const field of referenceFieldsOf(catalogue)) {
    if (field.dependency === "linking") continue;
    const fromBase = entryOf(base, field.kind);
    const toBase = entryOf(base, field.to);
    eachReference(catalogue, field, (a, b) => {
      from.push(fromBase + a);
      to.push(toBase + b);
    });
  }
  return { graph: needsGraph(size, from.toArray(), to.toArray()), base };
}

export function reportCycles(catalogue: ResolvedCatalogue, findings: Findings): void {
  const { graph, base } = recordGraph(catalogue);
  const { cycles } = orderByNeeds(graph);
  const kinds = [...base].reverse();
  for (const members of cycles) {
    const places = cycleThrough(graph, members).map((node) => {
      const [kind, start] = fitting(kinds, ([, first]) => first <= node);
      return catalogue.location(catalogue.table(kind), node - start);
    });
    const chain = [...places, firstOf(places)].map((location) => present(location.record).key);
    findings.add(finding("plan/cycle", { chain }, places[0], places.slice(1)));
  }
}
