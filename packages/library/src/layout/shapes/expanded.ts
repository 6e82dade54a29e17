/** One row whose cells list values, for a child of every combination. */

import { listCodec } from "../../codecs/lists.js";
import { partsCodec } from "../../codecs/parts.js";
import { parsePattern, type Pattern } from "../../codecs/pattern.js";
import { textCodec } from "../../codecs/scalars.js";
import { phrase } from "../../phrases/phrase.js";
import type { ShapeOf, ShapeOfTwo } from "./shape-kind.js";

/** So many axes may have a combination at most. */
const maxAxes = 20;

export const expandedShape: ShapeOfTwo<ShapeOf<"expanded">> = {
  words: ["expanded"],
  isMeant: ({ expanded }) => expanded !== undefined,
  ofTwo({ rows: { expanded: { code, excluded } = {} }, kind, parent, mistake }) {
    let pattern: Pattern | undefined;
    if (code !== undefined) {
      const parsed = parsePattern(code);
      const wrong = parsed.ok ? parsed.pattern.names.find((name) => !/^(key|[1-9]\d?)$/.test(name)) : undefined;
      if (!parsed.ok) return mistake(parsed.problem, undefined, "expanded", "code");
      if (wrong !== undefined)
        return mistake(
          phrase('"{0}" is neither "key" nor the number of an axis', wrong),
          undefined,
          "expanded",
          "code",
        );
      pattern = parsed.pattern;
    }
    const parts = Array.from({ length: maxAxes }, () => textCodec);
    const codec =
      excluded &&
      listCodec(
        { separator: excluded.list, of: partsCodec({ separator: excluded.parts, escape: undefined, parts }) },
        phrase("a list of combinations"),
      );
    const left = excluded && codec && { column: excluded.column, codec };
    return { is: "expanded", parent, child: kind, code: pattern, excluded: left };
  },
};
