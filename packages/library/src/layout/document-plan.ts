/**
 * Where the columns of a document's layout stand: in the element of the block, in that of a child, of a lane, or in one on the way there,
 * at any depth. Reading and writing both go by it.
 */

import { present } from "../checked.js";
import type { Header } from "../nominal.js";
import type { DocumentAccess } from "../formats/document.js";
import type { Column, Layout, Shape } from "./layout.js";
import { tellingColumns } from "./shapes/layers.js";

/** An element on the way from the block's: it may be repeated within the one above it. */
export interface ElementLevel {
  /** Seen from the element above. */
  readonly step: string;
  /** As the columns say it. */
  readonly path: string;
}

/** Where a column stands. */
export interface PlacedColumn {
  /** The position of its cell in a row. */
  readonly at: number;
  readonly column: Column;
  /** The level whose element the path is seen from; -1 for the block's. */
  readonly level: number;
  readonly path: string;
}

/** The columns of a scope, and the levels down to its elements. */
export interface ScopePlan {
  readonly levels: readonly ElementLevel[];
  readonly spots: readonly PlacedColumn[];
}

export interface LanePlan extends ScopePlan {
  readonly of: "parent" | "child";
  /** How many of its levels are those of its owner. */
  readonly ownerLevels: number;
}

export interface DocumentPlan {
  readonly own: readonly PlacedColumn[];
  readonly child: ScopePlan | undefined;
  readonly lanes: readonly LanePlan[];
}

type Nested = Extract<Shape, { is: "nested" }>;
type Paths = Pick<DocumentAccess<unknown>, "levels" | "within" | "normal">;

/** @param positions of the headers among the cells of a row; columns that are not there have no place. */
export function documentPlan(
  layout: Layout,
  { childElement }: Nested,
  access: Paths,
  positions: ReadonlyMap<Header, number>,
): DocumentPlan {
  const columns = layout.columns.flatMap((column) => {
    const at = positions.get(column.header);
    return at === undefined ? [] : [{ column, at }];
  });
  const childLevels = childElement === undefined ? [] : levelsTo(childElement, access);
  const spotsIn = (levels: readonly ElementLevel[], isOwn: (column: Column) => boolean): PlacedColumn[] =>
    columns
      .filter(({ column }) => isOwn(column))
      .map(({ column, at }) => ({ column, at, ...placeOf(column.header, levels, access) }));
  return {
    own: spotsIn([], ({ scope }) => scope.is === "parent"),
    child:
      childElement === undefined
        ? undefined
        : { levels: childLevels, spots: spotsIn(childLevels, ({ scope }) => scope.is === "child") },
    lanes: layout.lanes.map((lane): LanePlan => {
      const owner = lane.of === "child" ? childLevels : [];
      const element = present(lane.element);
      const all = levelsTo(element, access);
      const isBelow = owner.every(({ path }, at) => all[at]?.path === path);
      // A lane's element may also be said as seen from its owner's.
      const levels = [...owner, ...(isBelow ? all.slice(owner.length) : all)];
      const spots = spotsIn(levels, ({ scope }) => scope.is === "lane" && scope.lane === lane.name);
      return { of: lane.of, ownerLevels: owner.length, levels, spots };
    }),
  };
}

function levelsTo(path: string, { levels, within }: Paths): ElementLevel[] {
  return levels(path).map((one, at, all) => ({
    path: one,
    step: at === 0 ? one : present(within(one, all[at - 1]!)),
  }));
}

/** The deepest element that a path leads through; the block's, if none. */
function placeOf(
  header: string,
  levels: readonly ElementLevel[],
  { within, normal }: Paths,
): Pick<PlacedColumn, "level" | "path"> {
  const path = normal(header);
  for (let level = levels.length - 1; level >= 0; level--) {
    const inside = within(path, levels[level]!.path);
    if (inside !== undefined) return { level, path: inside };
  }
  return { level: -1, path };
}

/** Whether a column is read: it feeds something, or tells what its element is. */
export function isReadIn(layout: Layout): (column: Column) => boolean {
  const telling = new Set(tellingColumns(layout).map(({ header }) => header));
  return ({ header, bindings }) =>
    telling.has(header) || bindings.some(({ feed }) => feed.is !== "shape" || (feed.constant ?? "") !== "");
}
