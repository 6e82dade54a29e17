/**
 * Which rows of an upload are written, where much is there already: those that say something else, and those without which they would
 * say something else. Cells whose blank leaves what is there stay blank, unless they say something else.
 */

import { entryOf } from "../checked.js";
import { writesParentsOnly } from "../build/write-file.js";
import { madeTogether } from "../layout/cells.js";
import type { Column, Lane, Layout } from "../layout/layout.js";
import { writtenHeaders } from "../layout/write/rows.js";
import type { PlannedBlock, PlannedFile, UploadStep } from "../plan/plan.js";
import type { ColumnRule } from "../target/schema.js";
import { refusesItsStart, startAsCell } from "../target/starts.js";
import type { Target, TargetFile } from "../target/target.js";
import type { IsAffected } from "./change-steps.js";
import { comparedRows, type RecordRows, type RowChange } from "./rows.js";
import type { ChangeView } from "./views.js";

/** Cells that steps have written, so that later ones need not write them again. */
export class WrittenCells {
  readonly #headers = new Map<string, Set<string>>();

  has(row: string, header: string): boolean {
    return this.#headers.get(row)?.has(header) ?? false;
  }

  add(row: string, header: string): void {
    const known = this.#headers.get(row);
    if (known) known.add(header);
    else this.#headers.set(row, new Set([header]));
  }
}

/** A change, as steps are cut down to what it needs. */
export interface Selecting {
  readonly target: Target;
  readonly to: ChangeView;
  readonly from: ChangeView;
  readonly written: WrittenCells;
  readonly isAffected?: IsAffected | undefined;
  /** Whether all rows are written, be they as they are there: an import that takes out what it does not name. */
  readonly isWhole?: boolean | undefined;
}

/** A step with the rows that are needed; undefined where none is. */
export function selectRows(step: UploadStep, selecting: Selecting): UploadStep | undefined {
  const file = entryOf(selecting.target.files, step.slot.file);
  const changed: ChangedHeaders = new Map();
  const files = step.files.flatMap((planned): PlannedFile[] => {
    const blocks = planned.blocks.flatMap((block) => selectBlock(step, file, block, selecting, changed));
    return blocks.length > 0 ? [{ ...planned, blocks }] : [];
  });
  const { catalogue, isOut } = selecting.to;
  if (files.length === 0) return undefined;
  // A link that is there does not wait: a blank cell would take it out.
  const waiting = [...step.waiting].map(([row, headers]): [number, ReadonlySet<string>] => {
    const own = changed.get(row);
    return [row, own ? new Set([...headers].filter((header) => own.has(header))) : headers];
  });
  return { ...step, files, waiting: new Map(waiting), from: { catalogue, isLeftOut: isOut } };
}

/** By product: the headers of cells that differ, on any of its rows. */
type ChangedHeaders = Map<number, Set<string>>;

function selectBlock(
  step: UploadStep,
  file: TargetFile,
  block: PlannedBlock,
  selecting: Selecting,
  changed: ChangedHeaders,
): PlannedBlock[] {
  const { to, from, written, isAffected, isWhole = false } = selecting;
  const layout = file.layouts[block.layout]!;
  const parentsOnly = writesParentsOnly(step, layout);
  const headers = writtenHeaders(layout, step.columns);
  const below = layout.shape.child?.name ?? layout.shape.parent.name;
  const form = new BlockForm(file, layout, headers);
  const chosen = new Map<number, ReadonlySet<string>>();
  let number = 0;
  for (const one of comparedRows(to, from, file, layout, {
    records: block.records,
    columns: step.columns,
    parentsOnly,
  })) {
    if (block.kind === "product") changed.set(one.record, new Set(one.rows.flatMap((row) => [...row.changed])));
    const ofRecord = `${file.name} ${block.layout} ${one.record}`;
    const nameOf = ({ word }: RowChange, header: string) => (form.isShared(header) ? ofRecord : `${ofRecord} ${word}`);
    const isNews = (row: RowChange) =>
      (isAffected?.(file.name, block.kind, one.record, below, row.isSingles ? -1 : row.child) ?? true) &&
      [...row.changed].some((header) => !written.has(nameOf(row, header), header));
    const keeps = isWhole ? one.rows.map(() => true) : form.kept(one, isNews);
    one.rows.forEach((row, at) => {
      if (keeps[at]) {
        const left = form.leftBlank(row);
        chosen.set(number, left);
        for (const header of headers)
          // A cell that a record has once is blank on the rows below.
          if (!left.has(header) && !(form.isShared(header) && row.cells[headers.indexOf(header)] === ""))
            written.add(nameOf(row, header), header);
      }
      number++;
    });
  }
  if (chosen.size === 0) return [];
  const isAll = chosen.size === number && [...chosen.values()].every((left) => left.size === 0);
  return [{ ...block, rows: isAll ? undefined : chosen }];
}

class BlockForm {
  /** The columns that do not tell which record is meant, with their places. */
  readonly #others: readonly (readonly [header: string, at: number])[];
  readonly #hasParents: boolean;
  readonly #shared: ReadonlySet<string>;
  /** Whether lists of a record stand on several of its rows: they are written as a whole. */
  readonly #hasLists: boolean;
  /** The same of any list, of what lies in a record too. */
  readonly #hasAnyLists: boolean;
  /** By column: the cell that need not be said, as a blank one comes to the same; or cannot be, as the column refuses it. */
  readonly #asStarts: ReadonlyMap<string, string>;

  constructor(
    readonly file: TargetFile,
    readonly layout: Layout,
    headers: readonly string[],
  ) {
    const keys = new Set([...layout.telling, ...file.entryKey]);
    const telling = new Set([...keys, ...file.mustHave]);
    this.#others = headers.flatMap((header, at) => (keys.has(header) ? [] : [[header, at] as const]));
    const written = new Set(
      layout.columns.flatMap(({ header, scope }) =>
        headers.includes(header) && scope.is === "lane" ? [scope.lane] : [],
      ),
    );
    const replaced = layout.lanes.filter((lane) => !isKeyed(file, layout, lane));
    this.#hasLists = replaced.some(({ name, of }) => of === "parent" && written.has(name));
    this.#hasAnyLists = replaced.length > 0;
    this.#shared = new Set(
      layout.shape.child && !layout.languages
        ? layout.columns.flatMap(({ header, scope }) => (scope.is === "parent" && !telling.has(header) ? [header] : []))
        : [],
    );
    this.#asStarts = new Map(
      layout.columns.flatMap((column) => {
        const start = cellBetterBlank(column, file.rules.get(column.header));
        return start === undefined ? [] : [[column.header, start] as const];
      }),
    );
    this.#hasParents = layout.columns.some(
      ({ header, scope }) => scope.is === "parent" && headers.includes(header) && !telling.has(header),
    );
  }

  /** Whether a record says a cell once, on whichever of its rows. */
  isShared(header: string): boolean {
    return this.#shared.has(header);
  }

  /** By row of a record: whether it is written. */
  kept({ rows, gone }: RecordRows, isNews: (row: RowChange) => boolean): readonly boolean[] {
    const { shape } = this.layout;
    const changes = rows.map(isNews);
    if (!changes.includes(true) && gone.size === 0) return changes;
    const isWhole =
      this.#hasLists ||
      shape.is === "nested" ||
      (shape.child && this.file.importing["children not named"] === "deleted");
    if (isWhole) return rows.map(() => true);
    const isFirst = (at: number) => at === 0;
    // Rows that follow one another say of which record they are by that.
    const needsFirst =
      ((shape.is === "grouped" || this.layout.lanes.length > 0) && this.#hasParents) ||
      (shape.is === "own-row" && !(shape.joined.by === "reference" && shape.joined.names !== "line"));
    const children = new Set(rows.flatMap((row, at) => (changes[at] ? [row.child] : [])));
    return rows.map(
      (row, at) =>
        changes[at]! ||
        (needsFirst && isFirst(at)) ||
        (gone.size > 0 && isFirst(at)) ||
        (this.#hasAnyLists && children.has(row.child)),
    );
  }

  /** The cells of a row that stay blank, as what is there stays. */
  leftBlank({ isNew, asBefore, changed, cells }: RowChange): ReadonlySet<string> {
    const stays = this.#others.filter(([header, at]) => {
      const rule = this.file.rules.get(header);
      const asStart = this.#asStarts.get(header);
      if (asStart !== undefined && asStart === cells[at]) return !isNew || !rule?.required;
      if (rule?.blank === "inherit" || this.file.mustHave.includes(header)) return false;
      // A row of a new record fills what new records need.
      const isThere = isNew ? asBefore.has(header) && !rule?.required : !changed.has(header);
      return isThere && (rule?.blank === "leave" || rule?.blank === "generate");
    });
    const left = new Set(stays.map(([header]) => header));
    // Parts of one cell stay together.
    const { cells: steps } = this.layout;
    const written = this.#others.filter(([header]) => !left.has(header));
    for (const [header] of steps.length > 0 ? written : [])
      for (const part of madeTogether(steps, header)) left.delete(part);
    return left;
  }
}

/** The cell that says what a record has anyway where it is blank: what the account has it inherit, or a start that the column refuses. */
function cellBetterBlank(column: Column, rule: ColumnRule | undefined): string | undefined {
  const isBetterBlank = rule?.blank === "inherit" || (rule?.blank === "clear" && refusesItsStart(column, rule));
  return rule && isBetterBlank ? startAsCell(column, rule) : undefined;
}

/** Whether what stands in a lane is put in row by row, each for itself: by a key, or as a record that is added. */
const isKeyed = ({ entryKey, importing }: TargetFile, { columns }: Layout, { name }: Lane): boolean =>
  importing.lists === "add" ||
  columns.some(({ header, scope }) => scope.is === "lane" && scope.lane === name && entryKey.includes(header));
