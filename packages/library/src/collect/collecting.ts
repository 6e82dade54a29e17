/** What collecting works with: what a platform said, the ledger, and how an id is learned. */

import { Catalogue, type TargetView } from "../catalogue/catalogue.js";
import type { HeldBack } from "../build/hold-back.js";
import { Findings } from "../findings/finding.js";
import type { Kinds } from "../kinds.js";
import type { Layout } from "../layout/layout.js";
import type { Ledger } from "../ledger/ledger.js";
import type { Location } from "../location.js";
import type { Plan } from "../plan/plan.js";
import type { Target, TargetFile } from "../target/target.js";

/** What a platform said of a file. */
export interface ImportReport {
  readonly refused: string | null;
  readonly rows: readonly {
    readonly line: number;
    readonly outcome: string;
    readonly reasons?: readonly string[] | undefined;
    readonly id?: string | null | undefined;
  }[];
}

/** What a platform said of an archive of pictures. */
export interface PictureReport {
  readonly refused: string | null;
  /** What became of each picture; of an answer to the archive as a whole, undefined. */
  readonly pictures?:
    | readonly { readonly file: string; readonly outcome: string; readonly reasons?: readonly string[] | undefined }[]
    | undefined;
}

/** Reads an export into a catalogue of its own. @returns whether there is one. */
export type ReadExport = (file: TargetFile, layout: Layout, into: Catalogue, findings: Findings) => Promise<boolean>;

/** Reads the report of an uploaded file into a catalogue of its own. @param name of the file. @returns whether there is one. */
export type ReadReport = (name: string, layout: Layout, into: Catalogue, findings: Findings) => Promise<boolean>;

export interface CollectInput {
  readonly catalogue: TargetView;
  readonly kinds: Kinds;
  readonly target: Target;
  readonly plan: Plan;
  readonly heldBack: HeldBack;
  readonly ledger: Ledger;
  /** By the name of the uploaded file. */
  readonly reports: ReadonlyMap<string, ImportReport>;
  /** By the name of an archive of pictures, of those that were answered; none, if left out. */
  readonly answered?: ReadonlyMap<string, PictureReport> | undefined;
  /** Of targets that read their reports by a layout; there are none, if left out. */
  readonly readReport?: ReadReport | undefined;
  readonly readExport: ReadExport;
  readonly run: string;
}

export interface Collecting extends CollectInput {
  readonly findings: Findings;
  /** What does not make it fail. */
  readonly others: Findings;
}

export type Counts = { ids: number; confirmed: number; refused: number };

/** Records are there whose rows were taken, whether their ids are known or not. */
export function confirmTaken(
  { catalogue, ledger, run, findings }: Collecting,
  kind: string,
  rows: readonly number[],
  counts: Counts,
): void {
  for (const row of rows) {
    const problem = ledger.add({ kind, key: catalogue.table(kind).key(row), state: "confirmed", run });
    if (problem) findings.add(problem);
    else counts.confirmed++;
  }
}

export function learn(
  input: Collecting,
  kind: string,
  row: number,
  id: string,
  at: Location | undefined,
  counts: Counts,
): void {
  const { catalogue, ledger, run, findings } = input;
  const table = catalogue.table(kind);
  if (ledger.id(kind, table.key(row)) === id && ledger.has(kind, table.key(row))) return;
  const problem = ledger.add({ kind, key: table.key(row), id, state: "confirmed", run }, at);
  if (problem) findings.add(problem);
  else counts.ids++;
}
