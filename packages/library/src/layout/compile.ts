/**
 * From a layout as given to a layout that can be run. Every mistake is a finding at its place in the layout's file.
 *
 * In: the given layout, the kinds. Out: a layout, or nothing with findings of severity error. What a column feeds: `bind.ts`.
 */

import { linkOf } from "./link.js";
import { tellingColumns } from "./shapes/layers.js";
import type { TellingColumn } from "./shapes/shape-kind.js";
import { shapeOf } from "./shapes/shapes.js";
import type { Header } from "../nominal.js";
import { resultOf } from "../findings/result.js";
import { finding, Findings, type Result } from "../findings/finding.js";
import { splitTable } from "../field-name.js";
import { textCodec } from "../codecs/scalars.js";
import { knownEncoding } from "../formats/decode.js";
import { driverOf } from "../formats/drivers/drivers.js";
import type { Format } from "../formats/format.js";
import type { Given } from "../given/yaml.js";
import { nearestSpelling } from "../spelling.js";
import { fieldOf, type Kinds, type KindSpec } from "../kind.js";
import { bindOne, fixesOf } from "./bind.js";
import { Consequence, Mistake, type BindContext, type Bound } from "./bindings/place.js";
import { cellStepOf, madeHeaders, type CellStep } from "./cells.js";
import { formatOf } from "./format-of.js";
import type { Binding, Column, Lane, Layout, RowLanguages, Shape, Feed } from "./layout.js";
import type { GivenBinding, GivenLayout } from "./schema.js";
import { phrase, type Text } from "../phrases/phrase.js";

type At = Given<unknown>["at"];

/**
 * Compiles a layout; fails where there are mistakes: all of them are told, each at its place.
 *
 * @param at where something stands in the file; for a layout within a target, seen from the layout.
 */
export function compileLayout(given: GivenLayout, at: At, kinds: Kinds): Result<Layout> {
  const findings = new Findings();
  return resultOf(compile(given, at, kinds, findings), findings);
}

function compile(given: GivenLayout, at: At, kinds: Kinds, findings: Findings): Layout | undefined {
  const layout = new Compiler(given, at, kinds, findings).compile();
  const { language } = given.rows;
  if (!layout || !language) return layout;
  const layouts = new Map<string, Layout>();
  for (const [word, lang] of Object.entries(language["code words"])) {
    const own =
      lang === given.language ? layout : new Compiler({ ...given, language: lang }, at, kinds, findings).compile();
    if (!own) return undefined;
    layouts.set(word, own);
  }
  const first = [...layouts].sort(([, a], [, b]) => Number(b === layout) - Number(a === layout));
  const languages: RowLanguages = { column: language.column, layouts: new Map(first) };
  return { ...layout, languages };
}

class Compiler {
  #errors = 0;
  readonly #axisLeads = new Map<string, string>();

  constructor(
    readonly given: GivenLayout,
    readonly at: At,
    readonly kinds: Kinds,
    readonly findings: Findings,
  ) {}

  compile(): Layout | undefined {
    const { given } = this;
    const shape = this.#shape();
    if (!shape) return undefined;
    const lanes = Object.keys(given.lanes).flatMap((name) => this.#lane(name, shape) ?? []);
    const link = linkOf(given.rows, shape.parent, (problem, nearest, ...path) =>
      this.#mistake(problem, nearest, ...path),
    );
    const tells = tellingColumns({ shape, link, languages: undefined });
    const headers = [...this.#shapeHeaders(tells), ...this.#headers()];
    const context: BindContext = {
      given,
      kinds: this.kinds,
      shape,
      lanes,
      headers: headers.map((one) => one.header),
      axisLeads: this.#axisLeads,
    };
    const columns = headers.flatMap((one) => this.#column(one, context));
    const cells = Object.entries(given.cells).map(([header, one]) => cellStepOf(header, one));
    this.#checkHeaders(tells, lanes, new Set(context.headers));
    this.#checkCells(cells, new Set(context.headers));
    const format = formatOf(given.format, (encoding) => this.#checkEncoding(encoding));
    const isDocument = driverOf(format).elements !== undefined;
    if (isDocument !== (shape.is === "nested"))
      this.#mistake(
        isDocument
          ? phrase('a document needs "element", the path of the repeated element')
          : phrase('"element" is for documents only (format xml or json)'),
        undefined,
        "rows",
      );
    if (isDocument) this.#checkSheetWords();
    if (isDocument) this.#checkPaths(format, shape, lanes, columns);
    if (this.#errors > 0) return undefined;
    return {
      name: given.layout,
      file: this.at().file,
      format,
      language: given.language,
      headerLine: given.header === "none" ? undefined : (given.header.line ?? 1),
      notes: given.header === "none" ? [] : (given.header.notes ?? []),
      shape,
      link,
      lanes,
      columns: withParallels(columns),
      cells,
      modelRow: given["model row"],
      languages: undefined,
      ignored: given.ignore,
    };
  }

  #mistake(problem: Text, nearest: string | undefined, ...path: (string | number)[]): void {
    this.#errors++;
    this.findings.add(finding("layout/mistake", { problem, nearest }, this.at(...path)));
  }

  #checkEncoding(label: string): void {
    if (knownEncoding(label)) return;
    const nearest = nearestSpelling(label, ["utf-8", "utf-16le", "windows-1252", "iso-8859-1", "macintosh"]);
    this.#mistake(phrase('"{0}" is not a known encoding', label), nearest, "format", "csv", "encoding");
  }

  #kind(name: string, ...path: string[]): KindSpec | undefined {
    const kind = this.kinds.find(name);
    if (kind && !kind.entryKey) return kind;
    const roots = this.kinds.roots.map((root) => root.name);
    this.#mistake(phrase('"{0}" is not a kind of record', name), nearestSpelling(name, roots), ...path);
    return undefined;
  }

  #shape(): Shape | undefined {
    const { rows } = this.given;
    const kind = this.#kind(rows.each, "rows", "each");
    const parent = rows.of === undefined ? undefined : this.#kind(rows.of, "rows", "of");
    if (!kind || (rows.of !== undefined && !parent)) return undefined;
    if (parent && kind.of !== parent.name) {
      this.#mistake(phrase("{0} is not contained in {1}", kind.name, parent.name), kind.of, "rows", "of");
      return undefined;
    }
    return shapeOf(rows, kind, parent, (problem, nearest, ...path) => this.#mistake(problem, nearest, ...path));
  }

  #lane(name: string, shape: Shape): Lane | undefined {
    const given = this.given.lanes[name]!;
    const { kind: kindName, collection = "" } = splitTable(given.entries);
    const owners = shape.child ? [shape.parent, shape.child] : [shape.parent];
    const owner = owners.find((kind) => kind.name === kindName);
    const isList = owner && fieldOf(owner, collection)?.reference?.list;
    if (!owner || (!owner.entries?.[collection] && !isList)) {
      const all = owners.flatMap((kind) => Object.keys(kind.entries ?? {}).map((one) => `${kind.name}.${one}`));
      const nearest = nearestSpelling(given.entries, all);
      this.#mistake(phrase('these rows have no entries "{0}"', given.entries), nearest, "lanes", name, "entries");
      return undefined;
    }
    const needs = shape.is === "nested" ? "element" : "continued when blank";
    // Rows that are linked name their record each.
    const isNamed = shape.is !== "nested" && this.given.rows["found by"] !== undefined;
    if (!isNamed && given[needs] === undefined) {
      this.#mistake(phrase('the lane needs "{0}"', needs), undefined, "lanes", name);
      return undefined;
    }
    return {
      name,
      of: owner === shape.child ? "child" : "parent",
      holds: isList ? "references" : "entries",
      collection,
      constants: given.with,
      blankColumns: given["continued when blank"] ?? [],
      hasOwnRows: given.runs === "on rows of its own",
      element: given.element,
    };
  }

  /** Columns that only tell rows apart, and that the layout does not list among its columns. */
  #shapeHeaders(tells: readonly TellingColumn[]): SheetHeader[] {
    const language = this.given.rows.language?.column;
    const telling = tells.flatMap(({ header, listedFor }) => (listedFor === undefined ? [header] : []));
    return [...(language === undefined ? [] : [language]), ...telling].flatMap((header) =>
      Object.hasOwn(this.given.columns, header) ? [] : [{ header, written: undefined, number: 1, entry: undefined }],
    );
  }

  /** Each header with the one written in the file: `{n}` replaced by each number, `{word}` by each of what is listed. */
  #headers(): SheetHeader[] {
    return Object.keys(this.given.columns).flatMap((written): SheetHeader[] => {
      const word = Object.keys(this.given.listed).find((one) => written.includes(`{${one}}`));
      if (word !== undefined)
        return this.given.listed[word]!.map((entry, at) => ({
          header: written.replace(`{${word}}`, entry),
          written,
          number: at + 1,
          entry: { word, is: entry },
        }));
      const count = written.includes("{n}") ? this.given.numbered : 1;
      return Array.from({ length: count }, (_, at) => ({
        header: written.replace("{n}", String(at + 1)),
        written,
        number: at + 1,
        entry: undefined,
      }));
    });
  }

  #checkHeaders(tells: readonly TellingColumn[], lanes: readonly Lane[], headers: ReadonlySet<string>): void {
    const check = (header: Header, ...path: string[]) => {
      if (!headers.has(header) && !this.given.ignore.includes(header))
        this.#mistake(
          phrase('"{0}" is not a column of this layout', header),
          nearestSpelling(header, headers),
          ...path,
        );
    };
    for (const { header, listedFor } of tells) if (listedFor !== undefined) check(header, "rows", listedFor);
    for (const lane of lanes)
      for (const column of lane.blankColumns) check(column, "lanes", lane.name, "continued when blank");
  }

  /** What is reported of rows and cells of a sheet means nothing in a document. */
  #checkSheetWords(): void {
    const { given } = this;
    const documentOnly = [
      [Object.keys(given.cells).length > 0, ["cells"]],
      [given["model row"] !== undefined, ["model row"]],
    ] as const;
    for (const [isThere, path] of documentOnly)
      if (isThere)
        this.#mistake(phrase('"{0}" is for sheets, not for documents', path[path.length - 1]), undefined, ...path);
  }

  #checkPaths(format: Format, shape: Shape, lanes: readonly Lane[], columns: readonly Column[]): void {
    const { elements } = driverOf(format);
    if (!elements) return;
    const { isPath } = elements.access(format);
    const check = (path: string | undefined, ...at: string[]) => {
      if (path !== undefined && !isPath(path))
        this.#mistake(phrase('"{0}" is not a valid {1}', path, elements.pathForm), undefined, ...at);
    };
    if (shape.is !== "nested") return;
    check(shape.element, "rows", "element");
    check(shape.childElement, "rows", "child element");
    for (const lane of lanes) check(lane.element, "lanes", lane.name, "element");
    for (const { header, bindings } of columns)
      if (bindings.some(({ feed: target }) => target.is !== "shape")) check(header, "columns", header);
  }

  #checkCells(steps: readonly CellStep[], headers: ReadonlySet<string>): void {
    for (const step of steps) {
      const unbound = madeHeaders(step).find((header) => !headers.has(header) && !this.given.ignore.includes(header));
      if (unbound !== undefined)
        this.#mistake(
          phrase('"{0}" is not a column of this layout', unbound),
          nearestSpelling(unbound, headers),
          "cells",
          step.header,
        );
      const pointers = step.is === "json" ? step.pointers.map(([pointer]) => pointer) : [];
      const inner = pointers.find((one) => pointers.some((other) => one.startsWith(`${other}/`)));
      if (inner !== undefined)
        this.#mistake(phrase('"{0}" lies within another pointer', inner), undefined, "cells", step.header, "json");
    }
  }

  #column({ header, written, number, entry }: SheetHeader, context: BindContext): Column[] {
    const rest = { header, fixes: [], blankMeans: undefined };
    if (written === undefined) {
      const binding: Binding = { feed: { is: "shape" }, codec: textCodec, blankEmpties: false, name: "row" };
      return [{ ...rest, scope: { is: "parent" }, bindings: [binding] }];
    }
    const given = this.given.columns[written]!;
    const list = Array.isArray(given) ? given : [given];
    const made: Bound[] = [];
    for (const [location, one] of list.entries()) {
      try {
        const bound = bindOne(entry ? withEntry(one, entry) : one, number, context);
        made.push(isWithinChild(header, bound, context.shape) ? { ...bound, scope: { is: "child" } } : bound);
      } catch (error) {
        if (error instanceof Consequence) return [];
        if (!(error instanceof Mistake)) throw error;
        // The columns that a numbered one stands for have the same mistake.
        if (number > 1) return [];
        this.#mistake(error.problem, error.nearest, "columns", written, ...(Array.isArray(given) ? [location] : []));
      }
    }
    if (made.length === 0) return [];
    const scopes = [...new Set(made.map(({ scope }) => JSON.stringify(scope)))];
    // Where a parent has a row of its own, one column may be the parent's there and the child's on the child's row.
    if (scopes.length > 1 && context.shape.is !== "own-row")
      this.#mistake(phrase("one column cannot feed different records of its row"), undefined, "columns", written);
    const means = list.map((one) => (typeof one === "object" && "blank means" in one ? one["blank means"] : undefined));
    return scopes.map((scope) => ({
      header,
      scope: JSON.parse(scope) as Column["scope"],
      bindings: made.filter((one) => JSON.stringify(one.scope) === scope).map((one) => one.binding),
      fixes: list.flatMap(fixesOf),
      blankMeans: means.find((one) => one !== undefined),
    }));
  }
}

/** A fixed text of a document belongs to the element that its path leads through. */
function isWithinChild(header: Header, { binding }: Bound, shape: Shape): boolean {
  if (shape.is !== "nested" || shape.childElement === undefined || binding.feed.is !== "shape") return false;
  return header.startsWith(`${shape.childElement}/`);
}

interface SheetHeader {
  readonly header: Header;
  readonly written: string | undefined;
  readonly number: number;
  /** For a column per entry of a list: which one. */
  readonly entry: { readonly word: string; readonly is: string } | undefined;
}

/** `variant.stock({place}).quantity` for one of the places. */
function withEntry(given: GivenBinding, { word, is }: NonNullable<SheetHeader["entry"]>): GivenBinding {
  const fill = (text: string) => text.replace(`{${word}}`, is);
  if (typeof given === "string") return fill(given);
  if ("field" in given) return { ...given, field: fill(given.field) };
  if ("axis" in given && typeof given.axis === "string") return { ...given, axis: fill(given.axis) };
  return given;
}

/** Tells each list of entries which others run beside it: those of the same record, collection and constants. */
function withParallels(columns: readonly Column[]): Column[] {
  const groups = new Map<string, string[][]>();
  const parallelOf = ({ scope }: Column, target: Feed): string[] | undefined => {
    if (target.is !== "entry" || !target.field.list) return undefined;
    const key = JSON.stringify([scope, target.entries, target.constants]);
    const known = groups.get(key) ?? [];
    groups.set(key, known);
    // Two lists of the same field are not beside each other, but one after the other.
    let group = known.find((fields) => !fields.includes(target.field.name));
    if (!group) known.push((group = []));
    group.push(target.field.name);
    return group;
  };
  return columns.map((column) => ({
    ...column,
    bindings: column.bindings.map((binding) => {
      const parallel = parallelOf(column, binding.feed);
      return parallel ? { ...binding, feed: { ...binding.feed, parallel } as Feed } : binding;
    }),
  }));
}
