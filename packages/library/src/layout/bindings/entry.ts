/** `variant.prices(price).amount`: a field of an entry of the record, one or a list; in a lane, of the entry that a row is. */

import { entryLookup } from "../../catalogue/entry-lookup.js";
import { firstOf, present } from "../../checked.js";
import { entryKeyOf, fieldNamed, fieldOf, referenceOf, type KindSpec } from "../../kind.js";
import type { Kinds } from "../../kinds.js";
import { phrase } from "../../phrases/phrase.js";
import { nearestSpelling } from "../../spelling.js";
import { splitNameLanguage } from "../../field-name.js";
import type { By, ReferenceSpec } from "../../catalogue/reference-pool.js";
import { codecOf, type CodecChoice } from "../compile/codec-of.js";
import type { Constants, EntryField, NamedConstants } from "../layout.js";
import { namedIn } from "../named-constants.js";
import { entryValue } from "../write/entries.js";
import { meaningIn } from "./describe.js";
import { entryOrigins } from "./entry-origins.js";
import { targetsOf } from "../../catalogue/catalogue.js";
import { namesShown, type FeedKind, type FeedOf, type NamedReference } from "./feed-kind.js";
import {
  fieldInLanguage,
  fieldSpec,
  Mistake,
  referenceSpec,
  type BindPlace,
  type Bound,
  type FieldPlace,
  type NamingContext,
} from "./place.js";
import { firstForm } from "../write/references.js";
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
  takes: ({ entries, constants, named, field, parallel }, catalogue, table, kind, lane) =>
    `${kind}.${entries}` === table.name
      ? entryLookup(table, constants, lane ?? [field.name, ...parallel], namedIn(catalogue, constants, named)).has
      : undefined,
  origins: (feed, cell) => {
    const { entries, constants, named, field, parallel } = feed;
    return entryOrigins(
      feed,
      { entries, constants, named, fields: [field.name], free: [field.name, ...parallel] },
      cell,
    );
  },
  names({ entries, constants, named, field }, catalogue, table) {
    if (!table.kind.entries?.[entries]) return undefined;
    const own = catalogue.table(`${table.name}.${entries}`);
    const isNamed = namedIn(catalogue, constants, named);
    if (field.is === "reference") {
      const to = catalogue.table(field.spec.to);
      const all = own.kind.fields.map(({ name }) => name);
      const fits = entryLookup(own, constants, all, isNamed).has;
      return (row) =>
        [...own.childrenOf(row)]
          .filter(fits)
          .flatMap((entry) =>
            targetsOf(catalogue, own, field.name, entry).map((one) => firstForm(to, field.spec, one)),
          );
    }
    // A column for an entry of a list: its name is the constant.
    const [constant] = Object.values(constants);
    const fits = entryLookup(own, constants, [field.name], isNamed).has;
    return (row) => (constant !== undefined && own.findChild(row, fits) >= 0 ? [constant] : []);
  },
  isFilled: ({ entries }, catalogue, table, row) => catalogue.table(`${table.name}.${entries}`).countChildren(row) > 0,
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
    const { collection: entries, constants, named } = lane;
    return bound({ is: "entry", entries, constants, named, field, parallel: [] }, choice);
  }
  const kind = owner.entries?.[first];
  if (kind === undefined || inner === undefined) return undefined;
  const embedded = context.kinds.get(kind);
  const { constants, named } = constantsOf(embedded, place.constants, context);
  const { field, choice } = fieldOfEntry(embedded, inner, place);
  return bound({ is: "entry", entries: first, constants, named, field, parallel: [field.name] }, choice);
}

function fieldOfEntry(
  kind: KindSpec,
  name: string,
  { given, lang, context, owner }: FieldPlace,
): { readonly field: EntryField; readonly choice: CodecChoice } {
  const field = fieldSpec(kind, name);
  const choice = codecOf(given.as, field.type);
  const { list } = choice;
  if (choice.parts) throw new Mistake(phrase("{0} is a single field, but parts feed whole entries", given.field));
  if (!field.reference && choice.by !== undefined) throw new Mistake(phrase('"{0}" is not for {1}', "by", given.field));
  if (!field.reference) return { field: { is: "text", name: fieldInLanguage(field, lang, context), list }, choice };
  const spec = referenceSpec(field, choice, given, context, owner);
  return { field: { is: "reference", name, list, spec }, choice };
}

interface GivenConstants {
  readonly constants: Constants;
  readonly named: NamedConstants;
}

/** `prices(price)`, or with more of the entry's key: `prices(price, hire: day)`. */
export function constantsOf(embedded: KindSpec, written: string | undefined, context: NamingContext): GivenConstants {
  if (written === undefined) return { constants: {}, named: {} };
  const [first = "", ...others] = written.split(/,\s*/);
  const pairs = others.map((one): [string, string] => {
    const [name = "", value] = one.split(/:\s*/);
    const field = fieldOf(embedded, name);
    if (!field || !entryKeyOf(embedded).includes(name) || value === undefined)
      throw new Mistake(
        phrase('"{0}" does not distinguish entries of {1}', one, embedded.name),
        nearestSpelling(name, entryKeyOf(embedded)),
      );
    return [name, value];
  });
  return namedAmong(embedded, { [firstOf(entryKeyOf(embedded))]: first, ...Object.fromEntries(pairs) }, context);
}

/** The constants of entries, with how those name records that are references: by name, or by code what has none. */
export function namedAmong(embedded: KindSpec, given: Constants, { kinds, language }: NamingContext): GivenConstants {
  const constants: Record<string, string> = {};
  const named: Record<string, ReferenceSpec> = {};
  for (const [field, value] of Object.entries(given)) {
    const reference = fieldOf(embedded, field)?.reference;
    if (!reference) {
      constants[field] = value;
      continue;
    }
    const { to, missing } = reference;
    const hasName = fieldOf(kinds.get(to), "name") !== undefined;
    const { name, lang } = hasName ? splitNameLanguage(value) : { name: value, lang: undefined };
    constants[field] = name;
    named[field] = hasName
      ? { to, by: "name", lang: lang ?? language, missing, inTree: false }
      : { to, by: "code", lang: undefined, missing, inTree: false };
  }
  return { constants, named };
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
