/** Fields that a platform never changes once they are set. */

import type { Kinds } from "../kinds.js";
import { kindOfFeed } from "../layout/bindings/feed-kinds.js";
import { shownKinds } from "../layout/shown-kinds.js";
import type { Target } from "../target/target.js";
import { layoutsOf } from "./held-form.js";

/** The fields of which every column is fixed, as `kind.field`. What contains a record is not among them: it is made again. */
export function fixedFields(target: Target, kinds: Kinds): ReadonlySet<string> {
  const [fixed, free] = [new Set<string>(), new Set<string>()];
  for (const file of target.files.values())
    for (const layout of layoutsOf({ ...target, files: new Map([[file.name, file]]) }))
      for (const column of layout.columns)
        for (const { feed } of column.bindings) {
          if (feed.is !== "text" && feed.is !== "reference") continue;
          const into = file.rules.get(column.header)?.fixed ? fixed : free;
          for (const { name } of shownKinds(layout, column, kinds))
            for (const field of kindOfFeed(feed).shows(feed, name, kinds)) into.add(field);
        }
  return new Set([...fixed].filter((field) => !free.has(field)));
}
