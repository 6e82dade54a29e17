/** Elements to XML, one record at a time: trees are built by paths, and put into text by fast-xml-parser. */

import { XMLBuilder } from "fast-xml-parser";
import type { XmlStep } from "./xml-path.js";

export interface XmlTree {
  readonly name: string;
  readonly attributes: Map<string, string>;
  readonly children: (XmlTree | string)[];
}

export const newElement = (name: string): XmlTree => ({ name, attributes: new Map(), children: [] });

/** Puts a text where a path leads, making the elements on the way. */
export function putText(root: XmlTree, steps: readonly XmlStep[], text: string): void {
  const last = steps[steps.length - 1]!;
  const owner = reachElement(root, last.is === "element" ? steps : steps.slice(0, -1));
  if (last.is === "attribute") owner.attributes.set(last.name, text);
  else owner.children.push(text);
}

/** Adds an element where a path leads, also where there is one like it. */
export function addElement(root: XmlTree, steps: readonly XmlStep[]): XmlTree {
  const owner = reachElement(root, steps.slice(0, -1));
  return append(owner, steps[steps.length - 1]!);
}

/** The element where a path leads, made with those on the way if it is not there. */
export function reachElement(root: XmlTree, steps: readonly XmlStep[]): XmlTree {
  let at = root;
  for (const step of steps) {
    if (step.is !== "element") continue;
    at =
      at.children.find((child): child is XmlTree => typeof child !== "string" && isOf(child, step)) ?? append(at, step);
  }
  return at;
}

function isOf(node: XmlTree, step: Extract<XmlStep, { is: "element" }>): boolean {
  return (
    node.name === step.name &&
    step.predicates.every((one) => {
      if (one.is === "attribute") return node.attributes.get(one.name) === one.value;
      if (one.is === "position") return true;
      return node.children.some(
        (child) => typeof child !== "string" && child.name === one.name && child.children[0] === one.value,
      );
    })
  );
}

function append(owner: XmlTree, step: XmlStep): XmlTree {
  if (step.is !== "element") return owner;
  const made = newElement(step.name);
  for (const one of step.predicates) {
    if (one.is === "attribute") made.attributes.set(one.name, one.value);
    if (one.is === "child") made.children.push({ ...newElement(one.name), children: [one.value] });
  }
  owner.children.push(made);
  return made;
}

type Ordered = Readonly<Record<string, unknown>>;

const builder = () =>
  new XMLBuilder({ preserveOrder: true, ignoreAttributes: false, attributeNamePrefix: "@", suppressEmptyNode: true });

/** @returns a function from an element to its text, without a line end. */
export function xmlSerializer(): (tree: XmlTree) => string {
  const xml = builder();
  const ordered = (node: XmlTree | string): Ordered =>
    typeof node === "string"
      ? { "#text": node }
      : {
          [node.name]: node.children.map(ordered),
          ":@": Object.fromEntries([...node.attributes].map(([name, value]) => [`@${name}`, value])),
        };
  return (tree) => xml.build([ordered(tree)]);
}

/** Characters that XML 1.0 cannot hold, not even escaped. */
export const notInXml =
  /[\u0000-\u0008\u000b\u000c\u000e-\u001f\ufffe\uffff]|[\ud800-\udbff](?![\udc00-\udfff])|(?<![\ud800-\udbff])[\udc00-\udfff]/;
