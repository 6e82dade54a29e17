/** Names within a product, in columns that make no records: nothing would ever have such a name. */

import { specsNamed } from "../layout/specs-named.js";
import { phrase, type Text } from "../phrases/phrase.js";
import { hasRowsOf } from "./row-form.js";
import { namesIn, type NamesUsually } from "./names.js";
import type { TargetFile } from "./target.js";

/** What belongs to a product is made where the product names it, if it has no rows of its own. */
export function* unmadeOwnNames(
  files: ReadonlyMap<string, TargetFile>,
  usualOf: (file: string) => NamesUsually,
): Generator<{ readonly problem: Text; readonly path: readonly string[] }> {
  const hasRows = (kind: string): boolean => [...files.values()].some(({ layouts }) => hasRowsOf(kind, layouts));
  for (const { layout, name, rules } of files.values())
    for (const { header, bindings } of layout.columns) {
      const own = bindings.flatMap(({ feed }) => specsNamed(feed)).find(({ within }) => within !== undefined);
      if (!own || hasRows(own.to) || namesIn(rules.get(header), usualOf(name)).unknown === "create") continue;
      yield {
        problem: phrase('{0}: names within a {1} need "{2}"', header, own.within ?? "", "unknown: create"),
        path: ["files", name, "layout", "columns", header],
      };
    }
}
