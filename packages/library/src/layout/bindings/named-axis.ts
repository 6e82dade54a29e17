/** `{ axis: Wood, holds: value@en }`: an axis that the layout names: the variant's value on it, or all values of its product. */

import { splitNameLanguage } from "../../field-name.js";
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
    const { name: axis, lang: axisLang = place.context.language } = splitNameLanguage(String(place.given.axis));
    const feed = { is: "named-axis", axis, axisLang, holds, lang, leads: true } as const;
    return { scope, binding: { ...as, feed, name: `axis ${axis} ${holds}@${lang}` } };
  },
  nameOf: ({ lang }) => `values@${lang}`,
  fill: undefined,
  write: ({ axis, axisLang, holds, lang }, context, table) => {
    const positionOf = positionOfAxis(context, axis, axisLang);
    return holds === "values"
      ? listedValues(context, table, positionOf, lang)
      : namedAxisValue(context, table, positionOf, lang);
  },
  // The header says the axis itself.
  shows: ({ holds, lang, axisLang }, kind) => [
    ...axisShows(holds, lang, kind),
    ...axisShows("name", axisLang, "product"),
  ],
  refersTo: ({ holds }, kind) => axisReference(holds, kind),
  references: none,
  takes: nothing,
  origins({ axis, axisLang, holds, lang }, cell) {
    const names = cell.catalogue.table("axis");
    return axisOrigins(cell, holds, lang, (axes) => axes.find((one) => names.text(`name@${axisLang}`, one) === axis));
  },
  names: nothing,
  isFilled: always,
  describe: ({ axis, lang }) => ({ means: `the variant's ${axis} (${lang})`, example: "" }),
};
