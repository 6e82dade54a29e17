/** Entries of records, as they are compared: what tells them apart, and each in one line. */

import { referenceFields, targetsOf, type ResolvedCatalogue } from "../catalogue/catalogue.js";
import type { ReadonlyTable } from "../catalogue/readonly-table.js";
import { TargetsRead } from "../catalogue/targets-read.js";
import { entryKeyOf, fieldOf } from "../kind.js";
import { none, type Correspondence } from "../match/correspondence.js";
import { counted, type Comparing } from "./comparing.js";

/** What tells the entries of a record apart, as texts that are the same for entries that correspond. */
export interface EntryTexts {
  /** By field of their key. */
  readonly parts: readonly ((entry: number) => string)[];
  /** All of them as one. */
  readonly whole: (entry: number) => string;
}

/** How to read them of the entries of a table. @param side the catalogue that the table is of. */
export function entryTexts(
  matched: Correspondence,
  table: ReadonlyTable,
  side: "own" | "other",
  comparingOf: (field: string) => Comparing,
): EntryTexts {
  const both = [matched.own.table(table.name), matched.other.table(table.name)];
  // What no entry has tells none apart.
  const used = entryKeyOf(table.kind).filter((name) =>
    both.some(({ texts, references }) => texts.has(name) || references.has(name)),
  );
  const fields = used.map((name) => {
    const reference = fieldOf(table.kind, name)?.reference;
    if (!reference) {
      const column = table.textsOf(name);
      const comparing = comparingOf(name);
      return (entry: number) => counted(column.get(entry) ?? "", comparing);
    }
    const targets = new TargetsRead(matched[side], table, name);
    return (entry: number) => {
      if (targets.read(entry) === 0) return "";
      const row = targets.targets[0]!;
      // Records are called by their rows in the other catalogue; what is not there is called by its own.
      const there = side === "own" ? matched.otherOf(reference.to, row) : row;
      return there === none ? `own ${row}` : String(there);
    };
  });
  const [only, ...others] = fields;
  if (only && others.length === 0) return { parts: fields, whole: only };
  const whole = (entry: number): string => {
    let all = "";
    // With its length before it, no text can be taken for two.
    for (const read of fields) {
      const text = read(entry);
      all += `${text.length} ${text}`;
    }
    return all;
  };
  return { parts: fields, whole };
}

/** Entries of two records: those that correspond, and those that only one of them has. */
export interface PairedEntries {
  readonly pairs: readonly { readonly own: number; readonly other: number }[];
  readonly onlyOwn: readonly number[];
  readonly onlyOther: readonly number[];
}

/** Lists up to this length are gone through; longer ones are looked up. */
const few = 8;

/** Pairs entries by their texts; of several with one text each goes with one, in their order. */
export function pairEntries(
  own: ArrayLike<number>,
  other: ArrayLike<number>,
  textOf: (entry: number) => string,
  textOfOther: (entry: number) => string,
): PairedEntries {
  const firstOpen =
    own.length <= few && other.length <= few ? searching(other, textOfOther) : lookingUp(other, textOfOther);
  const pairs: { readonly own: number; readonly other: number }[] = [];
  const onlyOwn: number[] = [];
  const isPaired = new Uint8Array(other.length);
  for (let at = 0; at < own.length; at++) {
    const place = firstOpen(textOf(own[at]!));
    if (place < 0) onlyOwn.push(own[at]!);
    else {
      pairs.push({ own: own[at]!, other: other[place]! });
      isPaired[place] = 1;
    }
  }
  const onlyOther = Array.from(other).filter((_, at) => isPaired[at] === 0);
  return { pairs, onlyOwn, onlyOther };
}

/** Whether two records have entries with the same texts in the same order, as nearly all have. */
export function areAlike(
  own: ArrayLike<number>,
  other: ArrayLike<number>,
  texts: EntryTexts,
  textsOfOther: EntryTexts,
): boolean {
  if (own.length !== other.length) return false;
  const { parts } = textsOfOther;
  for (let nth = 0; nth < parts.length; nth++) {
    const [part, partOfOther] = [texts.parts[nth]!, parts[nth]!];
    for (let at = 0; at < own.length; at++) if (part(own[at]!) !== partOfOther(other[at]!)) return false;
  }
  return true;
}

/** Gives the place of the first entry with a text that was not given before, -1 where there is none. */
type FirstOpen = (text: string) => number;

function searching(entries: ArrayLike<number>, textOf: (entry: number) => string): FirstOpen {
  const open: (string | undefined)[] = Array.from(entries, textOf);
  return (text) => {
    const place = open.indexOf(text);
    if (place >= 0) open[place] = undefined;
    return place;
  };
}

function lookingUp(entries: ArrayLike<number>, textOf: (entry: number) => string): FirstOpen {
  const open = new Map<string, { readonly places: number[]; next: number }>();
  for (let place = 0; place < entries.length; place++) {
    const text = textOf(entries[place]!);
    const known = open.get(text);
    if (known) known.places.push(place);
    else open.set(text, { places: [place], next: 0 });
  }
  return (text) => {
    const known = open.get(text);
    return known?.places[known.next++] ?? -1;
  };
}

/** An entry in one line: its fields with their values. */
export function describedEntry(catalogue: ResolvedCatalogue, table: ReadonlyTable, entry: number): string {
  const texts = [...table.texts].flatMap(([field, column]) => {
    const cell = column.get(entry);
    return typeof cell === "string" ? [`${field} ${cell}`] : [];
  });
  const references = referenceFields(table.kind).flatMap(({ name, to }) =>
    targetsOf(catalogue, table, name, entry).map((row) => `${name} ${catalogue.table(to).key(row)}`),
  );
  return [...texts, ...references].sort().join(", ");
}
