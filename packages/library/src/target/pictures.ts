/** What targets make of pictures that are not there: which refuse the row, and which take the pictures afterwards. */

import type { Kinds } from "../kinds.js";
import { kindOfFeed } from "../layout/bindings/feed-kinds.js";
import { kindOfScope } from "../layout/layout.js";
import type { Target, TargetFile } from "./target.js";

/** @returns by the table of a picture's use (`product.pictures`), the names of the targets. */
export function picturesRefused(targets: readonly Target[], kinds: Kinds): (table: string) => readonly string[] {
  const byTable = new Map<string, Set<string>>();
  for (const { name, files } of targets)
    for (const file of files.values())
      for (const table of refusingTables(file, kinds)) byTable.set(table, (byTable.get(table) ?? new Set()).add(name));
  return (table) => [...(byTable.get(table) ?? [])];
}

function* refusingTables({ importing, layouts, rules }: TargetFile, kinds: Kinds): Generator<string> {
  if (importing["missing pictures"] !== "refuse") return;
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

/** Whether pictures are uploaded after the files: where no file that names any wants them there before. */
export function takesPicturesLast({ files }: Target): boolean {
  const naming = [...files.values()].filter(({ rules }) => [...rules.values()].some(({ picture }) => picture));
  return naming.length > 0 && naming.every(({ importing }) => importing["missing pictures"] === "awaited");
}
