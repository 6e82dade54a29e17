/** The record that a row says its own is contained in. */

import type { Header } from "../../nominal.js";
import { firstOf } from "../../checked.js";
import { finding } from "../../findings/finding.js";
import { cellAt, markCell, type BlockRow } from "../read/block-row.js";
import type { FillContext } from "./context.js";
import type { Column, Feed } from "../layout.js";
import { RecordIndex } from "../read/record-index.js";
import { cellMark } from "../read/tally.js";

export class ContainerReader {
  readonly #column:
    { readonly feed: Extract<Feed, { is: "container" }>; readonly header: Header; readonly index: number } | undefined;
  /** Made when the first row asks: what contains has come before what is contained. */
  #index: RecordIndex | undefined;

  constructor(
    readonly context: FillContext,
    columns: readonly Column[],
  ) {
    this.#column = columns.flatMap(({ header, bindings }) =>
      bindings.flatMap(({ feed }) =>
        feed.is === "container" ? [{ feed, header, index: context.indexOf(header) }] : [],
      ),
    )[0];
  }

  /** @returns the row of what contains the record; -1 where rows do not say. */
  of(row: BlockRow): number {
    if (!this.#column) return -1;
    const { feed, header, index } = this.#column;
    const { catalogue, findings } = this.context;
    const kind = catalogue.kinds.get(feed.spec.to);
    const names = feed.spec.by === "name" ? `name@${feed.spec.lang}` : feed.spec.by;
    this.#index ??= new RecordIndex(catalogue, kind, { names, sheet: undefined });
    const word = cellAt(row, index) ?? "";
    const found = this.#index.find(word).filter(({ table }) => table.kind === kind);
    markCell(row, index, found.length === 1 ? cellMark.taken : cellMark.reported);
    if (found.length === 1) return firstOf(found).row;
    findings.add(finding("read/orphan-row", { names: word }, this.context.location(row.line, header)));
    return -1;
  }
}
