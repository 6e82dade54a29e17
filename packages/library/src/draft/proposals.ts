/** What is proposed for the columns of a sheet, and what is left of it where two columns would be one field. */

import { firstOf } from "../checked.js";
import type { Looked } from "./looked.js";
import { added, greatest } from "../lists.js";

export type DraftedBinding = string | Readonly<Record<string, unknown>> | readonly DraftedBinding[];

/** How good the evidence is, from the worst: cells alone, a word that is nearly known, a word within the header, the word itself. */
export type Evidence = "cells" | "near" | "within" | "word" | "certain";
const evidences: readonly Evidence[] = ["cells", "near", "within", "word", "certain"];

export interface Proposal {
  readonly one: Looked;
  /** The field alone: two proposals for the same are one too many. */
  readonly field: string;
  readonly binding: DraftedBinding;
  readonly evidence: Evidence;
  readonly why: string;
}

/** Why a column is left out, and which field would be nearest. */
export interface LeftOut {
  readonly why: string;
  readonly nearest?: string | undefined;
}

export class Proposals {
  readonly #proposals = new Map<Looked, Proposal>();
  readonly #left = new Map<Looked, LeftOut>();

  add(proposal: Proposal): void {
    const { one, binding } = proposal;
    this.#proposals.set(one, one.profile.hasStraySpaces ? { ...proposal, binding: withoutSpaces(binding) } : proposal);
  }
  leave(one: Looked, why: string, nearest?: string): void {
    this.#left.set(one, { why, nearest });
  }
  has(one: Looked): boolean {
    return this.#proposals.has(one) || this.#left.has(one);
  }
  /** Whether a field is proposed already. */
  isTaken(field: string): boolean {
    return [...this.#proposals.values()].some((one) => one.field === field);
  }
  get fields(): readonly string[] {
    return [...this.#proposals.values()].map(({ field }) => field);
  }
  get all(): readonly Proposal[] {
    return [...this.#proposals.values()];
  }
  leaveAll(why: string): void {
    for (const { one, field } of this.#proposals.values()) this.leave(one, why, field);
    this.#proposals.clear();
  }

  /** Of two columns for one field the one with the better evidence stays, or none. */
  settle(): void {
    const byField = new Map<string, Proposal[]>();
    for (const one of this.#proposals.values()) byField.set(one.field, added(byField.get(one.field), one));
    for (const [field, rivals] of byField) {
      if (rivals.length < 2) continue;
      const best = greatest(
        rivals.map(({ evidence }) => evidences.indexOf(evidence)),
        -1,
      );
      const kept = rivals.filter(({ evidence }) => evidences.indexOf(evidence) === best);
      const winner = kept.length === 1 ? firstOf(kept) : undefined;
      for (const { one } of rivals.filter((rival) => rival !== winner)) {
        const others = rivals.filter((other) => other.one !== one).map((other) => `"${other.one.column.header}"`);
        this.#proposals.delete(one);
        this.leave(one, `${others.join(", ")} would be ${field} too`, field);
      }
    }
  }

  of(one: Looked): { readonly proposal?: Proposal; readonly left?: LeftOut } {
    const [proposal, left] = [this.#proposals.get(one), this.#left.get(one)];
    return { ...(proposal ? { proposal } : {}), ...(left ? { left } : {}) };
  }
}

/** The same for cells that have spaces around them. */
function withoutSpaces(binding: DraftedBinding): DraftedBinding {
  if (typeof binding === "string") return { field: binding, fix: ["trim"] };
  if (Array.isArray(binding) || "constant" in binding) return binding;
  return { ...binding, fix: ["trim"] };
}

/** The evidence of a header's word. */
export function evidenceOf({ meaning }: Looked): Evidence {
  if (!meaning) return "cells";
  return meaning.how === "exact" || meaning.how === "without" ? "word" : meaning.how;
}
