/** From the bytes of a file of any format to samples: one for a CSV file or a document, one for each sheet of a workbook. */

import { SaxesParser } from "saxes";
import { usualCaps } from "../caps.js";
import { finding, Findings } from "../findings/finding.js";
import { ByteReader } from "../formats/byte-reader.js";
import { guessDelimiter, readCsv } from "../formats/csv-read.js";
import { decodeText } from "../formats/decode.js";
import { isWorkbook, openWorkbook, readSheet } from "../formats/workbook-read.js";
import type { XmlNode } from "../formats/xml-path.js";
import { sampleJson, sampleSheet, sampleXml, type Sample } from "./sample.js";
import { greatest, pushAll } from "../lists.js";

const maxBytes = 50_000_000;
const maxRows = 2_000;
/** How much of a document is looked at. */
const maxChars = 5_000_000;
/** What lies deeper in a document is not looked at. */
const maxDepth = 50;

/**
 * The beginning of a file, to draft a layout from: of a workbook for each sheet.
 *
 * @returns nothing where no header or repeated element is found; findings say what cannot be read.
 */
export async function lookAt(
  bytes: AsyncIterable<Uint8Array>,
  file: string,
  findings: Findings,
): Promise<readonly Sample[]> {
  const reader = new ByteReader(bytes);
  const head = await reader.peek(8);
  if (isWorkbook(head)) {
    const all = await reader.all(maxBytes);
    const book = all && findings.took(await openWorkbook(all, file));
    if (!book) return [];
    return book.names
      .filter((name) => !book.isHidden(name))
      .flatMap((name) => {
        const rows: (readonly string[])[] = [];
        const lines: number[] = [];
        const options = { sheet: name, skipsHidden: false, repeatsMerged: false };
        for (const batch of readSheet(book, name, options, { file, sheet: name }, new Findings())) {
          pushAll(rows, batch.rows);
          pushAll(lines, batch.lines);
          if (rows.length > maxRows) break;
        }
        return isTooWide(rows, file, findings) ? [] : (sampleSheet(rows, lines, { sheet: name }) ?? []);
      });
  }
  let text = "";
  for await (const chunk of decodeText(reader, file, undefined, findings)) {
    text += chunk;
    if (text.length > maxChars) break;
  }
  const start = text.trimStart();
  if (start.startsWith("<")) return listOf(sampleXml, xmlTree(start));
  if (start.startsWith("{") || start.startsWith("[")) return listOf(sampleJson, jsonTree(start));
  return sheetSamples(text, file, findings);
}

/** Whether a sheet has more columns than any has that people made, or headers as long as texts: then it is not drafted. */
function isTooWide(rows: readonly (readonly string[])[], file: string, findings: Findings): boolean {
  const columns = greatest(rows.map((row) => row.length));
  const most = usualCaps.columns;
  if (columns > most) findings.add(finding("read/too-many-columns", { columns, most }, { file }));
  return columns > most;
}

const listOf = <T>(sample: (root: T) => Sample | undefined, root: T | undefined): Sample[] =>
  root === undefined ? [] : [sample(root) ?? []].flat();

async function sheetSamples(text: string, file: string, findings: Findings): Promise<readonly Sample[]> {
  const rows: (readonly string[])[] = [];
  const lines: number[] = [];
  async function* one(): AsyncGenerator<string> {
    yield await Promise.resolve(text);
  }
  const delimiter = guessDelimiter(text.slice(0, 65_536), "\n", '"');
  for await (const batch of readCsv(one(), file, { delimiter }, new Findings())) {
    pushAll(rows, batch.rows);
    pushAll(lines, batch.lines);
    if (rows.length > maxRows) break;
  }
  if (isTooWide(rows, file, findings)) return [];
  const sample = sampleSheet(rows.slice(0, maxRows), lines, { delimiter });
  return sample ? [sample] : [];
}

/** A document as far as it is well formed: a sample may end in the middle. */
function xmlTree(text: string): XmlNode | undefined {
  const parser = new SaxesParser({ position: true });
  let root: XmlNode | undefined;
  const open: (XmlNode & { readonly children: (XmlNode | string)[] })[] = [];
  let isBroken = false;
  let tooDeep = 0;
  const add = (part: string) => {
    if (!isBroken) open[open.length - 1]?.children.push(part);
  };
  parser.on("error", () => (isBroken = true));
  parser.on("text", add);
  parser.on("cdata", add);
  parser.on("opentag", ({ name, attributes }) => {
    if (isBroken) return;
    if (open.length === maxDepth) {
      tooDeep++;
      return;
    }
    const parent = open[open.length - 1];
    const node = {
      name,
      attributes: new Map(Object.entries(attributes as Record<string, string>)),
      children: [],
      scope: new Map(),
      parent,
      line: parser.line,
    };
    if (parent) parent.children.push(node);
    else root = node;
    open.push(node);
  });
  parser.on("closetag", () => {
    if (isBroken) return;
    if (tooDeep > 0) tooDeep--;
    else open.pop();
  });
  parser.write(text);
  return root;
}

function jsonTree(text: string): unknown {
  try {
    return JSON.parse(text) as unknown;
  } catch {
    const lines = text.split("\n").filter((line) => line.trim() !== "");
    try {
      return lines.slice(0, maxRows).map((line) => JSON.parse(line) as unknown);
    } catch {
      return undefined;
    }
  }
}
