/** Whether anybody asks for the ids that a platform gives out. */

import { kindOfScope, type Column, type Layout } from "../layout/layout.js";
import type { Target } from "./target.js";

/** Whether a file of the target tells records of a kind by their ids, or names them by these. */
export const areIdsNeeded = ({ files }: Target, kind: string): boolean =>
  [...files.values()].some(({ layouts }) =>
    layouts.some(
      (layout) =>
        (layout.link?.names === "id" && layout.shape.parent.name === kind) ||
        layout.columns.some((column) => holdsIds(layout, column, kind)),
    ),
  );

const holdsIds = (layout: Layout, { scope, bindings }: Column, kind: string): boolean =>
  bindings.some(({ feed }) => {
    if (feed.is === "reference" || feed.is === "container") return feed.spec.to === kind && feed.spec.by === "id";
    if (feed.is === "text") return feed.field === "id" && kindOfScope(layout, scope).name === kind;
    const spec = feed.is === "entry" && feed.field.is === "reference" ? feed.field.spec : undefined;
    return spec?.to === kind && spec.by === "id";
  });
