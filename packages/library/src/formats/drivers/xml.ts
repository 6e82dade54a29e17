/** Elements of an XML document. */

import { z } from "zod";
import { present } from "../../checked.js";
import { phrase } from "../../phrases/phrase.js";
import { decodeText, knownEncoding } from "../decode.js";
import { xmlAccess, type DocumentElement } from "../document.js";
import { encoderOf } from "../encode.js";
import { parseXmlPath, type XmlNode } from "../xml-path.js";
import { declaredEncoding, readXml } from "../xml-read.js";
import type { FormatDriver, FormatOf } from "./driver.js";

type Xml = FormatOf<"xml">;

const schema = z.strictObject({
  encoding: z.string().optional(),
  namespaces: z.record(z.string(), z.string()).optional(),
});

export const xmlDriver: FormatDriver<Xml, typeof schema> = {
  schema,
  of: ({ encoding, namespaces = {} }) => ({ is: "xml", encoding, namespaces }),
  isArchive: false,
  async open({ encoding, namespaces }, { bytes, file, findings, element }) {
    const declared = await declaredEncoding(bytes);
    const wanted = encoding ?? (declared !== undefined && knownEncoding(declared) ? declared : undefined);
    let found = "";
    const text = decodeText(bytes, file, wanted, findings, (one) => (found = one.toLowerCase()));
    const steps = present(parseXmlPath(present(element)));
    async function* elements(): AsyncGenerator<readonly DocumentElement<XmlNode>[]> {
      for await (const nodes of readXml(text, file, steps, namespaces, findings))
        yield nodes.map((node) => ({ node, line: node.line }));
    }
    return {
      is: "elements",
      with: (take) => take({ access: xmlAccess(namespaces), pointer: undefined, batches: elements() }),
      form: () => `XML ${found}`,
    };
  },
  ending: () => "xml",
  resource: () => ({ format: "xml", mediatype: "application/xml", encoding: "utf-8" }),
  unwritten: ({ encoding }) =>
    encoderOf(encoding)?.name === "utf-8" ? undefined : phrase("XML is written in UTF-8 only"),
  rows: undefined,
};
