/** How an importer works through a file, with what a target leaves out. */

import type { Feed, Layout } from "../layout/layout.js";
import type { GivenImporter } from "./schema.js";

export type ImporterWord = Exclude<keyof GivenImporter, "identified by">;
/** By what an importer tells records apart. */
export type IdentifiedBy = NonNullable<GivenImporter["identified by"]>[string][number];

/** How an importer works through a file. */
export type Importing = { readonly [W in ImporterWord]: NonNullable<GivenImporter[W]> } & {
  /** By kind: the ways in their order; the usual ones, if left out. */
  readonly "identified by"?: Readonly<Record<string, readonly IdentifiedBy[]>> | undefined;
};

/** Where a target leaves a word out. */
const usual: Importing = {
  "refusal costs": "row",
  "at an error": "go on",
  header: "any order",
  "known record": "update",
  "unknown id": "refuse",
  lists: "replace",
  "children not named": "kept",
  "child of another parent": "refuse",
  "parent without children": "kept",
  "axes of a known parent": "must match",
  "shared cells below the first row": "refuse",
  "missing pictures": "refuse",
  "looked up": "as rows arrive",
  "unknown names": "refuse",
};

/** The words for all files apply to those files for which they mean something. */
export function importingOf(given: GivenImporter, layouts: readonly Layout[]): Importing {
  const own = Object.entries(given).filter(([word, value]) => value !== undefined && isAbout(word, layouts));
  return { ...usual, ...Object.fromEntries(own) };
}

/** Whether a word of the importer means something for a file's rows. */
export function isAbout(word: string, layouts: readonly Layout[]): boolean {
  return layouts.some(({ shape, link, columns }) => {
    const hasBlocks = shape.child !== undefined && !link;
    if (word === "child of another parent") return hasBlocks || (shape.parent.of !== undefined && !link);
    if (word === "axes of a known parent")
      return columns.some(({ bindings }) => bindings.some(({ feed }) => feedsAxes(feed)));
    return hasBlocks || !ofBlocks.has(word);
  });
}

const ofBlocks: ReadonlySet<string> = new Set([
  "children not named",
  "parent without children",
  "shared cells below the first row",
]);

const feedsAxes = (feed: Feed): boolean =>
  feed.is === "axis" ||
  feed.is === "axes" ||
  feed.is === "named-axis" ||
  (feed.is === "reference" && feed.field === "axes");
