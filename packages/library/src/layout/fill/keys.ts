/** The key of the record that a row is of: from its column, else from its name or values. */

import type { Header, Key } from "../../nominal.js";
import { keyWithin } from "../../catalogue/made-key.js";
import type { Table } from "../../catalogue/table.js";
import type { Codec, Problem } from "../../codecs/codec.js";
import { textCodec } from "../../codecs/scalars.js";
import { finding } from "../../findings/finding.js";
import { fieldOf, type KindSpec } from "../../kind.js";
import { cellAt, markCell, type BlockRow } from "../read/block-row.js";
import type { FillContext } from "./context.js";
import { ownerColumn, type Column, type Feed } from "../layout.js";
import { cellMark } from "../read/tally.js";
import { shorten } from "../../shorten.js";

interface KeyColumn {
  /** Whether the cell says nothing but the key; a code is a field as well. */
  readonly isDeclared: boolean;
  readonly index: number;
  readonly header: Header;
  readonly codec: Codec;
}

export class KeyReader {
  readonly #column: KeyColumn | undefined;
  /** Of what the record belongs to: where nothing is declared as key, it is made of both. */
  readonly #owner: number | undefined;

  /**
   * @param columns those of the record.
   * @param groupColumn names the record on each of its rows, where it has several.
   */
  constructor(
    readonly context: FillContext,
    kind: KindSpec,
    columns: readonly Column[],
    groupColumn: string | undefined,
  ) {
    // What is declared as key, else what groups rows, else the code.
    const declared = feeding(columns, (feed) => feed.is === "key");
    const owner = declared ? undefined : ownerColumn(columns, kind);
    this.#owner = owner && context.indexOf(owner.header);
    const column =
      declared ??
      columns.find(({ header }) => header === groupColumn) ??
      feeding(columns, (feed) => feed.is === "text" && feed.field === "code");
    const header = column?.header ?? groupColumn;
    if (header !== undefined)
      this.#column = {
        isDeclared: declared !== undefined,
        index: context.indexOf(header),
        header,
        codec: column?.bindings[0]?.codec ?? textCodec,
      };
  }

  /** The column that is the key by itself; undefined where there is none, or where it is a key only within something. */
  get alone(): Pick<KeyColumn, "index" | "codec"> | undefined {
    return this.#owner === undefined ? this.#column : undefined;
  }

  /** @returns undefined where the cell is blank or there is none; the cell itself, where it is not in its form. */
  keyOf(row: BlockRow): Key | undefined {
    if (!this.#column) return undefined;
    const { index, header, codec } = this.#column;
    const cell = cellAt(row, index);
    if (cell === undefined) return undefined;
    const key = codec.parse(cell);
    markCell(row, index, typeof key === "string" ? cellMark.taken : cellMark.reported);
    if (typeof key === "string") return this.within(row, key);
    const { problem, text, wanted } = key as Problem;
    this.context.findings.add(finding(`cell/${problem}`, { text, wanted }, this.context.location(row.line, header)));
    return cell;
  }

  /** The key, made of the record's own word and of what the row says it belongs to. */
  within(row: BlockRow, word: string): Key {
    const owner = this.#owner === undefined ? undefined : cellAt(row, this.#owner);
    return owner === undefined ? word : keyWithin(owner, word);
  }

  /** A key beside the word by which the record was found: it has to be the record's. */
  check(row: BlockRow, table: Table, record: number): void {
    if (!this.#column?.isDeclared) return;
    const key = this.keyOf(row);
    const first = table.key(record);
    if (key === undefined || key === first) return;
    const { index, header } = this.#column;
    row.marks[index] = cellMark.reported;
    const location = this.context.location(row.line, header, table, record);
    const other = this.context.catalogue.location(table, record);
    this.context.findings.add(finding("read/cells-disagree", { here: shorten(key), first }, location, [other]));
  }
}

/** Where nothing is declared as key: the record's name, in the first language that has a column. */
export function keyFromName(context: FillContext, table: Table, row: BlockRow): Key {
  const { kind } = table;
  const column =
    fieldOf(kind, "name") &&
    feeding(context.layout.columns, (feed) => feed.is === "text" && feed.field.startsWith("name@"));
  const name = column && cellAt(row, context.indexOf(column.header));
  if (name === undefined) context.findings.add(finding("read/no-key", { kind: kind.name }, context.location(row.line)));
  return name ?? `${kind.name} on line ${row.line}`;
}

/** Where a child has neither key nor code: its parent's key, and its name or the values that set it apart. */
export function keyOfChild(context: FillContext, parentKey: Key, row: BlockRow): Key {
  const isValue = (_: Column, feed: Feed) =>
    ((feed.is === "named-axis" || feed.is === "axis") && feed.holds === "value" && feed.leads) ||
    (feed.is === "axes" && feed.holds === "values" && feed.leads);
  const isOwnName = (column: Column, feed: Feed) =>
    column.scope.is === "child" && feed.is === "text" && feed.field.startsWith("name@");
  const wordsOf = (test: (column: Column, feed: Feed) => boolean) =>
    context.layout.columns
      .filter((column) => column.bindings.some(({ feed }) => test(column, feed)))
      .map((column) => cellAt(row, context.indexOf(column.header)))
      .filter((word) => word !== undefined);
  const values = wordsOf(isValue);
  const words = values.length === 0 ? wordsOf(isOwnName).slice(0, 1) : values;
  return keyWithin(parentKey, ...(words.length === 0 ? [`line ${row.line}`] : words));
}

function feeding(columns: readonly Column[], test: (feed: Feed) => boolean): Column | undefined {
  return columns.find(({ bindings }) => bindings.some(({ feed }) => test(feed)));
}
