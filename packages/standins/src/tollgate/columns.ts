/** The columns of a Tollgate sheet, in their order (description, section 3). As data. */

import * as read from "./cells.js";

export const languages = ["EN", "DE", "FR", "JA", "AR"] as const;
export const storePlaces = ["Barn", "Mill"] as const;

export interface RangeColumn {
  readonly name: string;
  readonly level: "both" | "A" | "V";
  readonly read: (text: string) => unknown;
  readonly needed?: boolean;
  /** What a blank cell comes to. */
  readonly preset?: unknown;
}

const inEach = (word: string, most: number): RangeColumn[] =>
  languages.map((lang) => ({
    name: `${word} ${lang}`,
    level: "A",
    read: read.upTo(most),
    needed: word === "Name" && lang === "EN",
  }));
const numbered = (word: string, level: "A" | "V", most: number): RangeColumn[] =>
  [1, 2, 3].map((n) => ({ name: `${word} ${n}`, level, read: read.upTo(most) }));
const money = (name: string, needed = false): RangeColumn => ({ name, level: "V", read: read.money, needed });

export const table: readonly RangeColumn[] = [
  { name: "Line", level: "both", read: read.oneOf("A", "V"), needed: true },
  { name: "Number", level: "both", read: read.upTo(40), needed: true },
  { name: "Code", level: "both", read: read.code },
  ...inEach("Name", 100),
  ...inEach("Text", 3000),
  { name: "Section", level: "A", read: read.sections, preset: [] },
  { name: "Maker", level: "A", read: read.upTo(1000) },
  { name: "Sort", level: "A", read: read.oneOf("G", "S", "D", "R"), preset: "G" },
  { name: "Options", level: "A", read: read.options, preset: [] },
  ...numbered("Feature", "A", 40),
  { name: "Pictures", level: "A", read: read.list, preset: [] },
  { name: "Picture texts", level: "A", read: read.texts },
  { name: "Goes with", level: "A", read: read.list, preset: [] },
  { name: "Spares", level: "A", read: read.list, preset: [] },
  { name: "On sale", level: "A", read: (text) => read.oneOf("0", "1")(text) === "1", preset: false },
  ...numbered("Is", "V", 60),
  { name: "State", level: "V", read: read.oneOf("A", "P", "E"), preset: "A" },
  { name: "Owed", level: "V", read: read.oneOf("N", "Y", "T"), preset: "N" },
  money("Price", true),
  money("Was"),
  money("Cost"),
  money("Day"),
  money("Week"),
  { name: "Steps", level: "V", read: read.steps, preset: [] },
  { name: "Tax", level: "V", read: read.upTo(1000) },
  { name: "Unit", level: "V", read: read.upTo(1000) },
  { name: "Least", level: "V", read: read.whole(1) },
  { name: "Most", level: "V", read: read.whole(1) },
  { name: "Weight", level: "V", read: read.weight },
  { name: "Barcode", level: "V", read: read.barcode },
  { name: "Supplied by", level: "V", read: read.supplies, preset: [] },
  { name: "Parts", level: "V", read: read.components, preset: [] },
  ...storePlaces.map((place): RangeColumn => ({ name: `Stock ${place}`, level: "V", read: read.whole(0) })),
];

export const columns: readonly string[] = table.map((column) => column.name);
