import { firstOf, entryOf } from "../checked.js";
/**
 * Graphs of needs, as arrays: which record needs which others first. No recursion, so a chain of a million is only a chain.
 *
 * A node is a number from 0; what node n needs is `needs[starts[n]]` to `needs[starts[n + 1] - 1]`.
 */

export interface NeedsGraph {
  readonly size: number;
  readonly starts: Int32Array;
  readonly needs: Int32Array;
}

/** @param from,to edge by edge: `from[i]` needs `to[i]`. The order of a node's needs is the order in which they are given. */
export function needsGraph(size: number, from: Int32Array, to: Int32Array): NeedsGraph {
  const starts = new Int32Array(size + 1);
  for (let edge = 0; edge < from.length; edge++) starts[from[edge]! + 1]!++;
  for (let node = 0; node < size; node++) starts[node + 1]! += starts[node]!;
  const next = starts.slice();
  const needs = new Int32Array(from.length);
  for (let edge = 0; edge < from.length; edge++) needs[next[from[edge]!]!++] = to[edge]!;
  return { size, starts, needs };
}

export interface Order {
  /** Every node after what it needs, as near to the given order as that allows. Nodes of a cycle stand together. */
  readonly order: Int32Array;
  /** For each node the number of its strongly connected component. */
  readonly component: Int32Array;
  /** Components of more than one node, and nodes that need themselves: each a cycle. */
  readonly cycles: readonly (readonly number[])[];
}

/**
 * Puts needs first. Tarjan, "Depth-first search and linear graph algorithms" (1972), with a stack of its own. Components come out
 * after all that they need, which is the order wanted.
 */
export function orderByNeeds({ size, starts, needs }: NeedsGraph): Order {
  const index = new Int32Array(size);
  const low = new Int32Array(size);
  const component = new Int32Array(size).fill(-1);
  const cursor = new Int32Array(size);
  const path = new Int32Array(size);
  const open = new Int32Array(size);
  const order = new Int32Array(size);
  const cycles: number[][] = [];
  let counter = 0;
  let depth = 0;
  let opened = 0;
  let ordered = 0;
  let components = 0;

  for (let root = 0; root < size; root++) {
    if (index[root] !== 0) continue;
    enter(root);
    while (depth > 0) {
      const node = path[depth - 1]!;
      const at = cursor[node]!;
      if (at < starts[node + 1]!) {
        cursor[node] = at + 1;
        const need = needs[at]!;
        if (index[need] === 0) enter(need);
        else if (component[need] === -1 && index[need]! < low[node]!) low[node] = index[need]!;
        continue;
      }
      depth--;
      if (depth > 0 && low[node]! < low[path[depth - 1]!]!) low[path[depth - 1]!] = low[node]!;
      if (low[node] === index[node]) close(node);
    }
  }
  return { order, component, cycles };

  function enter(node: number): void {
    index[node] = low[node] = ++counter;
    cursor[node] = starts[node]!;
    path[depth++] = node;
    open[opened++] = node;
  }

  function close(node: number): void {
    const before = opened;
    do component[open[--opened]!] = components;
    while (open[opened] !== node);
    components++;
    // In the order in which they were come upon: nearest to the order given.
    for (let at = opened; at < before; at++) order[ordered++] = open[at]!;
    if (before - opened > 1 || needsItself(node)) cycles.push([...open.subarray(opened, before)]);
  }

  function needsItself(node: number): boolean {
    for (let at = starts[node]!; at < starts[node + 1]!; at++) if (needs[at] === node) return true;
    return false;
  }
}

/** One way round within a component, from its first node back to it: the shortest, so that a message can name it whole. */
export function cycleThrough({ starts, needs }: NeedsGraph, members: readonly number[]): number[] {
  const inside = new Set(members);
  const start = firstOf(members);
  const cameFrom = new Map<number, number>();
  const queue = [start];
  for (let at = 0; at < queue.length; at++) {
    const node = queue[at]!;
    for (let edge = starts[node]!; edge < starts[node + 1]!; edge++) {
      const need = needs[edge]!;
      if (need === start) {
        const round = [node];
        while (round[0] !== start) round.unshift(entryOf(cameFrom, firstOf(round)));
        return round;
      }
      if (!inside.has(need) || cameFrom.has(need)) continue;
      cameFrom.set(need, node);
      queue.push(need);
    }
  }
  return [...members];
}
