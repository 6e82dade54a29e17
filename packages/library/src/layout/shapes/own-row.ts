/** The record has a row of its own, and so has each of what it contains. */

import { phrase } from "../../phrases/phrase.js";
import type { Joined } from "../layout.js";
import type { ShapeOf, ShapeOfTwo } from "./shape-kind.js";

export const ownRowShape: ShapeOfTwo<ShapeOf<"own-row">> = {
  words: ["shared cells", "joined by", "marker"],
  isMeant: (rows) => rows["shared cells"] === "own row",
  ofTwo({ rows: { "joined by": joined, marker }, kind, parent, mistake }) {
    if (joined === undefined || (joined === "following" && !marker))
      return mistake(phrase('rows with "own row" need "joined by", or a "marker" if they simply follow'));
    const how: Joined = joined === "following" ? { by: "following" } : { by: "reference", ...joined };
    return { is: "own-row", parent, child: kind, marker, joined: how };
  },
};
