/** What reading documents by a layout needs, alike for XML and JSON: the elements and texts at paths. */

import Big from "big.js";
import { valueAt } from "./json-pointer.js";
import { isOutsidePath } from "./json-outside.js";
import { JsonNumber } from "./json-read.js";
import type { PathRead, UnreadFinder } from "./unread.js";
import { unreadJson } from "./unread-json.js";
import { unreadXml } from "./unread-xml.js";
import {
  elementsAt,
  normalXmlPath,
  parseXmlPath,
  textAt,
  xmlPathSteps,
  type Namespaces,
  type XmlNode,
} from "./xml-path.js";

/** One element of a document, with where it stands. */
export interface DocumentElement<N> {
  readonly node: N;
  /** A line in XML, a position in the array or a line in JSON. */
  readonly line: number;
}

export interface DocumentAccess<N> {
  /** What a path leads to from an element; throws for no path: layouts were checked. */
  readonly elements: (path: string) => (node: N) => readonly N[];
  /** The line of an element, where elements have lines of their own. */
  readonly lineOf: ((node: N) => number) | undefined;
  /** How the elements at a path are called from the one that they are seen from: `/versions/0`, where they have no lines. */
  readonly pointersTo: ((path: string) => (node: N) => readonly string[]) | undefined;
  readonly text: (path: string) => (node: N) => string | undefined;
  /** What no path reads. @param ignored paths from the block's element. */
  readonly unread: (reads: readonly PathRead[], ignored: readonly string[]) => UnreadFinder<N>;
  /** Whether what stands there is kept as a number. */
  readonly isNumber: (path: string) => (node: N) => boolean;
  /** A path seen from an element inside: undefined where it does not lead through that element. */
  readonly within: (path: string, element: string) => string | undefined;
  readonly isPath: (path: string) => boolean;
  /** Whether a path leads out of the elements, to what is not read but may be left out by its name. */
  readonly isOutside: (path: string) => boolean;
  /** The paths of the elements on the way to that of a path, its own last. */
  readonly levels: (path: string) => readonly string[];
  /** The path without steps that lead back. */
  readonly normal: (path: string) => string;
}

export function xmlAccess(namespaces: Namespaces): DocumentAccess<XmlNode> {
  const stepsOf = (path: string) => {
    const steps = parseXmlPath(path);
    if (!steps) throw new Error(`no path: ${path}`);
    return steps;
  };
  return {
    elements: (path) => {
      const steps = stepsOf(path);
      return (node) => elementsAt(node, steps, namespaces);
    },
    lineOf: ({ line }) => line,
    pointersTo: undefined,
    isNumber: () => () => false,
    unread: (reads, ignored) => unreadXml(reads, ignored, namespaces),
    text: (path) => {
      const steps = stepsOf(path);
      return (node) => textAt(node, steps, namespaces);
    },
    within: (path, element) => {
      if (path === element) return ".";
      return path.startsWith(`${element}/`) ? path.slice(element.length + 1) : undefined;
    },
    isPath: (path) => parseXmlPath(path) !== undefined,
    isOutside: () => false,
    levels: (path) => prefixesOf(xmlPathSteps(path)).map((steps) => steps.join("/")),
    normal: normalXmlPath,
  };
}

export const jsonAccess: DocumentAccess<unknown> = {
  elements: (path) => (node) => {
    const found = valueAt(node, path);
    return Array.isArray(found) ? found : found === undefined || found === null ? [] : [found];
  },
  lineOf: undefined,
  pointersTo: (path) => (node) => {
    const found = valueAt(node, path);
    return Array.isArray(found) ? found.map((_, at) => `${path}/${at}`) : [path];
  },
  text: (path) => (node) => textOfJson(valueAt(node, path)),
  isNumber: (path) => (node) => valueAt(node, path) instanceof JsonNumber,
  unread: (reads, ignored) => unreadJson(reads, ignored, jsonAccess.elements),
  within: (path, element) =>
    path === element || path.startsWith(`${element}/`) ? path.slice(element.length) : undefined,
  isPath: (path) => /^(\/[^/]*)*$/.test(path),
  isOutside: isOutsidePath,
  levels: (path) => prefixesOf(path.split("/").slice(1)).map((steps) => `/${steps.join("/")}`),
  normal: (path) => path,
};

const prefixesOf = (steps: readonly string[]): string[][] => steps.map((_, at) => steps.slice(0, at + 1));

/** `null` is a blank cell, what is not there is none. Objects and arrays are their JSON. */
function textOfJson(value: unknown): string | undefined {
  if (value === undefined) return undefined;
  if (value === null) return "";
  if (value instanceof JsonNumber) return decimalText(value.text);
  return typeof value === "string" ? value : typeof value === "boolean" ? String(value) : JSON.stringify(value);
}

/** No more digits than a spreadsheet's largest number has: `1e999999` is not an amount. */
const mostPlaces = 400;

/** `1.5e3` is 1500; what no amount can be stays as it is written. */
function decimalText(number: string): string {
  const exponent = /[eE]([+-]?\d{1,6})$/.exec(number)?.[1];
  return exponent === undefined || Math.abs(Number(exponent)) > mostPlaces ? number : new Big(number).toFixed();
}
