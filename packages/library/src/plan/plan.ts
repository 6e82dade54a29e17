/** A plan, as data: which files to upload, in which order, with which records in each, and why. */

import type { TargetView } from "../catalogue/catalogue.js";
import type { Slot } from "../target/slot.js";
import type { TargetFile } from "../target/target.js";
import type { AlreadyThere } from "./placements.js";
import type { Cost } from "./sequence.js";
import type { Text } from "../phrases/phrase.js";

/** Records that one layout of a file writes, in the order to write. */
export interface PlannedBlock {
  /** Its place among the layouts of the file. */
  readonly layout: number;
  /** Rows of this kind's table. */
  readonly kind: string;
  readonly records: readonly number[];
  /**
   * The numbers, among the rows of the block, of those that are written, each with the headers of the cells that stay blank; all rows,
   * and all of their cells, if left out.
   */
  readonly rows?: ReadonlyMap<number, ReadonlySet<string>> | undefined;
}

/** One file of an upload. */
export interface PlannedFile {
  readonly name: string;
  readonly blocks: readonly PlannedBlock[];
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
  | DetachStep
  | LookStep;

/** What a person detaches on the platform: records from what contains them, or the axes of records, with the values of their variants. */
export interface DetachStep extends Common {
  readonly is: "detach";
  readonly from: "container" | "axes";
  readonly kind: string;
  /** The keys of the records, as the catalogue calls them. */
  readonly keys: readonly string[];
}

/** A catalogue that rows are written from, and what of it they leave out. */
export interface WrittenFrom {
  readonly catalogue: TargetView;
  readonly isLeftOut: (kind: string, row: number) => boolean;
}

/** What the rows of an upload are for: to make what is new, to change what is there, to take out of sale, to delete, to let go of codes, to set it all back. */
export type Purpose = "create" | "change" | "retire" | "delete" | "release" | "rollback";

/** Files of one slot, uploaded together. */
export interface UploadStep extends Common {
  readonly is: "upload";
  readonly slot: Slot;
  readonly files: readonly PlannedFile[];
  /** Headers to write; undefined for all. */
  readonly columns: ReadonlySet<string> | undefined;
  /** For products whose links wait: the headers of the cells that stay blank here. */
  readonly waiting: ReadonlyMap<number, ReadonlySet<string>>;
  /** What its rows are for; to create, if left out. */
  readonly purpose?: Purpose | undefined;
  /** What its rows are written from; the catalogue that the plan is made of, if left out. It has the same rows, and perhaps more. */
  readonly from?: WrittenFrom | undefined;
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

/** Records of one kind, by their keys, that a person looks at on the platform. */
export interface LookStep extends Common {
  readonly is: "look";
  readonly kind: string;
  readonly keys: readonly string[];
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

/** The steps whose files can be written now: those before ids have to be collected. */
export function stepsNow({ steps }: Plan): readonly Step[] {
  const stop = steps.findIndex((step) => step.is === "collect");
  return stop < 0 ? steps : steps.slice(0, stop);
}

export interface NeededList {
  readonly name: string;
  /** By code units. */
  readonly entries: readonly string[];
}
