/** Ordering by itself: a generated graph of needs, a chain and a cycle of the same size. */

import { needsGraph, orderByNeeds } from "zest-tier/parts";

export interface PlanFigure {
  readonly records: number;
  readonly references: number;
  readonly ms: number;
  readonly chainMs: number;
  readonly cycleMs: number;
}

const timed = (work: () => void): number => {
  const started = performance.now();
  work();
  return performance.now() - started;
};

export function measurePlan(records: number): PlanFigure {
  const references = records * 3;
  const from = new Int32Array(references);
  const to = new Int32Array(references);
  let seed = 1;
  for (let edge = 0; edge < references; edge++) {
    seed = (seed * 48_271) % 2_147_483_647;
    // Each record needs three of the records before it, given in an order that is not the wanted one.
    const node = edge % records;
    from[edge] = records - 1 - node;
    to[edge] = records - 1 - (seed % Math.max(1, node));
  }
  const ms = timed(() => orderByNeeds(needsGraph(records, from, to)));
  const chain = Int32Array.from({ length: records - 1 }, (_, at) => at);
  const next = chain.map((at) => at + 1);
  const chainMs = timed(() => orderByNeeds(needsGraph(records, chain, next)));
  const ring = Int32Array.from({ length: records }, (_, at) => at);
  const cycleMs = timed(() =>
    orderByNeeds(
      needsGraph(
        records,
        ring,
        ring.map((at) => (at + 1) % records),
      ),
    ),
  );
  return { records, references, ms, chainMs, cycleMs };
}
