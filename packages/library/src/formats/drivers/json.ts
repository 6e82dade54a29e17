/** Elements of a JSON document, or JSON Lines. */

import { z } from "zod";
import { present } from "../../checked.js";
import { decodeText } from "../decode.js";
import { jsonAccess } from "../document.js";
import { readJson } from "../json-read.js";
import type { FormatDriver, FormatOf } from "./driver.js";

type Json = FormatOf<"json">;

const schema = z.strictObject({
  lines: z.boolean().optional(),
  envelope: z.record(z.string(), z.union([z.string(), z.number(), z.boolean()])).optional(),
});

export const jsonDriver: FormatDriver<Json, typeof schema> = {
  schema,
  of: ({ lines = false, envelope = {} }) => ({ is: "json", lines, envelope }),
  isArchive: false,
  open({ lines }, { bytes, file, findings, element }) {
    let found = "";
    const text = decodeText(bytes, file, undefined, findings, (one) => (found = one));
    const pointer = present(element);
    const batches = readJson(text, file, pointer, lines, findings);
    return Promise.resolve({
      is: "elements",
      with: (take) => take({ access: jsonAccess, pointer: lines ? undefined : pointer, batches }),
      form: () => `JSON ${found}`,
    });
  },
  ending: ({ lines }) => (lines ? "jsonl" : "json"),
  resource: ({ lines }) => ({
    format: lines ? "jsonl" : "json",
    mediatype: lines ? "application/jsonl" : "application/json",
    encoding: "utf-8",
  }),
  unwritten: () => undefined,
  rows: undefined,
};
