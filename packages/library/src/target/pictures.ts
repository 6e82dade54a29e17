/** Which targets refuse a row for a picture that is not there. */

import type { Kinds } from "../kinds.js";
import { kindOfFeed } from "../layout/bindings/feed-kinds.js";
import { kindOfScope } from "../layout/layout.js";
import { playsRecords, type Target, type TargetFile } from "./target.js";

/** @returns by the table of a picture's use (`product.pictures`), the names of the targets. */
export function picturesRefused(targets: readonly Target[], kinds: Kinds): (table: string) => readonly string[] {
  const byTable = new Map<string, Set<string>>();
  for (const { name, files } of targets)
    for (const file of files.values())
      for (const table of refusingTables(file, kinds)) byTable.set(table, (byTable.get(table) ?? new Set()).add(name));
  return (table) => [...(byTable.get(table) ?? [])];
}

function* refusingTables({ importer, layouts, rules }: TargetFile, kinds: Kinds): Generator<string> {
  if (!playsRecords(importer) && importer["missing pictures"] !== "refuse") return;
  for (const layout of layouts)
    for (const { header, scope, bindings } of layout.columns) {
      if (!rules.get(header)?.picture) continue;
      const { name, of } = kindOfScope(layout, scope);
      for (const { feed } of bindings)
        for (const kind of of === undefined ? [name] : [name, of])
          for (const field of kindOfFeed(feed).shows(feed, kind, kinds))
            if (field.endsWith(".pictures.file")) yield field.slice(0, -".file".length);
    }
}
