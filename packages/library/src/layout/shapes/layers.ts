/** What goes with every row shape: a row a language, and rows that name records which other sheets give. */

import { present } from "../../checked.js";
import type { BlockFiller } from "../fill/block.js";
import type { FillOptions } from "../fill/context.js";
import { LinkedFiller } from "../fill/linked.js";
import type { Layout, RowLink, RowLanguages, Shape } from "../layout.js";
import type { TellingColumn } from "./shape-kind.js";
import { kindOfShape } from "./shapes.js";

/** The columns that tell what a row is, in which language it is, or which record it is of. */
export function tellingColumns({
  shape,
  link,
  languages,
}: {
  readonly shape: Shape;
  readonly link: RowLink | undefined;
  readonly languages: RowLanguages | undefined;
}): readonly TellingColumn[] {
  return [
    ...(languages ? [{ header: languages.column, words: [...languages.layouts.keys()] }] : []),
    ...kindOfShape(shape).tells(shape),
    ...(link ? [{ header: link.column, isNeeded: true, isRepeated: true }] : []),
  ];
}

/** What takes the blocks of a layout's rows, in one language. */
export function blockFiller(options: FillOptions): BlockFiller {
  const { shape, link } = options.layout;
  const { fill } = kindOfShape(shape);
  return link
    ? new LinkedFiller(options, link, (shared, parents) => fill(shape, shared, parents))
    : fill(shape, options, undefined);
}

/** @throws Error for a document, whose rows are its elements: the caller's bug. */
export function rowCutter({ shape }: Layout): NonNullable<ReturnType<typeof kindOfShape>["cut"]> {
  return present(kindOfShape(shape).cut);
}
