/** `{ axes: names@en }`, `{ axes: values@en }`: all axes of a product in one cell, and a variant's values in the same order. A gap is blank. */

import { splitLanguage } from "../../field-name.js";
import { phrase } from "../../phrases/phrase.js";
import { nearestSpelling } from "../../spelling.js";
import { listedAxes, listedOwnValues } from "../axis-cells.js";
import { codecOf } from "../compile/codec-of.js";
import { axisOrigins, axisReference, axisShows } from "./axis.js";
import { always, none, nothing, type FeedKind, type FeedOf } from "./feed-kind.js";
import { Mistake } from "./place.js";

type AxesFeed = FeedOf<"axes">;
const all = ["names", "values"] as const;

export const axesFeed: FeedKind<AxesFeed> = {
  bind(place) {
    if (place.is !== "axes") return undefined;
    const { given, context } = place;
    const { shape } = context;
    if (shape.parent.name !== "product" || !shape.child || shape.is === "expanded")
      throw new Mistake(phrase("a list of axes needs rows that are variants of a product"));
    const { name, lang = context.given.language } = splitLanguage(given.axes);
    const holds = all.find((one) => one === name);
    if (holds === undefined)
      throw new Mistake(phrase('"{0}" is not {1}', given.axes, all.join(" or ")), nearestSpelling(name, all));
    const { codec, list } = codecOf(given.as, "text");
    if (!list) throw new Mistake(phrase("axes in one cell need a list"));
    return {
      scope: { is: holds === "values" ? "child" : "parent" },
      binding: {
        feed: { is: "axes", holds, lang, leads: true },
        codec,
        blankEmpties: false,
        name: `axes ${holds}@${lang}`,
      },
    };
  },
  nameOf: ({ holds, lang }) => (holds === "names" ? `axes@${lang}` : `values@${lang}`),
  fill: undefined,
  write: ({ holds, lang }, context, table) =>
    holds === "names" ? listedAxes(context, table, lang) : listedOwnValues(context, table, lang),
  shows: ({ holds, lang }, kind) => axisShows(holds === "names" ? "name" : "value", lang, kind),
  refersTo: ({ holds }, kind) => axisReference(holds === "names" ? "name" : "value", kind),
  references: none,
  takes: nothing,
  origins: ({ holds, lang }, cell) => axisOrigins(cell, holds === "names" ? "name" : "value", lang, ([first]) => first),
  names: nothing,
  isFilled: always,
  describe: ({ holds, lang }) =>
    holds === "names"
      ? { means: `the names of all axes (${lang})`, example: "Wood" }
      : { means: `the variant's values on all axes (${lang})`, example: "Cedar" },
};
