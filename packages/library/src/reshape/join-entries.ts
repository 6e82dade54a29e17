/** Products that become one: their entries stand in one list. */

import { entryKeyOf } from "../kind.js";
import { targetsOf } from "../catalogue/catalogue.js";
import type { Table } from "../catalogue/table.js";
import { phrase } from "../phrases/phrase.js";
import { copyEntry } from "./records.js";
import { sellableParts } from "./sellable-parts.js";
import { winnerOf, type Settling } from "./settle-fields.js";
import type { Work } from "./work.js";

/**
 * Entries that no variant takes over: properties, redirects, and those of fields of the project's own. Entries with the same key are one;
 * where they differ, `take: { properties(Wood): KEY }` chooses.
 */
export function joinEntries(work: Work, settling: Settling): void {
  const { kinds } = work.catalogue;
  const others = new Set([...sellableParts(kinds).entries, "pictures", "relations"]);
  const seen = new Set<string>();
  for (const collection of Object.keys(kinds.get("product").entries ?? {}))
    if (!others.has(collection)) joinCollection(work, settling, collection, seen);
  for (const field of settling.take.keys())
    if (propertyIn(field) !== undefined && !seen.has(field)) work.refuse(phrase("none of the products has {0}", field));
}

/** The property of `properties(Wood)`. */
export const propertyIn = (field: string): string | undefined => /^properties\(([^)]+)\)$/.exec(field)?.[1];

function joinCollection(work: Work, settling: Settling, collection: string, seen: Set<string>): void {
  const table = work.catalogue.table(`product.${collection}`);
  const { originals, survivor } = settling;
  const byKey = new Map<string, (number | undefined)[]>();
  originals.forEach((row, place) => {
    for (const entry of table.childrenOf(row)) {
      const key = keyOfEntry(work, table, entry);
      const entries = byKey.get(key) ?? originals.map(() => undefined);
      entries[place] ??= entry;
      byKey.set(key, entries);
    }
  });
  for (const entries of byKey.values()) {
    const one = entries.find((entry) => entry !== undefined)!;
    const field = `${collection}(${nameOfEntry(work, table, one)})`;
    seen.add(field);
    const texts = entries.map((entry) => (entry === undefined ? "" : contentOfEntry(work, table, entry)));
    const winner = entries[winnerOf(work, settling, field, texts) ?? 0];
    for (const entry of entries) if (entry !== undefined && entry !== winner) table.reparent(entry, -1);
    if (winner === undefined || table.parent(winner) === survivor) continue;
    copyEntry(table, winner, table, survivor);
    table.reparent(winner, -1);
  }
}

/** Relations are the survivor's now; those among the products are gone. */
export function joinRelations({ catalogue }: Work, { originals, survivor }: Settling): void {
  const relations = catalogue.table("product.relations");
  const seen = new Set<string>();
  const nameOf = (entry: number) =>
    JSON.stringify([
      relations.text("name", entry),
      relations.text("language", entry),
      targetsOf(catalogue, relations, "to", entry),
    ]);
  for (const row of [survivor, ...originals.filter((one) => one !== survivor)])
    for (const entry of [...relations.childrenOf(row)]) {
      const leadsToItself = targetsOf(catalogue, relations, "to", entry).some((to) => originals.includes(to));
      if (leadsToItself) {
        relations.reparent(entry, -1);
        continue;
      }
      const name = nameOf(entry);
      if (row !== survivor && !seen.has(name)) copyEntry(relations, entry, relations, survivor);
      seen.add(name);
    }
}

/** One run of pictures; what shows the same is kept once. */
export function joinPictures(work: Work, { originals, survivor }: Settling): void {
  const table = work.catalogue.table("product.pictures");
  const seen = new Set<string>();
  let position = 0;
  for (const row of [survivor, ...originals.filter((one) => one !== survivor)])
    for (const entry of [...table.childrenOf(row)]) {
      const file = table.text("file", entry);
      if (typeof file !== "string") continue;
      const content = work.contentOf(file);
      if (seen.has(content)) {
        work.leaveOutPicture(file);
        table.reparent(entry, -1);
        continue;
      }
      seen.add(content);
      const own = row === survivor ? entry : copyEntry(table, entry, table, survivor);
      position++;
      if (table.text("position", own) !== undefined) table.setText("position", own, String(position));
    }
}

const referred = (work: Work, table: Table, field: string, entry: number): readonly number[] =>
  table.references.has(field) ? targetsOf(work.catalogue, table, field, entry) : [];

function keyOfEntry(work: Work, table: Table, entry: number): string {
  return JSON.stringify(
    entryKeyOf(table.kind).map((field) => [table.text(field, entry) ?? null, referred(work, table, field, entry)]),
  );
}

/** What an entry says beside its key. */
function contentOfEntry(work: Work, table: Table, entry: number): string {
  const key = new Set(entryKeyOf(table.kind));
  const texts = [...table.texts.keys()].filter((field) => !key.has(field)).sort();
  const references = [...table.references.keys()].filter((field) => !key.has(field)).sort();
  return JSON.stringify([
    texts.map((field) => table.text(field, entry) ?? null),
    references.map((field) => referred(work, table, field, entry)),
  ]);
}

/** What stands in the parentheses of an entry: the first of its key, a record by its name. */
function nameOfEntry(work: Work, table: Table, entry: number): string {
  const [first = ""] = entryKeyOf(table.kind);
  const [to] = referred(work, table, first, entry);
  if (to === undefined) return table.text(first, entry) ?? "";
  const reference = table.kind.fields.find(({ name }) => name === first)?.reference;
  const records = work.catalogue.table(reference?.to ?? "");
  return records.text(`name@${work.source}`, to) ?? records.key(to);
}
