/** Elements and attributes of XML that no path reads. */

import { present } from "../checked.js";
import { byLevels, type PathRead, type UnreadFinder, type UnreadValue } from "./unread.js";
import {
  attributeNamed,
  elementsAt,
  parseXmlPath,
  type Namespaces,
  type XmlNode,
  type XmlPredicate,
  type XmlStep,
} from "./xml-path.js";

/** What is read of one element. */
interface Marks {
  readonly attributes: Set<string>;
  /** Its text, with that of all elements in it. */
  isRead: boolean;
  /** Its own text alone. */
  isOwnRead: boolean;
  /** With all that is in it. */
  isIgnored: boolean;
}
type Marked = Map<XmlNode, Marks>;

/** @param ignored paths from the block's element; all that they lead to is passed over, with what is in it. */
export function unreadXml(
  reads: readonly PathRead[],
  ignored: readonly string[],
  namespaces: Namespaces,
): UnreadFinder<XmlNode> {
  const groups = byLevels(reads).map(({ levels, paths }) => ({
    levels: levels.map(stepsOf),
    paths: paths.map(stepsOf),
  }));
  const passedOver = ignored.map(stepsOf);
  const markedFrom = (node: XmlNode): Marked => {
    const marked: Marked = new Map();
    for (const { levels, paths } of groups) {
      const elements = levels.reduce<readonly XmlNode[]>(
        (all, steps) => all.flatMap((one) => follow(one, steps, namespaces, marked)),
        [node],
      );
      for (const element of elements) for (const path of paths) markPath(element, path, namespaces, marked);
    }
    for (const path of passedOver) markIgnored(node, path, namespaces, marked);
    return marked;
  };
  const telling = tellingAttributes(groups.flatMap(({ levels, paths }) => [...levels, ...paths]).flat());
  let last: XmlNode | undefined;
  return {
    within: (node) => unreadBelow(node, "", markedFrom(node), telling),
    around(next) {
      const before = last;
      last = next;
      if (!before || before.parent === next?.parent) return [];
      const stillOpen = new Set(next && ancestorsOf(next));
      const marked = markedFrom(before);
      return ancestorsOf(before).flatMap((above, at) =>
        stillOpen.has(above)
          ? []
          : unreadBelow(
              above,
              Array(at + 1)
                .fill("..")
                .join("/"),
              marked,
              telling,
            ),
      );
    },
  };
}

function ancestorsOf({ parent }: XmlNode): readonly XmlNode[] {
  const all: XmlNode[] = [];
  for (let above = parent; above; above = above.parent) all.push(above);
  return all;
}

const stepsOf = (path: string): readonly XmlStep[] => present(parseXmlPath(path));

function marksOf(node: XmlNode, marked: Marked): Marks {
  let marks = marked.get(node);
  if (!marks) {
    marks = { attributes: new Set(), isRead: false, isOwnRead: false, isIgnored: false };
    marked.set(node, marks);
  }
  return marks;
}

/** The elements that steps lead to. What their conditions ask for is read. */
function follow(node: XmlNode, steps: readonly XmlStep[], namespaces: Namespaces, marked: Marked): readonly XmlNode[] {
  if (!steps.some((step) => step.is === "element" && step.predicates.length > 0))
    return elementsAt(node, steps, namespaces);
  let nodes: readonly XmlNode[] = [node];
  for (const step of steps) {
    nodes = nodes.flatMap((one) => elementsAt(one, [step], namespaces));
    if (step.is !== "element") continue;
    for (const predicate of step.predicates) for (const one of nodes) markCondition(one, predicate, namespaces, marked);
  }
  return nodes;
}

function markCondition(node: XmlNode, predicate: XmlPredicate, namespaces: Namespaces, marked: Marked): void {
  if (predicate.is === "attribute") {
    const name = attributeNamed(node, predicate.name, namespaces);
    if (name !== undefined) marksOf(node, marked).attributes.add(name);
  } else if (predicate.is === "child")
    for (const child of elementsAt(node, [{ is: "element", name: predicate.name, predicates: [] }], namespaces))
      marksOf(child, marked).isRead = true;
}

/** Marks what a path reads: the first of what it leads to. */
function markPath(node: XmlNode, steps: readonly XmlStep[], namespaces: Namespaces, marked: Marked): void {
  const last = present(steps[steps.length - 1]);
  const isOfElement = last.is === "attribute" || last.is === "text";
  const [found] = follow(node, isOfElement ? steps.slice(0, -1) : steps, namespaces, marked);
  if (!found) return;
  const marks = marksOf(found, marked);
  if (last.is === "text") marks.isOwnRead = true;
  else if (last.is !== "attribute") marks.isRead = true;
  else {
    const name = attributeNamed(found, last.name, namespaces);
    if (name !== undefined) marks.attributes.add(name);
  }
}

function markIgnored(node: XmlNode, steps: readonly XmlStep[], namespaces: Namespaces, marked: Marked): void {
  const last = present(steps[steps.length - 1]);
  const isAttribute = last.is === "attribute";
  for (const found of elementsAt(node, isAttribute ? steps.slice(0, -1) : steps, namespaces)) {
    const name = isAttribute ? attributeNamed(found, last.name, namespaces) : undefined;
    if (name !== undefined) marksOf(found, marked).attributes.add(name);
    else if (!isAttribute) marksOf(found, marked).isIgnored = true;
  }
}

/** By the name of an element: the attribute that tells such elements apart in the paths that are read. */
function tellingAttributes(steps: readonly XmlStep[]): ReadonlyMap<string, string> {
  const telling = new Map<string, string>();
  for (const step of steps)
    for (const predicate of step.is === "element" ? step.predicates : [])
      if (step.is === "element" && predicate.is === "attribute") telling.set(step.name, predicate.name);
  return telling;
}

function unreadBelow(
  root: XmlNode,
  above: string,
  marked: Marked,
  telling: ReadonlyMap<string, string>,
): UnreadValue[] {
  const found: UnreadValue[] = [];
  const waiting = [{ node: root, path: above, isRead: false }];
  for (let next = waiting.pop(); next; next = waiting.pop()) {
    const { node, path } = next;
    const marks = marked.get(node);
    if (marks?.isIgnored) continue;
    const isRead = next.isRead || (marks?.isRead ?? false);
    const inside = (name: string) => (path === "" ? name : `${path}/${name}`);
    for (const [name, value] of node.attributes)
      if (value !== "" && !isDeclaration(name) && name !== telling.get(node.name) && !marks?.attributes.has(name))
        found.push({ path: inside(`@${name}`), line: node.line });
    let text = "";
    for (const child of node.children)
      if (typeof child !== "string") waiting.push({ node: child, path: inside(named(child, telling)), isRead });
      else if (!isRead && !marks?.isOwnRead) text += child;
    if (text.trim() !== "") found.push({ path: path === "" ? "." : path, line: node.line });
  }
  return found;
}

function named({ name, attributes }: XmlNode, telling: ReadonlyMap<string, string>): string {
  const attribute = telling.get(name);
  const value = attribute === undefined ? undefined : attributes.get(attribute);
  return attribute === undefined || value === undefined || /['\]]/.test(value)
    ? name
    : `${name}[@${attribute}='${value}']`;
}

const isDeclaration = (name: string): boolean => name === "xmlns" || name.startsWith("xmlns:");
