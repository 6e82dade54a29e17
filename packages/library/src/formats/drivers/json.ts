/** Elements of a JSON document, or JSON Lines. */

import type { FormatDriver, FormatOf } from "./driver.js";

export const jsonDriver: FormatDriver<FormatOf<"json">> = {
  ending: ({ lines }) => (lines ? "jsonl" : "json"),
  resource: ({ lines }) => ({
    format: lines ? "jsonl" : "json",
    mediatype: lines ? "application/jsonl" : "application/json",
    encoding: "utf-8",
  }),
  unwritten: () => undefined,
  rows: undefined,
};
