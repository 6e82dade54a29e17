/** How the rows of a sheet lie: found out from which columns repeat, which name others, and which are blank together. */

import { firstOf, present } from "../checked.js";
import { groupingOf, type Grouping } from "./grouping.js";
import { languageNamed } from "./header-names.js";
import type { Looked } from "./looked.js";
import { areAmong, type NamedBy, type Surroundings } from "./surroundings.js";

export type DraftShape =
  | { readonly is: "flat"; readonly kind: "product" | "category"; readonly identity: Looked | undefined }
  | ({ readonly is: "grouped" } & Grouping)
  | { readonly is: "own row"; readonly parent: Looked; readonly code: Looked }
  | {
      readonly is: "marked";
      readonly marker: Looked;
      readonly own: string;
      readonly child: string;
      readonly by: Looked;
    }
  | {
      readonly is: "linked";
      readonly by: Looked;
      readonly to: "product" | "variant" | "either";
      readonly names: NamedBy;
    }
  /** Rows that say what sets are put together from. */
  | { readonly is: "sets"; readonly by: Looked; readonly part: Looked; readonly names: NamedBy }
  | { readonly is: "expanded"; readonly lists: readonly Looked[]; readonly identity: Looked | undefined }
  | { readonly is: "nested" };

export interface ShapeGuess {
  readonly shape: DraftShape;
  readonly why: string;
  /** The column that tells the language of a row, with its words. */
  readonly language: { readonly column: Looked; readonly parts: Readonly<Record<string, string>> } | undefined;
  /** Rows that only continue the one above. */
  readonly isMore: (row: number) => boolean;
}

const means = (looked: readonly Looked[], ...concepts: readonly string[]): Looked[] =>
  looked.filter(({ meaning }) => meaning && concepts.includes(meaning.concept));

export function findShape(looked: readonly Looked[], surroundings: Surroundings): ShapeGuess {
  const language = languageColumn(means(looked, "language"));
  const rest = { language, isMore: () => false };
  const linked = linkedTo(looked, surroundings);
  if (linked) return { ...rest, ...linked };
  const identity = identityOf(looked);
  const related = relatedRows(looked, identity);
  if (related) return { ...rest, ...related };
  const marked = markerOf(looked, means(looked, "code"));
  if (marked)
    return {
      ...rest,
      shape: marked,
      why: `"${marked.marker.column.header}" is "${marked.own}" where the codes are blank`,
    };
  const grouping = language ? undefined : groupingOf(looked, identity);
  if (grouping) {
    const { by, code } = grouping;
    const isMore = (row: number) => by.column.cells[row] === "" && code.column.cells[row] === "";
    const [products, variants] = [by.profile.distinct.length, code.profile.filled];
    const why = `"${by.column.header}" repeats on rows that stand together, and each has a code of its own: ${products} groups, ${variants} rows`;
    return { language, isMore, shape: { is: "grouped", ...grouping }, why };
  }
  const hasNames = means(looked, "name", "categoryName").length > 0;
  const found = [...means(looked, "code"), ...means(looked, "key")].find(({ profile }) => profile.filled > 0);
  if (found && !hasNames && !looked.some(isName)) {
    const names = found.meaning?.concept === "key" ? "key" : "code";
    const to = means(looked, "description", "category", "brand", "picture", "slug").length > 0 ? "product" : "either";
    return {
      ...rest,
      shape: { is: "linked", by: found, to, names },
      why: "there are no names: the rows say more of articles that another sheet gives",
    };
  }
  const lists = listsOfValues(looked, identity);
  if (lists.length > 0 && !language)
    return {
      ...rest,
      shape: { is: "expanded", lists, identity },
      why: `"${firstOf(lists).column.header}" lists values: a variant for every combination`,
    };
  return { ...rest, shape: { is: "flat", kind: "product", identity }, why: "no column groups the rows" };
}

/** Texts of several words, nearly all different: names. */
const isName = ({ profile, meaning }: Looked): boolean =>
  (meaning === undefined || meaning.concept === "name") &&
  profile.isText &&
  profile.usualLength > 6 &&
  profile.distinct.length >= 0.5 * profile.filled &&
  profile.distinct.filter((word) => word.includes(" ")).length >= 0.5 * profile.distinct.length;

/** The column that is different on each row, and says which record it is about. */
export function identityOf(looked: readonly Looked[]): Looked | undefined {
  const score = (one: Looked, at: number): number => {
    const { profile, meaning } = one;
    const concept = meaning?.concept;
    const isSure = meaning?.how === "exact" || meaning?.how === "without";
    if (concept === "code") return isSure ? 6 : 4;
    if (concept === "key" || concept === "categoryKey") return isSure ? 5 : 3;
    if (concept !== undefined && concept !== "none") return -1;
    // Codes with a point in them look like amounts, but other columns begin with them.
    const isCode = profile.isCodeLike || (profile.hasDecimals && namedIn(one, looked) > 0);
    if (!isCode || profile.isBarcode || concept === "none" || !isOfArticles(one, looked)) return -1;
    return 2 - at / 100;
  };
  const isIn = (one: Looked) => namedIn(one, looked);
  const scored = looked
    .map((one, at) => ({ one, score: score(one, at) }))
    .map(({ one, score: own }) => ({ one, score: own > 0 && own < 5 ? own + Math.min(2, isIn(one)) : own }))
    .filter(({ one, score: own }) => own > 0 && one.profile.isNearlyUnique && one.profile.share >= 0.95);
  return scored.sort((a, b) => b.score - a.score)[0]?.one;
}

/** Whether a sheet without a word for codes is one of articles anyway: by its other words, or by its other columns. */
function isOfArticles(one: Looked, looked: readonly Looked[]): boolean {
  const known = looked.filter(({ meaning }) => meaning !== undefined && meaning.concept !== "none");
  const isWide = looked.length >= 7 && looked.some(({ profile }) => profile.hasDecimals || profile.usualLength > 55);
  return known.length >= 3 || isWide || namedIn(one, looked) > 0 || looked.some(({ profile }) => profile.isBarcode);
}

/** How many other columns have the words of this one in their own: addresses, names of pictures, codes of versions. */
export function namedIn({ column }: Looked, looked: readonly Looked[]): number {
  const words = column.cells.map((cell) => cell.toLowerCase());
  return looked.filter((other) => {
    const { cells } = other.column;
    if (other.column === column || cells.length !== words.length) return false;
    const rows = words.flatMap((word, row) => (word !== "" && cells[row] !== "" ? [row] : []));
    const isInside = (row: number) => {
      const cell = cells[row]!.toLowerCase();
      return cell.length > words[row]!.length && cell.startsWith(words[row]!);
    };
    return rows.length > 0 && rows.filter(isInside).length >= 0.8 * rows.length;
  }).length;
}

const valuesOf = ({ profile }: Looked): readonly string[] => profile.distinct;

/** Rows that name records of other files. */
function linkedTo(looked: readonly Looked[], around: Surroundings): Pick<ShapeGuess, "shape" | "why"> | undefined {
  const { products, sold, hasVariants } = around;
  if (sold.size === 0) return undefined;
  const namesSold = (one: Looked) => areAmong(valuesOf(one), sold);
  const namesProducts = (one: Looked) => areAmong(valuesOf(one), products);
  const isWhole = ({ profile }: Looked) => profile.share >= 0.95 && !profile.isDate && !profile.flag;
  const candidates = looked.filter((one) => isWhole(one) && (namesSold(one) || namesProducts(one)));
  const by = candidates.find(({ meaning }) => meaning && ["code", "key"].includes(meaning.concept)) ?? candidates[0];
  if (!by) return undefined;
  const parted = setsOf(looked, by, sold);
  if (parted) return parted;
  // Names that the other files give are repeated for people.
  const others = looked.filter((one) => one !== by && !areAmong(valuesOf(one), around.names));
  const isOfProducts = !namesSold(by) || (namesProducts(by) && isAboutProducts(others));
  const words = isOfProducts ? products : sold;
  const names = present(words.get(valuesOf(by).find((word) => words.has(word)) ?? ""));
  return {
    shape: { is: "linked", by, to: isOfProducts || !hasVariants ? "product" : "variant", names },
    why: `"${by.column.header}" names articles of another file`,
  };
}

const isAboutProducts = (looked: readonly Looked[]): boolean =>
  means(looked, "description", "category", "brand", "picture", "slug", "shortText").length > 0 ||
  looked.some((one) => one.profile.isPicture || isName(one)) ||
  means(looked, "name").length > 0;

/** A set's code on several rows, each with the code of a part. */
function setsOf(
  looked: readonly Looked[],
  part: Looked,
  sold: Surroundings["sold"],
): Pick<ShapeGuess, "shape" | "why"> | undefined {
  const others = looked.filter((one) => one !== part && one.profile.isCodeLike && one.profile.share === 1);
  const by = others.find(
    ({ profile, column }) =>
      profile.distinct.length < profile.filled &&
      !areAmong(profile.distinct, sold, 0.5) &&
      runsOf(column.cells).isContiguous &&
      !profile.isWhole,
  );
  if (!by) return undefined;
  const names = present(sold.get(valuesOf(part).find((word) => sold.has(word)) ?? ""));
  return {
    shape: { is: "sets", by, part, names },
    why: `"${by.column.header}" repeats on rows, each of which names an article of another file`,
  };
}

/** Rows that name other rows of the sheet: categories in each other, or variants of products. */
function relatedRows(
  looked: readonly Looked[],
  identity: Looked | undefined,
): Pick<ShapeGuess, "shape" | "why"> | undefined {
  if (!identity) return undefined;
  const known = new Set(identity.profile.distinct);
  const isOther = (one: Looked) =>
    one !== identity &&
    one.profile.filled > 0 &&
    one.profile.share < 1 &&
    (one.meaning === undefined || ["parent", "key", "code", "category", "categoryKey"].includes(one.meaning.concept)) &&
    areAmong(one.profile.distinct, known, 1) &&
    one.profile.distinct.length < one.profile.filled + (one.meaning?.concept === "parent" ? 1 : 0);
  const parents = looked.filter(isOther);
  const parent = parents.find(({ meaning }) => meaning?.concept === "parent") ?? parents[0];
  if (!parent) return undefined;
  const isOfGoods =
    means(looked, "price", "stock", "cost", "barcode", "axis", "groupPrice", "weight").length > 0 ||
    looked.length > 7 ||
    looked.some(
      ({ profile }) => profile.hasDecimals || profile.isBarcode || profile.isPicture || profile.usualLength > 55,
    );
  if (!isOfGoods)
    return {
      shape: { is: "flat", kind: "category", identity },
      why: `"${parent.column.header}" names another row of this sheet`,
    };
  return {
    shape: { is: "own row", parent, code: identity },
    why: `"${parent.column.header}" names the row of another item`,
  };
}

/** Columns whose cells list what an article comes in. */
function listsOfValues(looked: readonly Looked[], identity: Looked | undefined): Looked[] {
  const known = new Set(identity?.profile.distinct);
  return looked.filter(({ column, profile, meaning }) => {
    const { listSeparator } = profile;
    if (listSeparator === undefined || profile.isPicture || profile.decimal || !identity) return false;
    if (meaning?.concept === "axis") return true;
    if (meaning !== undefined || profile.usualLength > 40) return false;
    const parts = column.cells.filter((cell) => cell !== "").map((cell) => cell.split(listSeparator));
    const words = new Set(parts.flat());
    const isShort = [...words].every((word) => word.length <= 20) && !areAmong([...words], known, 0.5);
    return isShort && words.size * 3 <= parts.flat().length && parts.every((list) => list.length > 1);
  });
}

function languageColumn(candidates: readonly Looked[]): ShapeGuess["language"] {
  for (const column of candidates) {
    const parts = column.profile.distinct.map((word) => [word, languageNamed(word)] as const);
    if (parts.length > 1 && parts.every(([, lang]) => lang !== undefined))
      return { column, parts: Object.fromEntries(parts) as Record<string, string> };
  }
  return undefined;
}

/** A column of two words, one of them where the codes are blank, at the beginning of each run of another column. */
function markerOf(
  looked: readonly Looked[],
  codes: readonly Looked[],
): Extract<DraftShape, { is: "marked" }> | undefined {
  for (const marker of looked) {
    if (marker.profile.share < 1 || marker.profile.distinct.length !== 2) continue;
    for (const code of codes) {
      if (code === marker || code.profile.share === 1 || code.profile.filled === 0) continue;
      // An own row may have a code too, where the product has no versions.
      const blank = new Set(marker.column.cells.filter((_, row) => code.column.cells[row] === ""));
      if (blank.size !== 1) continue;
      const [own] = [...blank];
      const child = marker.profile.distinct.find((word) => word !== own);
      const by = looked.find(
        (one) =>
          one !== marker &&
          one !== code &&
          one.profile.share === 1 &&
          runsOf(one.column.cells).isContiguous &&
          one.column.cells.every((cell, row) => marker.column.cells[row] === own || cell === one.column.cells[row - 1]),
      );
      if (by) return { is: "marked", marker, own: present(own), child: present(child), by };
    }
  }
  return undefined;
}

/** Whether equal cells stand together. */
export function runsOf(cells: readonly string[]): { readonly isContiguous: boolean; readonly longest: number } {
  const seen = new Set<string>();
  let before: string | undefined;
  let length = 0;
  let longest = 0;
  for (const cell of cells) {
    if (cell !== before) {
      if (seen.has(cell)) return { isContiguous: false, longest };
      seen.add(cell);
      length = 0;
    }
    before = cell;
    longest = Math.max(longest, ++length);
  }
  return { isContiguous: true, longest };
}
