/** Lists of records that a platform only adds to: those that a row does not name stay. */

import { splitTable } from "../field-name.js";
import { fieldOf } from "../kind.js";
import type { Kinds } from "../kinds.js";
import { kindOfFeed } from "../layout/bindings/feed-kinds.js";
import { shownKinds } from "../layout/shown-kinds.js";
import type { Target } from "../target/target.js";
import { layoutsOf } from "./held-form.js";

/** As `kind.field`: the lists that only files write whose importer adds. */
export function addingLists(target: Target, kinds: Kinds): ReadonlySet<string> {
  const [adding, replacing] = [new Set<string>(), new Set<string>()];
  for (const file of target.files.values())
    for (const layout of layoutsOf({ ...target, files: new Map([[file.name, file]]) }))
      for (const column of layout.columns)
        for (const { feed } of column.bindings) {
          if (feed.is !== "reference") continue;
          const into = file.importing.lists === "add" ? adding : replacing;
          for (const { name } of shownKinds(layout, column, kinds))
            for (const field of kindOfFeed(feed).shows(feed, name, kinds)) into.add(field);
        }
  return new Set([...adding].filter((field) => !replacing.has(field) && isList(field, kinds)));
}

function isList(name: string, kinds: Kinds): boolean {
  const { kind, collection: field = "" } = splitTable(name);
  const spec = kinds.find(kind);
  return spec !== undefined && (fieldOf(spec, field)?.reference?.list ?? false);
}
