/**
 * One product's rows on their way into the simulated platform: taken in as a whole, or refused as a whole.
 *
 * Everything happens on drafts; `play` keeps them only when no reason stands against them.
 */

import type { Header, Lang } from "../../nominal.js";
import { firstOf, entryOf } from "../../checked.js";
import type { CellValue } from "../../codecs/codec.js";
import type { ImporterRules } from "../../target/adapter/played.js";
import { groupedRules, type Target, type TargetFile } from "../../target/target.js";
import type { RehearsedRow } from "../outcome.js";
import type { Level, RoleColumn } from "./roles.js";
import { cellValue, judgeCell } from "../rules/judge-cell.js";
import { reasonsAgainstRow } from "../rules/judges.js";
import { pathKey } from "../snapshot.js";
import type { Shop, ShopCode, ShopProduct, NodePath } from "./store.js";

/** So many axes stand in a list at most. */
const mostInList = 20;

export interface GroupRow {
  readonly line: number;
  readonly cells: readonly string[];
  readonly parent: string;
  readonly child: string;
}

export interface WaitingLinks {
  readonly word: string;
  readonly links: ReadonlyMap<string, readonly string[]>;
  readonly first: RehearsedRow;
}

export class GroupRehearsal {
  readonly #reasons = new Set<string>();
  readonly #notes = new Map<GroupRow, Set<string>>();
  readonly #rules: ImporterRules;
  readonly #word: string;
  readonly #known: ShopProduct | undefined;
  readonly #product: ShopProduct;
  readonly #codes = new Map<string, ShopCode>();
  readonly #moved = new Set<string>();
  /** Paths of the product's places, with their names in other languages. */
  readonly #places: { path: readonly string[]; names: Map<string, readonly string[]> }[] = [];
  readonly #links = new Map<string, readonly string[]>();

  constructor(
    readonly shop: Shop,
    readonly target: Target,
    readonly file: TargetFile,
    readonly columns: readonly RoleColumn[],
    readonly roles: ReadonlyMap<string, RoleColumn>,
    readonly rows: readonly GroupRow[],
  ) {
    this.#rules = groupedRules(file);
    this.#word = firstOf(rows).parent;
    this.#known = shop.products.get(this.#word);
    this.#product = shop.draftProduct(this.#word);
  }

  play(waiting: WaitingLinks[]): RehearsedRow[] {
    const first = firstOf(this.rows);
    this.#shape();
    if (this.#word !== "") this.#judge(entryOf(this.roles, this.#rules["parent by"]), this.#word, first);
    if (!this.#known && first.child === "") this.#reasons.add("a new product needs a code");
    this.#parentCells(first);
    const outcomes = this.#codeRows(first);
    this.#together();
    if (this.#reasons.size > 0) return this.#refused();
    this.#keep();
    const report = this.rows.map((row): RehearsedRow => ({
      line: row.line,
      parent: row.parent,
      child: row.child,
      outcome: entryOf(outcomes, row),
      reasons: [],
      notes: this.#notes.get(row) ?? new Set(),
    }));
    if (this.#links.size > 0) waiting.push({ word: this.#word, links: this.#links, first: firstOf(report) });
    return report;
  }

  #refused(): RehearsedRow[] {
    const reasons = [...this.#reasons].sort();
    return this.rows.map((row) => ({
      line: row.line,
      parent: row.parent,
      child: row.child,
      outcome: "refused",
      reasons,
      notes: new Set<string>(),
    }));
  }

  #note(row: GroupRow, note: string): void {
    const notes = this.#notes.get(row) ?? new Set<string>();
    this.#notes.set(row, notes.add(note));
  }

  #isFilled(row: GroupRow, level: Level): boolean {
    return this.columns.some(
      (column, at) => column.level === level && column.role.is !== "word" && (row.cells[at] ?? "") !== "",
    );
  }

  /** Which cells may stand on which rows. */
  #shape(): void {
    let codeAbove = false;
    this.rows.forEach((row, location) => {
      if (row.parent === "") {
        if (row.child !== "" || location === 0) this.#reasons.add("a row does not say its product");
        if (this.#isFilled(row, "parent") || this.#isFilled(row, "child"))
          this.#reasons.add("a continuation row fills more than its own cells");
        if (!codeAbove) this.#reasons.add("a continuation row has no code above it");
        return;
      }
      if (location > 0 && this.#isFilled(row, "parent") && this.#rules["shared cells below the first row"] === "refuse")
        this.#reasons.add("a product's cell is filled below its first row");
      if (location > 0 && row.child === "") this.#reasons.add("a further row has no code");
      if (row.child === "" && (this.#isFilled(row, "child") || this.#isFilled(row, "lane")))
        this.#reasons.add("cells of a code, and no code");
      codeAbove = row.child !== "";
    });
  }

  #judge(column: RoleColumn, text: string, row: GroupRow): CellValue | undefined {
    const judged = judgeCell(column, text);
    if (!judged.ok) {
      this.#reasons.add(judged.reason);
      return undefined;
    }
    if (judged.cut) this.#note(row, `${column.header} is cut`);
    if (!column.rule?.picture) return judged.value;
    const wanted = typeof judged.value === "string" ? [judged.value] : (judged.value as readonly string[]);
    const isAwaited = this.#rules["missing pictures"] === "awaited";
    const there = [...new Set(wanted)].filter((name) => isAwaited || this.shop.pictures.has(name));
    if (there.length < new Set(wanted).size) {
      if (this.#rules["missing pictures"] === "refuse") this.#reasons.add(`${column.header}: a picture is not there`);
      else this.#note(row, "a picture is not there and is left out");
    }
    return typeof judged.value === "string" ? (there[0] ?? "") : there;
  }

  /** Sets the fields of one level from a row: what is blank does what the target says, what is new and needed has to be there. */
  #fields(level: Level, row: GroupRow, fields: Map<string, CellValue>, isNew: boolean): void {
    const present = new Set<string>();
    this.columns.forEach((column, at) => {
      if (column.level !== level) return;
      const text = row.cells[at] ?? "";
      if (text !== "") present.add(column.header);
      if (column.role.is !== "field") return;
      if (text !== "") {
        const value = this.#judge(column, text, row);
        if (value === undefined || value.length === 0) fields.delete(column.role.field);
        else fields.set(column.role.field, value);
      } else if (column.rule?.blank === "refuse" && !(isNew && column.rule.required))
        this.#reasons.add(`${column.header}: blank`);
      else if (column.rule?.blank !== "leave") fields.delete(column.role.field);
    });
    if (!isNew) return;
    for (const column of this.roles.values()) {
      if (column.level !== level) continue;
      if (column.rule?.required && !present.has(column.header)) this.#reasons.add(`${column.header}: needed`);
      const start = column.rule?.["starts as"];
      if (start !== undefined && column.role.is === "field" && !fields.has(column.role.field))
        fields.set(column.role.field, start);
    }
  }

  #parentCells(row: GroupRow): void {
    this.#fields("parent", row, this.#product.fields, !this.#known);
    this.#axes(row);
    this.columns.forEach((column, at) => {
      const text = row.cells[at] ?? "";
      if (column.role.is === "links" && (text !== "" || this.#clears(column))) {
        const value = text === "" ? [] : this.#judge(column, text, row);
        if (value !== undefined) this.#links.set(column.role.field, [...new Set(value as readonly string[])]);
      }
      if (column.role.is === "places" && (text !== "" || this.#clears(column))) this.#setPlaces(column, text, row);
    });
    this.columns.forEach((column, at) => {
      const text = row.cells[at] ?? "";
      if (column.role.is === "place names" && text !== "") this.#namePlaces(column, column.role.lang, text, row);
    });
    this.#refuseRow(row, "parent", ({ role }) =>
      role.is === "field"
        ? this.#product.fields.get(role.field)
        : role.is === "links"
          ? this.#links.get(role.field)
          : undefined,
    );
  }

  /** What a blank cell does to a list: whether it clears it. */
  #clears({ rule, header }: RoleColumn): boolean {
    if (rule?.blank === "refuse" && (this.#known || !rule.required)) this.#reasons.add(`${header}: blank`);
    return rule?.blank !== "leave";
  }

  #setPlaces(column: RoleColumn, text: string, row: GroupRow): void {
    const paths = text === "" ? [] : this.#judge(column, text, row);
    if (paths === undefined) return;
    for (const path of paths as readonly (readonly string[])[]) this.#places.push({ path, names: new Map() });
    const distinct = new Map((paths as readonly (readonly string[])[]).map((path) => [pathKey(path), path]));
    if (distinct.size === 0) this.#product.fields.delete("categories");
    else this.#product.fields.set("categories", [...distinct.values()]);
  }

  #namePlaces(column: RoleColumn, lang: Lang, text: string, row: GroupRow): void {
    const paths = this.#judge(column, text, row) as readonly (readonly string[])[] | undefined;
    if (!paths) return;
    if (
      paths.length !== this.#places.length ||
      paths.some((path, at) => path.length !== this.#places[at]!.path.length)
    ) {
      this.#reasons.add(`${column.header}: not parallel`);
      return;
    }
    paths.forEach((path, at) => this.#places[at]!.names.set(lang, path));
  }

  /** The cells of axes or values on a row, by number, each with its words by language; undefined where the file has no such column. */
  #namesOf(is: "axis name" | "axis value", row: GroupRow): (string | undefined)[][] {
    const names: (string | undefined)[][] = [];
    this.columns.forEach((column, at) => {
      const text = row.cells[at] ?? "";
      const { role } = column;
      const isList = role.is === `${is}s`;
      if (!isList && role.is !== is) return;
      const value = text === "" ? "" : this.#judge(column, text, row);
      const put = (number: number, lang: number, name: string): void => {
        (names[number] ??= this.target.languages.map(() => undefined))[lang] = name;
      };
      if (role.is === is) put(role.number - 1, role.lang, text);
      else if (role.is === "axis names" || role.is === "axis values")
        for (let number = 0; number < mostInList; number++) put(number, role.lang, String(value?.[number] ?? ""));
    });
    return names;
  }

  #axes(row: GroupRow): void {
    const texts = this.#namesOf("axis name", row);
    const old = this.#known?.axes ?? [];
    const said = texts.some((one) => one?.[0] !== undefined);
    const count = said ? texts.findLastIndex((one) => (one?.[0] ?? "") !== "") + 1 : old.length;
    if (texts.slice(count).some((one) => one?.some((word) => (word ?? "") !== "")))
      this.#reasons.add("an axis is left out");
    const names = Array.from({ length: count }, (_, at) => (said ? (texts[at]?.[0] ?? "") : firstOf(old[at]!)));
    if (names.includes("")) this.#reasons.add("an axis is left out");
    if (new Set(names).size < names.length) this.#reasons.add("an axis comes twice");
    const differs =
      said && this.#known && (names.length !== old.length || names.some((name, at) => name !== old[at]![0]));
    if (differs && this.#rules["axes of a known product"] === "must match")
      this.#reasons.add("the product's axes are others");
    this.#product.axes = names.map((name, at) => this.#merged(texts[at], old[at], name));
  }

  /** Words in all languages: the main one as given, others from the file where it has a column, else as they were. */
  #merged(said: readonly (string | undefined)[] | undefined, old: NodePath | undefined, main: string): NodePath {
    return this.target.languages.map((_, lang) => (lang === 0 ? main : (said?.[lang] ?? old?.[lang] ?? "")));
  }

  #codeRows(first: GroupRow): Map<GroupRow, RehearsedRow["outcome"]> {
    const outcomes = new Map<GroupRow, RehearsedRow["outcome"]>();
    const productChanged = this.#productChanged();
    for (let at = 0; at < this.rows.length; at++) {
      const row = this.rows[at]!;
      if (row.parent === "" && at > 0) continue;
      const continued = [row];
      for (let next = at + 1; this.rows[next]?.parent === ""; next++) continued.push(this.rows[next]!);
      let outcome = row.child === "" ? ("unchanged" as const) : this.#code(row, continued);
      if (row === first)
        outcome = !this.#known ? "created" : productChanged || outcome !== "unchanged" ? "updated" : "unchanged";
      for (const one of continued) outcomes.set(one, outcome);
    }
    return outcomes;
  }

  #productChanged(): boolean {
    const known = this.#known;
    return (
      known !== undefined &&
      (show(known.fields) !== show(this.#product.fields) ||
        JSON.stringify(known.axes) !== JSON.stringify(this.#product.axes))
    );
  }

  #code(row: GroupRow, continued: readonly GroupRow[]): "created" | "updated" | "unchanged" {
    this.#judge(entryOf(this.roles, this.#rules["child by"]), row.child, row);
    const held = this.#codes.get(row.child) ?? this.shop.codes.get(row.child);
    const moves = held !== undefined && held.product !== this.#word;
    if (moves && this.#rules["code of another product"] === "refuse")
      this.#reasons.add("the code is another product's");
    const before = held && showCode(held);
    const code = this.#codes.get(row.child) ?? this.shop.draftCode(row.child, this.#word);
    if (moves) {
      this.#moved.add(row.child);
      this.#note(row, "the code was another product's");
      code.product = this.#word;
      code.values = [];
    }
    this.#fields("child", row, code.fields, held === undefined);
    this.#values(row, code, held === undefined || moves);
    this.#lanes(continued, code);
    this.#refuseRow(row, "child", (column) =>
      column.role.is === "field" ? code.fields.get(column.role.field) : undefined,
    );
    this.#codes.set(row.child, code);
    if (!this.#product.codes.includes(row.child)) this.#product.codes.push(row.child);
    if (!held) return "created";
    return moves || showCode(code) !== before ? "updated" : "unchanged";
  }

  #values(row: GroupRow, code: ShopCode, isNew: boolean): void {
    const names = this.#namesOf("axis value", row);
    const count = this.#product.axes.length;
    const said = names.some((one) => one?.[0] !== undefined);
    const blanks = Array.from({ length: count }, (_, at) => (names[at]?.[0] ?? "") === "");
    if (said ? blanks.includes(true) : isNew && count > 0) this.#reasons.add("a value is missing");
    if (names.slice(count).some((one) => one?.some((word) => (word ?? "") !== "")))
      this.#reasons.add("a value has no axis");
    const old = code.values;
    code.values = Array.from({ length: count }, (_, at) =>
      this.#merged(names[at], old[at], said ? (names[at]?.[0] ?? "") : (old[at]?.[0] ?? "")),
    );
  }

  #lanes(continued: readonly GroupRow[], code: ShopCode): void {
    const lanes = new Set(this.columns.flatMap((column) => (column.role.is === "lane" ? [column.role.lane] : [])));
    for (const lane of lanes) {
      const entries: string[][] = [];
      for (const row of continued) {
        const entry = ["", "", ""];
        this.columns.forEach((column, at) => {
          const text = row.cells[at] ?? "";
          if (column.role.is !== "lane" || column.role.lane !== lane || text === "") return;
          entry[column.role.part] = (this.#judge(column, text, row) as string | undefined) ?? "";
        });
        if (entry.every((part) => part === "")) continue;
        this.#refuseRow(row, "lane", (column) =>
          column.role.is === "lane" && column.role.lane === lane ? entry[column.role.part] || undefined : undefined,
        );
        if (entries.some((other) => other[0] === entry[0] && other[1] === entry[1]))
          this.#reasons.add(`${lane}: an entry comes twice`);
        entries.push(entry);
      }
      code.lanes.set(lane, entries);
    }
  }

  /** Rules that look at several cells of a row, or at the product. */
  #refuseRow(row: GroupRow, level: Level, valueOf: (column: RoleColumn) => CellValue | undefined): void {
    const stored = (header: Header): CellValue | undefined => {
      const column = this.roles.get(header);
      return column && valueOf(column);
    };
    const isFilled = (header: Header) =>
      this.columns.some((column, at) => column.header === header && (row.cells[at] ?? "") !== "");
    const ofProduct = (field: string) => this.#product.fields.get(field);
    const cell = (header: Header) => {
      const at = this.columns.findIndex((column) => column.header === header);
      return at < 0 ? undefined : cellValue(this.columns[at]!.codec, row.cells[at] ?? "");
    };
    const columns = [...this.roles.values()].filter((column) => column.level === level);
    for (const reason of reasonsAgainstRow(columns, { stored, isFilled, ofProduct, cell })) this.#reasons.add(reason);
  }

  /** What has to hold of all the product's codes, those the file does not name included. */
  #together(): void {
    const codes = this.#product.codes.map((code) => this.#codes.get(code) ?? entryOf(this.shop.codes, code));
    if (this.#product.axes.length === 0) {
      if (codes.length > 1) this.#reasons.add("two codes and no axis");
      return;
    }
    const combinations = codes.map((code) => JSON.stringify(code.values.map((names) => names[0])));
    if (new Set(combinations).size < combinations.length) this.#reasons.add("two codes have the same values");
  }

  #keep(): void {
    const { shop } = this;
    for (const code of this.#moved) {
      const from = entryOf(shop.codes, code).product;
      const other = shop.products.get(from);
      if (!other || from === this.#word) continue;
      other.codes = other.codes.filter((one) => one !== code);
      if (other.codes.length === 0 && this.#rules["product without codes"] === "deleted") shop.removeProduct(from);
    }
    // A known product keeps its place, and the links that others have to it.
    shop.products.set(this.#word, this.#product);
    for (const [code, draft] of this.#codes) shop.codes.set(code, draft);
    for (const { path, names } of this.#places) {
      for (let depth = 1; depth <= path.length; depth++) {
        const key = pathKey(path.slice(0, depth));
        const node = shop.nodes.get(key) ?? { path: path.slice(0, depth), names: new Map<string, string>() };
        for (const [lang, other] of names) node.names.set(`name@${lang}`, other[depth - 1]!);
        shop.nodes.set(key, node);
      }
    }
  }
}

const show = (fields: ReadonlyMap<string, CellValue>): string =>
  JSON.stringify([...fields].sort(([a], [b]) => (a < b ? -1 : 1)));
const showCode = ({ product, fields, values, lanes }: ShopCode): string =>
  JSON.stringify([product, show(fields), values, [...lanes].map(([lane, entries]) => [lane, [...entries].sort()])]);
