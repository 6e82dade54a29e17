/**
 * Linked rows: rows of any shape that say more of records which other sheets give (prices, pictures, translations, memberships). The record
 * of a block is found by a word in its first row; the shape then fills it as it fills its own.
 */

import { firstOf } from "../../checked.js";
import type { Table } from "../../catalogue/table.js";
import { finding } from "../../findings/finding.js";
import { kindPhrase, phrase } from "../../phrases/phrase.js";
import { Spellings } from "../../spelling.js";
import { cellAt, markCell } from "../read/block-row.js";
import type { Block } from "../read/cut.js";
import type { BlockFiller, LinkedRecords } from "./block.js";
import { FillContext, type FillOptions } from "./context.js";
import { EntriesBefore } from "./entries-before.js";
import type { RowLink } from "../layout.js";
import { RecordIndex } from "../read/record-index.js";
import { cellMark } from "../read/tally.js";
import { shorten } from "../../shorten.js";

export class LinkedFiller implements BlockFiller {
  readonly linked: LinkedRecords;
  readonly #context: FillContext;
  readonly #index: RecordIndex;
  readonly #kind: string;
  readonly #at: number;
  readonly #fillers = new Map<Table, BlockFiller>();
  readonly #fillerOf: (parents: Table) => BlockFiller;
  #ignored = 0;
  /** Made for the first word that names none: what rows below that make is not among them. */
  #spellings: Spellings | undefined;

  /** @param fillerOf makes what fills records of a table: of the kind that is named, or of what contains it, as a single. */
  constructor(
    given: FillOptions,
    readonly link: RowLink,
    fillerOf: (options: FillOptions, parents: Table) => BlockFiller,
  ) {
    const options = { ...given, before: new EntriesBefore() };
    this.#fillerOf = (parents) => fillerOf(options, parents);
    const { parent, child } = options.layout.shape;
    this.#context = new FillContext(options);
    this.#kind = parent.name;
    this.#at = options.indexOf(link.column);
    this.#index = new RecordIndex(options.catalogue, parent, link, { withSingles: child === undefined });
    this.linked = { index: this.#index, before: options.before };
  }

  block(block: Block): void {
    const { rows } = block;
    const first = firstOf(rows);
    // Children that name their parent in a cell of their own, above or below its row.
    if (first.role === "child" && this.#context.layout.shape.is === "own-row")
      return this.#fillerFor(this.#context.catalogue.table(this.#kind)).block(block);
    const word = cellAt(first, this.#at);
    if (word === undefined) return this.#reportBlank(rows);
    const records = this.#index.find(word);
    if (records.length !== 1) return this.#report(word, records.length, rows);
    for (const row of rows) markCell(row, this.#at, cellMark.taken);
    const { table, row: record } = firstOf(records);
    this.#fillerFor(table).block(block, record);
  }

  end(): void {
    for (const filler of this.#fillers.values()) filler.end();
    if (this.#ignored === 0) return;
    const facts = {
      rows: this.#ignored,
      why: phrase("no {0} has the {1} that they name", kindPhrase(this.#kind), this.link.names),
    };
    this.#context.findings.add(finding("read/rows-ignored", facts, { file: this.#context.info.file }));
  }

  #fillerFor(table: Table): BlockFiller {
    let filler = this.#fillers.get(table);
    if (!filler) this.#fillers.set(table, (filler = this.#fillerOf(table)));
    return filler;
  }

  #reportBlank(rows: Block["rows"]): void {
    for (const { cells } of rows) this.#context.tally.whole(cells, "in findings");
    for (const line of this.#linesOf(rows))
      this.#context.findings.add(finding("read/row-without-group", {}, this.#context.location(line, this.link.column)));
  }

  /** An element is reported once, whatever it holds. */
  #linesOf(rows: Block["rows"]): readonly number[] {
    const lines = rows.map(({ line }) => line);
    return this.#context.layout.shape.is === "nested" ? lines.slice(0, 1) : lines;
  }

  #report(word: string, count: number, rows: Block["rows"]): void {
    const { column, names, isReported } = this.link;
    if (!isReported && count === 0) {
      this.#ignored += rows.length;
      for (const { cells } of rows) this.#context.tally.whole(cells, "row of no record, ignored");
      return;
    }
    for (const { cells } of rows) this.#context.tally.whole(cells, "in findings");
    for (const line of this.#linesOf(rows)) {
      const location = this.#context.location(line, column);
      const facts = { kind: this.#kind, names, text: shorten(word) };
      if (count > 0) this.#context.findings.add(finding("read/names-several", { ...facts, count }, location));
      else
        this.#context.findings.addOf("read/names-none", () =>
          finding("read/names-none", { ...facts, nearest: this.#nearest(word) }, location),
        );
    }
  }

  #nearest(word: string): readonly string[] {
    this.#spellings ??= new Spellings(this.#index.names());
    return this.#spellings.nearest(word);
  }
}
