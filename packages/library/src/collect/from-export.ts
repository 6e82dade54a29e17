/** Ids that only an export tells: its records are matched with those that were uploaded. */

import { entryOf, firstOf, present } from "../checked.js";
import { Catalogue, targetsOf, type ReadonlyCatalogue, type ResolvedCatalogue } from "../catalogue/catalogue.js";
import type { ReadonlyTable } from "../catalogue/readonly-table.js";
import { finding, Findings } from "../findings/finding.js";
import type { Lang } from "../nominal.js";
import type { UploadStep } from "../plan/plan.js";
import { resolveReferences } from "../resolve/resolve.js";
import type { TargetFile } from "../target/target.js";
import { learn, type Collecting, type Counts } from "./collecting.js";
import type { AcceptedRows } from "./taken.js";

/** Ids that only an export tells: its records matched with those that were uploaded. */
export async function collectExport(
  input: Collecting,
  file: TargetFile,
  steps: readonly UploadStep[],
  taken: ReadonlyMap<UploadStep, AcceptedRows>,
  counts: Counts,
): Promise<void> {
  const { catalogue, findings, others, ledger, kinds, readExport } = input;
  const { layout, matchedBy } = present(file.ids);
  const kind = present(layout).shape.parent.name;
  const wanted = [
    ...new Set(
      steps
        .flatMap((step) => step.places.map((location) => ({ ...location, taken: taken.get(step)?.get(kind) })))
        .flatMap((location) =>
          location.kind === kind && !location.update ? location.records.filter((row) => location.taken?.has(row)) : [],
        ),
    ),
  ].filter((row) => !ledger.has(kind, catalogue.table(kind).key(row)));
  if (wanted.length === 0) return;
  const unresolved = new Catalogue(kinds);
  seedContainers(unresolved, catalogue, kind);
  if (!(await readExport(file, present(layout), unresolved, others))) {
    findings.add(finding("collect/no-export", { kind }, { file: present(file.ids).endpoint ?? file.name }));
    return;
  }
  // A parent is looked up among the export's own records; what is wrong with others of its references does not matter here.
  const exportedCatalogue = resolveReferences(unresolved, new Findings(0)).catalogue;
  const exported = exportedCatalogue.table(kind);
  const known = new Set<string>();
  const table = catalogue.table(kind);
  for (let row = 0; row < table.size; row++) {
    const id = ledger.id(kind, table.key(row));
    if (id !== undefined) known.add(id);
  }
  let open = wanted;
  for (const by of matchedBy) {
    const names = new Map<string, number[]>();
    const wordOf = namesBy(by, present(layout).language);
    for (let row = 0; row < exported.size; row++) {
      const id = exported.text("id", row);
      const word = typeof id === "string" && !known.has(id) ? wordOf(exportedCatalogue, exported, row) : undefined;
      if (word !== undefined) names.set(word, [...(names.get(word) ?? []), row]);
    }
    const own = new Map<string, number[]>();
    for (const row of open) {
      const word = wordOf(catalogue, table, row);
      if (word !== undefined) own.set(word, [...(own.get(word) ?? []), row]);
    }
    const left: number[] = [];
    for (const row of open) {
      const word = wordOf(catalogue, table, row);
      const found = word === undefined ? [] : (names.get(word) ?? []);
      const isOne = found.length === 1 && entryOf(own, present(word)).length === 1;
      if (isOne)
        learn(
          input,
          kind,
          row,
          present(exported.text("id", firstOf(found))),
          exportedCatalogue.location(exported, firstOf(found)),
          counts,
        );
      else if (found.length > 0) {
        const ids = found.map((one) => exported.text("id", one) ?? "");
        findings.add(
          finding("collect/ambiguous", { kind, by, word: present(word), ids }, catalogue.location(table, row)),
        );
      } else left.push(row);
    }
    open = left;
  }
  for (const row of open)
    findings.add(finding("collect/not-there", { kind, ways: matchedBy }, catalogue.location(table, row)));
}

/** What contains the records of an export is named in it by ids, which are known by now. */
function seedContainers(into: Catalogue, from: ReadonlyCatalogue, kind: string): void {
  const of = from.kinds.get(kind).of;
  if (of === undefined) return;
  const [table, copy] = [from.table(of), into.table(of)];
  into.sheets.push({ file: "", headers: new Map(), precedence: 0 });
  for (let row = 0; row < table.size; row++) {
    copy.append(0, 0);
    copy.nameRecord(row, table.key(row));
    copy.setText("id", row, table.text("id", row));
  }
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
