/**
 * From a layout as given to a layout that can be run. Every mistake is a finding at its place in the layout's file.
 *
 * In: the given layout, the kinds. Out: a layout, or nothing with findings of severity error.
 */

import { nearestWord, type Given } from "../given/yaml.js";
import { finding, type Findings } from "../finding.js";
import { fieldOf, type FieldSpec, type Kinds, type KindSpec, type Missing } from "../kind.js";
import type { ReferenceSpec } from "../catalogue/reference-pool.js";
import { inLanguage } from "../catalogue/table.js";
import { textCodec } from "../codecs/scalars.js";
import { codecOf, type CodecChoice } from "./codec-of.js";
import type { Binding, Column, EntryField, Joined, Lane, Layout, Scope, Shape, Target } from "./layout.js";
import type { GivenBinding, GivenCodec, GivenLayout } from "./schema.js";

type At = Given<unknown>["at"];

/**
 * Compiles a layout.
 *
 * @param at where something stands in the file; for a layout within a target, seen from the layout.
 * @returns undefined when there are mistakes; all of them are in `findings`, each at its place.
 */
export function compileLayout(given: GivenLayout, at: At, kinds: Kinds, findings: Findings): Layout | undefined {
  return new Compiler(given, at, kinds, findings).compile();
}

/** A field path as written: `product.name@de`, `variant.prices(regular).amount`, `tiers.amount`. */
const pathShape = /^([a-z][\w-]*)\.(\w+)(?:\(([^()]+)\))?(?:\.(\w+))?(?:@([\w-]+))?$/i;

class Mistake extends Error {
  constructor(
    problem: string,
    readonly nearest?: string,
  ) {
    super(problem);
  }
}

/** Follows from a mistake that is reported where it was made. */
class Consequence extends Error {}

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
    const headers = [...this.#shapeHeaders(shape), ...this.#headers()];
    const columns = headers.flatMap(({ header, written, number }) =>
      this.#column(header, written, number, { shape, lanes, headers: headers.map((one) => one.header) }),
    );
    this.#checkHeaders(shape, lanes, new Set(headers.map((one) => one.header)));
    const csv = given.format.csv;
    const encoding = this.#encoding(csv.encoding);
    if (this.#errors > 0) return undefined;
    return {
      name: given.layout,
      file: this.at().file,
      csv: {
        delimiter: csv.delimiter,
        quote: csv.quote,
        encoding,
        lineEnd: csv["line end"] === "lf" ? "\n" : "\r\n",
        mark: csv.mark ?? false,
      },
      shape,
      lanes,
      columns,
      ignored: given.ignore,
    };
  }

  #mistake(problem: string, nearest: string | undefined, ...path: (string | number)[]): void {
    this.#errors++;
    this.findings.add(finding("layout/mistake", { problem, nearest }, this.at(...path)));
  }

  #encoding(label: string | undefined): string {
    try {
      return new TextDecoder(label ?? "utf-8").encoding;
    } catch {
      this.#mistake(
        `"${label}" is no encoding`,
        nearestWord(label!, ["utf-8", "utf-16le", "windows-1252", "iso-8859-1"]),
        "format",
        "csv",
        "encoding",
      );
      return "utf-8";
    }
  }

  #kind(name: string, ...path: string[]): KindSpec | undefined {
    const kind = this.kinds.find(name);
    if (kind && !kind.entryKey) return kind;
    this.#mistake(
      `"${name}" is no kind of record`,
      nearestWord(
        name,
        this.kinds.roots.map((root) => root.name),
      ),
      ...path,
    );
    return undefined;
  }

  #shape(): Shape | undefined {
    const { rows } = this.given;
    const kind = this.#kind(rows.each, "rows", "each");
    if (!kind) return undefined;
    if (rows.of === undefined) return { is: "flat", kind };
    const parent = this.#kind(rows.of, "rows", "of");
    if (!parent) return undefined;
    if (kind.of !== parent.name) {
      this.#mistake(`a ${kind.name} is not contained in a ${parent.name}`, kind.of, "rows", "of");
      return undefined;
    }
    if (rows["shared cells"] === "own row") {
      const joined = rows["joined by"];
      if (joined === undefined || (joined === "following" && !rows.marker)) {
        this.#mistake(
          `rows with an "own row" need "joined by", and a "marker" where rows just follow`,
          undefined,
          "rows",
        );
        return undefined;
      }
      const how: Joined = joined === "following" ? { by: "following" } : { by: "reference", ...joined };
      return { is: "own-row", parent, child: kind, marker: rows.marker, joined: how };
    }
    if (rows["grouped by"] === undefined) {
      this.#mistake(
        `rows of a ${parent.name} need "grouped by": the column that tells which ${parent.name} a row belongs to`,
        undefined,
        "rows",
      );
      return undefined;
    }
    return {
      is: "grouped",
      parent,
      child: kind,
      column: rows["grouped by"],
      scattered: rows.groups === "scattered",
      everyRow: rows["shared cells"] === "every row",
    };
  }

  #lane(name: string, shape: Shape): Lane | undefined {
    const given = this.given.lanes[name]!;
    const [kindName = "", collection = ""] = given.entries.split(".");
    const owners = shape.is === "flat" ? [shape.kind] : [shape.parent, shape.child];
    const owner = owners.find((kind) => kind.name === kindName);
    const isList = owner && fieldOf(owner, collection)?.reference?.list;
    if (!owner || (!owner.entries?.[collection] && !isList)) {
      const all = owners.flatMap((kind) => Object.keys(kind.entries ?? {}).map((one) => `${kind.name}.${one}`));
      const nearest = nearestWord(given.entries, all);
      this.#mistake(`"${given.entries}" are no entries of these rows`, nearest, "lanes", name, "entries");
      return undefined;
    }
    const of = shape.is !== "flat" && owner === shape.child ? "child" : "parent";
    const holds = isList ? "references" : "entries";
    return { name, of, holds, collection, constants: given.with, blankColumns: given["continued when blank"] };
  }

  /** Columns that only tell rows apart, and that the layout does not list among its columns. */
  #shapeHeaders(shape: Shape): { header: string; written: undefined; number: number }[] {
    if (shape.is !== "own-row") return [];
    const headers = [shape.marker?.column, shape.joined.by === "reference" ? shape.joined.column : undefined];
    return headers.flatMap((header) =>
      header === undefined || Object.hasOwn(this.given.columns, header)
        ? []
        : [{ header, written: undefined, number: 1 }],
    );
  }

  /** Each header with the one written in the file, `{n}` replaced by each number. */
  #headers(): { header: string; written: string; number: number }[] {
    return Object.keys(this.given.columns).flatMap((written) => {
      const count = written.includes("{n}") ? this.given.numbered : 1;
      return Array.from({ length: count }, (_, at) => ({
        header: written.replace("{n}", String(at + 1)),
        written,
        number: at + 1,
      }));
    });
  }

  #checkHeaders(shape: Shape, lanes: readonly Lane[], headers: ReadonlySet<string>): void {
    const check = (header: string, ...path: string[]) => {
      if (!headers.has(header) && !this.given.ignore.includes(header))
        this.#mistake(`"${header}" is no column of this layout`, nearestWord(header, headers), ...path);
    };
    if (shape.is === "grouped") check(shape.column, "rows", "grouped by");
    for (const lane of lanes)
      for (const column of lane.blankColumns) check(column, "lanes", lane.name, "continued when blank");
  }

  #column(header: string, written: string | undefined, number: number, context: Context): Column[] {
    if (written === undefined) {
      const binding: Binding = { target: { feeds: "shape" }, codec: textCodec, blankEmpties: false, name: "row" };
      return [{ header, scope: { is: "parent" }, bindings: [binding] }];
    }
    const given = this.given.columns[written]!;
    const list = Array.isArray(given) ? given : [given];
    const made: { scope: Scope; binding: Binding }[] = [];
    for (const [place, one] of list.entries()) {
      try {
        made.push(this.#binding(one, number, context));
      } catch (error) {
        if (error instanceof Consequence) return [];
        if (!(error instanceof Mistake)) throw error;
        // The columns that a numbered one stands for have the same mistake.
        if (number > 1) return [];
        this.#mistake(error.message, error.nearest, "columns", written, ...(Array.isArray(given) ? [place] : []));
      }
    }
    if (made.length === 0) return [];
    if (made.some(({ scope }) => JSON.stringify(scope) !== JSON.stringify(made[0]!.scope)))
      this.#mistake("one column cannot feed different records of its row", undefined, "columns", written);
    return [{ header, scope: made[0]!.scope, bindings: made.map((one) => one.binding) }];
  }

  #binding(given: GivenBinding, number: number, context: Context): { scope: Scope; binding: Binding } {
    if (typeof given === "string") return this.#field({ field: given }, context);
    if ("axis" in given) return this.#axis(given, number, context);
    if ("beside" in given) return this.#beside(given, context);
    return this.#field(given, context);
  }

  #axis(given: { axis: number | string; holds: string }, number: number, { shape }: Context) {
    if (shape.is === "flat" || shape.parent.name !== "product")
      throw new Mistake("axes need rows of variants of a product");
    const [holds, lang = this.given.language] = given.holds.split("@");
    if (holds !== "name" && holds !== "value")
      throw new Mistake(`"${given.holds}" is neither name nor value`, nearestWord(holds!, ["name", "value"]));
    const scope: Scope = { is: holds === "name" ? "parent" : "child" };
    const as = { codec: textCodec, blankEmpties: false };
    if (typeof given.axis === "string" && given.axis !== "{n}") {
      if (holds === "name") throw new Mistake("an axis named by its column has only values");
      const target: Target = { feeds: "named-axis", axis: given.axis, lang };
      return { scope, binding: { ...as, target, name: `axis ${given.axis}` } };
    }
    const which = typeof given.axis === "number" ? given.axis : number;
    const lead = this.#axisLeads.get(`${which} ${holds}`) ?? lang;
    this.#axisLeads.set(`${which} ${holds}`, lead);
    const target: Target = { feeds: "axis", number: which, holds, lang, leads: lead === lang };
    return { scope, binding: { ...as, target, name: `axis ${which} ${holds}@${lang}` } };
  }

  #beside(given: { beside: string; as: GivenCodec }, context: Context) {
    const beside = context.headers.indexOf(given.beside);
    if (beside < 0)
      throw new Mistake(`there is no column "${given.beside}"`, nearestWord(given.beside, context.headers));
    const choice = codecOf(given.as, "text");
    const [by, lang] = (choice.by ?? "").split("@");
    if (!choice.path || by !== "name" || lang === undefined)
      throw new Mistake(`"beside" takes paths by a name in another language`);
    const leader = this.given.columns[given.beside];
    const scope =
      typeof leader === "string"
        ? this.#scopeOf(leader.split(".")[0]!, context)
        : this.#scopeOfBinding(leader, context);
    const target: Target = { feeds: "naming", beside, lang, list: choice.list };
    return {
      scope,
      binding: { target, codec: choice.codec, blankEmpties: false, name: `names of ${given.beside}@${lang}` },
    };
  }

  #scopeOfBinding(given: unknown, context: Context): Scope {
    const field = (given as { field?: string } | undefined)?.field ?? "";
    return this.#scopeOf(field.split(".")[0]!, context);
  }

  #scopeOf(word: string, { shape, lanes }: Context): Scope {
    if (lanes.some((lane) => lane.name === word)) return { is: "lane", lane: word };
    if (Object.hasOwn(this.given.lanes, word)) throw new Consequence();
    const names = shape.is === "flat" ? [shape.kind.name] : [shape.parent.name, shape.child.name];
    if (word === names[0]) return { is: "parent" };
    if (word === names[1]) return { is: "child" };
    throw new Mistake(
      `"${word}" is nothing that these rows hold`,
      nearestWord(word, [...names, ...lanes.map((lane) => lane.name)]),
    );
  }

  #field(given: GivenField, context: Context): { scope: Scope; binding: Binding } {
    const match = pathShape.exec(given.field);
    if (!match) throw new Mistake(`"${given.field}" is no field: write it like product.name@en`);
    const [, word = "", first = "", constant, inner, lang] = match;
    const scope = this.#scopeOf(word, context);
    const name = given.field;
    const rest = { blankEmpties: given.blank === "emptied", name };
    if (scope.is === "lane") {
      const lane = context.lanes.find((one) => one.name === scope.lane)!;
      const owner = this.#ownerKind(context.shape, lane.of);
      if (lane.holds === "references") {
        const spec = this.#fieldSpec(owner, lane.collection);
        const choice = codecOf(given.as, spec.type);
        if (first !== "each" || choice.list)
          throw new Mistake(`a row holds one of ${lane.collection}`, `${lane.name}.each`);
        const reference = this.#reference(spec, choice, given.missing);
        const shape = choice.path ? "path" : "one";
        const target: Target = { feeds: "reference", field: lane.collection, shape, spec: reference };
        return { scope, binding: { ...rest, target, codec: choice.codec } };
      }
      const embedded = this.kinds.get(owner.entries![lane.collection]!);
      const { field, choice } = this.#entryField(embedded, first, lang, given);
      const target: Target = { feeds: "entry", entries: lane.collection, constants: lane.constants, field };
      return { scope, binding: { ...rest, target, codec: choice.codec } };
    }
    const kind = this.#ownerKind(context.shape, scope.is);
    if (first === "key")
      return { scope, binding: { ...rest, target: { feeds: "key" }, codec: codecOf(given.as, "text").codec } };
    const entryKind = kind.entries?.[first];
    if (entryKind !== undefined) {
      const embedded = this.kinds.get(entryKind);
      if (inner === undefined)
        throw new Mistake(
          `${name} needs the field of its entries`,
          `${name}.${embedded.fields.find((field) => field.name !== embedded.entryKey![0])!.name}`,
        );
      const { field, choice } = this.#entryField(embedded, inner, lang, given);
      const constants = constant === undefined ? {} : { [embedded.entryKey![0]!]: constant };
      return {
        scope,
        binding: { ...rest, target: { feeds: "entry", entries: first, constants, field }, codec: choice.codec },
      };
    }
    const field = this.#fieldSpec(kind, first);
    const choice = codecOf(given.as, field.type);
    if (field.reference) {
      const spec = this.#reference(field, choice, given.missing);
      if (choice.list && !field.reference.list)
        throw new Mistake(`${name} holds one ${field.reference.to}, not a list`);
      const shape = choice.path ? (choice.list ? "paths" : "path") : choice.list ? "list" : "one";
      return {
        scope,
        binding: { ...rest, target: { feeds: "reference", field: first, shape, spec }, codec: choice.codec },
      };
    }
    if (choice.list || choice.path) throw new Mistake(`${name} holds one text, not a list`);
    return {
      scope,
      binding: { ...rest, target: { feeds: "text", field: this.#inLanguage(field, lang) }, codec: choice.codec },
    };
  }

  #ownerKind(shape: Shape, of: "parent" | "child"): KindSpec {
    return shape.is === "flat" ? shape.kind : of === "parent" ? shape.parent : shape.child;
  }

  #fieldSpec(kind: KindSpec, name: string): FieldSpec {
    const field = fieldOf(kind, name);
    if (field) return field;
    const all = ["key", ...kind.fields.map((one) => one.name), ...Object.keys(kind.entries ?? {})];
    throw new Mistake(`a ${kind.name} has no "${name}"`, nearestWord(name, all));
  }

  #inLanguage(field: FieldSpec, lang: string | undefined): string {
    if (lang !== undefined && !field.perLanguage) throw new Mistake(`${field.name} has no languages`);
    return inLanguage(field.name, field.perLanguage ? (lang ?? this.given.language) : undefined);
  }

  #entryField(
    kind: KindSpec,
    name: string,
    lang: string | undefined,
    given: GivenField,
  ): { field: EntryField; choice: CodecChoice } {
    const field = this.#fieldSpec(kind, name);
    const choice = codecOf(given.as, field.type);
    if (!field.reference)
      return { field: { is: "text", name: this.#inLanguage(field, lang), list: choice.list }, choice };
    return {
      field: { is: "reference", name, list: choice.list, spec: this.#reference(field, choice, given.missing) },
      choice,
    };
  }

  #reference(field: FieldSpec, choice: CodecChoice, missing: Missing | undefined): ReferenceSpec {
    const reference = field.reference!;
    const [by, lang] = (choice.by ?? `name@${this.given.language}`).split("@");
    if (by !== "key" && by !== "code" && by !== "name")
      throw new Mistake(
        `"${choice.by}" names no record`,
        nearestWord(by!, ["key", "code", `name@${this.given.language}`]),
      );
    return {
      to: reference.to,
      by,
      lang: by === "name" ? (lang ?? this.given.language) : undefined,
      missing: missing ?? reference.missing,
      inTree: choice.path,
    };
  }
}

interface Context {
  readonly shape: Shape;
  readonly lanes: readonly Lane[];
  readonly headers: readonly string[];
}
interface GivenField {
  readonly field: string;
  readonly as?: GivenCodec | undefined;
  readonly blank?: "absent" | "emptied" | undefined;
  readonly missing?: Missing | undefined;
}
