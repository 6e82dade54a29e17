/**
 * Which slots to upload, in which order, with collections of ids between them: at the level of slots and kinds.
 *
 * Minimised in this order: collections, uploads, postponed placements. Exact: a shortest-path search over what is placed so far,
 * where an upload places all it can: placing more never makes a later step dearer. Only what would count as postponed may also wait for
 * an upload in which it does not, so each choice of those is tried.
 */

import { present } from "../checked.js";
import type { Demand } from "../target/slot.js";

/** Something to place: the creation of a kind's records, or the setting of a linking field. At most 30 in all. */
export interface Placement {
  readonly name: string;
  /** Slots that can do it. */
  readonly slots: readonly number[];
  /** Slots among them that do it after the fact: each use counts as postponed. */
  readonly postponedIn: readonly number[];
  readonly needs: readonly Need[];
}

export interface Need {
  readonly placement: number;
  /** `same upload`: neither before nor after it, but with it. */
  readonly demand: Demand | "same upload";
  /** The slots in which it is needed; all, if left out. */
  readonly in?: readonly number[];
}

export interface SequenceStep {
  /** Ids are collected before this upload. */
  readonly collectBefore: boolean;
  readonly slot: number;
  /** Positions of the placements. */
  readonly placed: readonly number[];
}

export interface Cost {
  readonly collections: number;
  readonly uploads: number;
  readonly postponed: number;
}

/** So many slots and placements are searched through; more are put into rounds. */
export const exactUpTo = { slots: 8, placements: 30 };

const maxUploads = 12;

interface State {
  readonly placed: number;
  readonly collected: number;
  readonly cost: Cost;
  readonly steps: readonly SequenceStep[];
}

/**
 * The cheapest sequence of uploads that places everything, by a search through all.
 *
 * @returns undefined when no sequence of at most 12 uploads places everything.
 */
export function findSequence(
  placements: readonly Placement[],
  slotCount: number,
): { readonly steps: readonly SequenceStep[]; readonly cost: Cost } | undefined {
  const everything = placements.length === 0 ? 0 : 2 ** placements.length - 1;
  let states: State[] = [{ placed: 0, collected: 0, cost: { collections: 0, uploads: 0, postponed: 0 }, steps: [] }];
  const best = new Map<string, Cost>();
  while (states.length > 0) {
    states.sort((a, b) => compareCosts(a.cost, b.cost));
    const state = present(states.shift());
    if (state.placed === everything) return { steps: state.steps, cost: state.cost };
    if (state.cost.uploads === maxUploads) continue;
    for (const collectBefore of state.collected === state.placed ? [false] : [false, true]) {
      for (let slot = 0; slot < slotCount; slot++) {
        for (const next of uploads(placements, state, slot, collectBefore)) {
          const key = `${next.placed} ${next.collected}`;
          const known = best.get(key);
          if (known && compareCosts(known, next.cost) <= 0) continue;
          best.set(key, next.cost);
          states = [...states.filter((one) => one.placed !== next.placed || one.collected !== next.collected), next];
        }
      }
    }
  }
  return undefined;
}

export function compareCosts(a: Cost, b: Cost): number {
  return a.collections - b.collections || a.uploads - b.uploads || a.postponed - b.postponed;
}

/** What one upload of a slot can lead to: with and without each placement that would count as postponed in it. */
function uploads(placements: readonly Placement[], state: State, slot: number, collectBefore: boolean): State[] {
  const optional = placements.flatMap((one, at) =>
    one.postponedIn.includes(slot) && one.slots.includes(slot) && !has(state.placed, at) ? [at] : [],
  );
  return Array.from({ length: 2 ** optional.length }, (_, choice) => {
    const withheld = optional.filter((_one, position) => has(choice, position)).reduce((set, at) => set | (1 << at), 0);
    return upload(placements, state, slot, collectBefore, withheld);
  }).filter((next) => next !== undefined);
}

function upload(
  placements: readonly Placement[],
  state: State,
  slot: number,
  collectBefore: boolean,
  withheld: number,
): State | undefined {
  const collected = collectBefore ? state.placed : state.collected;
  // The largest set that holds together: begin with all the slot can do, drop what lacks something, until nothing does.
  let now = 0;
  placements.forEach((placement, at) => {
    if (!has(state.placed | withheld, at) && placement.slots.includes(slot)) now |= 1 << at;
  });
  for (let before = -1; before !== now;) {
    before = now;
    placements.forEach((placement, at) => {
      if (has(now, at) && !needsIn(placement, slot).every((need) => isMet(need, state.placed, now, collected)))
        now &= ~(1 << at);
    });
  }
  if (now === 0) return undefined;
  const placed = placements.flatMap((_, at) => (has(now, at) ? [at] : []));
  const { cost } = state;
  return {
    placed: state.placed | now,
    collected,
    cost: {
      collections: cost.collections + Number(collectBefore),
      uploads: cost.uploads + 1,
      postponed: cost.postponed + placed.filter((at) => placements[at]!.postponedIn.includes(slot)).length,
    },
    steps: [...state.steps, { collectBefore, slot, placed }],
  };
}

export function needsIn({ needs }: Placement, slot: number): readonly Need[] {
  return needs.filter((need) => need.in?.includes(slot) ?? true);
}

function isMet({ placement, demand }: Need, before: number, now: number, collected: number): boolean {
  if (demand === "same upload") return has(now, placement);
  if (demand === "earlier step") return has(collected, placement);
  if (demand === "earlier file") return has(before, placement);
  return has(before | now, placement);
}

const has = (set: number, at: number): boolean => (set & (1 << at)) !== 0;
