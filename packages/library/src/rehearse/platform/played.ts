/** Rows while they are played, and what is looked up later. */

import type { Outcome, RehearsedRow } from "../outcome.js";
import type { LookUpNow } from "./effects/effect.js";
import type { RowOfBlock } from "./rows.js";
import type { HeldRecord } from "./held-record.js";

const noTexts: ReadonlySet<string> = new Set();
const none: readonly string[] = [];

/** The same for all rows, until they have some: a list that grows takes room for many more. */
const noRecords: readonly HeldRecord[] = [];

/** Stands for a row of which nothing is asked any more but what has become of it. */
const leftRow: RowOfBlock = { line: 0, cells: undefined, is: "own", word: "", language: "", problem: undefined };

/** A row that is played, and what has become of it so far. */
export class PlayedRow {
  readonly line: number;
  /** Most rows are told nothing: there is no set until they are. */
  #reasons: Set<string> | undefined;
  #notes: Set<string> | undefined;
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

  constructor(public row: RowOfBlock) {
    this.line = row.line;
  }

  /** What refuses it, each once. */
  get reasons(): ReadonlySet<string> {
    return this.#reasons ?? noTexts;
  }
  get isRefused(): boolean {
    return this.#reasons !== undefined;
  }

  refuse(reason: string): void {
    (this.#reasons ??= new Set()).add(reason);
  }
  note(text: string): void {
    (this.#notes ??= new Set()).add(text);
  }

  /** Nothing of it is asked for any more but what has become of it: the cells of a long file would take more room than that. */
  leave(): void {
    this.row = leftRow;
  }

  /** @param isAwaited whether something is looked up when the import is through: it may be noted then. */
  report(isAwaited: boolean): RehearsedRow {
    const { line, parent, child, isRefused, reasons, about } = this;
    if (isAwaited) this.#notes ??= new Set();
    return {
      line,
      parent,
      child,
      outcome: isRefused ? "refused" : this.outcome,
      reasons: isRefused ? [...reasons].sort() : none,
      notes: isRefused ? noTexts : (this.#notes ?? noTexts),
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
