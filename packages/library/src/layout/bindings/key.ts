/** `product.key`: what a record is known by. It is read with the block. */

import { codecOf } from "../compile/codec-of.js";
import { meaningOfField } from "../meanings.js";
import { always, none, nothing, originOf, type FeedKind, type FeedOf } from "./feed-kind.js";

export const keyFeed: FeedKind<FeedOf<"key">> = {
  bind: (place) =>
    place.is === "field" && !place.lane && place.first === "key"
      ? place.bound({ is: "key" }, codecOf(place.given.as, "text"))
      : undefined,
  nameOf: () => "key",
  fill: undefined,
  write: (_, __, table) => (record) => table.key(record),
  shows: none,
  refersTo: none,
  references: none,
  takes: nothing,
  origins: (_, { catalogue, table, row }) => [originOf(catalogue, table, row, "key")],
  names: nothing,
  isFilled: always,
  describe: (_, owner) => meaningOfField(owner.name, "key", "text"),
};
