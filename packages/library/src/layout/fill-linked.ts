/** Filling from rows that say more of records which other sheets give: prices, pictures, translations, memberships. */

import { firstOf } from "../checked.js";
import type { Table } from "../catalogue/table.js";
import { finding } from "../findings/finding.js";
import { nearestSpellings } from "../spelling.js";
import type { Block } from "./cut.js";
import { markCell } from "./block-row.js";
import { FillContext, shorten, type FillOptions } from "./fill-context.js";
import { laneFill } from "./fill-lanes.js";
import { RecordFill } from "./fill-record.js";
import { RecordIndex } from "./record-index.js";
import type { BlockFiller } from "./fill.js";
import type { RowLink, Lane } from "./layout.js";
import { cellMark } from "./tally.js";
import { kindPhrase, phrase } from "../phrases/phrase.js";

interface TableFill {
  readonly record: RecordFill;
  readonly lanes: readonly (readonly [Lane, ReturnType<typeof laneFill>])[];
}

export class LinkedFiller implements BlockFiller {
  readonly #context: FillContext;
  readonly #found: RowLink;
  readonly #kind: string;
  readonly #finder: RecordIndex;
  readonly #fills = new Map<Table, TableFill>();
  #ignored = 0;

  constructor(options: FillOptions) {
    const { layout, catalogue } = options;
    if (layout.shape.is !== "linked") throw new Error("rows that are not linked");
    this.#context = new FillContext(options);
    this.#context.merging = true;
    this.#found = layout.shape.found;
    this.#kind = layout.shape.parent.name;
    this.#finder = new RecordIndex(catalogue, layout.shape.parent, this.#found);
  }

  block({ word, rows }: Block): void {
    const records = this.#finder.find(word);
    if (records.length !== 1) {
      this.#report(word, records.length, rows);
      return;
    }
    const { table, row: record } = firstOf(records);
    const { record: fill, lanes } = this.#fillOf(table);
    const index = this.#context.indexOf(this.#found.column);
    for (const row of rows) {
      markCell(row, index, cellMark.taken);
      fill.fill(record, row);
      for (const [, lane] of lanes) lane?.fill(record, row);
    }
    this.#context.close(rows, table, record);
  }

  end(): void {
    if (this.#ignored === 0) return;
    const facts = {
      rows: this.#ignored,
      why: phrase("no {0} has the {1} that they name", kindPhrase(this.#kind), this.#found.names),
    };
    this.#context.findings.add(finding("read/rows-ignored", facts, { file: this.#context.info.file }));
  }

  #fillOf(table: Table): TableFill {
    let fill = this.#fills.get(table);
    if (!fill) {
      const { layout, indexOf } = this.#context;
      const present = layout.columns.filter((column) => indexOf(column.header) >= 0);
      const own = present.filter(({ scope }) => scope.is === "parent");
      fill = {
        record: new RecordFill(this.#context, table, own),
        lanes: layout.lanes.map((lane) => [lane, laneFill(this.#context, table, lane, present)] as const),
      };
      this.#fills.set(table, fill);
    }
    return fill;
  }

  #report(word: string, count: number, rows: Block["rows"]): void {
    const { column, names, isReported } = this.#found;
    if (!isReported && count === 0) {
      this.#ignored += rows.length;
      for (const { cells } of rows) this.#context.tally.whole(cells, "row of no record, ignored");
      return;
    }
    for (const { line, cells } of rows) {
      this.#context.tally.whole(cells, "in findings");
      const location = this.#context.location(line, column);
      const facts = { kind: this.#kind, names, text: shorten(word) };
      this.#context.findings.add(
        count === 0
          ? finding("read/names-none", { ...facts, nearest: nearestSpellings(word, this.#finder.names()) }, location)
          : finding("read/names-several", { ...facts, count }, location),
      );
    }
  }
}
