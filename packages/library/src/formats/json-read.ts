/**
 * JSON to values, streaming: the elements of one array, or the documents of a file of lines. Numbers stay as they are written.
 */

import { usualCaps, type CapName, type Caps } from "../caps.js";
import { present } from "../checked.js";
import type { Location } from "../location.js";
import { Tokenizer, TokenParser, type TokenType } from "@streamparser/json";
import { finding, type Finding, type Findings } from "../findings/finding.js";
import type { Text } from "../phrases/phrase.js";
import { OutsideValues } from "./json-outside.js";
import { isClosing, isOpening } from "./json-walk.js";

/** A number as it is written, so that none is rounded. */
export class JsonNumber {
  constructor(readonly text: string) {}

  toJSON(): string {
    return this.text;
  }
}

class ExactTokenizer extends Tokenizer {
  override parseNumber(text: string): number {
    return new JsonNumber(text) as unknown as number;
  }
}

/** A value with its position in the array, or its line in the file. */
export interface JsonElement {
  readonly node: unknown;
  readonly line: number;
}

/**
 * The elements of an array in a JSON document, or of JSON Lines.
 *
 * @param pointer RFC 6901, to the array whose elements are given out, or to one object; `""` is the whole document.
 * @param isLines whether each line is a document of its own.
 * @param outside receives the steps to each value that stands around the elements: always the same array of those to one place.
 */
export async function* readJson(
  text: AsyncIterable<string>,
  file: string,
  pointer: string,
  isLines: boolean,
  findings: Findings,
  caps: Caps = usualCaps,
  outside: (steps: readonly string[]) => void = () => undefined,
): AsyncGenerator<readonly JsonElement[]> {
  if (isLines) yield* readLines(text, file, findings, caps);
  else yield* readArray(text, file, pointer, findings, caps, outside);
}

const overCap = (cap: CapName, caps: Caps, at: Location): Finding =>
  finding("read/over-cap", { cap, most: caps[cap] }, at);

/** How much deeper a document is after a token. */
export function depthOf(type: TokenType): number {
  if (isOpening(type)) return 1;
  return isClosing(type) ? -1 : 0;
}

async function* readArray(
  text: AsyncIterable<string>,
  file: string,
  pointer: string,
  findings: Findings,
  caps: Caps,
  outside: (steps: readonly string[]) => void,
): AsyncGenerator<readonly JsonElement[]> {
  // A whole document has nothing around it.
  const around = pointer === "" ? undefined : new OutsideValues(pointer, outside);
  let over: CapName | undefined;
  let ready: JsonElement[] = [];
  let count = 0;
  let problem: Text | undefined;
  let chars = 0;
  const tokenizer = new ExactTokenizer();
  const base = `$${pointer
    .split("/")
    .slice(1)
    .map((step) => `.${step}`)
    .join("")}`;
  let parser: TokenParser | undefined;
  let depth = 0;
  const open = (first: string) => {
    // An array gives out its elements; a single object is the one element there is.
    const isRootObject = pointer === "" && first === "{";
    parser = new TokenParser({ paths: [isRootObject ? "$" : `${base}.*`], keepStack: false });
    parser.onValue = ({ value }) => {
      ready.push({ node: value, line: count++ });
      chars = 0;
    };
    parser.onError = (error) => (problem ??= error.message);
  };
  tokenizer.onToken = (token) => {
    depth += depthOf(token.token);
    if (depth > caps.depth) over ??= "depth";
    around?.see(token.token, token.value);
    if (problem === undefined && over === undefined) present(parser).write(token);
  };
  tokenizer.onError = (error) => (problem ??= error.message);
  tokenizer.onEnd = () => undefined;
  for await (const chunk of text) {
    const first = parser ? undefined : /\S/.exec(chunk.replace("\ufeff", ""))?.[0];
    if (!parser && first === undefined) continue;
    if (first !== undefined) open(first);
    chars += chunk.length;
    tokenizer.write(chunk);
    if (chars > caps["element characters"]) over ??= "element characters";
    yield ready;
    ready = [];
    if (problem !== undefined || over !== undefined) break;
  }
  if (over !== undefined) {
    findings.add(overCap(over, caps, { file, pointer: pointer || "/" }));
    return;
  }
  if (problem === undefined && parser && !parser.isEnded) {
    if (!tokenizer.isEnded) tokenizer.end();
    if (!parser.isEnded) problem ??= "it ends too early";
  }
  if (problem !== undefined)
    findings.add(
      finding("read/json-broken", { problem: String(problem).slice(0, 200) }, { file, pointer: pointer || "/" }),
    );
}

async function* readLines(
  text: AsyncIterable<string>,
  file: string,
  findings: Findings,
  caps: Caps,
): AsyncGenerator<readonly JsonElement[]> {
  let rest = "";
  let line = 0;
  const parse = (one: string): JsonElement[] => {
    line++;
    if (one.trim() === "") return [];
    const ready: JsonElement[] = [];
    let problem: Text | undefined;
    let depth = 0;
    let isTooDeep = false;
    const tokenizer = new ExactTokenizer();
    const parser = new TokenParser({ paths: ["$"], keepStack: false });
    parser.onValue = ({ value }) => void ready.push({ node: value, line });
    parser.onError = (error) => (problem ??= error.message);
    tokenizer.onToken = (token) => {
      depth += depthOf(token.token);
      isTooDeep ||= depth > caps.depth;
      if (problem === undefined && !isTooDeep) parser.write(token);
    };
    tokenizer.onError = (error) => (problem ??= error.message);
    tokenizer.write(one);
    if (isTooDeep) {
      findings.add(overCap("depth", caps, { file, line }));
      return [];
    }
    if (problem === undefined && ready.length === 0) problem = "it ends too early";
    if (problem === undefined) return ready;
    findings.add(finding("read/json-broken", { problem: String(problem).slice(0, 200) }, { file, line }));
    return [];
  };
  for await (const chunk of text) {
    const lines = (rest + chunk).split("\n");
    rest = present(lines.pop());
    if (rest.length > caps["element characters"]) {
      findings.add(overCap("element characters", caps, { file, line: line + 1 }));
      return;
    }
    yield lines.flatMap(parse);
  }
  yield parse(rest);
}
