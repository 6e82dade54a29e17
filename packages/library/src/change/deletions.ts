/** Records that a change deletes on the platform: which can go, which have to stay, and the files that name them. */

import { referenceFields, targetsOf, type ResolvedCatalogue } from "../catalogue/catalogue.js";
import { bytesBy, measureRows } from "../build/prepare.js";
import type { Cell } from "../catalogue/cell.js";
import { entryOf, firstOf } from "../checked.js";
import { driverOf } from "../formats/drivers/drivers.js";
import { none } from "../match/correspondence.js";
import { phrase, type Text } from "../phrases/phrase.js";
import type { UploadStep } from "../plan/plan.js";
import { deletedKind } from "../target/deleting.js";
import type { Slot } from "../target/slot.js";
import type { Target } from "../target/target.js";
import { splitByLimit } from "./change-steps.js";
import type { ChangeView } from "./views.js";
import { numbersWhere } from "../lists.js";

/** What becomes of records that are to be deleted; each as `kind row`. */
export interface Deletions {
  readonly deleted: ReadonlySet<string>;
  /** No import deletes them, they contain what stays, or what stays names them. */
  readonly kept: ReadonlySet<string>;
}

export const noDeletions: Deletions = { deleted: new Set(), kept: new Set() };

/**
 * Which of some records can be deleted, so that nothing that stays is lost or leads nowhere.
 *
 * @param isThere whether a row is of a record that is on the platform in the end.
 */
export function deletionsOf(
  catalogue: ResolvedCatalogue,
  target: Target,
  candidates: ReadonlySet<string>,
  isThere: (kind: string, row: number) => boolean,
): Deletions {
  if (candidates.size === 0) return noDeletions;
  const deleted = new Set(candidates);
  const stays = (kind: string, row: number) => isThere(kind, row) && !deleted.has(`${kind} ${row}`);
  const isNamed = namedIn(catalogue, target);
  const cannotGo = (kind: string, row: number): boolean => {
    const { of } = catalogue.kinds.get(kind);
    const container = of === undefined ? none : catalogue.table(kind).parent(row);
    const goesAlong = of !== undefined && container >= 0 && deleted.has(`${of} ${container}`);
    if (!goesAlong && !isNamed(kind, row)) return true;
    const child = catalogue.kinds.childOf(kind)?.name;
    return child !== undefined && [...catalogue.table(child).childrenOf(row)].some((one) => stays(child, one));
  };
  // What stays can make others stay: once more, until nothing changes.
  for (let before = -1; before !== deleted.size;) {
    before = deleted.size;
    for (const name of [...deleted]) {
      const [kind, row] = partsOf(name);
      if (cannotGo(kind, row)) deleted.delete(name);
    }
    for (const name of namedBy(catalogue, stays)) deleted.delete(name);
  }
  return { deleted, kept: new Set([...candidates].filter((name) => !deleted.has(name))) };
}

/** Whether a file can name a record that is to be deleted: ids that only the platform knows cannot be written yet. */
function namedIn(catalogue: ResolvedCatalogue, target: Target): (kind: string, row: number) => boolean {
  const fields = new Map<string, readonly (string | undefined)[]>();
  for (const slot of target.deleting) {
    const layout = firstOf(entryOf(target.files, slot.file).layouts);
    const written = layout.columns.filter(({ header }) => slot.columns?.includes(header) ?? true);
    const named = written.flatMap(({ bindings }) =>
      bindings.flatMap(({ feed }) => (feed.is === "key" ? [undefined] : feed.is === "text" ? [feed.field] : [])),
    );
    fields.set(deletedKind(target, slot), named);
  }
  return (kind, row) =>
    fields.get(kind)?.some((field) => field === undefined || isText(catalogue.table(kind).text(field, row))) ?? false;
}

const isText = (cell: Cell): boolean => typeof cell === "string" && cell !== "";

/** All that records which stay refer to, themselves or in an entry. */
function* namedBy(catalogue: ResolvedCatalogue, stays: (kind: string, row: number) => boolean): Generator<string> {
  for (const table of catalogue.tables)
    for (const { name, to } of referenceFields(table.kind))
      for (let row = 0; row < table.size; row++) {
        const { table: of, row: owner } = catalogue.ownerOf(table, row);
        if (owner < 0 || !stays(of.name, owner)) continue;
        for (const one of targetsOf(catalogue, table, name, row)) yield `${to} ${one}`;
      }
}

/** What is needed to delete records. */
export interface DeletingInput {
  readonly target: Target;
  /** The platform as it is before. */
  readonly from: ChangeView;
  readonly deleted: ReadonlySet<string>;
  /** Whether what is deleted is what was made before: to set an upload back. */
  readonly isRollback?: boolean | undefined;
}

/** An upload for each kind of which records are deleted: what names others goes before them. Not numbered yet. */
export function deletingSteps({ target, from, deleted, isRollback = false }: DeletingInput): UploadStep[] {
  const { catalogue } = from;
  if (deleted.size === 0) return [];
  const sizes = bytesBy(measureRows(catalogue, { ...target, slots: target.deleting }));
  return inOrder(target, catalogue).flatMap((slot): UploadStep[] => {
    const kind = deletedKind(target, slot);
    const { of } = catalogue.kinds.get(kind);
    const table = catalogue.table(kind);
    // What is contained in something that is deleted goes along with that.
    const records = numbersWhere(
      table.size,
      (row) => deleted.has(`${kind} ${row}`) && !(of !== undefined && deleted.has(`${of} ${table.parent(row)}`)),
    );
    if (records.length === 0) return [];
    const file = entryOf(target.files, slot.file);
    const name = `${slot.name}.${driverOf(file.layout.format).ending(file.layout.format)}`;
    const blocks = [{ layout: 0, kind, records: namingFirst(catalogue, kind, records) }];
    return [
      {
        number: 0,
        is: "upload",
        purpose: isRollback ? "rollback" : "delete",
        title: isRollback
          ? phrase("Delete what the upload has made")
          : phrase("Delete what is no longer in your sources: {0}", slot.name),
        why: whyOf(slot, target, isRollback),
        slot: { ...slot, creates: [], updates: [] },
        files: splitByLimit(file, blocks, sizes).map((one) => ({ name, blocks: one })),
        columns: slot.columns && new Set(slot.columns),
        waiting: new Map(),
        from: { catalogue, isLeftOut: () => false },
        places: [],
        after: [],
      },
    ];
  });
}

function whyOf({ why }: Slot, { name }: Target, isRollback: boolean): Text {
  if (why !== undefined) return why;
  return isRollback
    ? phrase("These records were made by the upload. They are taken out of {0} again.", name)
    : phrase("These records are on {0} and are no longer in your sources.", name);
}

/** Kinds that refer to others, or are contained in them, come before those. */
function inOrder(target: Target, { kinds }: ResolvedCatalogue): readonly Slot[] {
  const order: Slot[] = [];
  const seen = new Set<Slot>();
  const visit = (slot: Slot): void => {
    if (seen.has(slot)) return;
    seen.add(slot);
    const kind = deletedKind(target, slot);
    for (const other of target.deleting) {
      const spec = kinds.get(deletedKind(target, other));
      const entries = Object.values(spec.entries ?? {}).map((name) => kinds.get(name));
      if (spec.of === kind || [spec, ...entries].some((one) => referenceFields(one).some(({ to }) => to === kind)))
        visit(other);
    }
    order.push(slot);
  };
  for (const slot of target.deleting) visit(slot);
  return order;
}

/** Records of one kind: those that name others before these, as branches of a tree before what they hang on. */
function namingFirst(catalogue: ResolvedCatalogue, kind: string, records: readonly number[]): readonly number[] {
  const table = catalogue.table(kind);
  const own = referenceFields(table.kind).filter(({ to }) => to === kind);
  if (own.length === 0) return records;
  const wanted = new Set(records);
  const order: number[] = [];
  const seen = new Set<number>();
  for (const record of [...records].reverse()) {
    const open = [record];
    while (open.length > 0) {
      const at = open.at(-1)!;
      const next = seen.has(at)
        ? undefined
        : own
            .flatMap(({ name }) => [...targetsOf(catalogue, table, name, at)])
            .find((one) => wanted.has(one) && !seen.has(one) && !open.includes(one));
      if (next !== undefined) open.push(next);
      else {
        open.pop();
        if (!seen.has(at)) order.push(at);
        seen.add(at);
      }
    }
  }
  return order.reverse();
}

function partsOf(name: string): [kind: string, row: number] {
  const at = name.lastIndexOf(" ");
  return [name.slice(0, at), Number(name.slice(at + 1))];
}
