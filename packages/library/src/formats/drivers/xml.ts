/** Elements of an XML document. */

import { z } from "zod";
import { present } from "../../checked.js";
import { phrase } from "../../phrases/phrase.js";
import { lineEndsIn } from "../line-ends.js";
import { decodeText, knownEncoding } from "../decode.js";
import { xmlAccess, type DocumentElement } from "../document.js";
import { encoderOf } from "../encode.js";
import { parseXmlPath, type XmlNode, type XmlStep } from "../xml-path.js";
import { addElement, newElement, notInXml, putText, reachElement, xmlSerializer, type XmlTree } from "../xml-write.js";
import { declaredEncoding, readXml } from "../xml-read.js";
import type { DocumentWriter, FormatDriver, FormatOf } from "./driver.js";

type Xml = FormatOf<"xml">;

const schema = z.strictObject({
  encoding: z.string().optional(),
  namespaces: z.record(z.string(), z.string()).optional(),
});

export const xmlDriver: FormatDriver<Xml, typeof schema> = {
  schema,
  of: ({ encoding, namespaces = {} }) => ({ is: "xml", encoding, namespaces }),
  detect: (_, text) => (/^\s*</.test(text) ? xmlDriver.of({}) : undefined),
  isArchive: false,
  async open({ encoding, namespaces }, { bytes, file, findings, element, caps }) {
    const declared = await declaredEncoding(bytes);
    const wanted = encoding ?? (declared !== undefined && knownEncoding(declared) ? declared : undefined);
    let found = "";
    const text = decodeText(bytes, file, wanted, findings, (one) => (found = one.toLowerCase()));
    const steps = present(parseXmlPath(present(element)));
    async function* elements(): AsyncGenerator<readonly DocumentElement<XmlNode>[]> {
      for await (const nodes of readXml(text, file, steps, namespaces, findings, caps))
        yield nodes.map((node) => ({ node, line: node.line }));
    }
    return {
      is: "elements",
      with: (take) => take({ access: xmlAccess(namespaces), pointer: undefined, batches: elements() }),
      encoding: () => found,
      form: () => `XML ${found}`,
    };
  },
  ending: () => "xml",
  resource: () => ({ format: "xml", mediatype: "application/xml", encoding: "utf-8" }),
  unwritten: ({ encoding }) =>
    encoderOf(encoding)?.name === "utf-8" ? undefined : phrase("XML is written in UTF-8 only"),
  rows: undefined,
  elements: {
    access: ({ namespaces }) => xmlAccess(namespaces),
    pathForm: phrase("path of elements and attributes"),
    // Behind the declaration and the elements around them.
    firstLine: () => 3,
    linesOf: (_, cells) => 1 + lineEndsIn(cells),
    // An element that is not there is not told apart from a list of none.
    lists: undefined,
    limits: (cell) => (notInXml.test(cell) ? phrase("text without control characters") : undefined),
    write: (format, element) => (take) => take(writerOf(format, element)),
  },
};

const stepsOf = (path: string): readonly XmlStep[] => present(parseXmlPath(path));

function writerOf({ namespaces }: Xml, element: string): DocumentWriter<XmlTree> {
  const names = stepsOf(element).map((step) => (step.is === "element" ? step.name : ""));
  const recordName = present(names.pop());
  const serialize = xmlSerializer();
  const spaces = Object.entries(namespaces).map(
    ([prefix, name]) => ` xmlns${prefix === "" ? "" : `:${prefix}`}="${name}"`,
  );
  const opening = names.map((name, at) => `<${name}${at === 0 ? spaces.join("") : ""}>`).join("");
  const closing = [...names].reverse().map((name) => `</${name}>`);
  return {
    head: `<?xml version="1.0" encoding="UTF-8"?>\n${opening}\n`,
    between: "",
    tail: `${closing.join("")}\n`,
    textOf: (made) => `${serialize(made)}\n`,
    root: () => newElement(recordName),
    add(owner, step, itself) {
      const made = addElement(owner, stepsOf(step));
      if (itself) made.children.push(itself.text);
      return made;
    },
    reach: (owner, step) => reachElement(owner, stepsOf(step)),
    put: (made, path, { text }) => putText(made, stepsOf(path), text),
  };
}
