/**
 * Which slots to upload in which order, where there are too many to try every order.
 *
 * Between two collections of ids lies a round. Each placement goes into the first round in which all it needs is there: no sequence
 * collects less often. Then placements wait for a later upload of the same slot where nothing hangs on them: fewer uploads. What may
 * be postponed is tried both ways. The bounds say how far from the least the result can be.
 */

import { firstOf, entryOf } from "../checked.js";
import { compareCosts, needsIn, type Cost, type Need, type Placement, type SequenceStep } from "./sequence.js";
import { greatest, pushAll } from "../lists.js";

/** So many placements that may be postponed are tried both ways, each with each. */
const mostTried = 10;

export interface Rounds {
  readonly steps: readonly SequenceStep[];
  readonly cost: Cost;
  /** No sequence has fewer. */
  readonly bound: { readonly collections: number; readonly uploads: number };
}

/**
 * A sequence of uploads for many slots and placements, round by round.
 *
 * @returns undefined when something needs itself, over whatever way.
 */
export function findRounds(placements: readonly Placement[], slotCount: number): Rounds | undefined {
  const optional = placements.flatMap((one, at) =>
    one.postponedIn.length > 0 && one.postponedIn.length < one.slots.length ? [at] : [],
  );
  const tried = optional.slice(0, mostTried);
  let best: Omit<Rounds, "bound"> | undefined;
  let fewest = { collections: Infinity, uploads: Infinity };
  const isFewer = (cost: Cost) => cost.collections < fewest.collections;
  for (let choice = 0; choice < 2 ** tried.length; choice++) {
    // First without postponing anything, so that of two that cost the same the plainer one stays.
    const slots = placements.map(({ slots: all, postponedIn }, at) => {
      const position = tried.indexOf(at);
      const isLate = position < 0 ? optional.includes(at) : (choice & (1 << position)) !== 0;
      return (isLate ? postponedIn[0] : all.find((slot) => !postponedIn.includes(slot))) ?? firstOf(all);
    });
    const found = schedule(placements, slots, slotCount);
    if (!found) continue;
    // Collections count first: what it would take with more of them is not a bound.
    if (isFewer(found.cost)) fewest = { collections: found.cost.collections, uploads: found.leastUploads };
    else if (found.cost.collections === fewest.collections)
      fewest = { ...fewest, uploads: Math.min(fewest.uploads, found.leastUploads) };
    if (!best || compareCosts(found.cost, best.cost) < 0) best = { steps: found.steps, cost: found.cost };
  }
  return best && { ...best, bound: fewest };
}

interface Schedule {
  readonly steps: readonly SequenceStep[];
  readonly cost: Cost;
  readonly leastUploads: number;
}

/**
 * Placements that go into one upload together are one unit.
 *
 * @param slots for each placement the slot that it goes into.
 */
function schedule(placements: readonly Placement[], slots: readonly number[], slotCount: number): Schedule | undefined {
  const units = unitsOf(placements, slots);
  const order = inOrder(units);
  if (!order) return undefined;
  // Time is counted in uploads: rounds, and turns within them because a need may ask for an earlier file.
  const earliest = new Map<number, When>();
  for (const at of order) {
    let [round, turn] = [0, 0];
    for (const { unit, demand } of units[at]!.needs) {
      const other = entryOf(earliest, unit);
      const isApart = demand === "earlier file" || units[unit]!.slot !== units[at]!.slot;
      const when: When =
        demand === "earlier step"
          ? { round: other.round + 1, turn: 0 }
          : { round: other.round, turn: isApart ? other.turn + 1 : other.turn };
      if (when.round > round) [round, turn] = [when.round, when.turn];
      else if (when.round === round) turn = Math.max(turn, when.turn);
    }
    earliest.set(at, { round, turn });
  }
  const chosen = delayed(units, order, earliest);
  const uploads = new Map<string, When & { readonly slot: number; readonly placed: number[] }>();
  for (const [at, { round, turn }] of chosen) {
    const { slot, members } = units[at]!;
    const key = `${round} ${turn} ${slot}`;
    const known = uploads.get(key);
    if (known) pushAll(known.placed, members);
    else uploads.set(key, { round, turn, slot, placed: [...members] });
  }
  const sorted = [...uploads.values()].sort((a, b) => a.round - b.round || a.turn - b.turn || a.slot - b.slot);
  const steps = sorted.map(({ round, slot, placed }, at) => ({
    collectBefore: at > 0 && sorted[at - 1]!.round !== round,
    slot,
    placed: placed.sort((a, b) => a - b),
  }));
  const cost = {
    collections: steps.filter((step) => step.collectBefore).length,
    uploads: steps.length,
    postponed: placements.filter(({ postponedIn }, at) => postponedIn.includes(slots[at]!)).length,
  };
  return { steps, cost, leastUploads: leastUploads(units, order, slotCount) };
}

interface Unit {
  readonly slot: number;
  readonly members: readonly number[];
  readonly needs: readonly { readonly unit: number; readonly demand: Need["demand"] }[];
}

function unitsOf(placements: readonly Placement[], slots: readonly number[]): Unit[] {
  const leader = placements.map((_, at) => at);
  const find = (at: number): number => (leader[at] === at ? at : find(leader[at]!));
  placements.forEach((one, at) => {
    for (const { placement, demand } of needsIn(one, slots[at]!))
      if (demand === "same upload") leader[find(at)] = find(placement);
  });
  const roots = [...new Set(placements.map((_, at) => find(at)))];
  const number = new Map(roots.map((root, at) => [root, at]));
  const members = roots.map((root) => placements.flatMap((_, at) => (find(at) === root ? [at] : [])));
  return members.map((own, unit) => ({
    slot: slots[firstOf(own)]!,
    members: own,
    needs: own.flatMap((at) =>
      needsIn(placements[at]!, slots[at]!)
        .map(({ placement, demand }) => ({ unit: entryOf(number, find(placement)), demand }))
        // Within an upload, what asks for an earlier one can never be met; the rest is.
        .filter((need) => need.unit !== unit || need.demand === "earlier file" || need.demand === "earlier step"),
    ),
  }));
}

/** Needs first; undefined where they run in a circle. */
function inOrder(units: readonly Unit[]): number[] | undefined {
  const order: number[] = [];
  const state = new Map<number, "open" | "done">();
  for (let start = 0; start < units.length; start++) {
    const path = [start];
    while (path.length > 0) {
      const at = path[path.length - 1]!;
      if (state.get(at) === "done") {
        path.pop();
        continue;
      }
      state.set(at, "open");
      const next = units[at]!.needs.find(({ unit }) => state.get(unit) !== "done");
      if (next === undefined) {
        state.set(at, "done");
        order.push(at);
        path.pop();
      } else if (state.get(next.unit) === "open") return undefined;
      else path.push(next.unit);
    }
  }
  return order;
}

type When = { readonly round: number; readonly turn: number };

/** Lets units wait for a later upload of their slot, where what needs them still comes after. */
function delayed(
  units: readonly Unit[],
  order: readonly number[],
  earliest: ReadonlyMap<number, When>,
): ReadonlyMap<number, When> {
  const chosen = new Map(earliest);
  for (const at of [...order].reverse()) {
    const own = entryOf(chosen, at);
    const users = units.flatMap(({ needs }, user) =>
      needs.filter((need) => need.unit === at && user !== at).map(({ demand }) => ({ user, demand })),
    );
    const fits = (when: When): boolean =>
      users.every(({ user, demand }) => {
        const its = entryOf(chosen, user);
        if (demand === "earlier step") return its.round > when.round;
        if (its.round !== when.round) return its.round > when.round;
        const isApart = demand === "earlier file" || units[user]!.slot !== units[at]!.slot;
        return isApart ? its.turn > when.turn : its.turn >= when.turn;
      });
    const latest = [...chosen]
      .filter(
        ([other, when]) => other !== at && units[other]!.slot === units[at]!.slot && isLater(when, own) && fits(when),
      )
      .map(([, when]) => when)
      .sort((a, b) => (isLater(a, b) ? -1 : 1))[0];
    if (latest) chosen.set(at, latest);
  }
  return chosen;
}

const isLater = (a: When, b: When): boolean => a.round > b.round || (a.round === b.round && a.turn > b.turn);

/** Of each slot, the longest chain of units of which each has to wait for another upload: so many it needs at least. */
function leastUploads(units: readonly Unit[], order: readonly number[], slotCount: number): number {
  // For each unit and slot: how many uploads of that slot lie on the longest way to it.
  const chains = new Map<number, readonly number[]>();
  for (const at of order) {
    const { slot, needs } = units[at]!;
    const own = new Array<number>(slotCount).fill(0);
    for (const { unit, demand } of needs) {
      const isApart = demand === "earlier step" || demand === "earlier file" || units[unit]!.slot !== slot;
      entryOf(chains, unit).forEach((length, other) => {
        own[other] = Math.max(own[other]!, length + (other === slot && isApart ? 1 : 0));
      });
    }
    own[slot] = Math.max(own[slot]!, 1);
    chains.set(at, own);
  }
  const most = Array.from({ length: slotCount }, (_, slot) => greatest([...chains.values()].map((one) => one[slot]!)));
  return most.reduce((sum, one) => sum + one, 0);
}
