/**
 * What the two machines of the rehearsal, the plan and the snapshots take: made from a target by this folder, until one machine plays
 * targets as they are written.
 */

import type { Expression } from "../../derive/expression.js";

/**
 * How an importer works through a file of grouped rows: a refusal costs the product, lists are replaced, links are looked up at the end
 * of the file and left out where they lead nowhere.
 */
export interface ImporterRules {
  readonly "parent by": string;
  readonly "child by": string;
  readonly "shared cells below the first row": "refuse" | "ignore";
  readonly "code of another product": "moves" | "refuse";
  readonly "product without codes": "deleted" | "stays";
  readonly "axes of a known product": "must match" | "replace";
  readonly "missing pictures": "left out" | "refuse" | "awaited";
}

/**
 * How an importer works through files in which each row is a record, or says something of one: in registers of their own, or a
 * product's row followed by those of its variants. Rows are known by the platform's id where there is a column for it, else by key.
 */
export interface RecordRules {
  readonly plays: "records";
  readonly header: "any order" | "as it is";
  readonly "refusal costs": "row" | "file";
  readonly links: "as rows arrive" | "at the end of the file";
  readonly "product without codes": "refuse" | "stays";
  readonly "missing pictures": "refuse" | "awaited";
}

/** What a reference asks of the order. */
export type Demand = "anywhere" | "same file" | "earlier row" | "earlier file" | "earlier step";

/** What can be uploaded: a file, what it makes and what it adds to what is there. */
export interface Slot {
  readonly name: string;
  readonly file: string;
  /** `replace`: what the file does not name is taken out. Only where it is asked for. */
  readonly mode: "create" | "update" | "replace";
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
