/** `variant.weight`, `product.name@de`: a text of the record itself. */

import type { ResolvedCatalogue } from "../../catalogue/catalogue.js";
import type { ReadonlyTable } from "../../catalogue/readonly-table.js";
import type { Problem } from "../../codecs/codec.js";
import { fieldOfColumn } from "../../field-name.js";
import { fieldOf } from "../../kind.js";
import { phrase } from "../../phrases/phrase.js";
import { codecOf } from "../compile/codec-of.js";
import { cellMark } from "../read/tally.js";
import type { ToValue } from "../write/context.js";
import { meaningIn } from "./describe.js";
import { none, nothing, originOf, type CellOrigin, type FeedKind, type FeedOf } from "./feed-kind.js";
import { fieldInLanguage, fieldSpec, Mistake } from "./place.js";

export const textFeed: FeedKind<FeedOf<"text">> = {
  bind(place) {
    if (place.is !== "field" || place.lane) return undefined;
    const { given, owner, first, lang, context, bound } = place;
    const field = fieldSpec(owner, first);
    if (field.reference) return undefined;
    const choice = codecOf(given.as, field.type);
    if (choice.list || choice.path || choice.parts)
      throw new Mistake(phrase("{0} takes a single text, not a list", given.field));
    return bound({ is: "text", field: fieldInLanguage(field, lang, context) }, choice);
  },
  nameOf: ({ field }) => field,
  fill: {
    when: "with the record",
    of({ field }, context, table, { codec, blankEmpties }, header) {
      if (!fieldOf(table.kind, fieldOfColumn(field))) return undefined;
      const column = table.textColumn(field);
      const fill = (row: number, cell: string, line: number) => {
        const value = codec.parse(cell);
        if (typeof value === "string") return context.setText(table, column, field, row, value, line, header);
        context.problem(value as Problem, table, row, line, header);
        return cellMark.reported;
      };
      return { fill, empties: blankEmpties ? column : undefined };
    },
  },
  write: ({ field }, { catalogue }, table) => textOf(catalogue, table, field),
  shows: ({ field }, kind) => [`${kind}.${field}`],
  refersTo: none,
  references: none,
  takes: nothing,
  origins: ({ field }, { catalogue, table, row }) => originsOf(catalogue, table, row, field),
  names({ field }, _, table) {
    if (!fieldOf(table.kind, fieldOfColumn(field))) return undefined;
    return (row) => [table.text(field, row)].filter((text) => typeof text === "string");
  },
  isFilled: ({ field }, _, table, row) => typeof table.text(field, row) === "string",
  describe: ({ field }, owner, kinds) => meaningIn(kinds, owner.name, field),
};

/** What a child does not say itself is its parent's; its identifiers are its own. */
function textOf(catalogue: ResolvedCatalogue, table: ReadonlyTable, field: string): ToValue | undefined {
  const spec = fieldOf(table.kind, fieldOfColumn(field));
  if (!spec) return undefined;
  const own = table.textsOf(field);
  const above = table.kind.of === undefined ? undefined : catalogue.table(table.kind.of);
  const isOwn = spec.own || !above || !fieldOf(above.kind, spec.name);
  if (isOwn) return (record) => own.get(record) ?? undefined;
  return (record, parent) => {
    const cell = own.get(record);
    return (cell === undefined ? above.text(field, parent) : cell) ?? undefined;
  };
}

/** A variant's own field, or its product's. */
function originsOf(catalogue: ResolvedCatalogue, table: ReadonlyTable, row: number, field: string): CellOrigin[] {
  if (table.text(field, row) !== undefined) return [originOf(catalogue, table, row, field)];
  const { of } = table.kind;
  if (of === undefined || table.parent(row) < 0) return [];
  const above = catalogue.table(of);
  if (above.text(field, table.parent(row)) === undefined) return [];
  return [originOf(catalogue, above, table.parent(row), field)];
}
