/** The files of Saltmarsh: which columns each has, and what their cells may hold (description, sections 1 to 5). As data. */

import { characters, isBarcode, plainNumber } from "../common/barcode.js";

export class Refusal extends Error {
  constructor(readonly reason: string) {
    super(reason);
  }
}

export type Blank = "clears" | "leaves";

export interface Column {
  readonly name: string;
  /** What a filled cell stands for; throws Refusal. */
  readonly read: (text: string) => string;
  /** Registers that an id in the cell may be of. */
  readonly refersTo?: readonly string[];
  readonly list?: boolean;
  readonly needed?: boolean;
  readonly blank?: Blank;
  /** What a blank cell, or no cell at all, comes to on a new record; what clearing comes to. */
  readonly preset?: string;
  /** Never changes once it is set. */
  readonly fixed?: boolean;
  readonly key?: boolean;
}

const matching =
  (pattern: RegExp, reason = "cell") =>
  (text: string): string => {
    if (!pattern.test(text)) throw new Refusal(reason);
    return text;
  };
const upTo =
  (most: number, reason = "cell") =>
  (text: string): string => {
    if (characters(text) > most) throw new Refusal(reason);
    return text;
  };
const number = (pattern: RegExp) => (text: string) => plainNumber(matching(pattern)(text));
const oneOf = (...words: string[]) => matching(new RegExp(`^(${words.join("|")})$`));
const whole = number(/^\d{1,9}$/);
const money = number(/^\d{1,9}(\.\d{1,2})?$/);
const idWord = matching(/^\d{5,8}$/, "unknown-id");

const title: Column = { name: "Title", read: upTo(120), needed: true, blank: "leaves" };
const rank: Column = { name: "Rank", read: number(/^\d{1,4}$/) };
const yesNo = (name: string, blank: Blank): Column => ({ name, read: oneOf("yes", "no"), blank, preset: "no" });
const id = (name: string, refersTo: readonly string[], more: Partial<Column> = {}): Column => ({
  name,
  read: idWord,
  refersTo,
  ...more,
});
const sold: readonly Column[] = [
  { name: "Weight", read: number(/^\d{1,9}(\.\d{1,3})?$/) },
  {
    name: "Barcode",
    read: (text) => {
      if (!isBarcode(text)) throw new Refusal("barcode");
      return text;
    },
  },
  { name: "State", read: oneOf("on", "rest", "gone"), preset: "on" },
];
const code: Column = { name: "Code", read: matching(/^[A-Za-z0-9._-]{1,40}$/) };

export const registers: Readonly<Record<string, readonly Column[]>> = {
  branches: [title, id("Under", ["branches"]), rank, yesNo("Open", "leaves")],
  makers: [title],
  circles: [title],
  scales: [title, rank],
  marks: [title, id("Scale", ["scales"], { needed: true, fixed: true, blank: "leaves" }), rank],
  extras: [title, yesNo("Must", "leaves"), rank],
  picks: [
    title,
    id("Extra", ["extras"], { needed: true, fixed: true, blank: "leaves" }),
    { name: "Charge", read: number(/^-?\d{1,9}(\.\d{1,2})?$/) },
    { name: "Charge is", read: oneOf("sum", "share"), preset: "sum" },
    rank,
    id("Takes", ["goods", "forms"]),
  ],
  goods: [
    title,
    { name: "Text", read: upTo(4000, "too-long") },
    id("Maker", ["makers"]),
    id("Branches", ["branches"], { list: true }),
    id("Scales", ["scales"], { list: true }),
    id("Extras", ["extras"], { list: true }),
    { name: "Nature", read: oneOf("thing", "service", "file", "hire"), preset: "thing" },
    yesNo("Open", "leaves"),
    code,
    ...sold,
  ],
  forms: [
    id("Good", ["goods"], { needed: true, fixed: true, blank: "leaves" }),
    { ...code, needed: true, blank: "leaves" },
    id("Marks", ["marks"], { list: true }),
    ...sold,
    rank,
  ],
};

export const lists: Readonly<Record<string, readonly Column[]>> = {
  amounts: [
    { name: "Sort", read: oneOf("price", "was", "cost", "offer"), key: true, needed: true },
    {
      name: "From",
      key: true,
      read: (text) => {
        const from = whole(text);
        if (Number(from) < 2) throw new Refusal("cell");
        return from;
      },
    },
    id("Circle", ["circles"], { key: true }),
    { name: "Begins", read: matching(/^\d{4}-\d{2}-\d{2}$/), key: true },
    { name: "Ends", read: matching(/^\d{4}-\d{2}-\d{2}$/), key: true },
    { name: "Per", read: oneOf("day", "week"), key: true },
    { name: "Amount", read: money, needed: true },
  ],
  sights: [
    { name: "Picture", read: upTo(200), key: true, needed: true },
    { name: "Role", read: upTo(20) },
    { name: "Place", read: whole },
    { name: "Says", read: upTo(200) },
    yesNo("Hidden", "clears"),
  ],
  stocks: [
    { name: "Store", read: upTo(40), key: true, needed: true },
    { name: "Count", read: whole, needed: true },
    { name: "Order at", read: whole },
    { name: "Order to", read: whole },
  ],
  parts: [
    id("Part", ["goods", "forms"], { key: true, needed: true }),
    {
      name: "Count",
      needed: true,
      read: (text) => {
        const count = whole(text);
        if (count === "0") throw new Refusal("cell");
        return count;
      },
    },
  ],
  ties: [{ name: "Sort", read: upTo(40), key: true, needed: true }, id("Good", ["goods"], { key: true, needed: true })],
};

/** Registers whose ids the report of an import tells. */
export const toldInReport: ReadonlySet<string> = new Set(["branches", "makers", "circles", "scales", "extras"]);
export const languages: readonly string[] = ["de", "fr", "ja", "ar"];
export const words: readonly Column[] = [
  { name: "Title", read: upTo(120), blank: "leaves" },
  { name: "Text", read: upTo(4000, "too-long"), blank: "leaves" },
];
export const readTag = (text: string): string => {
  if (characters(text) > 60) throw new Refusal("cell");
  return text;
};
