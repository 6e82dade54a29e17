/** Expanding: from the values that a row lists for each axis to a child for every combination, with codes made by a pattern. */

import type { Header, Key, Lang } from "../../nominal.js";
import { firstOf, present } from "../../checked.js";
import { keyWithin } from "../../catalogue/made-key.js";
import { noReference } from "../../catalogue/reference-pool.js";
import type { ChildrenThen } from "../../catalogue/readonly-table.js";
import type { Table } from "../../catalogue/table.js";
import { isProblem } from "../../codecs/codec.js";
import { finding } from "../../findings/finding.js";
import { markCell, type BlockRow } from "../read/block-row.js";
import type { BlockFill } from "./block.js";
import type { FillContext } from "./context.js";
import type { Column, Feed, Shape } from "../layout.js";
import { cellMark } from "../read/tally.js";

type Expanded = Extract<Shape, { is: "expanded" }>;

interface ValuesColumn {
  /** Of the axis; for one that the layout names, its place among the columns. */
  readonly number: number;
  readonly named: { readonly axis: string; readonly spec: number } | undefined;
  readonly column: Column;
  readonly spec: number;
  readonly leads: boolean;
  readonly lang: Lang;
}

const isOnAxis = (feed: Feed, axis: string, lang: Lang): boolean =>
  feed.is === "named-axis" && feed.axis === axis && feed.axisLang === lang;

export class ExpandFill {
  readonly #columns: readonly ValuesColumn[];
  #childrenBefore: ChildrenThen | undefined;

  readonly context: FillContext;
  readonly parents: Table;

  constructor(
    readonly block: BlockFill,
    readonly shape: Expanded,
  ) {
    const { context, parents, columns } = block;
    this.context = context;
    this.parents = parents;
    const { pool } = context.catalogue;
    this.#columns = columns
      .flatMap((column, at) =>
        column.bindings.flatMap(({ feed: target }): ValuesColumn[] => {
          if ((target.is !== "axis" && target.is !== "named-axis") || target.holds !== "values") return [];
          const { lang, leads } = target;
          const specOf = (to: string, by: Lang) =>
            pool.specNumber({ to, by: "name", lang: by, missing: "create", inTree: false } as const);
          const rest = { column, spec: specOf("value", lang), lang, leads };
          if (target.is === "axis") return [{ ...rest, number: target.number, named: undefined }];
          const { axis, axisLang } = target;
          const first = columns.findIndex(({ bindings }) =>
            bindings.some(({ feed }) => isOnAxis(feed, axis, axisLang)),
          );
          return [{ ...rest, number: (first < 0 ? at : first) + 1, named: { axis, spec: specOf("axis", axisLang) } }];
        }),
      )
      .sort((a, b) => a.number - b.number || Number(b.leads) - Number(a.leads));
  }

  hasValues(row: BlockRow): boolean {
    return this.#columns.some(({ column }) => this.#cell(row, column.header) !== "");
  }

  fill(parent: number, row: BlockRow): void {
    const { context, shape, parents, block } = this;
    const children = present(block.children);
    if (context.translates) {
      this.#childrenBefore ??= children.childrenNow();
      const known = this.#childrenBefore.of(parent);
      if (known.length > 0) return this.#translate(parent, row, known);
    }
    const lists = this.#lists(parent, row, block.axes.byNumber);
    const count = lists.reduce((product, list) => product * list.values.length, 1);
    if (lists.length === 0 || count > context.caps.combinations) {
      if (lists.length > 0)
        context.findings.add(
          finding(
            "read/group-too-large",
            { group: parents.key(parent), most: context.caps.combinations },
            context.location(row.line),
          ),
        );
      return;
    }
    const excluded = this.#excluded(parent, row, lists);
    for (const combination of combinations(lists.map(({ values }) => values))) {
      if (excluded.has(combination.map(({ name }) => name).join("\u0000"))) continue;
      const code = codeOf(
        shape,
        parents.key(parent),
        new Map(lists.map(({ number }, at) => [number, combination[at]!.name])),
      );
      const key = code ?? keyWithin(parents.key(parent), ...combination.map(({ name }) => name));
      const child = block.childOf(parent, key, row.line);
      if (code !== undefined) children.setText("code", child, code);
      children.referenceColumn("values").set(
        child,
        combination.map(({ reference }) => reference),
      );
    }
  }

  /** Rows in another language list the values that are there, in their order. */
  #translate(parent: number, row: BlockRow, known: Int32Array): void {
    const { context, parents, block } = this;
    const { catalogue } = context;
    const met = { sheet: context.sheet, line: row.line };
    const values = present(block.children).referenceColumn("values");
    const axes = [...parents.referenceColumn("axes").get(parent)];
    for (const { number, column, lang, named } of this.#columns) {
      const cell = this.#cell(row, column.header);
      if (cell === "") continue;
      const at = named ? axes.indexOf(catalogue.pool.intern(named.spec, noReference, named.axis, met)) : number - 1;
      const there = [...new Set([...known].map((child) => [...values.get(child)][at] ?? noReference))];
      const names = this.#namesIn(column, cell, row, parent);
      if (!names) continue;
      const index = context.indexOf(column.header);
      if (names.length !== there.length) {
        const beside = `the values of axis ${named?.axis ?? number}`;
        const location = context.location(row.line, column.header, parents, parent);
        context.findings.add(finding("read/not-parallel", { beside }, location));
        markCell(row, index, cellMark.reported);
        continue;
      }
      there.forEach((reference, nth) => catalogue.state({ reference, field: `name@${lang}`, value: names[nth]!, met }));
      markCell(row, index, cellMark.taken);
    }
    // Which combinations there are was said in the source language.
    if (this.shape.excluded) markCell(row, context.indexOf(this.shape.excluded.column), cellMark.repeated);
  }

  /** @returns undefined for a cell that is not in its form, which is reported. */
  #namesIn(column: Column, cell: string, row: BlockRow, parent: number): readonly string[] | undefined {
    const names = firstOf(column.bindings).codec.parse(cell);
    if (!isProblem(names)) return names as readonly string[];
    this.context.problem(names, this.parents, parent, row.line, column.header);
    markCell(row, this.context.indexOf(column.header), cellMark.reported);
    return undefined;
  }

  #cell(row: BlockRow, header: Header): string {
    return row.cells[this.context.indexOf(header)] ?? "";
  }

  #lists(
    parent: number,
    row: BlockRow,
    axes: readonly (number | undefined)[],
  ): { readonly number: number; readonly values: readonly Value[] }[] {
    const { context, parents } = this;
    const { pool } = context.catalogue;
    const met = { sheet: context.sheet, line: row.line };
    const lists = new Map<number, Value[]>();
    for (const { number, column, spec, leads, lang, named } of this.#columns) {
      const cell = this.#cell(row, column.header);
      if (cell === "") continue;
      const names = this.#namesIn(column, cell, row, parent);
      if (!names) continue;
      const index = context.indexOf(column.header);
      const location = context.location(row.line, column.header, parents, parent);
      const known = lists.get(number);
      const axis = named ? pool.intern(named.spec, noReference, named.axis, met) : axes[number];
      if (!leads) {
        if (known?.length !== names.length) {
          context.findings.add(finding("read/not-parallel", { beside: `the values of axis ${number}` }, location));
          markCell(row, index, cellMark.reported);
        } else {
          markCell(row, index, cellMark.taken);
          known.forEach(({ reference }, at) =>
            context.catalogue.state({ reference, field: `name@${lang}`, value: names[at]!, met }),
          );
        }
      } else if (axis === undefined) {
        context.findings.add(finding("read/value-without-axis", { value: cell.slice(0, 60), axis: number }, location));
        markCell(row, index, cellMark.reported);
      } else {
        markCell(row, index, cellMark.taken);
        const unique = [...new Set(names)];
        lists.set(
          number,
          unique.map((name) => ({ name, reference: pool.intern(spec, axis ?? noReference, name, met) })),
        );
      }
    }
    const named = this.#columns.flatMap((one) => (one.named && one.leads && lists.has(one.number) ? [one.named] : []));
    if (named.length > 0)
      parents.referenceColumn("axes").set(
        parent,
        named.map((one) => pool.intern(one.spec, noReference, one.axis, met)),
      );
    // Patterns count the axes that a row has values on.
    return [...lists].map(([number, values], at) => ({ number: named.length > 0 ? at + 1 : number, values }));
  }

  #excluded(
    parent: number,
    row: BlockRow,
    lists: readonly { readonly values: readonly Value[] }[],
  ): ReadonlySet<string> {
    const { context, shape, parents } = this;
    const cell = shape.excluded ? this.#cell(row, shape.excluded.column) : "";
    const left = new Set<string>();
    if (cell === "") return left;
    const parsed = present(shape.excluded).codec.parse(cell);
    const index = context.indexOf(present(shape.excluded).column);
    if (isProblem(parsed)) {
      context.problem(parsed, parents, parent, row.line, present(shape.excluded).column);
      markCell(row, index, cellMark.reported);
      return left;
    }
    markCell(row, index, cellMark.taken);
    for (const one of parsed as readonly (readonly string[])[]) {
      const names = one.slice(0, lists.length);
      const isKnown = names.every((name, at) => lists[at]!.values.some((value) => value.name === name));
      const isWhole = one.slice(lists.length).every((name) => name === "");
      if (isKnown && isWhole) left.add(names.join("\u0000"));
      else {
        const facts = { combination: one.filter((name) => name !== "").join(" / ") };
        const location = context.location(row.line, present(shape.excluded).column, parents, parent);
        context.findings.add(finding("read/excluded-unknown", facts, location));
      }
    }
    return left;
  }
}

/** The code of a combination by the pattern; a row without values on an axis has none there. */
export function codeOf(
  { code }: Expanded,
  key: Key,
  values: ReadonlyMap<number, string | undefined>,
): string | undefined {
  return code?.make((name) => (name === "key" ? key : (values.get(Number(name)) ?? "")))?.replace(/[-_./ ]+$/, "");
}

interface Value {
  readonly name: string;
  readonly reference: number;
}

/** Every combination, the last list running fastest. */
export function* combinations<T>(lists: readonly (readonly T[])[]): Generator<T[]> {
  if (lists.some((list) => list.length === 0)) return;
  const positions = lists.map(() => 0);
  for (;;) {
    yield positions.map((position, at) => lists[at]![position]!);
    let at = positions.length - 1;
    while (at >= 0 && ++positions[at]! === lists[at]!.length) positions[at--] = 0;
    if (at < 0) return;
  }
}
