/** `{ axis: 1, holds: value@en }`: an axis by its number: its name, a variant's value, or all values of a product's variants. */

import { targetsOf } from "../../catalogue/catalogue.js";
import { splitLanguage } from "../../field-name.js";
import { fieldOf, type KindSpec } from "../../kind.js";
import { phrase } from "../../phrases/phrase.js";
import { nearestSpelling } from "../../spelling.js";
import { codecOf } from "../compile/codec-of.js";
import type { Binding, Scope } from "../layout.js";
import { axisName, axisValue, listedValues } from "../axis-cells.js";
import {
  always,
  none,
  nothing,
  originOf,
  type RecordOrigin,
  type FeedKind,
  type FeedOf,
  type NamedReference,
  type WrittenCell,
} from "./feed-kind.js";
import { Mistake, type AxisPlace } from "./place.js";

type AxisFeed = FeedOf<"axis">;
type Holds = AxisFeed["holds"];

export const axisFeed: FeedKind<AxisFeed> = {
  bind(place) {
    if (place.is !== "axis" || isNamed(place)) return undefined;
    const { given, number } = place;
    const { scope, as, holds, lang } = axisColumn(place);
    const which = typeof given.axis === "number" ? given.axis : number;
    const feed: AxisFeed = { is: "axis", number: which, holds, lang, leads: true };
    return { scope, binding: { ...as, feed, name: `axis ${which} ${holds}@${lang}` } };
  },
  nameOf: ({ holds, lang }) => (holds === "name" ? `axes@${lang}` : `values@${lang}`),
  fill: undefined,
  write({ number, holds, lang }, context, table) {
    if (holds === "values") return listedValues(context, table, () => number - 1, lang);
    return holds === "name" ? axisName(context, table, number, lang) : axisValue(context, table, number, lang);
  },
  shows: ({ holds, lang }, kind) => axisShows(holds, lang, kind),
  refersTo: ({ holds }, kind) => axisReference(holds, kind),
  references: none,
  takes: nothing,
  origins: ({ number, holds, lang }, cell) => axisOrigins(cell, holds, lang, (axes) => axes[number - 1]),
  names: nothing,
  isFilled: always,
  describe: ({ number, holds, lang }) =>
    holds === "name"
      ? { means: `the name of axis ${number} (${lang})`, example: exampleOn(number)[0] }
      : {
          means: `the ${holds === "value" ? "variant's value" : "values"} on axis ${number} (${lang})`,
          example: exampleOn(number)[1],
        },
};

/** Axes of a product differ, and so do the examples. */
const examples = [
  ["Wood", "Cedar"],
  ["Size", "Large"],
  ["Finish", "Oiled"],
  ["Roof", "Flat"],
] as const;
const exampleOn = (number: number): readonly [string, string] => examples[number - 1] ?? ["", ""];

/** Whether the layout names the axis itself. */
export const isNamed = ({ given }: AxisPlace): boolean => typeof given.axis === "string" && given.axis !== "{n}";

/** What a column of an axis has in common, whether it is named or numbered. @throws Mistake */
export function axisColumn({ given, context }: AxisPlace): {
  readonly scope: Scope;
  readonly as: Pick<Binding, "codec" | "blankEmpties">;
  readonly holds: Holds;
  readonly lang: string;
} {
  const { shape } = context;
  if (shape.parent.name !== "product" || !shape.child)
    throw new Mistake(phrase("axes need rows that are variants of a product"));
  const all: readonly Holds[] = shape.is === "expanded" ? ["name", "values"] : ["name", "value"];
  const { name, lang = context.given.language } = splitLanguage(given.holds);
  const holds = all.find((one) => one === name);
  if (holds === undefined)
    throw new Mistake(phrase('"{0}" is not {1}', given.holds, all.join(" or ")), nearestSpelling(name, all));
  const { codec, list } = codecOf(given.as, "text");
  if (list !== (holds === "values"))
    throw new Mistake(
      holds === "values" ? phrase("values need a list") : phrase("{0} is a single text, not a list", holds),
    );
  return { scope: { is: holds === "value" ? "child" : "parent" }, as: { codec, blankEmpties: false }, holds, lang };
}

export const axisShows = (holds: Holds, lang: string, kind: string): string[] =>
  holds === "name" ? [`axis.name@${lang}`, `${kind}.axes`] : [`value.name@${lang}`, `${kind}.values`];

export function axisReference(holds: Holds, kind: KindSpec): readonly NamedReference[] {
  const name = holds === "value" ? "values" : "axes";
  const field = fieldOf(kind, name)?.reference;
  return field ? [{ name: `${kind.name}.${name}`, to: field.to, by: "name", dependency: field.dependency }] : [];
}

/** @param choose of the rows of a product's axes the one that is shown. */
export function axisOrigins(
  { catalogue, table, row }: WrittenCell,
  holds: Holds,
  lang: string,
  choose: (axes: readonly number[]) => number | undefined,
): RecordOrigin[] {
  const products = catalogue.table("product");
  const product = table.name === "product" ? row : table.parent(row);
  const axis = choose(targetsOf(catalogue, products, "axes", product));
  if (axis === undefined) return [];
  const name = `name@${lang}`;
  const axes = catalogue.table("axis");
  if (holds === "name") return [originOf(catalogue, products, product, "axes"), originOf(catalogue, axes, axis, name)];
  const values = catalogue.table("value");
  const own = targetsOf(catalogue, table, "values", row).find((one) => values.parent(one) === axis);
  return own === undefined ? [] : [originOf(catalogue, table, row, "values"), originOf(catalogue, values, own, name)];
}
