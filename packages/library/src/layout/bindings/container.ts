/** `variant.product` on rows of variants alone: what contains the record. It is read with the block. */

import { meaningOfField } from "../meanings.js";
import { codecOf } from "../compile/codec-of.js";
import { containerOf } from "../write/references.js";
import { always, namesShown, none, nothing, originOf, type FeedKind, type FeedOf } from "./feed-kind.js";
import { referenceSpec } from "./place.js";

export const containerFeed: FeedKind<FeedOf<"container">> = {
  bind(place) {
    if (place.is !== "field" || place.lane) return undefined;
    const { given, owner, first, context, bound } = place;
    if (first !== owner.of || context.shape.child) return undefined;
    const choice = codecOf(given.as, undefined);
    const reference = { name: first, reference: { to: first, dependency: "containing", missing: "error" } } as const;
    return bound({ is: "container", spec: referenceSpec(reference, choice, { missing: "error" }, context) }, choice);
  },
  nameOf: ({ spec }) => spec.to,
  fill: undefined,
  write: ({ spec }, { catalogue }, table) =>
    table.kind.of === spec.to ? containerOf(catalogue, table, spec) : undefined,
  shows: ({ spec }) => namesShown(spec),
  refersTo: ({ spec }, { name, of }) =>
    of === undefined ? [] : [{ name: `${name}.${of}`, to: of, by: spec.by, dependency: "containing" }],
  references: none,
  takes: nothing,
  origins: ({ spec }, { catalogue, table, row }) =>
    table.parent(row) < 0 ? [] : [originOf(catalogue, catalogue.table(spec.to), table.parent(row), "key")],
  names: nothing,
  isFilled: always,
  describe: ({ spec }) => meaningOfField(spec.to, "key", "text"),
};
