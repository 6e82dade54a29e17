/**
 * JSON to values, streaming: the elements of one array, or the documents of a file of lines. Numbers stay as they are written.
 */

import { present } from "../checked.js";
import { Tokenizer, TokenParser } from "@streamparser/json";
import { finding, type Findings } from "../findings/finding.js";
import { phrase, type Text } from "../phrases/phrase.js";

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

const maxDepth = 200;
const maxValueChars = 64_000_000;

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
 */
export async function* readJson(
  text: AsyncIterable<string>,
  file: string,
  pointer: string,
  isLines: boolean,
  findings: Findings,
): AsyncGenerator<readonly JsonElement[]> {
  if (isLines) yield* readLines(text, file, findings);
  else yield* readArray(text, file, pointer, findings);
}

async function* readArray(
  text: AsyncIterable<string>,
  file: string,
  pointer: string,
  findings: Findings,
): AsyncGenerator<readonly JsonElement[]> {
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
    const { value } = token as { readonly value: unknown };
    if (value === "{" || value === "[") depth++;
    if (value === "}" || value === "]") depth--;
    if (depth > maxDepth) problem ??= `values lie more than ${maxDepth} deep`;
    if (problem === undefined) present(parser).write(token);
  };
  tokenizer.onError = (error) => (problem ??= error.message);
  tokenizer.onEnd = () => undefined;
  for await (const chunk of text) {
    const first = parser ? undefined : /\S/.exec(chunk.replace("\ufeff", ""))?.[0];
    if (!parser && first === undefined) continue;
    if (first !== undefined) open(first);
    chars += chunk.length;
    tokenizer.write(chunk);
    if (chars > maxValueChars) problem ??= `a value holds more than ${maxValueChars} characters`;
    yield ready;
    ready = [];
    if (problem !== undefined) break;
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
): AsyncGenerator<readonly JsonElement[]> {
  let rest = "";
  let line = 0;
  const parse = (one: string): JsonElement[] => {
    line++;
    if (one.trim() === "") return [];
    const ready: JsonElement[] = [];
    let problem: Text | undefined;
    const tokenizer = new ExactTokenizer();
    const parser = new TokenParser({ paths: ["$"], keepStack: false });
    parser.onValue = ({ value }) => void ready.push({ node: value, line });
    parser.onError = (error) => (problem ??= error.message);
    tokenizer.onToken = (token) => void (problem === undefined && parser.write(token));
    tokenizer.onError = (error) => (problem ??= error.message);
    tokenizer.write(one);
    if (problem === undefined && ready.length === 0) problem = "it ends too early";
    if (problem === undefined) return ready;
    findings.add(finding("read/json-broken", { problem: String(problem).slice(0, 200) }, { file, line }));
    return [];
  };
  for await (const chunk of text) {
    const lines = (rest + chunk).split("\n");
    rest = present(lines.pop());
    if (rest.length > maxValueChars) {
      const problem = phrase("a line has more than {0} characters", maxValueChars);
      findings.add(finding("read/json-broken", { problem }, { file, line: line + 1 }));
      return;
    }
    yield lines.flatMap(parse);
  }
  yield parse(rest);
}
