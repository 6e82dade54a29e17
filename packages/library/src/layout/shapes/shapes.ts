/** All row shapes, in the order in which the words of `rows` are tried as one of them. */

import type { KindSpec } from "../../kind.js";
import { phrase, type Text } from "../../phrases/phrase.js";
import type { Shape } from "../layout.js";
import type { GivenRows } from "../schema.js";
import { expandedShape } from "./expanded.js";
import { flatShape } from "./flat.js";
import { groupedShape } from "./grouped.js";
import { nestedShape } from "./nested.js";
import { ownRowShape } from "./own-row.js";
import type { RowsWord, ShapeKind, ShapeOf, ShapeOfOne, ShapeOfTwo } from "./shape-kind.js";

export const shapes = {
  nested: nestedShape,
  expanded: expandedShape,
  "own-row": ownRowShape,
  grouped: groupedShape,
  flat: flatShape,
} satisfies { readonly [K in Shape["is"]]: ShapeOfOne<ShapeOf<K>> | ShapeOfTwo<ShapeOf<K>> };

/** Words that every shape takes. */
const common: readonly RowsWord[] = ["each", "of", "language", "found by"];

/** What a row shape has to say. */
export function kindOfShape<S extends Shape>({ is }: S): ShapeKind<S> {
  // Each entry of the table takes the shapes of its own name: the compiler has checked that there, and cannot carry it over here.
  const byName: Readonly<Record<string, unknown>> = shapes;
  return byName[is] as ShapeKind<S>;
}

/**
 * The shape that the words of `rows` make; undefined where they make none. Words that it does not take are mistakes.
 *
 * @param parent the kind of `of`, where rows have one.
 */
export function shapeOf(
  rows: GivenRows,
  kind: KindSpec,
  parent: KindSpec | undefined,
  mistake: (problem: Text, nearest: string | undefined, ...path: string[]) => void,
): Shape | undefined {
  const say = (problem: Text, nearest?: string, ...path: string[]): undefined => {
    mistake(problem, nearest, "rows", ...path);
    return undefined;
  };
  for (const one of Object.values(shapes)) {
    if (!one.isMeant(rows)) continue;
    if (parent && "ofTwo" in one) {
      refuseOthers(rows, one.words, say);
      return one.ofTwo({ rows, kind, parent, mistake: say });
    }
    if (!parent && "ofOne" in one) {
      refuseOthers(rows, one.words, say);
      return one.ofOne({ rows, kind, mistake: say });
    }
  }
  return undefined;
}

function refuseOthers(
  rows: GivenRows,
  words: readonly RowsWord[],
  mistake: (problem: Text, nearest: string | undefined, ...path: string[]) => void,
): void {
  const taken: ReadonlySet<string> = new Set([...common, ...words]);
  for (const [word, value] of Object.entries(rows))
    if (value !== undefined && !taken.has(word)) mistake(phrase('"{0}" is not for these rows', word), undefined, word);
}
