/** The public catalogue of Tollgate, as JSON (description, sections 5 and 6). */

import { languages, storePlaces } from "./columns.js";
import type { OptionCell } from "./cells.js";
import type { TollgateStore, StoredVersion } from "./store.js";

type Cells = Readonly<Record<string, unknown>>;

const inEach = (data: Cells, word: string) =>
  Object.fromEntries(languages.map((lang) => [lang.toLowerCase(), data[`${word} ${lang}`] ?? null]));
const numbered = (data: Cells, word: string) =>
  [1, 2, 3].map((n) => data[`${word} ${n}`] as string | null).filter((one) => one !== null);

/** A text within a text, as cells have it. */
const escaped = (text: string, separators: string): string =>
  [...text].map((char) => (`\\${separators}`.includes(char) ? `\\${char}` : char)).join("");

function optionText({ name, must, choices }: OptionCell): string {
  const own = choices.map(
    ({ name: called, charge, share }) =>
      `${escaped(called, ";:,=")}=${charge.startsWith("-") ? "" : "+"}${charge}${share ? "%" : ""}`,
  );
  return `${escaped(name, ";:")}:${must ? "must" : "may"}:${own.join(",")}`;
}

export function catalogueOf(store: TollgateStore) {
  const articles = store.articles().map((number) => {
    const data = store.article(number)!;
    const versions = store.versionsOf(number);
    const texts = data["Picture texts"] as (string | null)[] | null;
    return {
      number,
      name: inEach(data, "Name"),
      text: inEach(data, "Text"),
      sections: (data["Section"] as string[][])
        .map((path) => path.map((name) => escaped(name, ";>")).join(">"))
        .join(";"),
      maker: data["Maker"],
      sort: data["Sort"],
      options: (data["Options"] as OptionCell[]).map(optionText).join(";"),
      features: numbered(data, "Feature"),
      pictures: (data["Pictures"] as string[]).map((file, at) => ({ file, text: texts?.[at] ?? null })),
      goesWith: data["Goes with"],
      spares: data["Spares"],
      onSale: data["On sale"],
      seen: isSeen(data, versions),
      codes: versions.map(toJson),
    };
  });
  return { articles };
}

function toJson({ code, data }: StoredVersion) {
  return {
    code,
    is: numbered(data, "Is"),
    state: data["State"],
    owed: data["Owed"],
    price: data["Price"],
    was: data["Was"],
    cost: data["Cost"],
    day: data["Day"],
    week: data["Week"],
    steps: data["Steps"],
    tax: data["Tax"],
    unit: data["Unit"],
    least: data["Least"],
    most: data["Most"],
    weight: data["Weight"],
    barcode: data["Barcode"],
    supplies: data["Supplied by"],
    parts: data["Parts"],
    stock: Object.fromEntries(storePlaces.map((place) => [place, data[`Stock ${place}`]])),
  };
}

function isSeen(article: Cells, versions: readonly StoredVersion[]): boolean {
  if (article["On sale"] !== true || (article["Section"] as unknown[]).length === 0) return false;
  const prices = article["Sort"] === "R" ? ["Day", "Week"] : ["Price"];
  return versions.some(({ data }) => data["State"] === "A" && prices.some((price) => Number(data[price] ?? 0) > 0));
}
