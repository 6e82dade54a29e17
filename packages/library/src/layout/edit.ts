/**
 * Changing a layout's text by hand of a program: one column at a time, with all else in it, comments too, as it was.
 *
 * In: the text of a layout. Out: the text of a layout. Whether it means anything is for `compileLayout` to say.
 */

import type { Header, Lang } from "../nominal.js";
import { parseDocument, isMap, isScalar, isSeq, stringify, type Document, type YAMLMap } from "yaml";
import type { KindSpec } from "../kind.js";
import type { Shape } from "./layout.js";

/** A column as the layout has it. */
export interface LayoutLine {
  readonly header: Header;
  /** As it stands in the layout, on one line; undefined where the header is under `ignore`. */
  readonly binding: string | undefined;
  /** What stands behind it as a comment: in drafts, confidence it is and why. */
  readonly comment: string | undefined;
}

/** The columns of a layout, in its order; `[]` for a text that is not a layout. */
export function layoutLines(text: string): LayoutLine[] {
  const document = parseDocument(text);
  if (document.errors.length > 0) return [];
  const columns = document.get("columns");
  const ignored = document.get("ignore");
  return [
    ...(isMap(columns) ? columns.items : []).map(({ key, value }): LayoutLine => {
      const comment = (value as { comment?: string | null } | null)?.comment?.trim();
      return { header: headerOf(key), binding: oneLine(value), comment };
    }),
    ...(isSeq(ignored) ? ignored.items : []).map((item): LayoutLine => {
      return { header: headerOf(item), binding: undefined, comment: undefined };
    }),
  ];
}

/**
 * Binds a column: to what is written as in a layout, `product.name@de` or `{ field: product.weight, as: … }`.
 *
 * @param binding `"ignored"` puts the header under `ignore`; `undefined` takes it out of the layout.
 * @returns the new text; undefined where the layout or the binding is not a YAML.
 */
export function bindColumn(text: string, header: Header, binding: string | undefined): string | undefined {
  const document = parseDocument(text);
  const given = binding === undefined || binding === "ignored" ? undefined : parseDocument(binding);
  if (document.errors.length > 0 || !isMap(document.contents)) return undefined;
  if (given && (given.errors.length > 0 || given.contents === null)) return undefined;
  takeOut(document, header);
  if (binding === "ignored") {
    if (!isSeq(document.get("ignore"))) document.set("ignore", document.createNode([], { flow: true }));
    document.addIn(["ignore"], header);
  } else if (given) {
    const columns = document.get("columns");
    if (!isMap(columns) || (columns.items.length === 0 && columns.flow))
      document.set("columns", document.createNode({}, { flow: false }));
    const { items } = document.get("columns") as YAMLMap;
    const location = items.findIndex((one) => headerOf(one.key) === header);
    const pair = document.createPair(header, given.toJS(), { flow: true });
    // What was said of the old binding is not true of the new one.
    if (location < 0) items.push(pair);
    else items[location] = pair;
  }
  return document.toString({ lineWidth: 0, flowCollectionPadding: true });

  function takeOut(from: Document, name: string): void {
    const ignored = from.get("ignore");
    if (isSeq(ignored)) {
      ignored.items = ignored.items.filter((item) => headerOf(item) !== name);
      if (ignored.items.length === 0) from.delete("ignore");
    }
    const columns = from.get("columns");
    if (given === undefined && isMap(columns))
      columns.items = columns.items.filter((one) => headerOf(one.key) !== name);
  }
}

const headerOf = (node: unknown): string => String(isScalar(node) ? node.value : node);

function oneLine(node: unknown): string {
  const value: unknown = isScalar(node) || isMap(node) || isSeq(node) ? node.toJSON() : node;
  return typeof value === "string"
    ? value
    : stringify(value, { collectionStyle: "flow", lineWidth: 0, flowCollectionPadding: true }).trim();
}

/**
 * The plain fields that a column of these rows may be bound to, as they are written: for choosing from. Not all that is possible.
 *
 * @param languages the source language first.
 */
export function bindableFields(
  { parent, child }: Pick<Shape, "parent" | "child">,
  languages: readonly Lang[],
): string[] {
  return [parent, ...(child ? [child] : [])].flatMap((kind) => [`${kind.name}.key`, ...fieldsOf(kind, languages)]);
}

function fieldsOf(kind: KindSpec, languages: readonly Lang[]): string[] {
  return kind.fields.flatMap(({ name, perLanguage, reference }) => {
    if (reference) return [`${kind.name}.${name}`];
    return perLanguage ? languages.map((lang) => `${kind.name}.${name}@${lang}`) : [`${kind.name}.${name}`];
  });
}
