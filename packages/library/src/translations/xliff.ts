/** A translation list as XLIFF 2.0 (OASIS Standard, 2014): a unit for each text, its name telling which it is. */

import { present } from "../checked.js";
import type { Lang } from "../nominal.js";
import { finding, type Findings } from "../findings/finding.js";
import { readXml } from "../formats/xml-read.js";
import { parseXmlPath, textAt, type XmlNode } from "../formats/xml-path.js";
import { newElement, notInXml, xmlSerializer, type XmlTree } from "../formats/xml-write.js";
import type { TranslationItem } from "./translation-list.js";
import { phrase } from "../phrases/phrase.js";

const namespace = "urn:oasis:names:tc:xliff:document:2.0";
const namespaces = { x: namespace };
const unitPath = present(parseXmlPath("/x:xliff/x:file/x:unit"));
const paths = {
  name: present(parseXmlPath("@name")),
  source: present(parseXmlPath("x:segment/x:source")),
  target: present(parseXmlPath("x:segment/x:target")),
};
/** Stands between the parts of a unit's name. */
const between = " | ";

/** A text that holds what XML cannot is left out; the finding says which. */
export function translationXliff(
  items: readonly TranslationItem[],
  source: Lang,
  lang: Lang,
  findings: Findings,
): string {
  const toXml = xmlSerializer();
  const units = items.flatMap(({ kind, key, field, state, source: from, translation }, at) => {
    if (notInXml.test(`${from}${translation ?? ""}${key}`)) {
      const facts = { column: field, text: from, wanted: phrase("text that XML can store") };
      findings.add(finding("write/cannot-be-written", facts, { file: `${source}-${lang}.xlf`, record: { kind, key } }));
      return [];
    }
    const segment = element("segment", { state: state === "done" ? "translated" : "initial" }, [
      element("source", { "xml:space": "preserve" }, [from]),
      ...(translation === undefined ? [] : [element("target", { "xml:space": "preserve" }, [translation])]),
    ]);
    return [`    ${toXml(element("unit", { id: `u${at + 1}`, name: [kind, field, key].join(between) }, [segment]))}\n`];
  });
  return `<?xml version="1.0" encoding="UTF-8"?>\n<xliff xmlns="${namespace}" version="2.0" srcLang="${source}" trgLang="${lang}">\n  <file id="words">\n${units.join("")}  </file>\n</xliff>\n`;
}

function element(name: string, attributes: Readonly<Record<string, string>>, children: (XmlTree | string)[]): XmlTree {
  return { ...newElement(name), attributes: new Map(Object.entries(attributes)), children };
}

/** The items of a translation list in XLIFF, with their lines. @param file as findings call it. */
export async function itemsOfXliff(
  text: AsyncIterable<string>,
  file: string,
  findings: Findings,
): Promise<{ readonly item: Omit<TranslationItem, "state">; readonly line: number }[]> {
  const items: { item: Omit<TranslationItem, "state">; line: number }[] = [];
  for await (const nodes of readXml(text, file, unitPath, namespaces, findings))
    for (const node of nodes) items.push(itemOf(node));
  return items;
}

function itemOf(node: XmlNode): { item: Omit<TranslationItem, "state">; line: number } {
  const [kind = "", field = "", ...key] = (textAt(node, paths.name, namespaces) ?? "").split(between);
  const source = textAt(node, paths.source, namespaces) ?? "";
  const translation = textAt(node, paths.target, namespaces) || undefined;
  return { item: { kind, field, key: key.join(between), source, translation }, line: node.line };
}
