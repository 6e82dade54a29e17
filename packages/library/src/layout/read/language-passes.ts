/** Rows of several languages: each has what fills from it. Those in other languages than the source's wait until its own are all there. */

import { valueOn } from "../../catalogue/catalogue.js";
import { finding, type Finding } from "../../findings/finding.js";
import type { Location } from "../../location.js";
import type { Block } from "./cut.js";
import type { BlockFiller, LinkedRecords } from "../fill/block.js";
import type { FillOptions } from "../fill/context.js";
import { byLanguage, kindOfScope, type Feed, type Layout, type RowLanguages } from "../layout.js";
import { columnField } from "../bindings/feed-kinds.js";
import { columnInSheet } from "../cells.js";
import { blockFiller } from "../shapes/layers.js";

export class LanguagePass {
  readonly #filler: BlockFiller;
  readonly #waiting: Block[] | undefined;

  constructor(
    readonly layout: Layout,
    options: Omit<FillOptions, "layout">,
    isLater: boolean,
  ) {
    this.#filler = blockFiller({ ...options, layout, translates: options.translates || isLater });
    this.#waiting = isLater ? [] : undefined;
  }

  /** How linked rows find their records. */
  get linked(): LinkedRecords | undefined {
    return this.#filler.linked;
  }

  take(block: Block | undefined): void {
    if (!block) return;
    if (this.#waiting) this.#waiting.push(block);
    else this.#filler.block(block);
  }

  end(): void {
    for (const block of this.#waiting ?? []) this.#filler.block(block);
    this.#filler.end();
  }
}

/** By the word that tells the language; one without a word where rows have none. */
export function languagePasses(
  layout: Layout,
  options: Omit<FillOptions, "layout">,
): ReadonlyMap<string, LanguagePass> {
  return new Map(byLanguage(layout).map(([word, own], at) => [word, new LanguagePass(own, options, at > 0)]));
}

/** The column of the sheet that a field comes from, by `kind.field`; where languages differ, that of the source's. */
export function fieldHeaders(layout: Layout): ReadonlyMap<string, string> {
  const headers = new Map<string, string>();
  for (const [, own] of [...byLanguage(layout)].reverse())
    for (const column of own.columns)
      for (const { feed } of column.bindings) {
        const header = columnInSheet(layout.cells, column.header);
        headers.set(`${kindOfScope(own, column.scope).name}.${columnField(column, feed)}`, header);
        const axis = axisOfValues(feed);
        if (axis !== undefined) headers.set(valueOn(axis), header);
      }
  return headers;
}

/** The axis whose values a column holds, by its number or its name. */
function axisOfValues(feed: Feed): number | string | undefined {
  if (feed.is === "axis") return feed.holds === "name" ? undefined : feed.number;
  return feed.is === "named-axis" ? feed.axis : undefined;
}

/** A row in a language that its layout does not know. */
export function unknownLanguage(word: string, languages: RowLanguages, at: Location): Finding {
  return finding("read/unknown-language", { word, known: [...languages.layouts.keys()].join(", ") }, at);
}
