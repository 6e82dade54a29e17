/**
 * Ordering by itself: a generated graph of needs, a chain and a cycle of the same size; and the same graph, a tenth of the size, ordered by
 * general graph packages.
 */

import { alg, Graph } from "@dagrejs/graphlib";
import { DirectedGraph } from "graphology";
import { topologicalSort } from "graphology-dag";
import toposort from "toposort";
import { needsGraph, orderByNeeds } from "zest-tier/parts";
import { now, since, type Taken } from "./taken.js";

export interface PlanFigure {
  readonly records: number;
  readonly references: number;
  readonly order: Taken;
  readonly chain: Taken;
  readonly cycle: Taken;
  /** Of a graph of so many records: by name of the package, this one among them, building the graph included. */
  readonly comparedRecords: number;
  readonly compared: Readonly<Record<string, Taken>>;
}

const taken = (work: () => void): Taken => {
  const started = now();
  work();
  return since(started, now());
};

interface Edges {
  readonly from: Int32Array;
  readonly to: Int32Array;
}

function edgesOf(records: number): Edges {
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
  return { from, to };
}

export function measurePlan(records: number): PlanFigure {
  const { from, to } = edgesOf(records);
  const order = taken(() => orderByNeeds(needsGraph(records, from, to)));
  const chain = Int32Array.from({ length: records - 1 }, (_, at) => at);
  const next = chain.map((at) => at + 1);
  const chainTaken = taken(() => orderByNeeds(needsGraph(records, chain, next)));
  const ring = Int32Array.from({ length: records }, (_, at) => at);
  const cycle = taken(() =>
    orderByNeeds(
      needsGraph(
        records,
        ring,
        ring.map((at) => (at + 1) % records),
      ),
    ),
  );
  const comparedRecords = records / 10;
  const compared = byPackages(comparedRecords, edgesOf(comparedRecords));
  return { records, references: from.length, order, chain: chainTaken, cycle, comparedRecords, compared };
}

function byPackages(records: number, { from, to }: Edges): Record<string, Taken> {
  // A record that needs itself is no need; packages take it for a cycle.
  const edges = Array.from(from, (one, at) => [one, to[at]!] as const).filter(([one, other]) => one !== other);
  const words = edges.map(([one, other]): [string, string] => [String(one), String(other)]);
  return {
    orderByNeeds: taken(() => orderByNeeds(needsGraph(records, from, to))),
    graphology: taken(() => {
      const graph = new DirectedGraph();
      for (let node = 0; node < records; node++) graph.addNode(node);
      for (const [one, other] of edges) graph.mergeEdge(other, one);
      topologicalSort(graph);
    }),
    graphlib: taken(() => {
      const graph = new Graph();
      for (let node = 0; node < records; node++) graph.setNode(String(node));
      for (const [one, other] of words) graph.setEdge(other, one);
      alg.topsort(graph);
    }),
    toposort: taken(() => toposort(words)),
  };
}
