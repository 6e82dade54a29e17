/** Rows of one product that stand together: the column that is the same on them, found by what is the same with it. */

import type { Looked } from "./looked.js";

/** How rows are grouped. */
export interface Grouping {
  readonly by: Looked;
  /** What each row has of its own. */
  readonly code: Looked;
  /** Whether the product's cells are on every row of it. */
  readonly everyRow: boolean;
  /** Whether the column is filled on the first row of a group alone. */
  readonly isFilledDown: boolean;
  /** Columns that are the same on all rows of a product, as far as they are filled. */
  readonly shared: ReadonlySet<Looked>;
  /** Columns that differ on the rows of products with several. */
  readonly varying: ReadonlySet<Looked>;
}

/** @param code the column that is different on each row; without one nothing is grouped. */
export function groupingOf(looked: readonly Looked[], code: Looked | undefined): Grouping | undefined {
  const own = code ?? looked.find(({ meaning, profile }) => meaning?.concept === "code" && profile.isNearlyUnique);
  if (!own) return undefined;
  const found = looked.flatMap((by) => candidate(looked, by, own) ?? []).sort((a, b) => b.score - a.score);
  return found[0]?.grouping;
}

/** Columns of these can be the same on the rows of a product, and name none. */
const never = new Set(
  "slug price groupPrice offer was cost stock weight barcode picture alternative shown axis position from pieces none brand category subcategory description".split(
    " ",
  ),
);

/** How well words of headers fit a column that groups rows. */
const liked: Readonly<Record<string, number>> = { key: 4, parent: 2, code: 2, name: -3 };

interface Candidate {
  readonly grouping: Grouping;
  readonly score: number;
}

function candidate(looked: readonly Looked[], by: Looked, code: Looked): Candidate | undefined {
  const { profile, meaning, column } = by;
  const concept = meaning?.concept;
  if (by === code || (concept !== undefined && never.has(concept))) return undefined;
  if (profile.filled === 0 || profile.flag || profile.isDate || profile.isPicture || profile.isBarcode)
    return undefined;
  if (profile.usualLength > 60) return undefined;
  const isFilledDown = profile.share < 1 && isFirstOnly(by, code);
  if (!isFilledDown && column.cells.some((cell, row) => cell === "" && code.column.cells[row] !== "")) return undefined;
  const groups = groupsOf(column.cells, code.column.cells, isFilledDown);
  if (!groups) return undefined;
  const isBeginning = beginsOthers(by, code, groups);
  // Codes with a point in them look like amounts.
  if (profile.hasDecimals && !isBeginning && concept !== "key") return undefined;
  const several = groups.filter((rows) => rows.length > 1);
  if (several.length === 0 || groups.length < 2) return undefined;
  const others = looked.filter((one) => one !== by && one !== code && one.profile.filled > 0);
  const shared = new Set(others.filter((one) => isShared(one, several)));
  const isSaid = ({ column: own }: Looked) => several.some((rows) => rows.some((row) => own.cells[row] !== ""));
  const varying = new Set(others.filter((one) => !shared.has(one) && isSaid(one)));
  const names = others.filter((one) => one.meaning?.concept === "name");
  // What varies beside the code may be nothing but the name.
  if (names.length > 0 ? !names.some((one) => shared.has(one)) : shared.size < 2 && concept !== "key") return undefined;
  if (varying.size === 0 && concept !== "key") return undefined;
  const liking = liked[concept ?? ""] ?? (profile.isCodeLike ? 1 : -1);
  const grouping = {
    by,
    code,
    isFilledDown,
    shared,
    varying,
    everyRow: !isFilledDown && areOnEveryRow(shared, several),
  };
  return { grouping, score: shared.size + liking + (isBeginning ? 3 : 0) - varying.size / 10 };
}

/** Whether the codes of versions begin with that of their product, as they often do. */
function beginsOthers(by: Looked, code: Looked, groups: readonly (readonly number[])[]): boolean {
  const begins = groups.filter((rows) => {
    const word = by.column.cells[rows[0]!]!;
    return word !== "" && rows.every((row) => code.column.cells[row]!.startsWith(word));
  });
  return begins.length >= 0.8 * groups.length;
}

/** Whether a column is filled at the beginning of groups alone, and others with it. */
function isFirstOnly({ column }: Looked, code: Looked): boolean {
  const rows = column.cells.map((_, row) => row).filter((row) => code.column.cells[row] !== "");
  return rows.length > 0 && column.cells[rows[0]!] !== "" && rows.some((row) => column.cells[row] === "");
}

/** The rows of each group; undefined where equal words stand apart. */
function groupsOf(cells: readonly string[], codes: readonly string[], isFilledDown: boolean): number[][] | undefined {
  const groups: number[][] = [];
  const seen = new Set<string>();
  let before = "";
  for (const [row, cell] of cells.entries()) {
    // Rows without a code only continue others.
    if (codes[row] === "") continue;
    const isNew = isFilledDown ? cell !== "" : cell !== before;
    if (isNew) {
      if (seen.has(cell)) return undefined;
      seen.add(cell);
      before = cell;
      groups.push([]);
    }
    groups[groups.length - 1]?.push(row);
  }
  return groups;
}

function isShared({ column }: Looked, groups: readonly (readonly number[])[]): boolean {
  const same = groups.filter((rows) => {
    const words = new Set(rows.map((row) => column.cells[row]!.trim()).filter((cell) => cell !== ""));
    return words.size <= 1;
  });
  const isSaid = groups.some((rows) => rows.some((row) => column.cells[row] !== ""));
  return isSaid && same.length >= 0.95 * groups.length && !isOnOtherRows(column.cells, groups);
}

/** Whether cells are filled below the first row where the first is blank. */
const isOnOtherRows = (cells: readonly string[], groups: readonly (readonly number[])[]): boolean =>
  groups.filter((rows) => cells[rows[0]!] === "" && rows.some((row) => cells[row] !== "")).length >
  0.05 * groups.length;

function areOnEveryRow(shared: ReadonlySet<Looked>, groups: readonly (readonly number[])[]): boolean {
  return [...shared].every(({ column }) =>
    groups.every((rows) => new Set(rows.map((row) => column.cells[row] === "")).size === 1),
  );
}
