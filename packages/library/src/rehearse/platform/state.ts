/** What of a simulated platform lasts from file to file. */

import type { Kinds } from "../../kinds.js";
import type { Waiting } from "./played.js";
import type { HeldRecord } from "./held-record.js";
import type { PlatformStore } from "./store.js";

export interface PlatformState {
  readonly store: PlatformStore;
  readonly kinds: Kinds;
  /** What is looked up when the import is through. */
  readonly waiting: Waiting[];
  /** Whether records of a kind have rows of their own in some file. */
  readonly hasRows: (kind: string) => boolean;
  /** The language whose names make axes and values; those in others name what is there. Undefined where no file has axes in columns. */
  readonly axisLanguage: string | undefined;
  /** Another file comes by this name: lines are those of the last one. */
  readonly forgetLines: (file: string) => void;
  /** Keeps which record a line of a file is about. */
  readonly noteLine: (file: string, line: number, record: HeldRecord) => void;
  /** The record that a line of a file was about. */
  readonly atLine: (file: string | undefined, line: number) => HeldRecord | undefined;
}
