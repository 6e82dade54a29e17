/** Rows while they are played, and what is looked up later. */

import type { Outcome, RehearsedRow } from "../outcome.js";
import type { LookUpNow } from "./effects/effect.js";
import type { RowOfBlock } from "./rows.js";
import type { HeldRecord } from "./store.js";

/** A row that is played, and what has become of it so far. */
export class PlayedRow {
  readonly reasons = new Set<string>();
  readonly notes = new Set<string>();
  /** The records that it speaks of, the one that it is first of all about at the front. */
  readonly records: HeldRecord[] = [];
  /** Those of them that it made. */
  readonly made: HeldRecord[] = [];
  parent = "";
  child = "";
  outcome: Outcome = "unchanged";
  about: RehearsedRow["about"];

  constructor(readonly row: RowOfBlock) {}

  report(): RehearsedRow {
    const { row, parent, child, reasons, notes, about } = this;
    const outcome = reasons.size > 0 ? "refused" : this.outcome;
    return {
      line: row.line,
      parent,
      child,
      outcome,
      reasons: [...reasons].sort(),
      notes: outcome === "refused" ? new Set() : notes,
      about,
    };
  }
}

/** What is looked up later. */
export interface Waiting {
  readonly played: PlayedRow;
  readonly record: HeldRecord;
  readonly run: (now: LookUpNow) => void;
}
