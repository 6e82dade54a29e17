/** Whether a platform has a place for article numbers. */

import { formsOf } from "../catalogue/reference-pool.js";
import type { Layout } from "../layout/layout.js";
import { specsNamed } from "../layout/specs-named.js";
import type { Target } from "./target.js";

/** @returns whether a code of a product or variant goes into some file of some target, or identifies it there. */
export const takesCodes = (targets: readonly Target[]): boolean =>
  targets.some(({ files }) => [...files.values()].some(({ layouts }) => layouts.some(hasCodes)));

const hasCodes = ({ columns, link, shape }: Layout): boolean =>
  link?.names === "code" ||
  (shape.is === "own-row" && shape.joined.by === "reference" && shape.joined.names === "code") ||
  columns.some(({ bindings }) =>
    bindings.some(
      ({ feed }) =>
        (feed.is === "text" && feed.field === "code") ||
        specsNamed(feed).some((spec) => formsOf(spec).includes("code")),
    ),
  );
