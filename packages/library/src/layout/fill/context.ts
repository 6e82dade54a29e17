/** What every part of filling needs: where it reads, where it writes, and how it says what is wrong. */

import type { Caps } from "../../caps.js";
import type { Header } from "../../nominal.js";
import { splitLanguage } from "../../field-name.js";
import { locationIn, type Catalogue, type SheetInfo } from "../../catalogue/catalogue.js";
import type { Table } from "../../catalogue/table.js";
import type { ReadonlyTable } from "../../catalogue/readonly-table.js";
import type { TextColumn } from "../../catalogue/text-column.js";
import type { Problem } from "../../codecs/codec.js";
import { finding, type Findings } from "../../findings/finding.js";
import type { Location } from "../../location.js";
import { columnInSheet } from "../cells.js";
import type { BlockRow } from "../read/block-row.js";
import type { Layout } from "../layout.js";
import { cellMark, type CellMark, type CellTally } from "../read/tally.js";
import { EntriesBefore } from "./entries-before.js";
import { shorten } from "../../shorten.js";

/** How a sheet is read into the catalogue. */
export interface FillOptions {
  readonly layout: Layout;
  readonly catalogue: Catalogue;
  /** The sheet's number in the catalogue. */
  readonly sheet: number;
  /** The position of a header; -1 when the sheet lacks it. */
  readonly indexOf: (header: Header) => number;
  readonly findings: Findings;
  /** Whether the sheet gives texts in another language for records that are there. */
  readonly translates: boolean;
  /** The row that blank cells take their values from, once it has come. */
  readonly model: { readonly cells: readonly string[] | undefined };
  readonly tally: CellTally;
  readonly caps: Caps;
  /** The entries that records had before, where several fill from the same rows; those of its own look, if left out. */
  readonly before?: EntriesBefore | undefined;
}

export class FillContext {
  readonly caps: Caps;
  /** True while rows are added to a record that was there before: then what they say has to agree with it. */
  merging = false;
  readonly layout: Layout;
  readonly catalogue: Catalogue;
  readonly sheet: number;
  readonly indexOf: (header: Header) => number;
  readonly findings: Findings;
  readonly translates: boolean;
  readonly info: SheetInfo;
  readonly model: FillOptions["model"];
  readonly tally: CellTally;
  readonly before: EntriesBefore;
  readonly #constants: readonly { readonly index: number; readonly header: Header; readonly constant: string }[];
  /** What a row is a row of, by its role. */
  readonly #rowsOf: Readonly<Record<BlockRow["role"], string>>;

  constructor(options: FillOptions) {
    this.layout = options.layout;
    this.catalogue = options.catalogue;
    this.sheet = options.sheet;
    this.indexOf = options.indexOf;
    this.findings = options.findings;
    this.translates = options.translates;
    this.model = options.model;
    this.tally = options.tally;
    this.caps = options.caps;
    this.before = options.before ?? new EntriesBefore();
    this.#constants = constantsOf(options.layout).map((one) => ({ ...one, index: options.indexOf(one.header) }));
    this.info = options.catalogue.sheets[options.sheet]!;
    const { parent, child } = options.layout.shape;
    this.#rowsOf = { own: parent.name, child: (child ?? parent).name, more: "further entry" };
  }

  location(line: number, column?: string, table?: ReadonlyTable, row = -1): Location {
    const record = table && row >= 0 ? { record: { kind: table.kind.name, key: table.key(row) } } : {};
    const inSheet = column === undefined ? undefined : columnInSheet(this.layout.cells, column);
    return { ...locationIn(this.info, line, inSheet), ...record };
  }

  problem({ problem, text, wanted }: Problem, table: Table, row: number, line: number, header: Header): void {
    this.findings.add(finding(`cell/${problem}`, { text, wanted }, this.location(line, header, table, row)));
  }

  /** A finding, where a cell holds more than is ever read. */
  isTooLong(cell: string, line: number, header: Header): boolean {
    const most = this.caps["cell characters"];
    if (cell.length <= most) return false;
    this.findings.add(finding("read/cell-too-long", { chars: cell.length, most }, this.location(line, header)));
    return true;
  }

  /** Counts what became of the cells of rows that are done. @param record -1 where they are of none. */
  close(rows: readonly BlockRow[], table: Table, record: number): void {
    if (this.#constants.length > 0) for (const row of rows) this.#checkConstants(row);
    const placeOf = (line: number, header: Header) => this.location(line, header, table, record);
    for (const row of rows) this.tally.row(row, this.#rowsOf[row.role], placeOf);
  }

  /** A cell that holds another text than the layout has in its place. */
  #checkConstants(row: BlockRow): void {
    for (const { index, header, constant } of this.#constants) {
      const text = row.cells[index] ?? "";
      if (text === "" || text === constant) continue;
      const facts = { text: shorten(text), constant };
      this.findings.add(finding("read/not-the-constant", facts, this.location(row.line, header)));
      if (row.marks[index] === cellMark.untouched) row.marks[index] = cellMark.reported;
    }
  }

  /** Sets a field of a record, or of an entry, that may have it already from elsewhere. */
  setText(
    table: Table,
    column: TextColumn,
    field: string,
    row: number,
    value: string,
    line: number,
    header: Header,
  ): CellMark {
    if (!this.merging) {
      column.set(row, value);
      return cellMark.taken;
    }
    const old = column.get(row);
    if (old === value) return cellMark.taken;
    if (old === undefined || this.wins(table, field, row, shorten(value), shorten(old ?? ""), line, header)) {
      column.set(row, value);
      this.#own(table, field, row, line);
      return cellMark.taken;
    }
    return cellMark.reported;
  }

  /** Settles which of two differing values stays; says so. @returns whether it is the new one. */
  wins(
    table: ReadonlyTable,
    field: string,
    row: number,
    here: string,
    first: string,
    line: number,
    header: Header,
  ): boolean {
    const { catalogue, findings } = this;
    const owner = catalogue.ownerOf(table, row);
    const location = this.location(line, header, owner.table, owner.row);
    const other = catalogue.location(table, row, field);
    const origin = table.fieldOrigin(field, row);
    const otherSheet = origin?.sheet ?? table.sheet(row);
    const { lang } = splitLanguage(field);
    if (this.translates && lang !== undefined && lang !== this.layout.language) {
      findings.add(finding("read/stale-translation", { here, first }, location, [other]));
      return false;
    }
    if (otherSheet === this.sheet) {
      findings.add(finding("read/cells-disagree", { here, first }, location, [other]));
      return false;
    }
    const [own, others] = [this.info.precedence, catalogue.sheets[otherSheet]?.precedence ?? 0];
    if (own === others) findings.add(finding("read/sources-disagree", { here, first }, location, [other]));
    else {
      const facts = own > others ? { stays: here, goes: first } : { stays: first, goes: here };
      findings.add(finding("read/source-overruled", facts, location, [other]));
    }
    if (own > others) catalogue.sheets[otherSheet]?.overruled?.(origin?.line ?? table.line(row), other.column);
    return own > others;
  }

  #own(table: Table, field: string, row: number, line: number): void {
    if (table.sheet(row) !== this.sheet || table.line(row) !== line)
      table.setFieldOrigin(field, row, { sheet: this.sheet, line });
  }
}

/** Columns with a fixed text, but for those that tell rows apart: what they hold is up to the rows. */
function constantsOf(layout: Layout): { readonly header: Header; readonly constant: string }[] {
  return layout.columns.flatMap(({ header, bindings }) =>
    bindings.flatMap(({ feed }) =>
      feed.is === "shape" && (feed.constant ?? "") !== "" && !layout.telling.has(header)
        ? [{ header, constant: feed.constant ?? "" }]
        : [],
    ),
  );
}
