/** `{ axis: Wood, holds: value@en }`: an axis that the layout names: the variant's value on it, or all values of its product. */

import { phrase } from "../../phrases/phrase.js";
import { listedValues, namedAxisValue, positionOfAxis } from "../axis-cells.js";
import { axisColumn, axisOrigins, axisReference, axisShows, isNamed } from "./axis.js";
import { always, none, nothing, type FeedKind, type FeedOf } from "./feed-kind.js";
import { Mistake } from "./place.js";

type NamedAxisFeed = FeedOf<"named-axis">;

export const namedAxisFeed: FeedKind<NamedAxisFeed> = {
  bind(place) {
    if (place.is !== "axis" || !isNamed(place)) return undefined;
    const { scope, as, holds, lang } = axisColumn(place);
    if (holds === "name") throw new Mistake(phrase("an axis that the layout names needs no column for its name"));
    const axis = String(place.given.axis);
    return { scope, binding: { ...as, feed: { is: "named-axis", axis, holds, lang }, name: `axis ${axis}` } };
  },
  nameOf: ({ lang }) => `values@${lang}`,
  fill: undefined,
  write: ({ axis, holds, lang }, context, table) =>
    holds === "values"
      ? listedValues(context, table, positionOfAxis(context, axis, lang), lang)
      : namedAxisValue(context, table, axis, lang),
  shows: ({ holds, lang }, kind) => axisShows(holds, lang, kind),
  refersTo: ({ holds }, kind) => axisReference(holds, kind),
  references: none,
  takes: nothing,
  origins({ axis, holds, lang }, cell) {
    const names = cell.catalogue.table("axis");
    return axisOrigins(cell, holds, lang, (axes) => axes.find((one) => names.text(`name@${lang}`, one) === axis));
  },
  names: nothing,
  isFilled: always,
  describe: ({ axis, lang }) => ({ means: `the variant's ${axis} (${lang})`, example: "" }),
};
