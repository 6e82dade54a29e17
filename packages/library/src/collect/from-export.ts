/** Ids that only an export tells: its records are matched with those that were uploaded. */

import { present } from "../checked.js";
import { Catalogue, type ReadonlyCatalogue } from "../catalogue/catalogue.js";
import { finding, Findings } from "../findings/finding.js";
import type { UploadStep } from "../plan/plan.js";
import { resolveReferences } from "../resolve/resolve.js";
import type { TargetFile } from "../target/target.js";
import { areIdsNeeded } from "../target/ids-needed.js";
import { confirmTaken, learn, type Collecting, type Counts } from "./collecting.js";
import { matchTold } from "./match-told.js";
import type { AcceptedRows } from "./taken.js";

/** Ids that only an export tells: its records matched with those that were uploaded. */
export async function collectExport(
  input: Collecting,
  file: TargetFile,
  steps: readonly UploadStep[],
  taken: ReadonlyMap<UploadStep, AcceptedRows>,
  counts: Counts,
): Promise<void> {
  const { catalogue, target, findings, others, ledger, kinds, readExport } = input;
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
    // Where nobody asks for the ids, it is enough that the rows were taken.
    if (!areIdsNeeded(target, kind)) confirmTaken(input, kind, wanted, counts);
    else findings.add(finding("collect/no-export", { kind }, { file: present(file.ids).endpoint ?? file.name }));
    return;
  }
  // A parent is looked up among the export's own records; what is wrong with others of its references does not matter here.
  const exportedCatalogue = resolveReferences(unresolved, new Findings(0)).catalogue;
  const known = new Set<string>();
  const table = catalogue.table(kind);
  for (let row = 0; row < table.size; row++) {
    const id = ledger.id(kind, table.key(row));
    if (id !== undefined) known.add(id);
  }
  const { found, left } = matchTold({
    catalogue,
    told: exportedCatalogue,
    kind,
    lang: present(layout).language,
    ways: matchedBy,
    wanted,
    isOpen: (id) => !known.has(id),
    findings,
  });
  for (const [row, { id, at }] of found) learn(input, kind, row, id, at, counts);
  for (const row of left)
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
