/** What tells rows apart, or stays as it is, and is not a field of a record: a marker, a child's word for its parent, a fixed text. */

import { textCodec } from "../../codecs/scalars.js";
import { always, none, nothing, type FeedKind, type FeedOf } from "./feed-kind.js";

export const shapeFeed: FeedKind<FeedOf<"shape">> = {
  bind(place) {
    if (place.is !== "constant") return undefined;
    const feed = { is: "shape", constant: place.constant } as const;
    return { scope: { is: "parent" }, binding: { feed, codec: textCodec, blankEmpties: false, name: "constant" } };
  },
  nameOf: () => "shape",
  fill: undefined,
  write: ({ constant }) => (constant === undefined ? undefined : () => constant),
  shows: none,
  refersTo: none,
  references: none,
  takes: nothing,
  origins: none,
  names: nothing,
  isFilled: always,
  describe: ({ constant }) => ({
    means: constant === "" || constant === undefined ? "tells rows apart; see the choices" : `always "${constant}"`,
    example: constant ?? "",
  }),
};
