/** `product.components` in parts: whole entries in one cell. */

import { targetsOf } from "../../catalogue/catalogue.js";
import { entryLookup } from "../../catalogue/entry-lookup.js";
import { fitting } from "../../checked.js";
import { splitLanguage } from "../../field-name.js";
import { entryKeyOf } from "../../kind.js";
import { phrase } from "../../phrases/phrase.js";
import { codecOf } from "../compile/codec-of.js";
import type { PartPlan, PartsPlan } from "../layout.js";
import { entriesValue } from "../write/entries.js";
import { namedIn } from "../named-constants.js";
import { constantsOf, entryReferences } from "./entry.js";
import { entryOrigins } from "./entry-origins.js";
import { namesShown, type FeedKind, type FeedOf } from "./feed-kind.js";
import { fieldInLanguage, fieldSpec, Mistake, referenceSpec, typesOf, type BindPlace, type Bound } from "./place.js";
import { firstForm } from "../write/references.js";
import { lastForm } from "./reference.js";

type ReferencePart = Extract<PartPlan, { is: "reference" }>;
const referencesIn = (parts: PartsPlan): ReferencePart[] =>
  parts.flatMap((part) => (part.is === "reference" ? [part] : []));
const fieldsIn = (parts: PartsPlan): string[] => parts.flatMap((part) => ("field" in part ? [part.field] : []));

export const entriesFeed: FeedKind<FeedOf<"entries">> = {
  bind,
  nameOf: ({ entries }) => `${entries}[]`,
  fill: undefined,
  write: (feed, context, table) =>
    table.kind.entries?.[feed.entries] ? entriesValue(context, table, feed) : undefined,
  shows: ({ entries, parts }, kind) =>
    parts.flatMap((part) => {
      if (part.is === "text") return [`${kind}.${entries}.${part.field}`];
      return part.is === "reference" ? [`${kind}.${entries}.${part.field}`, ...namesShown(part.spec)] : [];
    }),
  refersTo: ({ entries, parts }, kind, kinds) =>
    referencesIn(parts).flatMap(({ field, spec }) => entryReferences(kind, entries, field, lastForm(spec), kinds)),
  references: ({ entries, parts }, kind) =>
    referencesIn(parts).map(({ field, spec }) => ({ table: `${kind}.${entries}`, field, spec })),
  takes: ({ entries, constants, named, parts }, catalogue, table, kind) =>
    `${kind}.${entries}` === table.name
      ? entryLookup(table, constants, fieldsIn(parts), namedIn(catalogue, constants, named)).has
      : undefined,
  origins: (feed, cell) => {
    const { entries, constants, named, parts } = feed;
    const fields = fieldsIn(parts);
    return entryOrigins(feed, { entries, constants, named, fields, free: fields }, cell);
  },
  names({ entries, parts }, catalogue, table) {
    if (!table.kind.entries?.[entries]) return undefined;
    const own = catalogue.table(`${table.name}.${entries}`);
    const named = referencesIn(parts);
    return (row) =>
      [...own.childrenOf(row)].flatMap((entry) =>
        named.flatMap(({ field, spec }) =>
          targetsOf(catalogue, own, field, entry).map((target) => firstForm(catalogue.table(spec.to), spec, target)),
        ),
      );
  },
  isFilled: ({ entries }, catalogue, table, row) => catalogue.table(`${table.name}.${entries}`).countChildren(row) > 0,
  describe: ({ entries }) => ({ means: `${entries} in parts`, example: "" }),
};

function bind(place: BindPlace): Bound | undefined {
  if (place.is !== "field" || place.lane || place.inner !== undefined) return undefined;
  const { given, owner, first, context, bound } = place;
  const kind = owner.entries?.[first];
  if (kind === undefined) return undefined;
  const embedded = context.kinds.get(kind);
  const { constants, named } = constantsOf(embedded, place.constants, context);
  const choice = codecOf(given.as, "text", typesOf(embedded));
  if (!choice.parts) {
    const field = fitting(embedded.fields, (one) => one.name !== entryKeyOf(embedded)[0]).name;
    throw new Mistake(
      phrase("{0} needs a field of its entries, or their parts", given.field),
      `${given.field}.${field}`,
    );
  }
  const parts = choice.parts.map((part): PartPlan => {
    const { name, lang } = splitLanguage(part.field);
    const field = fieldSpec(embedded, name);
    if (!field.reference && part.by !== undefined) throw new Mistake(phrase('"{0}" is not for {1}', "by", part.field));
    if (!field.reference) return { is: "text", field: fieldInLanguage(field, lang, context) };
    return { is: "reference", field: name, spec: referenceSpec(field, part, given, context, owner) };
  });
  return bound({ is: "entries", entries: first, constants, named, list: choice.list, parts }, choice);
}
