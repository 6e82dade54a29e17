/** Which words of an importer contradict each other, or name what no column says. */

import type { Feed, Layout } from "../layout/layout.js";
import { phrase, type Text } from "../phrases/phrase.js";
import type { IdentifiedBy, Importing } from "./importing.js";
import type { GivenImporter } from "./schema.js";

/** A word of the importer that no stage would carry. */
export interface RefusedImporterWord {
  readonly word: keyof GivenImporter;
  readonly problem: Text;
}

export function* refusedImporter(
  name: string,
  layouts: readonly Layout[],
  importing: Importing,
): Generator<RefusedImporterWord> {
  if (importing["at an error"] === "stop" && importing["refusal costs"] === "file")
    yield {
      word: "at an error",
      problem: phrase('{0}: "{1}" means nothing where a refusal costs the file', name, "at an error: stop"),
    };
  for (const [kind, ways] of Object.entries(importing["identified by"] ?? {}))
    for (const way of ways)
      if (layouts.some((layout) => isOf(layout, kind)) && !layouts.some((layout) => says(layout, kind, way)))
        yield { word: "identified by", problem: phrase("{0}: no column says the {1} of a {2}", name, way, kind) };
}

const isOf = ({ shape, link }: Layout, kind: string): boolean =>
  !link && (shape.parent.name === kind || shape.child?.name === kind);

function says({ shape, columns }: Layout, kind: string, way: IdentifiedBy): boolean {
  const level = shape.parent.name === kind ? "parent" : "child";
  return columns.some(({ scope, bindings }) => scope.is === level && bindings.some(({ feed }) => isWay(feed, way)));
}

const isWay = (feed: Feed, way: IdentifiedBy): boolean =>
  way === "key"
    ? feed.is === "key"
    : feed.is === "text" && (way === "name" ? feed.field.startsWith("name@") : feed.field === way);
