/**
 * The fields of records as comparisons and the ledger call them, each with its value as one text: `name@en`, `brand`, `product`,
 * `prices(tier, 10, trade).amount`.
 */

import { referenceFields, targetsOf, type ResolvedCatalogue } from "../catalogue/catalogue.js";
import type { ReadonlyTable } from "../catalogue/readonly-table.js";
import { none, type Correspondence } from "../match/correspondence.js";
import { entryKeyOf, fieldOf, type KindSpec } from "../kind.js";
import type { Coverage } from "./coverage.js";

/** An entry that has a key alone. */
export interface EntryKey {
  readonly field: string;
  readonly value: string;
}

const listed = ({ name }: ReadonlyTable, words: readonly string[]): string => {
  const list = name.slice(name.indexOf(".") + 1);
  return words.length === 0 ? list : `${list}(${words.join(", ")})`;
};

/** Reads the fields of one catalogue. Empty is as good as absent: a platform knows no difference. */
export class FieldTexts {
  /** @param keyOf what a record is called where others refer to it; its key, if left out. */
  constructor(
    readonly catalogue: ResolvedCatalogue,
    readonly keyOf: (kind: string, row: number) => string = (kind, row) => catalogue.table(kind).key(row),
  ) {}

  /** An entry by all that tells it apart: `prices(tier, 10, trade)`; `stock`, where nothing does. @param table `variant.prices`. */
  entryName(table: ReadonlyTable, entry: number): string {
    return listed(
      table,
      this.#keyWords(table, entry).map(([, word]) => word),
    );
  }

  /** An entry as the last of what tells it apart: `relations(goes-with).to` is `long-gloves`. */
  entryKey(table: ReadonlyTable, entry: number): EntryKey {
    const words = this.#keyWords(table, entry);
    const [last, value] = words[words.length - 1] ?? ["", ""];
    const before = words.slice(0, -1).map(([, word]) => word);
    return { field: `${listed(table, before)}${last === "" ? "" : `.${last}`}`, value };
  }

  #keyWords(table: ReadonlyTable, entry: number): (readonly [field: string, word: string])[] {
    return entryKeyOf(table.kind).flatMap((field) => {
      const isReference = fieldOf(table.kind, field)?.reference !== undefined;
      const word = isReference ? this.reference(table, entry, field) : table.text(field, entry);
      return word ? [[field, word] as const] : [];
    });
  }

  /** What a field refers to, by keys; undefined for nothing. */
  reference(table: ReadonlyTable, row: number, field: string): string | undefined {
    const to = referenceFields(table.kind).find(({ name }) => name === field)?.to ?? "";
    const keys = targetsOf(this.catalogue, table, field, row).map((one) => this.keyOf(to, one));
    return keys.length === 0 ? undefined : keys.join(", ");
  }

  /** A field of a record itself: a text, a reference, or what contains it. */
  field(table: ReadonlyTable, row: number, field: string): string | undefined {
    const { kind } = table;
    if (field === kind.of) return table.parent(row) < 0 ? undefined : this.keyOf(kind.of, table.parent(row));
    if (fieldOf(kind, field)?.reference) return this.reference(table, row, field);
    return table.text(field, row) || undefined;
  }

  /** The fields of an entry with their values; of one that has a key alone, itself. */
  *ofEntry(table: ReadonlyTable, entry: number): Generator<readonly [field: string, name: string, value: string]> {
    const name = this.entryName(table, entry);
    const key = entryKeyOf(table.kind);
    let isAlone = true;
    for (const [field, column] of table.texts) {
      const value = column.get(entry);
      if (key.includes(field) || !value) continue;
      isAlone = false;
      yield [field, `${name}.${field}`, value];
    }
    if (isAlone) yield ["", name, name];
  }

  /** The order of entries, where there are several. */
  order(table: ReadonlyTable, entries: Iterable<number>): string | undefined {
    const names = [...entries].map((entry) => this.entryName(table, entry));
    return names.length < 2 ? undefined : names.join("; ");
  }

  /** All that a record has. @param told which fields count. @param isTold whether an entry counts; all, if left out. */
  *of(
    { name, of, fields, entries = {} }: KindSpec,
    row: number,
    told: Coverage,
    isTold: (table: ReadonlyTable, entry: number) => boolean = () => true,
  ): Generator<readonly [string, string]> {
    const table = this.catalogue.table(name);
    const names = [...table.texts.keys(), ...fields.flatMap((field) => (field.reference ? field.name : [])), of ?? []];
    for (const field of names.flat()) {
      const value = told.tells(name, field) ? this.field(table, row, field) : undefined;
      if (value !== undefined) yield [field, value];
    }
    for (const list of Object.keys(entries)) {
      const inList = this.catalogue.table(`${name}.${list}`);
      if (told.entries(inList.name) === "none" || inList.size === 0) continue;
      const own = [...inList.childrenOf(row)].filter((entry) => isTold(inList, entry));
      for (const entry of own)
        for (const [field, called, value] of this.ofEntry(inList, entry))
          if (field === "" || told.tells(inList.name, field)) yield [called, value];
      const order = this.order(inList, own);
      if (order !== undefined) yield [list, order];
    }
  }
}

/** The fields of the other side: its records are called as the own ones that they are. */
export const textsThere = (matched: Correspondence): FieldTexts =>
  new FieldTexts(matched.other, (kind, row) => {
    const mine = matched.ownOf(kind, row);
    return mine === none ? matched.other.table(kind).key(row) : matched.own.table(kind).key(mine);
  });
