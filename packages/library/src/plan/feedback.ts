import { firstOf, entryOf } from "../checked.js";
/**
 * Which links to postpone where they run in circles: an order of a component's nodes with the fewest needs that come too late.
 *
 * Exact up to 12 nodes, by dynamic programming over sets; beyond, the heuristic of Eades, Lin and Smyth, "A fast and effective
 * heuristic for the feedback arc set problem" (1993).
 */

export const exactUpTo = 12;

/**
 * @param nodes the members of a component. @param needs for each of them, by position, the positions of the members it needs.
 * @returns positions in an order in which few needs come after what needs them; the same input gives the same order.
 */
export function orderWithFewestLate(needs: readonly (readonly number[])[]): number[] {
  return needs.length <= exactUpTo ? exactOrder(needs) : heuristicOrder(needs);
}

/** How many needs stand after what needs them. */
export function countLate(order: readonly number[], needs: readonly (readonly number[])[]): number {
  const location = new Map(order.map((node, at) => [node, at]));
  return needs.reduce(
    (sum, own, node) =>
      sum + own.filter((need) => need !== node && entryOf(location, need) > entryOf(location, node)).length,
    0,
  );
}

function exactOrder(needs: readonly (readonly number[])[]): number[] {
  const size = needs.length;
  const masks = needs.map((own, node) => own.reduce((mask, need) => (need === node ? mask : mask | (1 << need)), 0));
  const full = (1 << size) - 1;
  // least[set]: fewest late needs when the nodes of the set come first; last[set]: which of them comes last.
  const least = new Int32Array(full + 1).fill(0x7fffffff);
  const last = new Int8Array(full + 1).fill(-1);
  least[0] = 0;
  for (let set = 0; set < full; set++) {
    for (let node = 0; node < size; node++) {
      if (set & (1 << node)) continue;
      const cost = least[set]! + bits(masks[node]! & ~set);
      const next = set | (1 << node);
      if (cost < least[next]!) {
        least[next] = cost;
        last[next] = node;
      }
    }
  }
  const order: number[] = [];
  for (let set = full; set !== 0; set &= ~(1 << firstOf(order))) order.unshift(last[set]!);
  return order;
}

function bits(mask: number): number {
  let count = 0;
  for (let rest = mask; rest !== 0; rest &= rest - 1) count++;
  return count;
}

function heuristicOrder(needs: readonly (readonly number[])[]): number[] {
  const left = new Set(needs.keys());
  const neededBy = needs.map(() => [] as number[]);
  needs.forEach((own, node) => own.forEach((need) => neededBy[need]!.push(node)));
  const count = (nodes: readonly number[], node: number) =>
    nodes.reduce((sum, other) => sum + Number(other !== node && left.has(other)), 0);
  const first: number[] = [];
  const lastOnes: number[] = [];
  while (left.size > 0) {
    let best = -1;
    let gain = -Infinity;
    let taken = false;
    for (const node of left) {
      const wants = count(needs[node]!, node);
      const wanted = count(neededBy[node]!, node);
      if (wants === 0 || wanted === 0) {
        (wants === 0 ? first : lastOnes).push(node);
        left.delete(node);
        taken = true;
        break;
      }
      if (wanted - wants > gain) {
        gain = wanted - wants;
        best = node;
      }
    }
    if (taken) continue;
    first.push(best);
    left.delete(best);
  }
  return [...first, ...lastOnes.reverse()];
}
