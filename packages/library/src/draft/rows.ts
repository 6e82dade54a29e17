/** The rows of a drafted layout. */

import type { Sample } from "./sample.js";
import type { ShapeGuess } from "./shape.js";

/** How the rows lie, as a layout says it. @param sold the kind that can be sold. */
export function rowsOf(
  { shape, language }: ShapeGuess,
  sample: Sample,
  sold: string,
): Readonly<Record<string, unknown>> {
  const lang = language && { language: { column: language.column.column.header, "code words": language.parts } };
  switch (shape.is) {
    case "flat":
      return { each: shape.kind, ...lang };
    case "grouped":
      return {
        each: "variant",
        of: "product",
        "grouped by": shape.by.column.header,
        "shared cells": shape.everyRow ? "every row" : "first row",
      };
    case "own row":
      return {
        each: "variant",
        of: "product",
        "shared cells": "own row",
        "joined by": { column: shape.parent.column.header, names: "key" },
      };
    case "marked":
      return {
        each: "variant",
        of: "product",
        "shared cells": "own row",
        marker: { column: shape.marker.column.header, parent: shape.own, child: shape.child },
        "joined by": { column: shape.by.column.header, names: "key" },
      };
    case "linked":
      return { each: sold, "found by": { column: shape.by.column.header, names: shape.names } };
    case "sets":
      return { each: "product", "found by": { column: shape.by.column.header, names: "key" } };
    case "expanded":
      return { each: "variant", of: "product", expanded: { code: codePattern(shape.lists.length) } };
    case "nested": {
      const { element = "", childElement } = sample;
      if (childElement === undefined) return { each: "product", element };
      return { each: "variant", of: "product", element, "child element": childElement };
    }
  }
}

/** Codes of variants: the key of the product, and the value on each axis in plain letters. */
function codePattern(axes: number): string {
  const values = Array.from({ length: axes }, (_, at) => `-{${at + 1}|plain|letters|upper}`);
  return `{key}${values.join("")}`;
}
