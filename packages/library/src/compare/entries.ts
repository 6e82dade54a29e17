/** Entries of records, as they are compared: what tells them apart, and each in one line. */

import { referenceFields, targetsOf, type ResolvedCatalogue } from "../catalogue/catalogue.js";
import type { ReadonlyTable } from "../catalogue/readonly-table.js";
import { entryKeyOf, fieldOf } from "../kind.js";
import { none, type Correspondence } from "../match/correspondence.js";
import { counted, type Comparing } from "./comparing.js";

/** What tells the entries of a record apart, as one text that is the same for entries that correspond. */
export function entryTexts(
  matched: Correspondence,
  table: ReadonlyTable,
  side: "own" | "other",
  comparingOf: (field: string) => Comparing,
): (entry: number) => string {
  const fields = entryKeyOf(table.kind).map((name) => {
    const reference = fieldOf(table.kind, name)?.reference;
    if (!reference) {
      const column = table.textsOf(name);
      const comparing = comparingOf(name);
      return (entry: number) => counted(column.get(entry) ?? "", comparing);
    }
    return (entry: number) => {
      const [row = none] = targetsOf(matched[side], table, name, entry);
      if (row === none) return "";
      // Records are called by their rows in the other catalogue; what is not there is called by its own.
      const there = side === "own" ? matched.otherOf(reference.to, row) : row;
      return there === none ? `own ${row}` : String(there);
    };
  });
  return (entry) => JSON.stringify(fields.map((read) => read(entry)));
}

/** Entries of two records: those that correspond, and those that only one of them has. */
export interface PairedEntries {
  readonly pairs: readonly { readonly own: number; readonly other: number }[];
  readonly onlyOwn: readonly number[];
  readonly onlyOther: readonly number[];
}

/** Pairs entries by their texts; of several with one text each goes with one, in their order. */
export function pairEntries(
  own: Iterable<number>,
  other: Iterable<number>,
  textOf: (entry: number) => string,
  textOfOther: (entry: number) => string,
): PairedEntries {
  const waiting = new Map<string, { readonly entries: number[]; next: number }>();
  for (const entry of other) {
    const text = textOfOther(entry);
    const known = waiting.get(text);
    if (known) known.entries.push(entry);
    else waiting.set(text, { entries: [entry], next: 0 });
  }
  const pairs: { readonly own: number; readonly other: number }[] = [];
  const onlyOwn: number[] = [];
  for (const entry of own) {
    const known = waiting.get(textOf(entry));
    const there = known?.entries[known.next];
    if (!known || there === undefined) onlyOwn.push(entry);
    else {
      pairs.push({ own: entry, other: there });
      known.next++;
    }
  }
  return { pairs, onlyOwn, onlyOther: [...waiting.values()].flatMap(({ entries, next }) => entries.slice(next)) };
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
