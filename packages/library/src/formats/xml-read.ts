/**
 * XML to elements, streaming: the elements at one path, one by one, each with all that it holds, and its ancestors with what stood
 * in them before it. No entity is expanded but the five of XML; depth and size are capped.
 */

import { usualCaps, type CapName, type Caps } from "../caps.js";
import { present } from "../checked.js";
import { SaxesParser } from "saxes";
import { finding, type Findings } from "../findings/finding.js";
import type { ByteReader } from "./byte-reader.js";
import { hasName, type Namespaces, type XmlNode, type XmlScope, type XmlStep } from "./xml-path.js";
import type { Text } from "../phrases/phrase.js";

/** How much text is kept to look for the cause of an error that shows later. */
const keptChars = 200_000;
/** How many elements beside the path are kept, by their names. */
const maxKept = 200;

/** The encoding that an XML declaration tells of. */
export async function declaredEncoding(reader: ByteReader): Promise<string | undefined> {
  const head = await reader.peek(200);
  const text = new TextDecoder("latin1").decode(head);
  return /^<\?xml[^>]*\sencoding\s*=\s*["']([\w.-]{1,40})["']/.exec(text)?.[1];
}

interface OpenNode extends XmlNode {
  readonly attributes: Map<string, string>;
}

const noScope: XmlScope = new Map<string, string>();

/** What an element declares is looked up before what is in force around it: no declaration is copied from element to element. */
function scopeOf(attributes: ReadonlyMap<string, string>, around: XmlScope): XmlScope {
  const own = new Map<string, string>();
  for (const [key, value] of attributes)
    if (key === "xmlns" || key.startsWith("xmlns:")) own.set(key === "xmlns" ? "" : key.slice(6), value);
  return own.size === 0 ? around : { get: (prefix) => own.get(prefix) ?? around.get(prefix) };
}

/**
 * The elements of an XML document that stand at a path.
 *
 * @param steps the path of the elements that are given out, from the root.
 * @returns elements as they end. A mistake in the XML ends them, with a finding at its line.
 */
export async function* readXml(
  text: AsyncIterable<string>,
  file: string,
  steps: readonly XmlStep[],
  namespaces: Namespaces,
  findings: Findings,
  caps: Caps = usualCaps,
): AsyncGenerator<readonly XmlNode[]> {
  const reader = new ElementReader(file, steps, namespaces, findings, caps);
  for await (const chunk of text) {
    yield reader.take(chunk);
    if (reader.isStopped) return;
  }
  reader.end();
  yield reader.ready;
}

class ElementReader {
  ready: XmlNode[] = [];
  isStopped = false;
  readonly #parser = new SaxesParser({ position: true });
  readonly #open: OpenNode[] = [];
  /** How many of the open elements are those of the path. */
  #matched = 0;
  #recordChars = 0;
  #recent = "";
  #recentLine = 1;

  constructor(
    readonly file: string,
    readonly steps: readonly XmlStep[],
    readonly namespaces: Namespaces,
    readonly findings: Findings,
    readonly caps: Caps,
  ) {
    this.#parser.on("opentag", (tag) => this.#opened(tag.name, tag.attributes as Record<string, string>));
    this.#parser.on("closetag", () => this.#closed());
    this.#parser.on("text", (text) => this.#text(text));
    this.#parser.on("cdata", (text) => this.#text(text));
    this.#parser.on("error", (error) => this.#failed(error.message));
  }

  take(chunk: string): readonly XmlNode[] {
    this.ready = [];
    this.#remember(chunk);
    this.#parser.write(chunk);
    return this.ready;
  }

  end(): void {
    this.ready = [];
    this.#parser.close();
  }

  #remember(chunk: string): void {
    this.#recent += chunk;
    if (this.#recent.length <= keptChars + chunk.length) return;
    const gone = this.#recent.length - keptChars;
    for (let at = this.#recent.indexOf("\n"); at >= 0 && at < gone; at = this.#recent.indexOf("\n", at + 1))
      this.#recentLine++;
    this.#recent = this.#recent.slice(gone);
  }

  #opened(name: string, given: Record<string, string>): void {
    if (this.isStopped) return;
    const parent = this.#open[this.#open.length - 1];
    if (this.#open.length >= this.caps.depth) return this.#overCap("depth");
    const attributes = new Map(Object.entries(given));
    const scope = scopeOf(attributes, parent?.scope ?? noScope);
    const node: OpenNode = { name, attributes, children: [], scope, parent, line: this.#parser.line };
    const depth = this.#open.length;
    this.#open.push(node);
    const step = this.steps[depth];
    if (this.#matched === depth && step?.is === "element" && hasName(node, step.name, this.namespaces)) {
      this.#matched++;
      if (this.#matched === this.steps.length) this.#recordChars = 0;
    }
    if (this.#isInRecord && depth >= this.steps.length) present(parent).children.push(node);
  }

  get #isInRecord(): boolean {
    return this.#matched === this.steps.length;
  }

  #closed(): void {
    if (this.isStopped) return;
    const node = present(this.#open.pop());
    const depth = this.#open.length;
    if (this.#matched === this.steps.length && depth === this.steps.length - 1) {
      if (fitsLast(this.steps, node)) this.ready.push(node);
      this.#matched--;
      return;
    }
    if (this.#matched > depth) this.#matched--;
    else if (!this.#isInRecord && node.parent) keepLatest(node.parent, node);
  }

  #text(text: string): void {
    if (this.isStopped) return;
    this.#recordChars += text.length;
    if (this.#recordChars > this.caps["element characters"] && this.#isInRecord)
      return this.#overCap("element characters");
    const node = this.#open[this.#open.length - 1];
    if (!node || (!this.#isInRecord && this.#matched === this.#open.length)) return;
    const { children } = node;
    const last = children[children.length - 1];
    if (typeof last === "string") children[children.length - 1] = last + text;
    else children.push(text);
  }

  #failed(message: string): void {
    if (this.isStopped) return;
    const problem = message.replace(/^\d+:\d+:\s*/, "").replace(/\.$/, "");
    const bare = this.#bareAmpersand();
    if (bare !== undefined) this.#stop('an "&" stands alone; it has to be written "&amp;"', bare);
    else this.#stop(problem, this.#parser.line);
  }

  /** The parser blames a bare ampersand on what comes after it: the line it stands on, if there is one shortly before. */
  #bareAmpersand(): number | undefined {
    const upTo = this.#parser.line;
    let line: number | undefined;
    const text = withoutLiterals(this.#recent);
    let at = this.#recentLine;
    let counted = 0;
    for (const match of text.matchAll(/&(?!#?\w+;)/g)) {
      for (; counted < match.index; counted++) if (text[counted] === "\n") at++;
      if (at > upTo) break;
      line = at;
    }
    return line !== undefined && upTo - line <= 50 ? line : undefined;
  }

  #overCap(cap: CapName): void {
    this.isStopped = true;
    const location = { file: this.file, line: this.#parser.line };
    this.findings.add(finding("read/over-cap", { cap, most: this.caps[cap] }, location));
  }

  #stop(problem: Text, line: number): void {
    this.isStopped = true;
    this.findings.add(finding("read/xml-broken", { problem }, { file: this.file, line }));
  }
}

const literals = [
  ["<![CDATA[", "]]>"],
  ["<!--", "-->"],
] as const;

/** The text with what may hold any character blanked: CDATA and comments. Each place is looked at once. */
function withoutLiterals(text: string): string {
  let left = "";
  let at = 0;
  for (;;) {
    const next = literals
      .map(([begin, end]) => ({ start: text.indexOf(begin, at), end }))
      .filter(({ start }) => start >= 0)
      .sort((a, b) => a.start - b.start)[0];
    if (!next) return left + text.slice(at);
    const closes = text.indexOf(next.end, next.start);
    const end = closes < 0 ? text.length : closes + next.end.length;
    left += text.slice(at, next.start) + text.slice(next.start, end).replace(/[^\n]/g, " ");
    at = end;
  }
}

/** Elements beside the path say something of all that come after them: the last of each name is kept. */
function keepLatest(parent: XmlNode, node: XmlNode): void {
  const { children } = parent;
  const known = children.findIndex((child) => typeof child !== "string" && child.name === node.name);
  if (known >= 0) children[known] = node;
  else if (children.length < maxKept) children.push(node);
}

function fitsLast(steps: readonly XmlStep[], node: XmlNode): boolean {
  const last = steps[steps.length - 1]!;
  if (last.is !== "element") return false;
  return last.predicates.every((one) => one.is !== "attribute" || node.attributes.get(one.name) === one.value);
}
