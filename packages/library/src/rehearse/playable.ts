/** A simulated platform, as a rehearsal plays it. */

import type { ResolvedCatalogue } from "../catalogue/catalogue.js";
import type { DetachStep } from "../plan/plan.js";
import type { Slot } from "../target/slot.js";
import type { TargetFile } from "../target/target.js";
import type { RehearsedFile } from "./outcome.js";
import type { HeldCatalogue } from "./platform/held-catalogue.js";

/** What a rehearsal asks of a simulated platform: to take lists, pictures and files, and to show what it holds. */
export interface Playable {
  /** Puts names into a list of the platform. */
  readonly setUp: (list: string, names: readonly string[]) => void;
  /** Puts picture files into its store. */
  readonly addPictures: (names: readonly string[]) => void;
  /** A person takes records out of what contains them, or their axes off. */
  readonly detach: (step: Pick<DetachStep, "from" | "kind" | "keys">) => void;
  /** Takes a file, as an import of a mode. */
  readonly play: (
    file: TargetFile,
    name: string,
    bytes: AsyncIterable<Uint8Array>,
    mode: Slot["mode"],
  ) => Promise<RehearsedFile>;
  /** The last file is through. */
  readonly end: () => void;
  /** How many records there are of each kind. */
  readonly counts: () => ReadonlyMap<string, number>;
  /** The records of a kind that have ids; their keys only where files have these. */
  readonly known: (kind: string) => Iterable<{ readonly key: string | undefined; readonly id: string }>;
  /** What it holds, as a catalogue. @param intended tells which products are sold by themselves. */
  readonly held: (intended: ResolvedCatalogue) => HeldCatalogue;
}
