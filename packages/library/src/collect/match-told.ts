/** Which of the records that a report or an export tells ids of is which of those that were uploaded, by the ways that the target names. */

import { targetsOf, type ResolvedCatalogue } from "../catalogue/catalogue.js";
import type { ReadonlyTable } from "../catalogue/readonly-table.js";
import { entryOf, firstOf, present } from "../checked.js";
import { finding, type Findings } from "../findings/finding.js";
import type { Location } from "../location.js";
import type { Lang } from "../nominal.js";
import { added } from "../lists.js";

/** An id, and where it stands. */
export interface ToldId {
  readonly id: string;
  readonly at: Location;
}

export interface ToldRecords {
  readonly catalogue: ResolvedCatalogue;
  /** What the report or the export was read into. */
  readonly told: ResolvedCatalogue;
  readonly kind: string;
  /** Of names. */
  readonly lang: Lang;
  readonly ways: readonly ("key" | "code" | "name" | "path")[];
  /** The rows of the records whose ids are asked for. */
  readonly wanted: readonly number[];
  /** Whether an id may be that of one of them. */
  readonly isOpen: (id: string) => boolean;
  readonly findings: Findings;
}

/** @returns the ids by row, and the rows that it does not tell of. What may be several is a finding. */
export function matchTold({ catalogue, told, kind, lang, ways, wanted, isOpen, findings }: ToldRecords): {
  readonly found: ReadonlyMap<number, ToldId>;
  readonly left: readonly number[];
} {
  const [table, exported] = [catalogue.table(kind), told.table(kind)];
  const matched = new Map<number, ToldId>();
  let open = wanted;
  for (const by of ways) {
    const names = new Map<string, number[]>();
    const wordOf = namesBy(by, lang);
    for (let row = 0; row < exported.size; row++) {
      const id = exported.text("id", row);
      const word = typeof id === "string" && isOpen(id) ? wordOf(told, exported, row) : undefined;
      if (word !== undefined) names.set(word, added(names.get(word), row));
    }
    const own = new Map<string, number[]>();
    for (const row of open) {
      const word = wordOf(catalogue, table, row);
      if (word !== undefined) own.set(word, added(own.get(word), row));
    }
    const left: number[] = [];
    for (const row of open) {
      const word = wordOf(catalogue, table, row);
      const found = word === undefined ? [] : (names.get(word) ?? []);
      const isOne = found.length === 1 && entryOf(own, present(word)).length === 1;
      if (isOne) {
        const there = firstOf(found);
        matched.set(row, { id: present(exported.text("id", there)), at: told.location(exported, there) });
      } else if (found.length > 0) {
        const ids = found.map((one) => exported.text("id", one) ?? "");
        const facts = { kind, by, word: present(word), ids };
        findings.add(finding("collect/ambiguous", facts, catalogue.location(table, row)));
      } else left.push(row);
    }
    open = left;
  }
  return { found: matched, left: open };
}

type WordOf = (catalogue: ResolvedCatalogue, table: ReadonlyTable, row: number) => string | undefined;

function namesBy(by: "key" | "code" | "name" | "path", lang: Lang): WordOf {
  if (by === "key") return (_, table, row) => table.key(row);
  if (by === "code") return (_, table, row) => table.text("code", row) ?? undefined;
  const named: WordOf = (catalogue, table, row) => {
    const name = table.text(`name@${lang}`, row);
    if (typeof name !== "string") return undefined;
    const { of } = table.kind;
    const above = of === undefined || table.parent(row) < 0 ? "" : catalogue.table(of).key(table.parent(row));
    return JSON.stringify([above, name]);
  };
  if (by === "name") return named;
  return (catalogue, table, row) => {
    const names: string[] = [];
    for (
      let at: number | undefined = row;
      at !== undefined && names.length < 100;
      at = targetsOf(catalogue, table, "parent", at)[0]
    )
      names.unshift(table.text(`name@${lang}`, at) ?? "");
    return JSON.stringify(names);
  };
}
