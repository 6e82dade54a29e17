/** Rows that name the lines of another file: what that file has to be like, so that a record has one line in an upload. */

import { driverOf } from "../formats/drivers/drivers.js";
import { phrase, type Text } from "../phrases/phrase.js";
import type { Slot } from "./slot.js";
import type { TargetFile } from "./target.js";

export function* wronglyNamedLines(
  files: ReadonlyMap<string, TargetFile>,
  imports: readonly Slot[],
): Generator<{ readonly problem: Text; readonly path: readonly string[] }> {
  for (const { name, layouts } of files.values())
    for (const { link, shape } of layouts) {
      if (link?.names !== "line") continue;
      const problem = wrongWith(link.sheet ?? "", shape.parent.name);
      if (problem !== undefined)
        yield {
          problem,
          path: ["files", name, "layout", "rows", "found by", link.sheet === undefined ? "names" : "sheet"],
        };
    }
  if ([...files.values()].some(isByLine))
    for (const { name, ids } of files.values())
      if (ids)
        yield {
          problem: phrase(
            "{0}: where rows name lines, no ids can be collected: the lines are those of one upload",
            name,
          ),
          path: ["files", name, "ids"],
        };

  function wrongWith(sheet: string, kind: string): Text | undefined {
    const named = files.get(sheet);
    if (!named) return phrase('"{0}" is not a file of the target', sheet);
    const { layout, layouts, limits } = named;
    const isOfKind = layouts.length === 1 && !layout.link && layout.shape.parent.name === kind;
    if (!isOfKind || (layout.shape.is !== "flat" && layout.shape.is !== "own-row") || !driverOf(layout.format).rows)
      return phrase("{0} does not have a row for each {1}", sheet, kind);
    if (limits.products !== undefined || limits.bytes !== undefined)
      return phrase("{0} can come in several files: its lines are not clear", sheet);
    const own = imports.filter(({ file }) => file === sheet);
    return own.length === 1 && own.every(({ condition }) => !condition)
      ? undefined
      : phrase("{0} has to be imported once, for all records, if rows name its lines", sheet);
  }
}

const isByLine = ({ layouts }: TargetFile): boolean => layouts.some(({ link }) => link?.names === "line");
