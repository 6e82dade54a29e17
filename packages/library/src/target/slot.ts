/** What can be uploaded, and what it asks of the order: as the plan takes it. */

import type { Expression } from "../derive/expression.js";

/** What a reference asks of the order. */
export type Demand = "anywhere" | "same file" | "earlier row" | "earlier file" | "earlier step";

/** What can be uploaded: a file, what it makes and what it adds to what is there. */
export interface Slot {
  readonly name: string;
  readonly file: string;
  /** `replace`: what the file does not name is taken out. Only where it is asked for. `delete`: what it names is. */
  readonly mode: "create" | "update" | "replace" | "delete";
  readonly endpoint?: string | undefined;
  readonly creates: readonly string[];
  /** `product.prices`, `product@de`. */
  readonly updates: readonly string[];
  readonly columns?: readonly string[] | undefined;
  readonly why?: string | undefined;
  /** Of the records that it is for; all, or all that no import before it takes, if left out. */
  readonly condition?: RecordCondition | undefined;
}

/** A condition of records, parsed. */
export interface RecordCondition {
  readonly text: string;
  readonly expression: Expression;
}
