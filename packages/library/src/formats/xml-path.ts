/**
 * A subset of XPath 1.0: `a/b`, `p:a`, `*`, `@a`, `.`, `..`, `text()`, with `[@a='v']`, `[a='v']`, `[2]` behind a step.
 *
 * A prefix means the namespace that the layout declares for it, else the same prefix in the file. A name without one means an
 * element written without one.
 */

/** Prefixes in force, to the names of their namespaces. */
export interface XmlScope {
  readonly get: (prefix: string) => string | undefined;
}

/** An element of a document, with what is in force where it stands. */
export interface XmlNode {
  /** As written, with its prefix. */
  readonly name: string;
  readonly attributes: ReadonlyMap<string, string>;
  readonly children: (XmlNode | string)[];
  /** Prefixes in force here, to the names of their namespaces. */
  readonly scope: XmlScope;
  readonly parent: XmlNode | undefined;
  readonly line: number;
}

export type XmlPredicate =
  | { readonly is: "attribute"; readonly name: string; readonly value: string }
  | { readonly is: "child"; readonly name: string; readonly value: string }
  | { readonly is: "position"; readonly number: number };

/** One step of a path. */
export type XmlStep =
  | { readonly is: "element"; readonly name: string; readonly predicates: readonly XmlPredicate[] }
  | { readonly is: "attribute"; readonly name: string }
  | { readonly is: "text" | "self" | "parent" };

export type Namespaces = Readonly<Record<string, string>>;

const name = String.raw`(?:[\p{L}_][\p{L}\p{N}_.-]*:)?(?:[\p{L}_][\p{L}\p{N}_.-]*|\*)`;
const stepShape = new RegExp(`^(@)?(${name})((?:\\[[^\\]]*\\])*)$`, "u");
const predicateShape = new RegExp(`\\[(?:(\\d{1,6})|(@)?(${name})\\s*=\\s*(?:'([^']*)'|"([^"]*)"))\\]`, "gu");

/** A path of elements, taken apart. @returns undefined for what is not a path of this subset. */
export function parseXmlPath(text: string): readonly XmlStep[] | undefined {
  const steps: XmlStep[] = [];
  for (const part of xmlPathSteps(text.startsWith("/") ? text.slice(1) : text)) {
    if (part === "." || part === ".." || part === "text()") {
      steps.push({ is: part === "." ? "self" : part === ".." ? "parent" : "text" });
      continue;
    }
    const match = stepShape.exec(part);
    if (!match) return undefined;
    const [, at, own = "", brackets = ""] = match;
    const predicates = [...brackets.matchAll(predicateShape)].map(predicateOf);
    if (brackets !== "" && brackets.replace(predicateShape, "") !== "") return undefined;
    if (at && predicates.length > 0) return undefined;
    steps.push(at ? { is: "attribute", name: own } : { is: "element", name: own, predicates });
  }
  return steps.length === 0 ? undefined : steps;
}

function predicateOf(match: RegExpMatchArray): XmlPredicate {
  const [, number, at, own = "", single, double] = match;
  if (number !== undefined) return { is: "position", number: Number(number) };
  return { is: at ? "attribute" : "child", name: own, value: single ?? double ?? "" };
}

/** The path without `.`, and without steps that lead back where they came from. */
export function normalXmlPath(path: string): string {
  const steps: string[] = [];
  for (const step of xmlPathSteps(path)) {
    const above = steps[steps.length - 1];
    if (step === "..") {
      if (above === undefined || above === "..") steps.push(step);
      else steps.pop();
    } else if (step !== ".") steps.push(step);
  }
  return steps.length === 0 ? "." : steps.join("/");
}

/** The steps of a path as they are written: slashes in brackets do not part them. */
export function xmlPathSteps(text: string): string[] {
  const parts: string[] = [];
  let depth = 0;
  let part = "";
  for (const char of text) {
    if (char === "[") depth++;
    if (char === "]") depth--;
    if (char === "/" && depth === 0) {
      parts.push(part);
      part = "";
    } else part += char;
  }
  parts.push(part);
  return parts;
}

/** Whether an element, or an attribute of it, has the name that a path asks for. */
export function hasName(node: Pick<XmlNode, "name" | "scope">, wanted: string, namespaces: Namespaces): boolean {
  if (wanted === "*" || node.name === wanted)
    return wanted === "*" || !isDeclared(wanted, namespaces) || sameSpace(node, wanted, namespaces);
  const [prefix, local] = cut(wanted);
  if (!Object.hasOwn(namespaces, prefix)) return false;
  const [ownPrefix, ownLocal] = cut(node.name);
  return (local === "*" || local === ownLocal) && node.scope.get(ownPrefix) === namespaces[prefix];
}

const isDeclared = (wanted: string, namespaces: Namespaces): boolean => Object.hasOwn(namespaces, cut(wanted)[0]);
const sameSpace = (node: Pick<XmlNode, "name" | "scope">, wanted: string, namespaces: Namespaces): boolean =>
  node.scope.get(cut(node.name)[0]) === namespaces[cut(wanted)[0]];

function cut(qualified: string): readonly [prefix: string, local: string] {
  const colon = qualified.indexOf(":");
  return colon < 0 ? ["", qualified] : [qualified.slice(0, colon), qualified.slice(colon + 1)];
}

/** The elements that a path leads to, in the order of the document. Steps to attributes and texts lead to none. */
export function elementsAt(node: XmlNode, steps: readonly XmlStep[], namespaces: Namespaces): readonly XmlNode[] {
  let nodes: readonly XmlNode[] = [node];
  for (const step of steps) {
    if (step.is === "self") continue;
    if (step.is === "parent") nodes = nodes.flatMap((one) => one.parent ?? []);
    else if (step.is !== "element") return [];
    else
      nodes = nodes.flatMap((one) => {
        let found = one.children.filter(
          (child): child is XmlNode => typeof child !== "string" && hasName(child, step.name, namespaces),
        );
        for (const predicate of step.predicates)
          found = found.filter((child, at) => fits(child, at, predicate, namespaces));
        return found;
      });
  }
  return nodes;
}

function fits(node: XmlNode, at: number, predicate: XmlPredicate, namespaces: Namespaces): boolean {
  if (predicate.is === "position") return at + 1 === predicate.number;
  if (predicate.is === "attribute") return attributeOf(node, predicate.name, namespaces) === predicate.value;
  return node.children.some(
    (child) =>
      typeof child !== "string" && hasName(child, predicate.name, namespaces) && textOf(child) === predicate.value,
  );
}

function attributeOf(node: XmlNode, wanted: string, namespaces: Namespaces): string | undefined {
  const name = attributeNamed(node, wanted, namespaces);
  return name === undefined ? undefined : node.attributes.get(name);
}

/** The attribute that a path asks for, as it is written in the file; undefined where the element has none. */
export function attributeNamed(node: XmlNode, wanted: string, namespaces: Namespaces): string | undefined {
  if (!isDeclared(wanted, namespaces)) return node.attributes.has(wanted) ? wanted : undefined;
  for (const own of node.attributes.keys())
    if (hasName({ name: own, scope: node.scope }, wanted, namespaces)) return own;
  return undefined;
}

/** The first text that a path leads to; undefined where it leads nowhere. */
export function textAt(node: XmlNode, steps: readonly XmlStep[], namespaces: Namespaces): string | undefined {
  const last = steps[steps.length - 1]!;
  if (last.is === "element" || last.is === "self" || last.is === "parent") {
    const [found] = elementsAt(node, steps, namespaces);
    return found && textOf(found);
  }
  const [owner] = elementsAt(node, steps.slice(0, -1), namespaces);
  if (!owner) return undefined;
  if (last.is === "attribute") return attributeOf(owner, last.name, namespaces);
  return owner.children.filter((child) => typeof child === "string").join("");
}

/** All text within an element, as XPath's string value. */
export function textOf(node: XmlNode): string {
  if (node.children.length === 1 && typeof node.children[0] === "string") return node.children[0];
  const texts: string[] = [];
  const waiting: (XmlNode | string)[] = [...node.children].reverse();
  for (let next = waiting.pop(); next !== undefined; next = waiting.pop())
    if (typeof next === "string") texts.push(next);
    else for (let at = next.children.length - 1; at >= 0; at--) waiting.push(next.children[at]!);
  return texts.join("");
}
