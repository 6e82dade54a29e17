/** The files of Saltmarsh: which columns each has, and what their cells may hold (description, sections 1 to 5). As data. */

import { characters, isBarcode, plainNumber } from "../common/barcode.js";
import { Refusal } from "../common/refusal.js";

export type Blank = "clears" | "leaves";

export interface TableColumn {
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
  /** On a new record: what a blank cell comes to, from the record's title. */
  readonly made?: (title: string) => string;
  /** In words: the registers that may be told it; any, if left out. */
  readonly of?: readonly string[];
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
const oneOf = (...allowed: string[]) => matching(new RegExp(`^(${allowed.join("|")})$`));
const whole = number(/^\d{1,9}$/);
const money = number(/^\d{1,9}(\.\d{1,2})?$/);
const idWord = matching(/^\d{5,8}$/, "unknown-id");

/** A path made from a title (description, section 3). */
function pathOf(title: string): string {
  const parts = title.replace(/[A-Z]/g, (letter) => letter.toLowerCase()).match(/[a-z0-9]+/g) ?? [];
  return parts.join("-").slice(0, 80) || "-";
}

const title: TableColumn = { name: "Title", read: upTo(120), needed: true, blank: "leaves" };
const rank: TableColumn = { name: "Rank", read: number(/^\d{1,4}$/) };
const yesNo = (name: string, blank: Blank): TableColumn => ({ name, read: oneOf("yes", "no"), blank, preset: "no" });
const id = (name: string, refersTo: readonly string[], more: Partial<TableColumn> = {}): TableColumn => ({
  name,
  read: idWord,
  refersTo,
  ...more,
});
const seeks: readonly TableColumn[] = [
  { name: "Seek title", read: upTo(70, "too-long"), of: ["goods", "branches"] },
  { name: "Seek text", read: upTo(160, "too-long"), of: ["goods", "branches"] },
];
const oldPath = matching(/^[a-z0-9-]{1,80}$/);
const addressColumns: readonly TableColumn[] = [
  { name: "Path", read: oldPath, blank: "leaves", made: pathOf },
  ...seeks,
  id("Circles", ["circles"], { list: true }),
];
const measure = number(/^\d{1,9}(\.\d)?$/);
const fromOne = (text: string): string => {
  const count = whole(text);
  if (count === "0") throw new Refusal("cell");
  return count;
};
const sold: readonly TableColumn[] = [
  { name: "Weight", read: number(/^\d{1,9}(\.\d{1,3})?$/) },
  {
    name: "Barcode",
    read: (text) => {
      if (!isBarcode(text)) throw new Refusal("barcode");
      return text;
    },
  },
  { name: "State", read: oneOf("on", "rest", "gone"), preset: "on" },
  { name: "Long", read: measure },
  { name: "Wide", read: measure },
  { name: "High", read: measure },
  { name: "Step", read: fromOne },
];
const code: TableColumn = { name: "Code", read: matching(/^[A-Za-z0-9._-]{1,40}$/) };

export const registers: Readonly<Record<string, readonly TableColumn[]>> = {
  branches: [title, id("Under", ["branches"]), rank, yesNo("Open", "leaves"), ...addressColumns],
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
  clusters: [title, rank],
  traits: [
    title,
    id("Cluster", ["clusters"]),
    { name: "Sort", read: oneOf("words", "number", "yesno", "day"), preset: "words" },
    { name: "In", read: upTo(20) },
    rank,
  ],
  baskets: [title, id("Goods", ["goods"], { list: true }), rank],
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
    ...addressColumns,
  ],
  forms: [
    id("Good", ["goods"], { needed: true, fixed: true, blank: "leaves" }),
    { ...code, needed: true, blank: "leaves" },
    id("Marks", ["marks"], { list: true }),
    ...sold,
    rank,
  ],
};

export const lists: Readonly<Record<string, readonly TableColumn[]>> = {
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
  parts: [id("Part", ["goods", "forms"], { key: true, needed: true }), { name: "Count", needed: true, read: fromOne }],
  ties: [{ name: "Sort", read: upTo(40), key: true, needed: true }, id("Good", ["goods"], { key: true, needed: true })],
  numbers: [
    { name: "Sort", read: upTo(20), key: true, needed: true },
    { name: "Number", read: upTo(60), needed: true },
  ],
  facts: [id("Trait", ["traits"], { key: true, needed: true }), { name: "Says", read: upTo(200), needed: true }],
  bends: [
    { name: "From", read: oldPath, key: true, needed: true },
    { name: "Lang", read: oneOf("de", "fr", "ja", "ar"), key: true },
  ],
};

/** The registers that a list may belong to; goods and forms, if it is not named here. */
export const owners: Readonly<Record<string, readonly string[]>> = {
  parts: ["goods"],
  ties: ["goods"],
  facts: ["goods"],
  bends: ["goods", "branches"],
};

/** Registers whose ids the report of an import tells. */
export const toldInReport: ReadonlySet<string> = new Set([
  "branches",
  "makers",
  "circles",
  "scales",
  "extras",
  "clusters",
  "traits",
]);
export const languages: readonly string[] = ["de", "fr", "ja", "ar"];
export const textColumns: readonly TableColumn[] = [
  { name: "Title", read: upTo(120), blank: "leaves" },
  { name: "Text", read: upTo(4000, "too-long"), blank: "leaves", of: ["goods"] },
  ...seeks.map((column): TableColumn => ({ ...column, blank: "leaves" })),
];
/** What a row of `stories` tells of a branch, in the language of the row. */
export const story: readonly TableColumn[] = [{ name: "Text", read: upTo(4000, "too-long"), blank: "leaves" }];
export const readStoryLanguage = oneOf("en", ...languages);
export const readTag = (text: string): string => {
  if (characters(text) > 60) throw new Refusal("cell");
  return text;
};
