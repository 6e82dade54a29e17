/** Rows while they are played, and what is looked up later. */

import type { Outcome, RehearsedRow } from "../outcome.js";
import type { LookUpNow } from "./effects/effect.js";
import type { RowOfBlock } from "./rows.js";
import type { HeldRecord } from "./held-record.js";

/** Texts that a row is told, each once: most rows are told none. */
export class RowTexts implements Iterable<string> {
  #texts: Set<string> | undefined;

  get size(): number {
    return this.#texts?.size ?? 0;
  }
  add(text: string): void {
    (this.#texts ??= new Set()).add(text);
  }
  [Symbol.iterator](): Iterator<string> {
    return (this.#texts ?? noTexts)[Symbol.iterator]();
  }
}

const noTexts: ReadonlySet<string> = new Set();
const none: readonly string[] = [];

/** The same for all rows, until they have some: a list that grows takes room for many more. */
const noRecords: readonly HeldRecord[] = [];

/** A row that is played, and what has become of it so far. */
export class PlayedRow {
  readonly reasons = new RowTexts();
  readonly notes = new RowTexts();
  /** The records that it speaks of, the one that it is first of all about at the front. */
  records: readonly HeldRecord[] = noRecords;
  /** Those of them that it made. */
  made: readonly HeldRecord[] = noRecords;
  parent = "";
  child = "";
  outcome: Outcome = "unchanged";
  about: RehearsedRow["about"];

  /** The number of the unit that it is taken or refused with. */
  unit = -1;

  constructor(public row: RowOfBlock) {}

  get line(): number {
    return this.row.line;
  }

  /** Its cells are not asked for any more: those of a long file would take more room than all that it says. */
  leaveCells(): void {
    this.row = { ...this.row, cells: undefined };
  }

  report(): RehearsedRow {
    const { row, parent, child, reasons, notes, about } = this;
    const outcome = reasons.size > 0 ? "refused" : this.outcome;
    return {
      line: row.line,
      parent,
      child,
      outcome,
      reasons: reasons.size === 0 ? none : [...reasons].sort(),
      notes: outcome === "refused" ? noTexts : notes,
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
