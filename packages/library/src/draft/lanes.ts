/** Rows that go on with a record: prices by quantity, pictures, parts of a set, each on a row of its own. */

import { firstOf } from "../checked.js";
import type { Lang } from "../nominal.js";
import { amountCodec } from "./codecs.js";
import type { Looked } from "./looked.js";

/** A lane of the layout, and what its columns are. */
export interface DraftedLane {
  readonly name: string;
  readonly lane: Readonly<Record<string, unknown>>;
  readonly columns: readonly {
    readonly one: Looked;
    readonly field: string;
    readonly more: Readonly<Record<string, unknown>>;
    readonly why: string;
  }[];
}

/** Prices from a quantity on, or for a group of customers, a row for each. @param by the words that tell which record a row is about. */
export function priceLane(
  own: readonly Looked[],
  by: readonly string[],
  sold: string,
  lang: Lang,
  blank: Readonly<Record<string, unknown>>,
): DraftedLane | undefined {
  const isRising = ({ column }: Looked) => risesWithin(column.cells, by);
  const from =
    own.find(({ meaning, profile }) => meaning?.concept === "from" && profile.isWhole) ??
    own.find(
      (one) =>
        (one.meaning === undefined || ["quantityLeast", "stock", "pieces"].includes(one.meaning.concept)) &&
        one.profile.isWhole &&
        one.profile.distinct.length <= 12 &&
        isRising(one),
    );
  const groups = own.filter(({ meaning }) => meaning?.concept === "customerGroup");
  const group = groups.length === 1 ? firstOf(groups) : undefined;
  const amounts = own.filter((one) => one !== from && one.profile.hasDecimals);
  const price =
    amounts.find(({ meaning }) => meaning?.concept === "price") ?? (amounts.length === 1 ? amounts[0] : undefined);
  if ((!from && !group) || !price) return undefined;
  return {
    name: "tiers",
    lane: { entries: `${sold}.prices`, with: { role: "price" }, ...blank },
    columns: [
      ...(from
        ? [
            {
              one: from,
              field: "tiers.quantityFrom",
              more: { as: "integer" },
              why: "quantities beside prices, on several rows of an article",
            },
          ]
        : []),
      ...(group
        ? [
            {
              one: group,
              field: "tiers.customerGroup",
              more: { as: { by: `name@${lang}` } },
              why: "groups beside prices, on several rows of an article",
            },
          ]
        : []),
      {
        one: price,
        field: "tiers.amount",
        more: amountCodec(price),
        why: "prices beside quantities, on several rows of an article",
      },
    ],
  };
}

/** Pictures, each on a row. */
export function pictureLane(
  own: readonly Looked[],
  by: readonly string[],
  lang: Lang,
  blank: Readonly<Record<string, unknown>>,
): DraftedLane | undefined {
  const picture = own.find(({ profile }) => profile.isPicture);
  if (!picture) return undefined;
  const alternative = own.find(({ meaning }) => meaning?.concept === "alternative");
  const position = own.find(({ profile, column }) => profile.isWhole && risesWithin(column.cells, by));
  const why = "pictures go on on rows of their own";
  return {
    name: "shots",
    lane: { entries: "product.pictures", ...blank },
    columns: [
      { one: picture, field: "shots.file", more: {}, why },
      ...(alternative
        ? [
            {
              one: alternative,
              field: `shots.alternative@${alternative.lang ?? lang}`,
              more: {},
              why: "it stands beside the pictures",
            },
          ]
        : []),
      ...(position
        ? [{ one: position, field: "shots.position", more: { as: "integer" }, why: "it counts the pictures" }]
        : []),
    ],
  };
}

/** Parts of sets, each on a row, with how many of them. */
export function partLane(own: readonly Looked[], part: Looked, names: string): DraftedLane {
  const wholes = own.filter((one) => one !== part && one.profile.isWhole && one.profile.distinct.length < 20);
  const pieces =
    wholes.find(({ meaning }) => meaning && ["pieces", "stock"].includes(meaning.concept)) ??
    (wholes.length === 1 ? wholes[0] : undefined);
  return {
    name: "parts",
    lane: { entries: "product.components" },
    columns: [
      { one: part, field: "parts.variant", more: { as: { by: names } }, why: "it names what a set consists of" },
      ...(pieces
        ? [
            {
              one: pieces,
              field: "parts.quantity",
              more: { as: "integer" },
              why: "whole numbers beside the parts of sets",
            },
          ]
        : []),
    ],
  };
}

/** Whether numbers rise on the rows of each record, where it has several. */
function risesWithin(cells: readonly string[], by: readonly string[]): boolean {
  let several = 0;
  for (let row = 1; row < cells.length; row++) {
    if (by[row] !== by[row - 1]) continue;
    several++;
    if (!(Number(cells[row]) > Number(cells[row - 1]))) return false;
  }
  return several > 0;
}
