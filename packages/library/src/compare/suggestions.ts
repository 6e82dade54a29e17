/** Records that nothing has paired, and whose names are alike: the specialist says whether they are the same. */

import { referenceFields, targetsOf } from "../catalogue/catalogue.js";
import type { ReadonlyTable } from "../catalogue/readonly-table.js";
import { splitLanguage } from "../field-name.js";
import { compareText } from "../location.js";
import type { Correspondence } from "../match/correspondence.js";
import type { Unmatched } from "./differences.js";
import { rowsByKind, type NewRecords } from "./collisions.js";
import { saidDifferent, type Pair } from "./pairs.js";

/** Pairs that may be the same, of records that nothing else has paired. */
export function suggestedPairs({
  sides,
  pairs,
  onlyOwn,
  onlyThere,
}: NewRecords & { readonly onlyThere: readonly Unmatched[] }): Pair[] {
  const isDifferent = saidDifferent(pairs);
  const strange = rowsByKind(onlyThere);
  return [...rowsByKind(onlyOwn)].flatMap(([kind, rows]) => {
    if (sides.own.kinds.get(kind).of !== undefined) return [];
    return suggestions(sides.matched, kind, rows, strange.get(kind) ?? []).filter((pair) => !isDifferent(pair));
  });
}

const least = 0.6;
const mostPerWord = 200;
const nameParts = (name: string): string[] => name.toLowerCase().match(/[\p{L}\p{N}]+/gu) ?? [];

/** The first name of a record, in whatever language. */
function namesIn(table: ReadonlyTable): (row: number) => string {
  const columns = [...table.texts].flatMap(([field, column]) => (splitLanguage(field).name === "name" ? [column] : []));
  return (row) => columns.map((column) => column.get(row)).find((name) => name) ?? "";
}

/** Pairs whose names are alike, for records that nothing else has paired. Each record is suggested once. @param yours rows of both sides. */
function suggestions(
  matched: Correspondence,
  kind: string,
  yours: readonly number[],
  platforms: readonly number[],
): Pair[] {
  const [own, there] = [matched.own.table(kind), matched.other.table(kind)];
  const [nameOf, nameThere] = [namesIn(own), namesIn(there)];
  const byWord = new Map<string, number[]>();
  for (const row of platforms)
    for (const word of new Set(nameParts(nameThere(row)))) {
      const known = byWord.get(word);
      if (known) known.push(row);
      else byWord.set(word, [row]);
    }
  const scored: { readonly pair: Pair; readonly score: number }[] = [];
  for (const row of yours) {
    const words = new Set(nameParts(nameOf(row)));
    const shared = new Map<number, number>();
    for (const word of words) {
      const rows = byWord.get(word) ?? [];
      if (rows.length <= mostPerWord) for (const other of rows) shared.set(other, (shared.get(other) ?? 0) + 1);
    }
    for (const [other, count] of shared) {
      const score = (2 * count) / (words.size + new Set(nameParts(nameThere(other))).size);
      if (score < least) continue;
      const also = sharedReferences(matched, kind, row, other);
      const alike = score === 1 ? "the same words in the name" : `names alike: ${nameOf(row)}, ${nameThere(other)}`;
      const why = `${alike}${also.length > 0 ? `; the same ${also.join(", ")}` : ""}`;
      const pair = { kind, yours: own.key(row), platforms: there.key(other), why };
      scored.push({ pair, score: score + also.length / 10 });
    }
  }
  scored.sort(
    (a, b) =>
      b.score - a.score || compareText(a.pair.yours, b.pair.yours) || compareText(a.pair.platforms, b.pair.platforms),
  );
  const taken = new Set<string>();
  return scored.flatMap(({ pair }) => {
    const [one, other] = [`yours ${pair.yours}`, `platform ${pair.platforms}`];
    if (taken.has(one) || taken.has(other)) return [];
    taken.add(one).add(other);
    return [pair];
  });
}

/** The fields in which both lead to the same records: a brand, categories. */
function sharedReferences(matched: Correspondence, kind: string, row: number, other: number): string[] {
  const [own, there] = [matched.own.table(kind), matched.other.table(kind)];
  return referenceFields(own.kind).flatMap(({ name, to }) => {
    const rows = targetsOf(matched.own, own, name, row);
    const others = targetsOf(matched.other, there, name, other);
    const isSame = rows.length === others.length && rows.every((one, at) => matched.otherOf(to, one) === others[at]);
    return rows.length > 0 && isSame ? [name] : [];
  });
}
