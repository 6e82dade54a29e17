/** How the rows of a sheet lie: found out from which columns repeat, which name others, and which are blank together. */

import type { Lang } from "../nominal.js";
import { firstOf, present } from "../checked.js";
import { languageNamed, type HeaderMatch } from "./header-names.js";
import type { Profile } from "./profile.js";
import type { SampleColumn } from "./sample.js";

export interface Looked {
  readonly column: SampleColumn;
  readonly profile: Profile;
  readonly meaning: HeaderMatch | undefined;
  readonly lang: Lang | undefined;
  readonly unit: string | undefined;
  readonly number: number | undefined;
}

export type DraftShape =
  | { readonly is: "flat"; readonly kind: "product" | "category" }
  | { readonly is: "grouped"; readonly by: Looked; readonly everyRow: boolean }
  | { readonly is: "own row"; readonly parent: Looked; readonly code: Looked }
  | {
      readonly is: "marked";
      readonly marker: Looked;
      readonly own: string;
      readonly child: string;
      readonly by: Looked;
    }
  | { readonly is: "linked"; readonly by: Looked }
  | { readonly is: "expanded"; readonly lists: readonly Looked[] }
  | { readonly is: "nested" };

export interface ShapeGuess {
  readonly shape: DraftShape;
  readonly why: string;
  /** The column that tells the language of a row, with its words. */
  readonly language: { readonly column: Looked; readonly parts: Readonly<Record<string, string>> } | undefined;
  /** Rows that only continue the one above. */
  readonly isMore: (row: number) => boolean;
}

export function findShape(looked: readonly Looked[]): ShapeGuess {
  const means = (concept: string) => looked.filter(({ meaning }) => meaning?.concept === concept);
  const rows = looked[0]?.column.cells.length ?? 0;
  const never = () => false;
  const language = languageColumn(means("language"));
  const rest = { language, isMore: never };
  const codes = means("code").filter(({ profile }) => profile.filled > 0);
  const names = new Set([...codes, ...means("key")].flatMap(({ column }) => column.cells));

  const parent = means("parent").find(
    ({ profile }) => profile.share < 1 && profile.filled > 0 && profile.distinct.every((word) => names.has(word)),
  );
  const identity = [...codes, ...means("key")].find(({ profile }) => profile.isUnique && profile.share === 1);
  if (parent && identity) {
    const isTree = means("price").length + means("stock").length + means("cost").length === 0;
    if (isTree)
      return {
        ...rest,
        shape: { is: "flat", kind: "category" },
        why: `"${parent.column.header}" names another row of this sheet`,
      };
    return {
      ...rest,
      shape: { is: "own row", parent, code: identity },
      why: `"${parent.column.header}" names the row of another item`,
    };
  }
  const marked = markerOf(looked, codes);
  if (marked)
    return {
      ...rest,
      shape: marked,
      why: `"${marked.marker.column.header}" is "${marked.own}" where the codes are blank`,
    };

  const code = codes.find(({ profile }) => profile.isUnique) ?? codes[0];
  const groups = looked
    .filter(
      (one) =>
        one !== code &&
        one !== language?.column &&
        (one.meaning?.concept === "key" || one.meaning?.concept === "code" || one.meaning?.concept === "name"),
    )
    .map((one) => ({ one, runs: runsOf(one.column.cells, code?.column.cells) }))
    .filter(({ runs }) => runs.isContiguous && runs.longest > 1)
    .sort((a, b) => rank(b.one) - rank(a.one));
  const best = groups[0];
  if (best && code?.profile.isUnique && !language) {
    const { cells } = best.one.column;
    const isMore = (row: number) => cells[row] === "" && code.column.cells[row] === "";
    const everyRow = looked.every(
      ({ column, meaning }) =>
        meaning?.concept !== "name" || column.cells.every((cell, row) => cell !== "" || isMore(row)),
    );
    const partly = looked.some(
      ({ column, meaning }) =>
        isOfProduct(meaning?.concept) &&
        column.cells.some((cell, row) => cell === "" && !isMore(row)) &&
        column.cells.some((cell) => cell !== ""),
    );
    return {
      language,
      isMore,
      shape: { is: "grouped", by: best.one, everyRow: everyRow && !partly },
      why: `"${best.one.column.header}" repeats on rows that stand together, and each has a code of its own`,
    };
  }
  const hasNames = means("name").length > 0;
  const found = code ?? means("key")[0];
  if (found && !hasNames && rows > 0)
    return {
      ...rest,
      shape: { is: "linked", by: found },
      why: "there are no names: the rows say more of articles that another sheet gives",
    };
  const lists = means("axis").filter(({ profile }) => profile.listSeparator !== undefined);
  if (lists.length > 0 && !language)
    return {
      ...rest,
      shape: { is: "expanded", lists },
      why: `"${firstOf(lists).column.header}" lists values: a variant for every combination`,
    };
  return { ...rest, shape: { is: "flat", kind: "product" }, why: "no column groups the rows" };
}

const isOfProduct = (concept: string | undefined): boolean =>
  concept === "name" || concept === "description" || concept === "picture" || concept === "brand";

function rank({ meaning }: Looked): number {
  return meaning?.concept === "key" ? 3 : meaning?.concept === "code" ? 2 : 1;
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
      if (code === marker || code.profile.share === 1) continue;
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
          runsOf(one.column.cells, undefined).isContiguous &&
          one.column.cells.every((cell, row) => marker.column.cells[row] === own || cell === one.column.cells[row - 1]),
      );
      if (by) return { is: "marked", marker, own: present(own), child: present(child), by };
    }
  }
  return undefined;
}

/** Whether equal cells stand together; rows in which the code is blank too only continue others. */
function runsOf(
  cells: readonly string[],
  codes: readonly string[] | undefined,
): { readonly isContiguous: boolean; readonly longest: number } {
  const seen = new Set<string>();
  let before: string | undefined;
  let length = 0;
  let longest = 0;
  for (const [row, cell] of cells.entries()) {
    if (cell === "") {
      if (codes?.[row] === "") continue;
      return { isContiguous: false, longest };
    }
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
