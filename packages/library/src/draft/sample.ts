/** What a draft is made from: the header and some rows of a sheet, or the paths and texts of a document. */

import type { Header, Lang } from "../nominal.js";
import { firstOf, present } from "../checked.js";
import { type XmlNode, textOf } from "../formats/xml-path.js";
import { added, greatest } from "../lists.js";

export interface SampleColumn {
  /** The header, or the path. */
  readonly header: Header;
  /** What its words are to be taken from, where the header is a path. */
  readonly parts: string;
  readonly cells: readonly string[];
  /** In documents: of the block, of its children, or of a list of its own. */
  readonly scope: "row" | "parent" | "child" | "list";
  /** In documents: the language that an attribute or a key tells. */
  readonly lang?: Lang | undefined;
}

/** The beginning of a sheet or document: its columns with some of their cells. */
export interface Sample {
  readonly is: "sheet" | "xml" | "json";
  readonly columns: readonly SampleColumn[];
  /** For sheets: the line of the header. */
  readonly headerLine?: number;
  readonly sheet?: string | undefined;
  readonly delimiter?: string | undefined;
  readonly element?: string;
  readonly childElement?: string | undefined;
  readonly lists?: readonly string[];
}

const maxHeaderLine = 20;
/** The share of elements that may be otherwise than the rest. */
const mistaken = 0.03;

/** @param rows with the header and what stands above it; @param lines of each. */
export function sampleSheet(
  rows: readonly (readonly string[])[],
  lines: readonly number[],
  extra: { readonly sheet?: string; readonly delimiter?: string | undefined } = {},
): Sample | undefined {
  const at = headerRow(rows);
  if (at < 0) return undefined;
  const headers = rows[at]!;
  const below = rows.slice(at + 1);
  const columns = headers.map((header, index) => ({
    header,
    parts: header,
    cells: below.map((row) => row[index] ?? ""),
    scope: "row" as const,
  }));
  return { is: "sheet", columns: columns.filter(({ header }) => header !== ""), headerLine: lines[at]!, ...extra };
}

/** The first row that names most of the columns, each differently, without numbers. */
function headerRow(rows: readonly (readonly string[])[]): number {
  const filled = (row: readonly string[]) => row.filter((cell) => cell.trim() !== "");
  const width = greatest(rows.slice(0, 50).map((row) => filled(row).length));
  return rows.slice(0, maxHeaderLine).findIndex((row) => {
    const own = filled(row);
    if (own.length < Math.max(2, 0.6 * width) || new Set(own).size < own.length) return false;
    return own.every((cell) => !/^-?[\d.,]+$/.test(cell));
  });
}

/** The columns of a document: texts by their paths, within the element that is repeated most, and within one repeated in it. */
export function sampleXml(root: XmlNode): Sample | undefined {
  const found = repeated(root, `/${root.name}`);
  if (!found) return undefined;
  const { path: element, nodes } = found;
  const children = repeatedWithin(nodes);
  const columns: SampleColumn[] = [];
  const lists: string[] = [];
  collect(nodes, "", "parent");
  if (children !== undefined)
    collect(
      nodes.flatMap((node) => at(node, children)),
      `${children}/`,
      "child",
    );
  return { is: "xml", columns, element, childElement: children, lists };

  /** @param owners undefined where a block has no such element. */
  function collect(
    owners: readonly (XmlNode | undefined)[],
    prefix: string,
    scope: "parent" | "child",
    depth = 0,
  ): void {
    attributesOf(owners, prefix, scope);
    if (depth > maxDepth) return;
    const names = new Set(owners.flatMap((node) => (node ? elements(node) : []).map((child) => child.name)));
    for (const name of names) {
      const path = `${prefix}${name}`;
      if (path === children || children?.startsWith(`${path}/`)) continue;
      const all = owners.map((node) => (node ? elements(node) : []).filter((child) => child.name === name));
      // Of many elements a few may have a text twice by mistake: that makes no list of it.
      const isOnce = all.filter((list) => list.length > 1).length <= mistaken * all.length;
      if (all.flat().some(isMixed) || !all.flat().some((child) => elements(child).length > 0))
        if (isOnce) onlyOnes(path, name, all, scope);
        else byAttribute(path, name, all, scope);
      else if (!listWithin(path, all.flat(), scope) && isOnce)
        collect(
          all.map(([child]) => child),
          `${path}/`,
          scope,
          depth + 1,
        );
    }
  }

  function attributesOf(owners: readonly (XmlNode | undefined)[], prefix: string, scope: "parent" | "child"): void {
    const attributes = new Set(owners.flatMap((node) => [...(node?.attributes.keys() ?? [])]));
    for (const name of attributes)
      if (name !== "xmlns" && !name.startsWith("xmlns:"))
        columns.push({
          header: `${prefix}@${name}`,
          parts: name,
          cells: owners.map((node) => node?.attributes.get(name) ?? ""),
          scope,
        });
  }

  /** Texts of which each block has one at most, and their attributes. */
  function onlyOnes(path: string, name: string, all: readonly (readonly XmlNode[])[], scope: "parent" | "child"): void {
    columns.push({ header: path, parts: name, cells: all.map(([child]) => (child ? textOf(child) : "")), scope });
    attributesOf(
      all.map(([child]) => child),
      `${path}/`,
      scope,
    );
  }

  /** Elements of one name told apart by an attribute: a language. */
  function byAttribute(
    path: string,
    name: string,
    all: readonly (readonly XmlNode[])[],
    scope: "parent" | "child",
  ): void {
    const [attribute] = firstOf(all.flat()).attributes.keys();
    const values = new Set(
      all.flat().map((child) => (attribute === undefined ? "" : (child.attributes.get(attribute) ?? ""))),
    );
    const tells = (list: readonly XmlNode[]) =>
      new Set(list.map((child) => child.attributes.get(present(attribute)))).size === list.length;
    if (attribute === undefined || values.size > 12 || !all.every(tells)) return asList(path, name, all.flat(), scope);
    for (const value of values)
      columns.push({
        header: `${path}[@${attribute}='${value}']`,
        parts: `${name} ${value}`,
        cells: all.map((list) => {
          const one = list.find((child) => child.attributes.get(attribute) === value);
          return one ? textOf(one) : "";
        }),
        scope,
      });
  }

  /** A list of texts in an element of its own: `bilder/bild`. @returns whether it is one. */
  function listWithin(path: string, owners: readonly XmlNode[], scope: "parent" | "child"): boolean {
    const inside = owners.flatMap(elements);
    const names = new Set(inside.map((child) => child.name));
    if (names.size !== 1 || scope !== "parent" || inside.some((child) => elements(child).length > 0)) return false;
    const name = present([...names][0]);
    asList(`${path}/${name}`, name, inside, scope);
    return true;
  }

  function asList(path: string, name: string, all: readonly XmlNode[], scope: "parent" | "child"): void {
    if (scope !== "parent") return;
    lists.push(path);
    columns.push({ header: path, parts: name, cells: all.map(textOf), scope: "list" });
  }
}

const elements = (node: XmlNode): XmlNode[] => node.children.filter((child) => typeof child !== "string");

function at(node: XmlNode, path: string): XmlNode[] {
  let nodes = [node];
  for (const name of path.split("/"))
    nodes = nodes.flatMap((one) => elements(one).filter((child) => child.name === name));
  return nodes;
}

/** Whether texts stand beside elements in it. */
const isMixed = (node: XmlNode): boolean =>
  elements(node).length > 0 && node.children.some((child) => typeof child === "string" && child.trim() !== "");

/** The outermost element that comes more than once beside its like and holds something. */
function repeated(
  root: XmlNode,
  path: string,
): { readonly path: string; readonly nodes: readonly XmlNode[] } | undefined {
  const counts = new Map<string, XmlNode[]>();
  for (const child of elements(root)) counts.set(child.name, added(counts.get(child.name), child));
  const most = [...counts].reduce<[string, XmlNode[]] | undefined>(
    (best, one) => (one[1].length > (best?.[1].length ?? 1) ? one : best),
    undefined,
  );
  if (most?.[1].some((node) => elements(node).length > 0 || node.attributes.size > 0))
    return { path: `${path}/${most[0]}`, nodes: most[1] };
  for (const child of elements(root)) {
    const found = repeated(child, `${path}/${child.name}`);
    if (found) return found;
  }
  return undefined;
}

/** The path of an element that comes more than once in some blocks, and holds more than a text. */
function repeatedWithin(nodes: readonly XmlNode[]): string | undefined {
  for (const node of nodes)
    for (const child of elements(node)) {
      const like = elements(node).filter((one) => one.name === child.name);
      const isRich = (one: XmlNode) => elements(one).length > 0 || one.attributes.size > 1;
      if (like.length > 1 && like.every(isRich)) return child.name;
      const inner = elements(child);
      const first = inner[0];
      if (first && inner.length > 1 && inner.every((one) => one.name === first.name && isRich(one)))
        return `${child.name}/${first.name}`;
    }
  return undefined;
}

/** The same for JSON: objects in arrays. */
export function sampleJson(root: unknown): Sample | undefined {
  const found = objectsIn(root, "");
  if (!found) return undefined;
  const { path: element, objects } = found;
  const columns: SampleColumn[] = [];
  const lists: string[] = [];
  let childElement: string | undefined;
  collect(objects, "", "parent", "");
  return { is: "json", columns, element, childElement, lists };

  function collect(
    owners: readonly Record<string, unknown>[],
    prefix: string,
    scope: "parent" | "child",
    parts: string,
  ): void {
    if (prefix.split("/").length > maxDepth) return;
    const keys = new Set(owners.flatMap((owner) => Object.keys(owner)));
    for (const key of keys) {
      const path = `${prefix}/${key.replaceAll("~", "~0").replaceAll("/", "~1")}`;
      const values = owners.map((owner) => (Object.hasOwn(owner, key) ? owner[key] : undefined));
      const given = values.filter((value) => value !== undefined && value !== null);
      if (given.every(isObject))
        collect(
          values.map((value) => (isObject(value) ? value : {})),
          path,
          scope,
          `${parts} ${key}`,
        );
      else if (given.every(Array.isArray)) collectList(given, path, scope, key);
      else columns.push({ header: path, parts: `${parts} ${key}`.trim(), cells: values.map(cellOf), scope });
    }
  }

  function collectList(arrays: readonly unknown[][], path: string, scope: "parent" | "child", key: string): void {
    if (scope === "child") return;
    const items = arrays.flat();
    if (items.length > 0 && items.every(isObject) && childElement === undefined) {
      childElement = path;
      collect(items, path, "child", "");
    } else if (items.every((item) => typeof item === "string")) {
      lists.push(path);
      columns.push({ header: path, parts: key, cells: items, scope: "list" });
    }
  }
}

const isObject = (value: unknown): value is Record<string, unknown> =>
  typeof value === "object" && value !== null && !Array.isArray(value);
const cellOf = (value: unknown): string =>
  value === undefined || value === null ? "" : typeof value === "string" ? value : JSON.stringify(value);

/** What lies deeper in a document is not looked at. */
const maxDepth = 20;

function objectsIn(
  value: unknown,
  path: string,
  depth = 0,
): { readonly path: string; readonly objects: readonly Record<string, unknown>[] } | undefined {
  if (Array.isArray(value)) return value.length > 0 && value.every(isObject) ? { path, objects: value } : undefined;
  if (!isObject(value) || depth > maxDepth) return undefined;
  const all = Object.entries(value).flatMap(([key, inner]) => objectsIn(inner, `${path}/${key}`, depth + 1) ?? []);
  return all.reduce<(typeof all)[number] | undefined>(
    (best, one) => (one.objects.length > (best?.objects.length ?? 0) ? one : best),
    undefined,
  );
}
