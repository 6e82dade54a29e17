/** `product.categories`, `product.brand`: references of the record, one, a list, paths, or in parts. */

import { targetsOf, type ResolvedCatalogue } from "../../catalogue/catalogue.js";
import { formsOf, type By, type ReferenceSpec } from "../../catalogue/reference-pool.js";
import type { Table } from "../../catalogue/table.js";
import type { ReadonlyTable } from "../../catalogue/readonly-table.js";
import { present } from "../../checked.js";
import { splitLanguage } from "../../field-name.js";
import { fieldNamed, fieldOf, referenceOf, type FieldSpec } from "../../kind.js";
import type { Header } from "../../nominal.js";
import { phrase } from "../../phrases/phrase.js";
import { codecOf, type PartChoice } from "../compile/codec-of.js";
import type { FillContext } from "../fill/context.js";
import { isNumbers, referencesReader } from "../fill/references.js";
import type { Binding, PartPlan, PartsPlan } from "../layout.js";
import { cellMark } from "../read/tally.js";
import { pathOf } from "../../catalogue/path.js";
import { firstForm, referencesOf } from "../write/references.js";
import { meaningIn } from "./describe.js";
import {
  namesShown,
  nothing,
  originOf,
  type RecordOrigin,
  type FeedKind,
  type FeedOf,
  type Fill,
  type NamedReference,
  type WrittenCell,
} from "./feed-kind.js";
import { nameParallel } from "./name-parallel.js";
import {
  fieldInLanguage,
  fieldSpec,
  Mistake,
  referenceSpec,
  typesOf,
  type BindContext,
  type BindPlace,
  type Bound,
} from "./place.js";

type ReferenceFeed = FeedOf<"reference">;

export const referenceFeed: FeedKind<ReferenceFeed> = {
  bind,
  nameOf: ({ field }) => field,
  fill: {
    when: "with the record",
    of: (feed, context, table, binding, header) =>
      fieldOf(table.kind, feed.field) && { fill: fillOf(feed, context, table, binding, header) },
  },
  write: (feed, context, table) => (fieldOf(table.kind, feed.field) ? referencesOf(context, table, feed) : undefined),
  shows: ({ field, spec, parts }, kind) => [
    `${kind}.${field}`,
    ...namesShown(spec),
    ...(parts ? shownInParts(spec, parts) : []),
  ],
  refersTo({ field, spec }, kind) {
    const by = lastForm(spec);
    const reference = fieldOf(kind, field)?.reference;
    if (!reference) return [];
    const own = { name: `${kind.name}.${field}`, to: reference.to, by, dependency: reference.dependency };
    if (reference.otherwise === undefined) return [own];
    const other = referenceOf(fieldNamed(kind, reference.otherwise));
    const name = `${kind.name}.${reference.otherwise}`;
    return [own, { name, to: other.to, by, dependency: other.dependency }] satisfies NamedReference[];
  },
  references: ({ field, spec }, kind) => [{ table: kind, field, spec }],
  takes: nothing,
  origins: referenceOrigins,
  names({ field, spec }, catalogue, table, joinedBy) {
    if (!fieldOf(table.kind, field)) return undefined;
    const { to, lang = "en", inTree } = spec;
    const named = catalogue.table(to);
    // A node without a name has no place in a list.
    const nameOf = (target: number): string => {
      if (!inTree) return firstForm(named, spec, target);
      const path = pathOf(catalogue, named, target, lang);
      return path.includes("") ? "" : path.join(joinedBy);
    };
    return (row) => targetsOf(catalogue, table, field, row).map(nameOf);
  },
  isFilled: ({ field }, _, table, row) => (table.references.get(field)?.first(row) ?? -1) >= 0,
  describe: ({ field }, owner, kinds) => meaningIn(kinds, owner.name, field),
};

/** What can be named in several forms can be named in the last of them whenever it is there. */
export const lastForm = (spec: ReferenceSpec): By => present(formsOf(spec).at(-1));

function bind(place: BindPlace): Bound | undefined {
  if (place.is !== "field") return undefined;
  const { given, lane, owner, first, inner, context, bound } = place;
  if (lane) {
    if (lane.holds !== "references") return undefined;
    const spec = fieldSpec(owner, lane.collection);
    const choice = codecOf(given.as, spec.type);
    if (first !== "each" || choice.list)
      throw new Mistake(phrase("a row has one entry of {0}", lane.collection), `${lane.name}.each`);
    const reference = referenceSpec(spec, choice, given, context, owner);
    const shape = choice.path ? "path" : "one";
    return bound({ is: "reference", field: lane.collection, shape, spec: reference, parts: undefined }, choice);
  }
  const field = fieldOf(owner, first);
  if (!field?.reference || inner !== undefined) return undefined;
  const to = context.kinds.get(field.reference.to);
  const choice = codecOf(given.as, field.type, typesOf(to));
  if (choice.list && !field.reference.list)
    throw new Mistake(phrase("{0} takes one {1}, not a list", given.field, to.name));
  const shape = choice.path ? (choice.list ? "paths" : "path") : choice.list ? "list" : "one";
  const plan = choice.parts && referenceParts(choice.parts, field, context);
  const spec = referenceSpec(field, plan ? { ...choice, by: plan.by } : choice, given, context, owner);
  return bound({ is: "reference", field: field.name, shape, spec, parts: plan?.parts }, choice);
}

/** The parts of a cell that names records: their name, their other fields, and what they contain. */
function referenceParts(
  choices: readonly PartChoice[],
  field: FieldSpec,
  context: BindContext,
): { readonly by: string; readonly parts: PartsPlan } {
  const { kinds } = context;
  const to = kinds.get(referenceOf(field).to);
  let by: string | undefined;
  const parts = choices.map((part): PartPlan => {
    const { name, lang } = splitLanguage(part.field);
    if (by === undefined && ["name", "key", "code", "id"].includes(name)) {
      by = part.field;
      return { is: "name" };
    }
    const child = kinds.childOf(to.name);
    if (child && child.name === name) {
      const reference = { name, reference: { to: name, dependency: "linking", missing: "create" } } as const;
      const inner = part.parts && referenceParts(part.parts, reference, context);
      const spec = referenceSpec(reference, inner ? { ...part, by: inner.by } : part, { missing: "create" }, context);
      return { is: "children", spec, list: part.list, parts: inner?.parts };
    }
    const own = fieldSpec(to, name);
    if (own.reference)
      throw new Mistake(
        phrase("{0} of {1} is a reference. Bind it in a layout whose rows are {2} records", name, to.name, to.name),
      );
    return { is: "text", field: fieldInLanguage(own, lang, context) };
  });
  if (by === undefined)
    throw new Mistake(phrase("one of the parts has to name the {0}", to.name), `name@${context.given.language}`);
  return { by, parts };
}

function fillOf(feed: ReferenceFeed, context: FillContext, table: Table, binding: Binding, header: Header): Fill {
  const { field, spec } = feed;
  const column = table.referenceColumn(field);
  const read = referencesReader(context, feed, binding, header);
  const { pool } = context.catalogue;
  const namesOf = (list: readonly number[]) => list.map((number) => pool.texts(number).join(" / ")).join(", ");
  return (row, cell, line) => {
    const numbers = read(cell, line, row);
    if (!isNumbers(numbers)) {
      context.problem(numbers, table, row, line, header);
      return cellMark.reported;
    }
    if (!context.merging || !column.isSet(row)) {
      column.set(row, numbers);
      // A cell of nothing but separators names nothing; the root word alone says that there is none.
      return numbers.length > 0 || feed.shape === "path" ? cellMark.taken : cellMark.untouched;
    }
    const old = column.get(row);
    if (old.join() === numbers.join()) return cellMark.taken;
    if (context.translates && spec.by === "name") {
      const paths = numbers.map((number) => pool.texts(number));
      return nameParallel(context, old, paths, present(spec.lang), { table, row, line, header, beside: field });
    }
    if (!context.wins(table, field, row, namesOf(numbers), namesOf(old), line, header)) return cellMark.reported;
    column.set(row, numbers);
    table.setFieldOrigin(field, row, { sheet: context.sheet, line });
    return cellMark.taken;
  };
}

/** What the parts of a cell state for the records that it names, and of those that these contain. */
function shownInParts({ to }: ReferenceSpec, parts: PartsPlan): string[] {
  return parts.flatMap((part) => {
    if (part.is === "text") return [`${to}.${part.field}`];
    if (part.is !== "children") return [];
    return [...namesShown(part.spec), ...(part.parts ? shownInParts(part.spec, part.parts) : [])];
  });
}

/** The cell that refers, and what the record that it leads to is called. */
export function referenceOrigins(
  { field, spec }: Pick<ReferenceFeed, "field" | "spec">,
  { catalogue, table, row }: Pick<WrittenCell, "catalogue" | "table" | "row">,
): RecordOrigin[] {
  const rows = targetsOf(catalogue, table, field, row);
  if (rows.length === 0) return [];
  const to = catalogue.table(spec.to);
  return [originOf(catalogue, table, row, field), ...rows.flatMap((one) => namesOnTheWay(catalogue, to, one, spec))];
}

/** Where the names of a record, and of those above it in a tree, come from. */
function namesOnTheWay(
  catalogue: ResolvedCatalogue,
  to: ReadonlyTable,
  row: number,
  { by, lang, inTree }: ReferenceSpec,
): RecordOrigin[] {
  const names: RecordOrigin[] = [];
  const seen = new Set<number>();
  const name = `name@${lang}`;
  for (let node: number | undefined = row; node !== undefined && !seen.has(node);) {
    seen.add(node);
    if (by === "name" && to.text(name, node) !== undefined) names.push(originOf(catalogue, to, node, name));
    node = inTree ? targetsOf(catalogue, to, "parent", node)[0] : undefined;
  }
  return names;
}
