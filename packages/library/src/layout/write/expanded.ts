/** Writing rows that list values: the combinations that there are not, and whether the codes follow the pattern. */

import { firstOf, present } from "../../checked.js";
import { targetsOf } from "../../catalogue/catalogue.js";
import type { ReadonlyTable } from "../../catalogue/readonly-table.js";
import { finding } from "../../findings/finding.js";
import { codeOf, combinations } from "../fill/expanded.js";
import type { Shape } from "../layout.js";
import type { CellContext } from "./context.js";
import { phrase } from "../../phrases/phrase.js";

export interface ExpandedCells {
  /** Fills what the shape itself states for a product's variants, and reports those that reading would not give again. */
  readonly fill: (
    cells: string[],
    parent: number,
    children: readonly number[],
    positions: ReadonlyMap<string, number>,
  ) => void;
}

type Expanded = Extract<Shape, { is: "expanded" }>;

export function expandedCells(
  { catalogue, axes, findings, columns }: CellContext,
  shape: Expanded,
  parents: ReadonlyTable,
  variants: ReadonlyTable,
): ExpandedCells {
  const lang = columns
    .flatMap(({ bindings }) => bindings)
    .map(({ feed: target }) =>
      target.is === "axis" && target.holds === "values" && target.leads ? target.lang : undefined,
    )
    .find((one) => one !== undefined);
  const nameOf = axes.names("value", lang ?? "en");
  const fill: ExpandedCells["fill"] = (cells, parent, children, positions) => {
    const count = targetsOf(catalogue, parents, "axes", parent).length;
    const lists = Array.from({ length: count }, () => new Set<string>());
    const written = new Set<string>();
    for (const child of children) {
      const names = axes.valuesOf(child, parent).map((value) => nameOf(value));
      const report = (text: string, wanted: string) =>
        findings.add(
          finding(
            "write/cannot-be-written",
            { column: shape.excluded?.column ?? "", text, wanted },
            catalogue.location(variants, child, "code"),
          ),
        );
      if (names.some((name) => name === undefined)) {
        report(variants.key(child), "a value on each axis");
        continue;
      }
      names.forEach((name, at) => lists[at]!.add(present(name)));
      written.add(names.join("\u0000"));
      const code = variants.text("code", child) ?? undefined;
      const made = codeOf(shape, parents.key(parent), new Map(names.map((name, at) => [at + 1, name])));
      if (code !== made) report(code ?? "", made === undefined ? "no code" : `the code ${made}`);
    }
    const at = positions.get(shape.excluded?.column ?? "") ?? -1;
    const missing =
      count === 0
        ? []
        : [...combinations(lists.map((list) => [...list]))].filter((one) => !written.has(one.join("\u0000")));
    if (missing.length === 0) return;
    const text = at < 0 ? undefined : present(shape.excluded).codec.format(missing);
    if (typeof text === "string") cells[at] = text;
    else {
      const why = text ?? { text: firstOf(missing).join(" / "), wanted: phrase("every combination") };
      findings.add(
        finding(
          "write/cannot-be-written",
          { column: shape.excluded?.column ?? "", ...why },
          catalogue.location(parents, parent),
        ),
      );
    }
  };
  return { fill };
}
