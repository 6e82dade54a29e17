/** What each column of a file of records does to the simulated platform: which field it sets, what it refers to. By the target's rules. */

import { columnField, fieldName } from "../layout/bindings/feed-kinds.js";
import type { Header } from "../nominal.js";
import { firstOf, present } from "../checked.js";
import { formsOf, type By } from "../catalogue/reference-pool.js";
import { fieldNamed, referenceOf, fieldOf } from "../kind.js";
import type { Kinds } from "../kinds.js";
import { kindOfScope, type Column, type Layout, type PartsPlan, type Feed } from "../layout/layout.js";
import type { TargetFile } from "../target/target.js";
import { refusesFormulas, type JudgedColumn } from "./rules/judge-cell.js";

export type RecordRole = "id" | "key" | "container" | "found" | "shape" | "field" | "entry";

/** What a value, or a part of it, refers to. */
export interface Refers {
  /** The kind, and the one that takes what names no record of it. */
  readonly to: readonly string[];
  /** The forms in which it is named, in the order in which they are tried. */
  readonly forms: readonly By[];
  readonly inTree: boolean;
}

export interface RecordColumn extends JudgedColumn {
  readonly header: Header;
  readonly level: "parent" | "child" | "lane";
  readonly role: RecordRole;
  /** As comparisons call it; for entries, the field of the entry. */
  readonly field: string;
  readonly refers: Refers | undefined;
  /** By position, where the value is in parts, or a list of them. */
  readonly parts: readonly (Refers | undefined)[] | undefined;
  /** The collection that entries in the column belong to. */
  readonly collection: string | undefined;
}

export function recordColumns(file: TargetFile, layout: Layout, kinds: Kinds): ReadonlyMap<string, RecordColumn[]> {
  const columns = new Map<string, RecordColumn[]>();
  for (const column of layout.columns) {
    const rule = file.rules.get(column.header);
    const { feed: target, codec } = firstOf(column.bindings);
    const made: RecordColumn = {
      header: column.header,
      level: column.scope.is,
      role: roleOf(column, target, layout),
      field: fieldIn(column, target),
      feed: target,
      codec,
      rule,
      isWithoutFormulas: refusesFormulas(layout),
      refers: refersOf(target, column, layout, kinds),
      parts: target.is === "entries" ? partsOf(target.parts, target.entries, column, layout, kinds) : undefined,
      collection: target.is === "entry" || target.is === "entries" ? target.entries : undefined,
    };
    const known = columns.get(column.header);
    if (known) known.push(made);
    else columns.set(column.header, [made]);
  }
  return columns;
}

function fieldIn(column: Column, feeds: Feed): string {
  if (feeds.is === "entry" && column.scope.is === "lane") return feeds.field.name;
  if (feeds.is === "axis") return `${feeds.holds === "name" ? "axis" : "value"} ${feeds.number}`;
  if (feeds.is === "container") return feeds.spec.to;
  return feeds.is === "entry" ? fieldName(feeds) : columnField(column, feeds);
}

function roleOf(column: Column, feeds: Feed, { shape, link }: Layout): RecordRole {
  if (link?.column === column.header) return "found";
  if (feeds.is === "shape") return "shape";
  if (feeds.is === "key") return "key";
  if (feeds.is === "container") return "container";
  if (feeds.is === "text" && feeds.field === "id") return "id";
  if (shape.is === "own-row" && column.scope.is === "child" && feeds.is === "text" && feeds.field === "code")
    return "key";
  return column.scope.is === "lane" ? "entry" : "field";
}

function refersOf(feeds: Feed, column: Column, layout: Layout, kinds: Kinds): Refers | undefined {
  const kind = kindOfScope(layout, column.scope);
  if (feeds.is === "container") return { to: [feeds.spec.to], forms: formsOf(feeds.spec), inTree: false };
  if (feeds.is === "reference" && !feeds.parts) {
    const { to, inTree } = feeds.spec;
    const otherwise = fieldOf(kind, feeds.field)?.reference?.otherwise;
    const other = otherwise === undefined ? [] : [referenceOf(fieldNamed(kind, otherwise)).to];
    return { to: [to, ...other], forms: formsOf(feeds.spec), inTree };
  }
  if (feeds.is !== "entry" || feeds.field.is !== "reference") return undefined;
  return ofEntry(present(kind.entries)[feeds.entries]!, feeds.field.name, formsOf(feeds.field.spec), kinds);
}

function ofEntry(embedded: string, field: string, forms: readonly By[], kinds: Kinds): Refers {
  const spec = kinds.get(embedded);
  const { to, otherwise } = referenceOf(fieldNamed(spec, field));
  const other = otherwise === undefined ? [] : [referenceOf(fieldNamed(spec, otherwise)).to];
  return { to: [to, ...other], forms, inTree: false };
}

function partsOf(parts: PartsPlan, entries: string, column: Column, layout: Layout, kinds: Kinds) {
  const embedded = present(kindOfScope(layout, column.scope).entries)[entries]!;
  return parts.map((part) =>
    part.is === "reference" ? ofEntry(embedded, part.field, formsOf(part.spec), kinds) : undefined,
  );
}
