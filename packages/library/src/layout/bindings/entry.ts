/** `variant.prices(price).amount`: a field of an entry of the record, one or a list; in a lane, of the entry that a row is. */

import { entryLookup } from "../../catalogue/entry-lookup.js";
import { firstOf, present } from "../../checked.js";
import { entryKeyOf, fieldNamed, fieldOf, referenceOf, type Kinds, type KindSpec } from "../../kind.js";
import { phrase } from "../../phrases/phrase.js";
import { nearestSpelling } from "../../spelling.js";
import type { By } from "../../catalogue/reference-pool.js";
import { codecOf, type CodecChoice } from "../compile/codec-of.js";
import type { Constants, EntryField } from "../layout.js";
import { entryValue } from "../write/entries.js";
import { meaningIn } from "./describe.js";
import { entryOrigins } from "./entry-origins.js";
import { namesShown, type FeedKind, type FeedOf, type NamedReference } from "./feed-kind.js";
import {
  fieldInLanguage,
  fieldSpec,
  Mistake,
  referenceSpec,
  type BindPlace,
  type Bound,
  type FieldPlace,
} from "./place.js";
import { lastForm } from "./reference.js";

export const entryFeed: FeedKind<FeedOf<"entry">> = {
  bind,
  nameOf({ entries, constants, field }) {
    const [first, ...others] = Object.entries(constants);
    const apart = first && [first[1], ...others.map(([name, value]) => `${name}: ${value}`)].join(", ");
    return `${entries}${apart === undefined ? "" : `(${apart})`}.${field.name}`;
  },
  fill: undefined,
  write: (feed, context, table) => (table.kind.entries?.[feed.entries] ? entryValue(context, table, feed) : undefined),
  shows: ({ entries, field }, kind) => [
    `${kind}.${entries}.${field.name}`,
    ...(field.is === "reference" ? namesShown(field.spec) : []),
  ],
  refersTo: ({ entries, field }, kind, kinds) =>
    field.is === "reference" ? entryReferences(kind, entries, field.name, lastForm(field.spec), kinds) : [],
  references: ({ entries, field }, kind) =>
    field.is === "reference" ? [{ table: `${kind}.${entries}`, field: field.name, spec: field.spec }] : [],
  takes: ({ entries, constants, field, parallel }, table, kind, lane) =>
    `${kind}.${entries}` === table.name
      ? entryLookup(table, constants, lane ?? [field.name, ...parallel]).has
      : undefined,
  origins: ({ entries, constants, field, parallel }, cell) =>
    entryOrigins({ entries, constants, fields: [field.name], free: [field.name, ...parallel] }, cell),
  names({ entries, constants, field }, catalogue, table) {
    if (!table.kind.entries?.[entries]) return undefined;
    const own = catalogue.table(`${table.name}.${entries}`);
    // A column for an entry of a list: its name is the constant.
    const [constant] = Object.values(constants);
    const fits = entryLookup(own, constants, [field.name]).has;
    return (row) => (constant !== undefined && own.findChild(row, fits) >= 0 ? [constant] : []);
  },
  isFilled: ({ entries }, catalogue, table, row) =>
    catalogue.table(`${table.name}.${entries}`).childrenOf(row).length > 0,
  describe({ entries, constants, field }, owner, kinds) {
    const meaning = meaningIn(kinds, owner.entries?.[entries] ?? "", field.name);
    const word = Object.values(constants)[0];
    return word === undefined ? meaning : { ...meaning, means: `${meaning.means} (${word})` };
  },
};

function bind(place: BindPlace): Bound | undefined {
  if (place.is !== "field") return undefined;
  const { lane, owner, first, inner, context, bound } = place;
  if (lane) {
    if (lane.holds !== "entries") return undefined;
    const embedded = context.kinds.get(present(owner.entries)[lane.collection]!);
    const { field, choice } = fieldOfEntry(embedded, first, place);
    if (choice.list) throw new Mistake(phrase("a row of {0} has one entry, not a list", lane.name));
    return bound({ is: "entry", entries: lane.collection, constants: lane.constants, field, parallel: [] }, choice);
  }
  const kind = owner.entries?.[first];
  if (kind === undefined || inner === undefined) return undefined;
  const embedded = context.kinds.get(kind);
  const constants = constantsOf(embedded, place.constants);
  const { field, choice } = fieldOfEntry(embedded, inner, place);
  return bound({ is: "entry", entries: first, constants, field, parallel: choice.list ? [field.name] : [] }, choice);
}

function fieldOfEntry(
  kind: KindSpec,
  name: string,
  { given, lang, context }: FieldPlace,
): { readonly field: EntryField; readonly choice: CodecChoice } {
  const field = fieldSpec(kind, name);
  const choice = codecOf(given.as, field.type);
  const { list } = choice;
  if (choice.parts) throw new Mistake(phrase("{0} is a single field, but parts feed whole entries", given.field));
  if (!field.reference) return { field: { is: "text", name: fieldInLanguage(field, lang, context), list }, choice };
  const spec = referenceSpec(field, choice, given.missing, context);
  return { field: { is: "reference", name, list, spec }, choice };
}

/** `prices(price)`, or with more of the entry's key: `prices(price, hire: day)`. */
export function constantsOf(embedded: KindSpec, written: string | undefined): Constants {
  if (written === undefined) return {};
  const [first = "", ...others] = written.split(/,\s*/);
  const pairs = others.map((one): [string, string] => {
    const [name = "", value] = one.split(/:\s*/);
    const field = fieldOf(embedded, name);
    if (!field?.type || !entryKeyOf(embedded).includes(name) || value === undefined)
      throw new Mistake(
        phrase('"{0}" does not distinguish entries of {1}', one, embedded.name),
        nearestSpelling(name, entryKeyOf(embedded)),
      );
    return [name, value];
  });
  return { [firstOf(entryKeyOf(embedded))]: first, ...Object.fromEntries(pairs) };
}

/** What a reference of an entry asks of the order of the records that hold it. */
export function entryReferences(
  kind: KindSpec,
  entries: string,
  field: string,
  by: By,
  kinds: Kinds,
): readonly NamedReference[] {
  const embedded = kind.entries?.[entries];
  const reference = embedded === undefined ? undefined : fieldOf(kinds.get(embedded), field)?.reference;
  if (!reference) return [];
  const name = `${kind.name}.${entries}`;
  const own: NamedReference = { name, to: reference.to, by, dependency: reference.dependency };
  if (reference.otherwise === undefined) return [own];
  const other = referenceOf(fieldNamed(kinds.get(present(embedded)), reference.otherwise));
  return [own, { name, to: other.to, by, dependency: other.dependency }];
}
