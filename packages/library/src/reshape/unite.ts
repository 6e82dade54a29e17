/** A record becomes part of another of its kind: what it says where the other is blank, what it contains, and what led to it. */

import { targetsOf } from "../catalogue/catalogue.js";
import { entryKeyOf } from "../kind.js";
import { setTargets } from "./records.js";
import type { Work } from "./work.js";

/** Where both have a value, the survivor's stays. Lists of records are joined; of contained records with the same name, the survivor's stays. */
export function uniteInto(work: Work, kind: string, row: number, survivor: number): void {
  const { catalogue } = work;
  uniteFields(work, kind, row, survivor);
  const child = catalogue.kinds.childOf(kind);
  if (child) {
    const own = catalogue.table(child.name);
    const nameOf = (one: number) => own.text(`name@${work.source}`, one);
    for (const one of [...own.childrenOf(row)]) {
      const same = [...own.childrenOf(survivor)].find((other) => nameOf(other) === nameOf(one));
      if (same === undefined) own.reparent(one, survivor);
      else {
        uniteFields(work, child.name, one, same);
        work.drop(child.name, one, same);
      }
    }
  }
  work.drop(kind, row, survivor);
}

function uniteFields(work: Work, kind: string, row: number, survivor: number): void {
  const { catalogue } = work;
  const table = catalogue.table(kind);
  for (const field of [...table.texts.keys()]) {
    const [lost, kept] = [table.text(field, row) ?? "", table.text(field, survivor) ?? ""];
    if (lost === "" || lost === kept) continue;
    if (kept === "" && field !== "id" && field !== "position") table.setText(field, survivor, lost);
    else work.sets(kind, survivor, field);
  }
  for (const { name, reference } of table.kind.fields) {
    if (!reference || !table.references.has(name)) continue;
    const [lost, kept] = [targetsOf(catalogue, table, name, row), targetsOf(catalogue, table, name, survivor)];
    if (reference.list && lost.length > 0) setTargets(catalogue, table, name, survivor, [...kept, ...lost]);
    else if (lost.some((one) => !kept.includes(one))) work.sets(kind, survivor, name);
  }
  for (const collection of Object.keys(table.kind.entries ?? {})) {
    const entries = catalogue.table(`${kind}.${collection}`);
    const keyOf = (entry: number) =>
      JSON.stringify(
        entryKeyOf(entries.kind).map((field) =>
          entries.references.has(field)
            ? targetsOf(catalogue, entries, field, entry)
            : (entries.text(field, entry) ?? ""),
        ),
      );
    const there = new Set([...entries.childrenOf(survivor)].map(keyOf));
    for (const entry of [...entries.childrenOf(row)])
      if (there.has(keyOf(entry))) work.sets(kind, survivor, collection);
      else entries.reparent(entry, survivor);
  }
}
