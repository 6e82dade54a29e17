/**
 * Planning: which files to upload, in which order, with which records in each, and why.
 *
 *   1. what has to be placed, and what it needs        placements.ts
 *   2. the sequence of slots, with collections of ids  sequence.ts, rounds.ts
 *   3. the records of each file, links that wait       steps.ts
 *
 * In: the resolved catalogue, the target, what the platform has already. Out: a plan, as data.
 */

import { failure, type Result } from "../findings/result.js";
import type { TargetView } from "../catalogue/catalogue.js";
import { finding, Findings } from "../findings/finding.js";
import type { Slot } from "../target/schema.js";
import type { Target, TargetFile } from "../target/target.js";
import type { NeededList } from "./lists.js";
import { PlacementFinder, type AlreadyThere } from "./placements.js";
import { findRounds } from "./rounds.js";
import { exactUpTo, findSequence, type Cost } from "./sequence.js";
import { StepMaker } from "./steps.js";
import type { Text } from "../phrases/phrase.js";

/** Records that one layout of a file writes, in the order to write. */
export interface PlannedBlock {
  /** Its place among the layouts of the file. */
  readonly layout: number;
  /** Rows of this kind's table. */
  readonly kind: string;
  readonly records: readonly number[];
  /** Rows without a record in the catalogue, as they are written. */
  readonly literal?: readonly (readonly string[])[] | undefined;
  /** The numbers, among the rows of the block, of those that are written; all, if left out. */
  readonly keeps?: ReadonlySet<number> | undefined;
}

/** One file of an upload. */
export interface PlannedFile {
  readonly name: string;
  readonly blocks: readonly PlannedBlock[];
  /** How many rows come out how, where it was played onto what is on the platform: `created` 3, `updated` 9. */
  readonly outcomes?: Readonly<Record<string, number>> | undefined;
}

interface Common {
  readonly number: number;
  readonly title: Text;
  readonly why: Text;
}

/** One step of a plan. */
export type Step =
  | (Common & { readonly is: "save" | "do" | "collect" })
  | (Common & { readonly is: "lists"; readonly lists: readonly NeededList[] })
  | (Common & { readonly is: "pictures"; readonly files: readonly string[]; readonly name: string })
  | (Common & { readonly is: "test"; readonly files: readonly string[] })
  | UploadStep
  | (Common & { readonly is: "look"; readonly products: readonly string[] });

/** Files of one slot, uploaded together. */
export interface UploadStep extends Common {
  readonly is: "upload";
  readonly slot: Slot;
  readonly files: readonly PlannedFile[];
  /** Headers to write; undefined for all. */
  readonly columns: ReadonlySet<string> | undefined;
  /** For products whose links wait: the headers of the cells that stay blank here. */
  readonly waiting: ReadonlyMap<number, ReadonlySet<string>>;
  /**
   * Cells with another value than the catalogue: by table and row of the record, then by file and header. Where only changes are
   * written, for what is left as it is there.
   */
  readonly cells?: ReadonlyMap<string, ReadonlyMap<string, string>> | undefined;
  /** What is placed here: kinds that are created, and what is added to records that are there. */
  readonly places: readonly PlacedRecords[];
  /** The steps that have to be through before it, and whether ids have to be collected in between. */
  readonly after: readonly { readonly step: number; readonly withIds: boolean }[];
}

export interface PlacedRecords {
  readonly kind: string;
  /** The update, as slots name it; undefined for the creation of the records. */
  readonly update: string | undefined;
  readonly records: readonly number[];
}

/** The steps of an import, in order, and what they cost. */
export interface Plan {
  readonly target: string;
  readonly steps: readonly Step[];
  readonly cost: Cost;
  /** Where not every order was tried: no plan has fewer. */
  readonly bound: { readonly collections: number; readonly uploads: number } | undefined;
}

/** Something that the user wants done between two uploads. */
export interface ManualStep {
  readonly before: string;
  readonly title: Text;
}

export interface PlanOptions {
  /** Records that are left out. */
  readonly isLeftOut?: ((kind: string, row: number) => boolean) | undefined;
  /** How many bytes the rows of a record take in a file; needed where the target limits bytes. */
  readonly bytesOf: (file: TargetFile, record: number) => number;
  readonly headerBytes: (file: TargetFile) => number;
  /** Names of the picture files that will be uploaded. */
  readonly pictures: readonly string[];
  /** What the platform has already; nothing, if left out. */
  readonly there?: AlreadyThere | undefined;
  readonly manualSteps?: readonly ManualStep[] | undefined;
}

export const nothingThere: AlreadyThere = { isThere: () => false, isAdded: () => false };

/**
 * Plans the import of a catalogue; fails with `plan/no-order` where the target's slots offer no order. A product that no file can take
 * is left out of the files, with the finding `plan/too-large`.
 */
export function planImport(catalogue: TargetView, target: Target, options: PlanOptions): Result<Plan> {
  const findings = new Findings();
  const { there = nothingThere, isLeftOut = () => false } = options;
  const placements = new PlacementFinder(catalogue, target, there, isLeftOut).find();
  const stuck = placements.filter((one) => one.slots.length === 0).map((one) => one.name);
  const isSmall = target.slots.length <= exactUpTo.slots && placements.length <= exactUpTo.placements;
  const rounds = stuck.length > 0 || isSmall ? undefined : findRounds(placements, target.slots.length);
  const sequence =
    stuck.length > 0 ? undefined : (rounds ?? (isSmall ? findSequence(placements, target.slots.length) : undefined));
  if (!sequence) {
    const kinds = stuck.length > 0 ? stuck : placements.map((one) => one.name);
    return failure(finding("plan/no-order", { kinds, target: target.name }));
  }
  if (catalogue.table("product").size === 0) findings.add(finding("plan/nothing-to-upload", {}));
  const steps = new StepMaker(catalogue, target, options, findings);
  if (sequence.steps.length > 0) steps.begin();
  for (const [at, step] of sequence.steps.entries()) {
    if (step.collectBefore) {
      const rest = sequence.steps.slice(at);
      const end = rest.findIndex((one, location) => location > 0 && one.collectBefore);
      const next = (end < 0 ? rest : rest.slice(0, end)).flatMap(({ placed }) => placed.map((one) => placements[one]!));
      steps.collect(next.filter(({ needs }) => needs.some(({ demand }) => demand === "earlier step")));
    }
    steps.upload(
      target.slots[step.slot]!,
      step.placed.map((one) => placements[one]!),
      placements,
    );
  }
  steps.finish();
  const plan: Plan = {
    target: target.name,
    steps: steps.steps,
    cost: { ...sequence.cost, uploads: steps.uploads, postponed: sequence.cost.postponed + steps.postponed },
    bound: rounds?.bound,
  };
  return { ok: true, value: plan, findings };
}
