/** What a rehearsal says of each file and each row. */

export type Outcome = "created" | "updated" | "unchanged" | "refused";

export interface RehearsedRow {
  readonly line: number;
  readonly parent: string;
  readonly child: string;
  outcome: Outcome;
  readonly reasons: readonly string[];
  readonly notes: Set<string>;
}

export interface RehearsedFile {
  readonly name: string;
  /** Why the platform would refuse the whole file; undefined if it would not. */
  readonly refused: string | undefined;
  readonly rows: readonly RehearsedRow[];
}
