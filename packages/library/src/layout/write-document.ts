/**
 * Writing documents: blocks of rows into elements of XML or JSON, by a layout. Text comes record by record; a document of any size is
 * never whole in memory.
 */

import { firstOf, present } from "../checked.js";
import type { ResolvedCatalogue } from "../catalogue/catalogue.js";
import { finding, type Findings } from "../findings/finding.js";
import { pointerSteps, setAt, valueAt } from "../formats/json-pointer.js";
import { exactNumber, jsonText } from "../formats/json-write.js";
import { parseXmlPath, type XmlStep } from "../formats/xml-path.js";
import { addElement, newElement, notInXml, putText, xmlSerializer, type XmlTree } from "../formats/xml-write.js";
import { jsonAccess, xmlAccess } from "../formats/document.js";
import type { Column, Layout, Shape } from "./layout.js";
import { writeBlocks, type WriteOptions, type WrittenRow } from "./write.js";
import { phrase } from "../phrases/phrase.js";

/** Records as the document of a layout. @returns the document in pieces. */
export function* writeDocument(
  catalogue: ResolvedCatalogue,
  layout: Layout,
  options: WriteOptions,
  findings: Findings,
): Generator<string> {
  const { shape, format } = layout;
  if (shape.is !== "nested") throw new Error("a layout that is not of a document");
  const blocks = writeBlocks(catalogue, layout, options, findings);
  if (format.is === "xml") yield* writeXml(catalogue, layout, shape, blocks, findings);
  else yield* writeJson(layout, shape, blocks);
}

type Nested = Extract<Shape, { is: "nested" }>;

/** Where a cell goes: the scope's element, and the path from there. */
interface Spot {
  readonly at: number;
  readonly column: Column;
  readonly path: string;
}

/** The columns of each scope, by the repeated element that they lie in. */
interface Spots {
  readonly own: readonly Spot[];
  readonly child: readonly Spot[];
  readonly lanes: readonly {
    readonly element: string;
    readonly of: "parent" | "child";
    readonly spots: readonly Spot[];
  }[];
}

function spotsOf(layout: Layout, shape: Nested, within: (path: string, element: string) => string | undefined): Spots {
  const columns = layout.columns.map((column, at) => ({ column, at }));
  const seen = (list: typeof columns, element: string | undefined): Spot[] =>
    list.flatMap(({ column, at }) => {
      const path = element === undefined ? column.header : within(column.header, element);
      return path === undefined ? [] : [{ at, column, path }];
    });
  const { childElement } = shape;
  return {
    own: seen(
      columns.filter(({ column }) => column.scope.is === "parent"),
      undefined,
    ),
    child: seen(
      columns.filter(({ column }) => column.scope.is === "child"),
      childElement,
    ),
    lanes: layout.lanes.map((lane) => ({
      of: lane.of,
      element:
        lane.of === "child" && childElement !== undefined
          ? (within(present(lane.element), childElement) ?? present(lane.element))
          : present(lane.element),
      spots: seen(
        columns.filter(({ column }) => column.scope.is === "lane" && column.scope.lane === lane.name),
        lane.element,
      ),
    })),
  };
}

/** Turns a block's rows into one element, by what an element is in a format. */
function buildBlock<E>(
  rows: readonly WrittenRow[],
  spots: Spots,
  childElement: string | undefined,
  make: {
    readonly root: () => E;
    readonly add: (owner: E, element: string, isText: boolean, text: string) => E;
    readonly put: (element: E, spot: Spot, text: string, row: WrittenRow) => void;
  },
): E {
  const root = make.root();
  let child: E | undefined;
  let lastChild = -1;
  rows.forEach((row, at) => {
    // A fixed text stands beside something that is reported, never alone.
    const filled = (list: readonly Spot[]) => {
      const said = list.filter((spot) => row.cells[spot.at] !== "");
      const inside = (spot: Spot) => spot.path.slice(0, spot.path.lastIndexOf("/"));
      return said.filter(
        (spot) => !isFixed(spot) || said.some((other) => !isFixed(other) && inside(other).startsWith(inside(spot))),
      );
    };
    const putAll = (element: E, list: readonly Spot[]) => {
      for (const spot of list) make.put(element, spot, row.cells[spot.at]!, row);
    };
    if (at === 0) putAll(root, filled(spots.own));
    if (childElement !== undefined && row.child >= 0 && (row.child !== lastChild || child === undefined)) {
      child = make.add(root, childElement, false, "");
      lastChild = row.child;
      putAll(child, filled(spots.child));
    }
    for (const { of, element, spots: own } of spots.lanes) {
      const list = filled(own);
      const owner = of === "child" ? child : root;
      if (list.length === 0 || owner === undefined) continue;
      const itself = list.length === 1 && isItself(firstOf(list).path);
      const made = make.add(owner, element, itself, itself ? row.cells[firstOf(list).at]! : "");
      if (!itself) putAll(made, list);
    }
  });
  return root;
}

const isFixed = ({ column }: Spot): boolean => column.bindings.every(({ feed: target }) => target.is === "shape");

const isItself = (path: string): boolean => path === "." || path === "";

function* writeXml(
  catalogue: ResolvedCatalogue,
  layout: Layout,
  shape: Nested,
  blocks: Iterable<readonly WrittenRow[]>,
  findings: Findings,
): Generator<string> {
  const { format } = layout;
  const namespaces = format.is === "xml" ? format.namespaces : {};
  const steps = (path: string): readonly XmlStep[] => present(parseXmlPath(path));
  const names = steps(shape.element).map((step) => (step.is === "element" ? step.name : ""));
  const recordName = present(names.pop());
  const parents = catalogue.table(shape.parent.name);
  const serialize = xmlSerializer();
  const spaces = Object.entries(namespaces).map(
    ([prefix, name]) => ` xmlns${prefix === "" ? "" : `:${prefix}`}="${name}"`,
  );
  yield `<?xml version="1.0" encoding="UTF-8"?>\n`;
  yield names.map((name, at) => `<${name}${at === 0 ? spaces.join("") : ""}>`).join("") + "\n";
  const spots = spotsOf(layout, shape, xmlAccess(namespaces).within);
  for (const rows of blocks) {
    const put = (element: XmlTree, spot: Spot, text: string, row: WrittenRow) => {
      if (notInXml.test(text)) {
        const facts = {
          column: spot.column.header,
          text: text.slice(0, 80),
          wanted: phrase("text without control characters"),
        };
        findings.add(finding("write/cannot-be-written", facts, catalogue.location(parents, row.parent)));
      } else putText(element, steps(spot.path), text);
    };
    const tree = buildBlock<XmlTree>(rows, spots, shape.childElement, {
      root: () => newElement(recordName),
      add: (owner, element, isText, text) => {
        const made = addElement(owner, steps(element));
        if (isText) made.children.push(text);
        return made;
      },
      put,
    });
    yield `${serialize(tree)}\n`;
  }
  yield `${names
    .reverse()
    .map((name) => `</${name}>`)
    .join("")}\n`;
}

function* writeJson(layout: Layout, shape: Nested, blocks: Iterable<readonly WrittenRow[]>): Generator<string> {
  const { lines: isLines, envelope } = layout.format.is === "json" ? layout.format : { lines: false, envelope: {} };
  const spots = spotsOf(layout, shape, jsonAccess.within);
  const valueOf = ({ codec }: Column["bindings"][number], text: string): unknown => {
    if (codec.holds === "number") return exactNumber(text) ?? text;
    return codec.holds === "flag" ? text === "true" : text;
  };
  const steps = pointerSteps(shape.element);
  const beside = Object.entries(envelope).map(([key, value]) => `${JSON.stringify(key)}:${JSON.stringify(value)},`);
  const openings = steps.map((step, at) => `{${at === 0 ? beside.join("") : ""}${JSON.stringify(step)}:`);
  if (!isLines) yield `${openings.join("")}[\n`;
  let isFirst = true;
  for (const rows of blocks) {
    const root = buildBlock<Record<string, unknown>>(rows, spots, shape.childElement, {
      root: () => ({}),
      add: (owner, element, isText, text) => {
        const list = (valueAt(owner, element) as unknown[] | undefined) ?? [];
        if (list.length === 0) setAt(owner, pointerSteps(element), list);
        const made: Record<string, unknown> = {};
        list.push(isText ? text : made);
        return made;
      },
      put: (element, spot, text) =>
        setAt(element, pointerSteps(spot.path), valueOf(firstOf(spot.column.bindings), text)),
    });
    yield isLines ? `${jsonText(root)}\n` : `${isFirst ? "" : ",\n"}${jsonText(root)}`;
    isFirst = false;
  }
  if (!isLines) yield `\n]${"}".repeat(steps.length)}\n`;
}
