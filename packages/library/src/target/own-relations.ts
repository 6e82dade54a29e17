/** Which targets refuse a product that is related to itself: those with such a column whose unknown names are not left out. */

import { kindOfScope } from "../layout/layout.js";
import type { Target, TargetFile } from "./target.js";

/** @returns the names of the targets. */
export const relationsRefused = (targets: readonly Target[]): readonly string[] =>
  targets.filter(({ files }) => [...files.values()].some(refuses)).map(({ name }) => name);

const refuses = ({ layouts, rules, importing }: TargetFile): boolean =>
  layouts.some((layout) =>
    layout.columns.some(
      ({ header, scope, bindings }) =>
        (rules.get(header)?.unknown ?? importing["unknown names"]) !== "leave out" &&
        bindings.some(
          ({ feed }) =>
            (feed.is === "entry" || feed.is === "entries") &&
            kindOfScope(layout, scope).entries?.[feed.entries] === "relation",
        ),
    ),
  );
