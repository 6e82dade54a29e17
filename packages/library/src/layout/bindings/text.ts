/** `variant.weight`, `product.name@de`: a text of the record itself. */

import type { ResolvedCatalogue } from "../../catalogue/catalogue.js";
import type { ReadonlyTable } from "../../catalogue/readonly-table.js";
import { unwritable, type Problem } from "../../codecs/codec.js";
import { codeOrTextCodec } from "../../codecs/scalars.js";
import { fieldOfColumn, parseWritten } from "../../field-name.js";
import { fieldOf } from "../../kind.js";
import { phrase } from "../../phrases/phrase.js";
import { codecOf } from "../compile/codec-of.js";
import { cellMark } from "../read/tally.js";
import { meaningIn } from "./describe.js";
import { none, nothing, originOf, type RecordOrigin, type FeedKind, type FeedOf } from "./feed-kind.js";
import { fieldInLanguage, fieldSpec, Mistake, type FieldPlace } from "./place.js";

export const textFeed: FeedKind<FeedOf<"text">> = {
  bind(place) {
    if (place.is !== "field" || place.lane) return undefined;
    const { given, owner, first, lang, context, bound } = place;
    const field = fieldSpec(owner, first);
    if (field.reference) return undefined;
    const choice = codecOf(given.as, field.type);
    if (choice.by !== undefined) throw new Mistake(phrase('"{0}" is not for {1}', "by", given.field));
    if (choice.list || choice.path || choice.parts)
      throw new Mistake(phrase("{0} takes a single text, not a list", given.field));
    const feed = { is: "text", field: fieldInLanguage(field, lang, context) } as const;
    const other = given["other words"];
    if (other === undefined) return bound(feed, choice);
    if (choice.codec.choices === undefined) throw new Mistake(phrase('"other words" need "code words"'));
    const otherwise = otherField(other, place);
    return bound({ ...feed, otherwise }, { ...choice, codec: codeOrTextCodec(choice.codec) });
  },
  nameOf: ({ field }) => field,
  fill: {
    when: "with the record",
    of({ field, otherwise }, context, table, { codec, blankEmpties }, header) {
      if (!fieldOf(table.kind, fieldOfColumn(field))) return undefined;
      const column = table.textColumn(field);
      const fill = (row: number, cell: string, line: number) => {
        const value = codec.parse(cell);
        if (typeof value === "string") return context.setText(table, column, field, row, value, line, header);
        if (otherwise !== undefined && Array.isArray(value))
          return context.setText(table, table.textColumn(otherwise), otherwise, row, String(value[0]), line, header);
        context.problem(value as Problem, table, row, line, header);
        return cellMark.reported;
      };
      return { fill, empties: blankEmpties ? column : undefined };
    },
  },
  write({ field, otherwise }, { catalogue }, table) {
    const own = textOf(catalogue, table, field);
    const other = otherwise === undefined ? undefined : textOf(catalogue, table, otherwise);
    if (!own || !other) return own ?? other;
    return (record, parent) => {
      const [value, text] = [own(record, parent), other(record, parent)];
      if (value === undefined || text === undefined) return text === undefined ? value : [text];
      return unwritable(text, phrase("a code word or another text, not both"));
    };
  },
  shows: ({ field, otherwise }, kind) =>
    [field, ...(otherwise === undefined ? [] : [otherwise])].map((one) => `${kind}.${one}`),
  refersTo: none,
  references: none,
  takes: nothing,
  origins: ({ field, otherwise }, { catalogue, table, row }) =>
    [field, ...(otherwise === undefined ? [] : [otherwise])].flatMap((one) => originsOf(catalogue, table, row, one)),
  names({ field }, _, table) {
    if (!fieldOf(table.kind, fieldOfColumn(field))) return undefined;
    return (row) => [table.text(field, row)].filter((text) => typeof text === "string");
  },
  isFilled: ({ field, otherwise = field }, _, table, row) =>
    typeof table.text(field, row) === "string" || typeof table.text(otherwise, row) === "string",
  describe: ({ field }, owner, kinds) => meaningIn(kinds, owner.name, field),
};

/** Of the same record, a text. @throws Mistake */
function otherField(written: string, { owner, context }: FieldPlace): string {
  const parsed = parseWritten(written);
  const isOwn = parsed?.kind === owner.name && parsed.inner === undefined && parsed.constants === undefined;
  if (!isOwn) throw new Mistake(phrase('"other words" go to a field of the same {0}', owner.name));
  const field = fieldSpec(owner, parsed.field);
  if (field.type !== "text") throw new Mistake(phrase("{0} takes no text of any kind", written));
  return fieldInLanguage(field, parsed.lang, context);
}

type ToText = (record: number, parent: number) => string | undefined;

/** What a child does not say itself is its parent's; its identifiers are its own. */
function textOf(catalogue: ResolvedCatalogue, table: ReadonlyTable, field: string): ToText | undefined {
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
function originsOf(catalogue: ResolvedCatalogue, table: ReadonlyTable, row: number, field: string): RecordOrigin[] {
  if (table.text(field, row) !== undefined) return [originOf(catalogue, table, row, field)];
  const { of } = table.kind;
  if (of === undefined || table.parent(row) < 0) return [];
  const above = catalogue.table(of);
  if (above.text(field, table.parent(row)) === undefined) return [];
  return [originOf(catalogue, above, table.parent(row), field)];
}
