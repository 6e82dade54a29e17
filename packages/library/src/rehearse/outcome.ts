/** What a rehearsal says of each file and each row. */
import type { Text } from "../phrases/phrase.js";

/** What becomes of a row. */
export type Outcome = "created" | "updated" | "unchanged" | "deleted" | "refused";

/** What becomes of a row, and why. */
export interface RehearsedRow {
  readonly line: number;
  readonly parent: string;
  readonly child: string;
  outcome: Outcome;
  readonly reasons: readonly string[];
  /** Each once. What is looked up when the import is through is noted then. */
  readonly notes: Iterable<string> & { readonly size: number };
  /** The record that it speaks of first of all, by its kind and the word that names it; undefined where that is not known. */
  readonly about?: { readonly kind: string; readonly word: string } | undefined;
}

/** What becomes of a file, row by row. */
export interface RehearsedFile {
  readonly name: string;
  /** Why the platform would refuse the whole file; undefined if it would not. */
  readonly refused: string | undefined;
  readonly rows: readonly RehearsedRow[];
}

/** What a rehearsal tells while it plays: after each step, what became of it and what is on the platform then. */
export interface PlayedStep {
  /** Collections of ids that were before it. */
  readonly round: number;
  /** Its number in the plan, and what it is. */
  readonly step: number;
  readonly title: Text;
  readonly files: readonly RehearsedFile[];
  /** By kind. */
  readonly held: ReadonlyMap<string, number>;
}
export type TellPlayed = (played: PlayedStep) => void;
