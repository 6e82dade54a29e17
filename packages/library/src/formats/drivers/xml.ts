/** Elements of an XML document. */

import { phrase } from "../../phrases/phrase.js";
import { encoderOf } from "../encode.js";
import type { FormatDriver, FormatOf } from "./driver.js";

export const xmlDriver: FormatDriver<FormatOf<"xml">> = {
  ending: () => "xml",
  resource: () => ({ format: "xml", mediatype: "application/xml", encoding: "utf-8" }),
  unwritten: ({ encoding }) =>
    encoderOf(encoding)?.name === "utf-8" ? undefined : phrase("XML is written in UTF-8 only"),
  rows: undefined,
};
