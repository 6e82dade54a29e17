/**
 * What is intended, for a platform of records: for each kind that its files create, what their columns say they carry.
 *
 * Reads the catalogue by itself: no writer, no codec.
 */

import { columnField, fieldName } from "../layout/bindings/feed-kinds.js";
import { hasConstants, type Fixed } from "./constants.js";
import type { Lang } from "../nominal.js";
import { firstOf, fitting, entryOf, present } from "../checked.js";
import { fieldOfColumn } from "../field-name.js";
import { heldRows, isHeldBack, type HeldBack } from "../build/hold-back.js";
import { targetsOf, type ResolvedCatalogue } from "../catalogue/catalogue.js";
import type { ReadonlyTable } from "../catalogue/readonly-table.js";
import type { ReferenceSpec } from "../catalogue/reference-pool.js";
import type { CellValue } from "../codecs/codec.js";
import { fieldNamed, entryKeyOf, referenceOf, fieldOf, type KindSpec } from "../kind.js";
import {
  byLanguage,
  withoutLineEnds,
  type Column,
  type EntryField,
  type Layout,
  type PartsPlan,
  type Feed,
} from "../layout/layout.js";
import { addressOf } from "../target/generated.js";
import type { Target, TargetFile } from "../target/target.js";
import { originKey, type Intended, type Origin } from "./intended.js";
import { recordsOfImports } from "../target/import-records.js";
import { setField, sortEntries, type Snapshot } from "./snapshot.js";

type MutableRecord = Map<string, CellValue>;

export function intendedRecords(
  catalogue: ResolvedCatalogue,
  target: Target,
  heldBack: HeldBack,
  only?: readonly TargetFile[],
): Intended {
  const origins = new Map<string, Origin>();
  const kinds: Record<string, Map<string, MutableRecord>> = {};
  const reader = new RecordReader(catalogue, heldBack);
  const isLeftOut = isHeldBack(heldBack);
  const isFor = recordsOfImports(catalogue, target);
  const recordOf = (kind: string, key: string, table: ReadonlyTable, row: number): MutableRecord => {
    const records = (kinds[kind] ??= new Map<string, MutableRecord>());
    let record = records.get(key);
    if (!record) {
      records.set(key, (record = new Map()));
      origins.set(originKey(kind, key), { table, row });
    }
    return record;
  };
  const created = new Set(target.slots.filter((slot) => slot.mode === "create").flatMap((slot) => slot.creates));
  const files = only ?? [...new Set(target.slots.map((slot) => slot.file))].map((name) => entryOf(target.files, name));
  for (const file of files)
    for (const [, layout] of file.layouts.flatMap(byLanguage)) {
      const { parent, child } = layout.shape;
      if (!created.has(parent.name)) continue;
      const table = catalogue.table(parent.name);
      for (let row = 0; row < table.size; row++) {
        if (isLeftOut(parent.name, row) || !isFor(file.name, parent.name, row)) continue;
        // Rows about variants are also about products that are sold by themselves, but these have their own.
        reader.fill(recordOf(parent.name, table.key(row), table, row), file, layout, "parent", table, row);
        if ((layout.shape.is !== "own-row" && layout.shape.is !== "grouped") || !child) continue;
        const children = [...catalogue.table(child.name).childrenOf(row)];
        const sold = children.length > 0 ? children.filter((one) => !isLeftOut(child.name, one)) : [row];
        const own = children.length > 0 ? catalogue.table(child.name) : table;
        for (const one of sold) {
          const record = recordOf(child.name, own.text("code", one) ?? "", own, one);
          record.set(parent.name, table.key(row));
          reader.fill(record, file, layout, "child", own, one);
        }
      }
    }
  const none = new Map<string, MutableRecord>();
  const snapshot: Snapshot = { product: none, variant: none, category: none, ...kinds };
  return { snapshot, origins };
}

class RecordReader {
  constructor(
    readonly catalogue: ResolvedCatalogue,
    readonly heldBack: HeldBack,
  ) {}

  /** Puts in what the columns of one scope say of a record, and the entries of lanes. */
  fill(
    record: MutableRecord,
    file: TargetFile,
    layout: Layout,
    scope: "parent" | "child",
    table: ReadonlyTable,
    row: number,
  ): void {
    for (const column of layout.columns) {
      const feeds = firstOf(column.bindings).feed;
      if (column.scope.is !== scope || isIdentity(column, feeds, layout, scope)) continue;
      if (!this.#isOf(feeds, table.kind)) continue;
      const { lineEnds } = firstOf(column.bindings);
      const plain = this.#value(feeds, layout, table, row);
      const value = typeof plain === "string" ? withoutLineEnds(plain, lineEnds) : plain;
      const name = nameOf(column, feeds);
      const isNothing = value === undefined || value.length === 0;
      setField(record, name, isNothing ? this.#ofItself(column, file, layout, table, row) : value);
    }
    if (scope === "child") return;
    for (const lane of layout.lanes) {
      if (lane.holds === "references") continue;
      const columns = layout.columns.filter(({ scope: own }) => own.is === "lane" && own.lane === lane.name);
      const entries = this.catalogue.table(`${table.kind.name}.${lane.collection}`);
      const tuples = [...entries.childrenOf(row)]
        .filter((entry) => hasConstants(this.catalogue, entries, entry, lane))
        .flatMap((entry): CellValue[] => {
          const tuple = columns.map(({ header, bindings }) => {
            const feeds = firstOf(bindings).feed;
            const value = feeds.is === "entry" ? this.#entryField(entries, entry, feeds.field) : undefined;
            if (value !== undefined) return withoutLineEnds(value, firstOf(bindings).lineEnds);
            return file.rules.get(header)?.["starts as"] ?? "";
          });
          return this.#isHeld(entries, entry) ? [] : [tuple];
        });
      setField(record, lane.collection, sortEntries(tuples));
    }
  }

  /** What the platform puts where nothing is said. */
  #ofItself(
    { header }: Column,
    { rules }: TargetFile,
    layout: Layout,
    table: ReadonlyTable,
    row: number,
  ): string | undefined {
    const rule = rules.get(header);
    if (rule?.blank !== "generate") return rule?.["starts as"];
    const from = fitting(layout.columns, (column) => column.header === rule["generated from"]);
    const text = this.#value(firstOf(from.bindings).feed, layout, table, row);
    return typeof text === "string" ? addressOf(text, rule["characters at most"]) : undefined;
  }

  /** Whether records of a kind have what a column shows. */
  #isOf(feeds: Feed, kind: KindSpec): boolean {
    switch (feeds.is) {
      case "text":
        return fieldOf(kind, fieldOfColumn(feeds.field)) !== undefined;
      case "reference":
        return fieldOf(kind, feeds.field) !== undefined;
      case "entry":
      case "entries":
        return kind.entries?.[feeds.entries] !== undefined;
      case "axis":
        return fieldOf(kind, feeds.holds === "name" ? "axes" : "values") !== undefined;
      case "container":
        return kind.of === feeds.spec.to;
      default:
        return false;
    }
  }

  #value(feeds: Feed, layout: Layout, table: ReadonlyTable, row: number): CellValue | undefined {
    const { catalogue } = this;
    const above = table.kind.of === undefined ? undefined : catalogue.table(table.kind.of);
    switch (feeds.is) {
      case "text": {
        const own = table.text(feeds.field, row);
        const spec = fieldNamed(table.kind, fieldOfColumn(feeds.field));
        const isTaken = own === undefined && above && !spec.own && fieldOf(above.kind, spec.name);
        return (isTaken ? above.text(feeds.field, table.parent(row)) : own) ?? undefined;
      }
      case "container":
        return above && this.#word(above, table.parent(row), feeds.spec.by, feeds.spec.lang);
      case "axis": {
        const product = table.kind.name === "product" ? row : table.parent(row);
        const axis = targetsOf(catalogue, catalogue.table("product"), "axes", product)[feeds.number - 1];
        if (axis === undefined) return undefined;
        if (feeds.holds === "name") return this.#word(catalogue.table("axis"), axis, "name", feeds.lang);
        const values = catalogue.table("value");
        const own = targetsOf(catalogue, table, "values", row).find((one) => values.parent(one) === axis);
        return own === undefined ? undefined : this.#word(values, own, "name", feeds.lang);
      }
      case "reference":
        return this.#reference(feeds, table, row);
      case "entry": {
        const own = this.#entry(feeds, table, row);
        return above && (own === undefined || own.length === 0) && above.kind.entries?.[feeds.entries]
          ? this.#entry(feeds, above, table.parent(row))
          : own;
      }
      case "entries": {
        const entries = catalogue.table(`${table.name}.${feeds.entries}`);
        const inParts = feeds.parts.flatMap((part) =>
          part.is === "text" || part.is === "reference" ? [part.field] : [],
        );
        const hasOwnColumn = layout.columns.some(({ bindings }) =>
          bindings.some(
            ({ feed: target }) =>
              target.is === "entry" &&
              target.entries === feeds.entries &&
              JSON.stringify(target.constants) === JSON.stringify(feeds.constants),
          ),
        );
        const wanted = [...entries.childrenOf(row)].filter(
          (entry) =>
            this.#isPlain(entries, entry, feeds, inParts) &&
            !this.#isHeld(entries, entry) &&
            !(hasOwnColumn && this.#isPlain(entries, entry, feeds, [])),
        );
        return wanted.map((entry) =>
          feeds.parts.map((part): string => {
            if (part.is === "text") return entries.text(part.field, entry) ?? "";
            return part.is === "reference"
              ? (this.#entryField(entries, entry, {
                  is: "reference",
                  name: part.field,
                  list: false,
                  spec: part.spec,
                }) ?? "")
              : "";
          }),
        );
      }
      default:
        return undefined;
    }
  }

  #reference(feeds: Extract<Feed, { is: "reference" }>, table: ReadonlyTable, row: number): CellValue | undefined {
    const { spec, shape, parts, field } = feeds;
    const otherwise = fieldOf(table.kind, field)?.reference?.otherwise;
    let to = this.catalogue.table(spec.to);
    let rows = targetsOf(this.catalogue, table, field, row).filter((one) => !this.#isHeldRow(spec.to, one));
    if (rows.length === 0 && otherwise !== undefined) {
      to = this.catalogue.table(referenceOf(fieldNamed(table.kind, otherwise)).to);
      rows = targetsOf(this.catalogue, table, otherwise, row).filter((one) => !this.#isHeldRow(to.name, one));
    }
    const values = rows.map((one) => {
      if (parts) return this.#inParts(to, one, parts, spec.by, spec.lang);
      return shape === "path" || shape === "paths"
        ? this.#path(to, one, present(spec.lang))
        : this.#word(to, one, heldBy(spec), spec.lang);
    });
    return shape === "one" || shape === "path" ? values[0] : values;
  }

  #inParts(table: ReadonlyTable, row: number, parts: PartsPlan, by: string, lang: Lang | undefined): CellValue[] {
    return parts.map((part): CellValue => {
      if (part.is === "name") return this.#word(table, row, by, lang);
      if (part.is === "text") return table.text(part.field, row) ?? "";
      if (part.is === "reference") return "";
      const children = this.catalogue.table(part.spec.to);
      const left = [...children.childrenOf(row)].filter((child) => !this.#isHeldRow(part.spec.to, child));
      const all = left.map((child): CellValue =>
        part.parts
          ? this.#inParts(children, child, part.parts, part.spec.by, part.spec.lang)
          : this.#word(children, child, part.spec.by, part.spec.lang),
      );
      return part.list ? all : (all[0] ?? "");
    });
  }

  #path(table: ReadonlyTable, row: number, lang: Lang): string[] {
    const names: string[] = [];
    for (
      let at: number | undefined = row;
      at !== undefined && names.length < 100;
      at = targetsOf(this.catalogue, table, "parent", at)[0]
    )
      names.unshift(table.text(`name@${lang}`, at) ?? "");
    return names;
  }

  #entry(feeds: Extract<Feed, { is: "entry" }>, table: ReadonlyTable, row: number): CellValue | undefined {
    const entries = this.catalogue.table(`${table.name}.${feeds.entries}`);
    const free = [feeds.field.name, ...feeds.parallel];
    const wanted = [...entries.childrenOf(row)].filter(
      (entry) => this.#isPlain(entries, entry, feeds, free) && !this.#isHeld(entries, entry),
    );
    if (!feeds.field.list)
      return wanted[0] === undefined ? undefined : this.#entryField(entries, wanted[0], feeds.field);
    const all = wanted.map((entry) => this.#entryField(entries, entry, feeds.field) ?? "");
    if (feeds.parallel.length < 2) return all.filter((one) => one !== "");
    return all.every((one) => one === "") ? undefined : all;
  }

  #entryField(entries: ReadonlyTable, entry: number, field: EntryField): string | undefined {
    if (field.is === "text") return entries.text(field.name, entry) ?? undefined;
    const reference = referenceOf(fieldNamed(entries.kind, field.name));
    for (const name of [field.name, reference.otherwise]) {
      if (name === undefined) continue;
      const row = targetsOf(this.catalogue, entries, name, entry)[0];
      const { to } = referenceOf(fieldNamed(entries.kind, name));
      if (row !== undefined) return this.#word(this.catalogue.table(to), row, heldBy(field.spec), field.spec.lang);
    }
    return undefined;
  }

  /** Entries that lead to what is held back are left out with it. */
  #isHeld(entries: ReadonlyTable, entry: number): boolean {
    return entries.kind.fields.some(
      ({ name, reference }) =>
        reference && targetsOf(this.catalogue, entries, name, entry).some((row) => this.#isHeldRow(reference.to, row)),
    );
  }
  #isHeldRow(kind: string, row: number): boolean {
    return heldRows(this.heldBack, kind).has(row);
  }

  /** Whether an entry has no more to what tells it apart than the constants, and the fields that are free. */
  #isPlain(entries: ReadonlyTable, entry: number, fixed: Fixed, free: readonly string[]): boolean {
    const shown = free.flatMap((field) => [field, fieldOf(entries.kind, field)?.reference?.otherwise ?? field]);
    return (
      hasConstants(this.catalogue, entries, entry, fixed) &&
      entryKeyOf(entries.kind).every(
        (field) =>
          shown.includes(field) ||
          Object.hasOwn(fixed.constants, field) ||
          (entries.text(field, entry) === undefined && (entries.references.get(field)?.first(entry) ?? -1) < 0),
      )
    );
  }

  /** How a record is named: on the platform ids stand for keys. */
  #word(table: ReadonlyTable, row: number, by: string, lang: Lang | undefined): string {
    if (by === "name") return table.text(`name@${lang}`, row) ?? "";
    if (by !== "code") return table.key(row);
    const own = table.text("code", row);
    if (typeof own === "string") return own;
    // A product with variants has no code: what can only name codes cannot name it.
    return table.key(row);
  }
}

/** What may be named in several forms is held by its key, however it was named. */
const heldBy = ({ by, or }: ReferenceSpec): string => (or ? "key" : by);

/** Columns that say which record is intended, and nothing of it. */
function isIdentity({ header }: Column, feeds: Feed, { shape, link }: Layout, scope: "parent" | "child"): boolean {
  if (feeds.is === "key" || feeds.is === "shape") return true;
  if (link?.column === header) return true;
  if (feeds.is !== "text") return false;
  return feeds.field === "id" || (shape.is !== "flat" && scope === "child" && feeds.field === "code");
}

function nameOf(column: Column, feeds: Feed): string {
  if (feeds.is === "axis") return `${feeds.holds === "name" ? "axis" : "value"} ${feeds.number}`;
  if (feeds.is === "container") return feeds.spec.to;
  return feeds.is === "entry" ? fieldName(feeds) : columnField(column, feeds);
}
