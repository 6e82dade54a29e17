/** Leaves out the rows that would change nothing: each is played on a simulated platform that holds what the export tells. */

import { entryOf } from "../checked.js";
import type { ResolvedCatalogue } from "../catalogue/catalogue.js";
import { stepsNow, type PlannedBlock, type PlannedFile, type Step } from "../plan/plan.js";
import { isHeldBack } from "../build/hold-back.js";
import type { Prepared } from "../build/prepare.js";
import { encodeFile, fileRows } from "../build/write-file.js";
import { Findings } from "../findings/finding.js";
import { rehearseFile } from "../rehearse/older/machine.js";
import { rehearseRecords } from "../rehearse/older/record-machine.js";
import { Registers } from "../rehearse/older/registers.js";
import type { Shop } from "../rehearse/older/store.js";
import { playsRecords, type Target, type TargetFile } from "../target/target.js";

/** @param shop what the platform holds; it is changed. @returns the steps; those that wait for ids are as they were. */
export async function withoutIdleRows(
  shop: Shop | Registers,
  { catalogue, target }: { readonly catalogue: ResolvedCatalogue; readonly target: Target },
  prepared: Prepared,
): Promise<Step[]> {
  const isLeftOut = isHeldBack(prepared.heldBack);
  const now = new Set(stepsNow(prepared.plan));
  const steps: Step[] = [];
  for (const step of prepared.plan.steps) {
    if (now.has(step)) setUp(shop, step);
    if (step.is !== "upload" || !now.has(step)) {
      steps.push(step);
      continue;
    }
    const file = entryOf(target.files, step.slot.file);
    const files: PlannedFile[] = [];
    for (const planned of step.files) {
      const made = fileRows(catalogue, file, { blocks: planned.blocks, step, isLeftOut }, new Findings(0));
      const rows = [...made.rows];
      const chunks = await encodeFile(catalogue, file, { ...made, rows }, new Findings(0));
      const played = await playBytes(shop, target, file, catalogue, planned.name, chunks);
      if (played.refused !== undefined || played.rows.length !== rows.length) {
        files.push(planned);
        continue;
      }
      const keeps = keptRows(
        file,
        step.columns,
        rows,
        played.rows.map(({ outcome }) => outcome !== "unchanged"),
      );
      if (keeps.size === 0) continue;
      const outcomes: Record<string, number> = {};
      for (const at of keeps) {
        const { outcome } = played.rows[at]!;
        outcomes[outcome] = (outcomes[outcome] ?? 0) + 1;
      }
      const blocks = keeps.size === rows.length ? planned.blocks : withKept(planned.blocks, rows, keeps);
      files.push({ ...planned, blocks, outcomes });
    }
    if (files.length > 0) steps.push({ ...step, files });
  }
  return steps.filter((step) => step.is !== "test" || steps.some((one) => one.is === "upload"));
}

function setUp(shop: Shop | Registers, step: Step): void {
  if (step.is === "lists" && shop instanceof Registers)
    for (const { name, entries } of step.lists) shop.setUp(name, entries);
  if (step.is === "pictures") for (const name of step.files) shop.pictures.add(name);
}

function playBytes(
  shop: Shop | Registers,
  target: Target,
  file: TargetFile,
  catalogue: ResolvedCatalogue,
  name: string,
  chunks: Iterable<Uint8Array>,
) {
  async function* bytes() {
    yield* chunks;
  }
  return shop instanceof Registers
    ? rehearseRecords(shop, target, file, catalogue.kinds, name, bytes())
    : rehearseFile(shop, target, file, name, bytes());
}

interface Row {
  readonly parent: number;
  readonly child: number;
  readonly cells: readonly string[];
}

/** Which rows stay: those that change something, and those without which these would say something else. */
function keptRows(
  file: TargetFile,
  columns: ReadonlySet<string> | undefined,
  rows: readonly Row[],
  changes: readonly boolean[],
): Set<number> {
  const { importer, layout } = file;
  const keeps = new Set<number>();
  changes.forEach((does, at) => {
    if (does) keeps.add(at);
  });
  if (playsRecords(importer)) return keeps;
  const showsParent = layout.columns.some(
    ({ header, scope }) => scope.is === "parent" && header !== importer["parent by"] && (columns?.has(header) ?? true),
  );
  const changing = new Set(rows.flatMap(({ parent }, at) => (changes[at] ? [parent] : [])));
  const wholes = new Set(rows.flatMap(({ parent, child }, at) => (changes[at] ? [`${parent} ${child}`] : [])));
  rows.forEach(({ parent, child }, at) => {
    const isFirst = at === 0 || rows[at - 1]!.parent !== parent;
    if (changing.has(parent) && showsParent && isFirst) wholes.add(`${parent} ${child}`);
  });
  rows.forEach(({ parent, child }, at) => {
    if (wholes.has(`${parent} ${child}`)) keeps.add(at);
  });
  return keeps;
}

/** Blocks with the numbers, within each, of the rows that are written. */
function withKept(
  blocks: readonly PlannedBlock[],
  rows: readonly (Row & { readonly layout: number })[],
  keeps: ReadonlySet<number>,
): PlannedBlock[] {
  return blocks.map((block) => {
    const own = rows.flatMap((row, at) => (row.layout === block.layout ? [at] : []));
    return { ...block, keeps: new Set(own.flatMap((at, location) => (keeps.has(at) ? [location] : []))) };
  });
}
