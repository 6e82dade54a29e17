/**
 * From a layout as given to a layout that can be run. Every mistake is a finding at its place in the layout's file.
 *
 * In: the given layout, the kinds. Out: a layout, or nothing with findings of severity error. What a column feeds: `bind.ts`.
 */

import { linkOf } from "./link.js";
import { tellingColumns } from "../shapes/layers.js";
import type { TellingColumn } from "../shapes/shape-kind.js";
import { shapeOf } from "../shapes/shapes.js";
import type { Header } from "../../nominal.js";
import { resultOf } from "../../findings/result.js";
import { finding, Findings, type Result } from "../../findings/finding.js";
import { splitTable } from "../../field-name.js";
import { textCodec } from "../../codecs/scalars.js";
import { knownEncoding } from "../../formats/decode.js";
import { driverOf, formatOf } from "../../formats/drivers/drivers.js";
import type { Given } from "../../given/yaml.js";
import { nearestSpelling } from "../../spelling.js";
import { fieldOf, type KindSpec } from "../../kind.js";
import type { Kinds } from "../../kinds.js";
import { namedAmong } from "../bindings/entry.js";
import { bindOne, fixesOf } from "./bind.js";
import { Consequence, Mistake, type BindContext, type Bound } from "../bindings/place.js";
import { cellStepOf } from "../cells.js";
import {
  checkCells,
  checkFilledDown,
  checkGroups,
  checkHeaders,
  checkPaths,
  checkSheetSettings,
  checkUnused,
  type Report,
} from "./checks.js";
import { sheetHeadersOf, withEntry, type SheetHeader } from "./headers.js";
import { withLeads } from "./leads.js";
import { withParallels } from "./parallels.js";
import type { Binding, Column, Constants, Lane, Layout, RowLanguages, Shape } from "../layout.js";
import type { GivenLayout } from "../schema.js";
import { phrase, type Text } from "../../phrases/phrase.js";

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
      lang === given.language
        ? layout
        : new Compiler({ ...given, language: lang }, at, kinds, findings, given.language).compile();
    if (!own) return undefined;
    layouts.set(word, own);
  }
  const first = [...layouts].sort(([, a], [, b]) => Number(b === layout) - Number(a === layout));
  const languages: RowLanguages = { column: language.column, layouts: new Map(first) };
  return { ...layout, languages };
}

class Compiler {
  #errors = 0;

  constructor(
    readonly given: GivenLayout,
    readonly at: At,
    readonly kinds: Kinds,
    readonly findings: Findings,
    /** The language of the names that the layout itself gives. */
    readonly language = given.language,
  ) {}

  compile(): Layout | undefined {
    const { given } = this;
    const shape = this.#shape();
    if (!shape) return undefined;
    const lanes = Object.keys(given.lanes).flatMap((name) => this.#lane(name, shape) ?? []);
    const link = linkOf(given.rows, shape.parent, given.language, (problem, nearest, ...path) =>
      this.#mistake(problem, nearest, ...path),
    );
    const tells = tellingColumns({ shape, link, languages: undefined });
    const headers = [...this.#shapeHeaders(tells), ...sheetHeadersOf(given)];
    const context: BindContext = {
      given,
      kinds: this.kinds,
      language: this.language,
      shape,
      lanes,
      headers: headers.map((one) => one.header),
    };
    const columns = headers.flatMap((one) => this.#column(one, context));
    const cells = Object.entries(given.cells).map(([header, one]) => cellStepOf(header, one));
    const mistake: Report = (problem, nearest, ...path) => this.#mistake(problem, nearest, ...path);
    checkHeaders(given, tells, lanes, new Set(context.headers), mistake);
    checkCells(given, cells, new Set(context.headers), mistake);
    const format = formatOf(given.format);
    if ("encoding" in format && format.encoding !== undefined) this.#checkEncoding(format.encoding, format.is);
    const isDocument = driverOf(format).elements !== undefined;
    if (isDocument !== (shape.is === "nested"))
      this.#mistake(
        isDocument
          ? phrase('a document needs "element", the path of the repeated element')
          : phrase('"element" is for documents only (format xml or json)'),
        undefined,
        "rows",
      );
    if (isDocument) checkSheetSettings(given, mistake);
    else if (given.header === "none") checkLetters(context.headers, mistake);
    checkFilledDown(given, shape, lanes, columns, new Set(context.headers), mistake);
    if (this.#errors === 0) checkUnused(given, isDocument, lanes, columns, tells, mistake);
    checkGroups(shape, columns, mistake);
    checkPaths(format, shape, lanes, columns, given.ignore, mistake);
    if (this.#errors > 0) return undefined;
    return {
      name: given.layout,
      file: this.at().file,
      format,
      language: given.language,
      headerLine: given.header === "none" ? undefined : headerLineOf(given.header),
      notes: given.header === "none" ? [] : (given.header.notes ?? []),
      shape,
      link,
      lanes,
      telling: new Set([
        ...tells.map(({ header }) => header),
        ...[given["model row"]?.column, given.rows.language?.column].filter((one) => one !== undefined),
      ]),
      columns: withLeads(withParallels(columns), given.language),
      cells,
      filledDown: given["filled down"] ?? [],
      modelRow: given["model row"],
      languages: undefined,
      ignored: given.ignore,
    };
  }

  #mistake(problem: Text, nearest: string | undefined, ...path: (string | number)[]): void {
    this.#errors++;
    this.findings.add(finding("layout/mistake", { problem, nearest }, this.at(...path)));
  }

  #checkEncoding(label: string, format: string): void {
    if (knownEncoding(label)) return;
    const nearest = nearestSpelling(label, ["utf-8", "utf-16le", "windows-1252", "iso-8859-1", "macintosh"]);
    this.#mistake(phrase('"{0}" is not a known encoding', label), nearest, "format", format, "encoding");
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
      ...this.#constantsOfLane(name, given.with, isList ? undefined : owner.entries?.[collection]),
      blankColumns: given["continued when blank"] ?? [],
      hasOwnRows: given.runs === "on rows of its own",
      element: given.element,
    };
  }

  /** What is the same in all entries of a lane. */
  #constantsOfLane(lane: string, given: Constants, kind: string | undefined): Pick<Lane, "constants" | "named"> {
    const embedded = kind === undefined ? undefined : this.kinds.get(kind);
    const possible = (embedded?.fields ?? []).flatMap(({ name, perLanguage }) => (perLanguage ? [] : [name]));
    for (const field of Object.keys(given))
      if (!possible.includes(field)) {
        const problem = phrase('"{0}" is not a field that is the same in all entries of {1}', field, lane);
        this.#mistake(problem, nearestSpelling(field, possible), "lanes", lane, "with", field);
      }
    return embedded ? namedAmong(embedded, given, this) : { constants: {}, named: {} };
  }

  /** Columns that only tell rows apart, and that the layout does not list among its columns. */
  #shapeHeaders(tells: readonly TellingColumn[]): SheetHeader[] {
    const language = this.given.rows.language?.column;
    const telling = tells.flatMap(({ header, listedFor }) => (listedFor === undefined ? [header] : []));
    return [...(language === undefined ? [] : [language]), ...telling].flatMap((header) =>
      Object.hasOwn(this.given.columns, header) ? [] : [{ header, written: undefined, number: 1, entry: undefined }],
    );
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

/** Without a header, columns are known by the letters of their places. */
function checkLetters(headers: readonly string[], mistake: Report): void {
  const other = headers.find((header) => !/^[A-Z]{1,3}$/.test(header));
  if (other !== undefined)
    mistake(
      phrase('"{0}" is not a letter: without a header, columns are A, B and so on', other),
      undefined,
      "columns",
      other,
    );
}

/** Below the notes, where its line is not given. */
const headerLineOf = ({ line, notes = [] }: Exclude<GivenLayout["header"], "none">): number => line ?? notes.length + 1;

/** A fixed text of a document belongs to the element that its path leads through. */
function isWithinChild(header: Header, { binding }: Bound, shape: Shape): boolean {
  if (shape.is !== "nested" || shape.childElement === undefined || binding.feed.is !== "shape") return false;
  return header.startsWith(`${shape.childElement}/`);
}
