/**
 * One row of a file of records on its way into the simulated platform. What it changes is taken back where the row is refused.
 */

import type { Header, Lang } from "../../nominal.js";
import { firstOf, fitting, present } from "../../checked.js";
import type { CellValue } from "../../codecs/codec.js";
import type { Kinds } from "../../kinds.js";
import type { Layout } from "../../layout/layout.js";
import type { RecordRules } from "../../target/adapter/played.js";
import { addressOf } from "../../target/generated.js";
import type { Target, TargetFile } from "../../target/target.js";
import type { RecordColumn, Refers } from "./record-columns.js";
import { productProblems, treeProblem, variantProblems } from "./record-rules.js";
import { copyOf, sameRecord, type RegisterRecord, type Registers } from "./registers.js";
import { cellValue, judgeCell } from "../rules/judge-cell.js";
import { reasonsAgainstRow } from "../rules/judges.js";
import type { Outcome } from "../outcome.js";

export type RowCells = ReadonlyMap<string, string>;

export interface RowContext {
  readonly registers: Registers;
  readonly target: Target;
  readonly file: TargetFile;
  readonly importer: RecordRules;
  readonly kinds: Kinds;
  readonly layouts: readonly {
    readonly layout: Layout;
    /** Where each row is in a language: the word for this one's. */
    readonly language: Lang;
    readonly columns: ReadonlyMap<string, readonly RecordColumn[]>;
  }[];
  /** Codes that rows of the file have named; a file names each once. */
  readonly seenCodes: Set<string>;
  /** Whether the file is the whole of what there is to be: then codes may move. */
  readonly isWhole: boolean;
}

/** A record that the row has touched, as it was before; undefined for one that it made. */
interface Touched {
  readonly record: RegisterRecord;
  readonly before: RegisterRecord | undefined;
}

/** A cell whose words are looked up later. */
interface Waiting {
  readonly record: RegisterRecord;
  readonly column: RecordColumn;
  readonly value: CellValue;
}

export class RecordRow {
  readonly reasons = new Set<string>();
  readonly #touched: Touched[] = [];
  readonly #waiting: Waiting[] = [];
  parentWord = "";
  childWord = "";
  #entryOutcome: Outcome | undefined;
  /** The product that the row is about, for rules that look at it when the file is through. */
  product: string | undefined;
  isParentRow = false;

  constructor(
    readonly context: RowContext,
    readonly cells: RowCells | undefined,
  ) {}

  refuse(reason: string): void {
    this.reasons.add(reason);
  }

  play(): void {
    if (!this.cells) return this.refuse("another number of cells than the header");
    const { shape, link } = firstOf(this.context.layouts).layout;
    if (link) this.#linked();
    else if (shape.is === "own-row") this.#ownRow();
    else this.#flat();
  }

  outcome(): Outcome {
    if (this.#entryOutcome) return this.#entryOutcome;
    if (this.#touched[0]?.before === undefined && this.#touched.length > 0) return "created";
    return this.#touched.every(({ record, before }) => before && sameRecord(record, before)) ? "unchanged" : "updated";
  }

  /** Takes back what a refused row has changed. */
  settle(): void {
    if (this.reasons.size === 0) return;
    for (const { record, before } of [...this.#touched].reverse()) {
      if (!before) this.context.registers.remove(record);
      else {
        record.fields = before.fields;
        record.entries = before.entries;
      }
    }
  }

  #cell(header: Header): string {
    return present(this.cells).get(header) ?? "";
  }

  #columns(at = 0): RecordColumn[] {
    return [...this.context.layouts[at]!.columns.values()].flat();
  }

  /** Opens a record that is there, keeping how it was. */
  #open(record: RegisterRecord): RegisterRecord {
    this.#touched.push({ record, before: copyOf(record) });
    return record;
  }

  #flat(): void {
    const { registers, layouts } = this.context;
    const kind = firstOf(layouts).layout.shape.parent.name;
    const columns = this.#columns();
    const id = columns.find((column) => column.role === "id");
    const key = columns.find((column) => column.role === "key");
    const ownId = id ? this.#cell(id.header) : "";
    const word = key ? this.#cell(key.header) : "";
    this.parentWord = word || ownId;
    let record: RegisterRecord | undefined;
    if (ownId !== "") {
      record = registers.byId(ownId);
      if (record?.kind !== kind) return this.refuse(`no ${kind} has the id ${ownId}`);
    } else {
      if (word === "") return this.refuse("a new record without its word");
      const judged = key && judgeCell(key, word);
      if (judged && !judged.ok) return this.refuse(judged.reason);
      record = registers.find(kind, word);
      if (record && id) return this.refuse(`there is a ${kind} "${word}" already`);
    }
    const isNew = !record;
    const held = record ? this.#open(record) : registers.create(kind, word);
    if (isNew) this.#touched.push({ record: held, before: undefined });
    this.#fields(
      held,
      columns.filter(({ role }) => role === "field" || role === "container"),
      isNew,
    );
    this.#checkRecord(held, firstOf(this.#touched).before);
  }

  /** A product's row, perhaps with what is sold of it, or a variant's. */
  #ownRow(): void {
    const { registers, layouts } = this.context;
    const { shape } = firstOf(layouts).layout;
    if (shape.is !== "own-row" || !shape.marker || shape.joined.by !== "reference") return;
    const word = this.#cell(shape.marker.column);
    const number = this.#cell(shape.joined.column);
    this.parentWord = number;
    if (word !== shape.marker.parent && word !== shape.marker.child)
      return this.refuse(word === "" ? "the row does not say what it is" : `"${word}" is no kind of row`);
    if (number === "") return this.refuse("the row does not say its product");
    const columns = this.#columns();
    const key = fitting(columns, (column) => column.role === "key" && column.level === "parent");
    this.#judge(key, number);
    const code = fitting(columns, (column) => column.role === "key" && column.level === "child");
    this.childWord = this.#cell(code.header);
    const parents = columns.filter((column) => column.level === "parent" && column.role === "field");
    const children = columns.filter((column) => column.level === "child" && column.role === "field");
    const isFilled = (some: readonly RecordColumn[]) => some.some((column) => this.#cell(column.header) !== "");
    this.product = number;
    this.isParentRow = word === shape.marker.parent;
    if (this.isParentRow) {
      const known = registers.find(shape.parent.name, number);
      const held = known ? this.#open(known) : registers.create(shape.parent.name, number);
      if (!known) this.#touched.push({ record: held, before: undefined });
      this.#fields(held, parents, !known);
      for (const reason of productProblems(held, registers)) this.refuse(reason);
      if (this.childWord !== "") this.#version(code, children, number);
      else if (isFilled(children)) this.refuse("cells of a code, and no code");
      return;
    }
    if (isFilled(parents)) this.refuse("a product's cell is filled on a variant's row");
    if (!registers.find(shape.parent.name, number)) return this.refuse(`there is no product "${number}"`);
    if (this.childWord === "") return this.refuse("a variant without a code");
    this.#version(code, children, number);
  }

  #version(code: RecordColumn, columns: readonly RecordColumn[], product: string): void {
    const { registers, seenCodes, isWhole } = this.context;
    this.#judge(code, this.childWord);
    if (seenCodes.has(this.childWord)) this.refuse("the code comes twice in the file");
    seenCodes.add(this.childWord);
    const known = registers.find("variant", this.childWord);
    if (known && known.fields.get("product") !== product && !isWhole)
      return this.refuse("the code is another product's");
    const held = known ? this.#open(known) : registers.create("variant", this.childWord);
    if (!known) this.#touched.push({ record: held, before: undefined });
    held.fields.set("product", product);
    registers.note(held, "product");
    this.#fields(held, columns, !known);
  }

  /** An entry of a record, or more of its fields. */
  #linked(): void {
    const { registers, layouts, file } = this.context;
    const found = fitting(this.#columns(), (column) => column.role === "found");
    const word = this.#cell(found.header);
    this.parentWord = word;
    const record = registers.byId(word);
    const ofKind = layouts.filter(({ layout }) => layout.shape.parent.name === record?.kind);
    if (!record || ofKind.length === 0) return this.refuse(`no record has the id ${word}`);
    const languageColumn = file.layout.languages?.column ?? "";
    const language = this.#cell(languageColumn);
    const at = layouts.findIndex((one) => ofKind.includes(one) && one.language === language);
    if (at < 0) return this.refuse(`"${language}" is no language`);
    const columns = this.#columns(at);
    const lane = columns.filter((column) => column.role === "entry");
    if (lane.length > 0) {
      this.#entry(record, lane, file.entryKey);
      return;
    }
    const held = this.#open(record);
    const fields = columns.filter((column) => column.role === "field");
    const hadAny = fields.some((column) => held.fields.has(column.field));
    for (const column of columns)
      if (column.role === "shape" && column.header !== languageColumn && this.#cell(column.header) !== "")
        this.refuse(`${column.header}: not of a ${record.kind}`);
    this.#fields(held, fields, false);
    const { before } = firstOf(this.#touched);
    // What a record says in a language is new where it said nothing in it.
    this.#entryOutcome = !hadAny && !sameRecord(held, present(before)) ? "created" : undefined;
  }

  #entry(record: RegisterRecord, columns: readonly RecordColumn[], keyHeaders: readonly string[]): void {
    const held = this.#open(record);
    const collection = present(firstOf(columns).collection);
    const isKey = (column: RecordColumn) => keyHeaders.includes(column.header);
    const keys = columns.filter(isKey).map((column) => this.#entryCell(column, undefined));
    if (this.reasons.size > 0) return;
    const key = JSON.stringify(keys);
    const entries = held.entries.get(collection) ?? new Map<string, readonly CellValue[]>();
    held.entries.set(collection, entries);
    const old = entries.get(key);
    const values = columns.map((column, at) => {
      if (isKey(column)) return keys[columns.filter(isKey).indexOf(column)]!;
      return this.#entryCell(column, old?.[at]);
    });
    const problem = treeProblem(record, collection, columns, values, this.context.registers);
    if (problem !== undefined) this.refuse(problem);
    const valueOf = (header: string): CellValue | undefined => {
      const value = values[columns.findIndex((column) => column.header === header)];
      return value === "" ? undefined : value;
    };
    this.#refuseRow(record, columns, valueOf);
    if (this.reasons.size > 0) return;
    this.#entryOutcome = !old ? "created" : JSON.stringify(old) === JSON.stringify(values) ? "unchanged" : "updated";
    entries.set(key, values);
  }

  #entryCell(column: RecordColumn, old: CellValue | undefined): CellValue {
    const text = present(this.cells).get(column.header);
    const { rule } = column;
    if (text === undefined || text === "") {
      if (rule?.required && (old === undefined || text === "")) this.refuse(`${column.header}: needed`);
      if (old !== undefined && (text === undefined || rule?.blank === "leave")) return old;
      return rule?.["starts as"] ?? "";
    }
    const value = this.#judge(column, text);
    return value === undefined ? "" : (this.#resolved(column, value) ?? "");
  }

  /** Sets the fields of a record from the cells of its columns. */
  #fields(held: RegisterRecord, columns: readonly RecordColumn[], isNew: boolean): void {
    for (const column of columns) {
      const text = present(this.cells).get(column.header);
      const { rule, field } = column;
      if (text === undefined || text === "") {
        if (isNew && rule?.required) this.refuse(`${column.header}: needed`);
        else if (text === "" && rule?.blank === "refuse") this.refuse(`${column.header}: blank`);
        const stays = text === undefined || rule?.blank === "leave" || rule?.blank === "generate";
        if (!isNew && stays) continue;
        if (rule?.blank === "generate") {
          held.fields.set(field, addressOf(this.#cell(rule["generated from"]!), rule["characters at most"]));
          continue;
        }
        const start = rule?.["starts as"];
        if (start === undefined) held.fields.delete(field);
        else held.fields.set(field, start);
        continue;
      }
      const value = this.#judge(column, text);
      if (value === undefined) {
        held.fields.delete(field);
        continue;
      }
      if (this.#isLate(column)) {
        this.#waiting.push({ record: held, column, value });
        continue;
      }
      const resolved = this.#resolved(column, value);
      if (resolved === undefined) continue;
      const old = held.fields.get(field);
      if (rule?.fixed && !isNew && old !== undefined && JSON.stringify(old) !== JSON.stringify(resolved))
        this.refuse(`${column.header}: never changes`);
      held.fields.set(field, resolved);
      this.context.registers.note(held, field);
    }
    this.#compared(held, columns);
  }

  /** Rules that look at several cells of the row, or at the product. */
  #compared(held: RegisterRecord, columns: readonly RecordColumn[]): void {
    const byHeader = new Map(columns.map((column) => [column.header, column]));
    const stored = (header: string) => held.fields.get(byHeader.get(header)?.field ?? "");
    this.#refuseRow(held, columns, stored);
  }

  #refuseRow(
    held: RegisterRecord,
    columns: readonly RecordColumn[],
    stored: (header: string) => CellValue | undefined,
  ): void {
    const ofVariant = held.fields.get("product");
    const product =
      held.kind === "variant" && typeof ofVariant === "string"
        ? this.context.registers.find("product", ofVariant)
        : held;
    const row = {
      stored,
      isFilled: (header: string) => this.#cell(header) !== "",
      ofProduct: (field: string) => product?.fields.get(field),
      cell: (header: string) => {
        const column = this.#columnOf(header);
        return column && cellValue(column.codec, this.#cell(header));
      },
    };
    for (const reason of reasonsAgainstRow(columns, row)) this.refuse(reason);
  }

  #columnOf(header: string): RecordColumn | undefined {
    return firstOf(this.context.layouts).columns.get(header)?.[0];
  }

  #judge(column: RecordColumn, text: string): CellValue | undefined {
    const judged = judgeCell(column, text);
    if (!judged.ok) {
      this.refuse(judged.reason);
      return undefined;
    }
    const { value } = judged;
    if (column.rule?.picture && this.context.importer["missing pictures"] === "refuse")
      for (const name of typeof value === "string" ? [value] : (value as readonly string[]))
        if (!this.context.registers.pictures.has(name)) this.refuse(`${column.header}: a picture is not there`);
    return value;
  }

  #isLate({ refers, parts, rule }: RecordColumn): boolean {
    const isNamed = (one: Refers | undefined) => one !== undefined && one.forms[0] !== "id" && one.forms[0] !== "name";
    const names = isNamed(refers) || (parts?.some(isNamed) ?? false);
    return names && rule?.["in list"] === undefined && this.context.importer.links === "at the end of the file";
  }

  lookUp(): void {
    if (!this.cells) return;
    for (const { record, column, value } of this.#waiting.splice(0)) {
      const resolved = this.#resolved(column, value, record);
      if (resolved !== undefined) record.fields.set(column.field, resolved);
    }
  }

  /** A value with the keys of what it refers to; undefined, and refused, where that is not there. */
  #resolved(column: RecordColumn, value: CellValue, own?: RegisterRecord): CellValue | undefined {
    const { refers, parts, header, rule } = column;
    const list = rule?.["in list"];
    if (list !== undefined)
      return this.#listed(column, value, typeof list === "string" ? { name: list, "joined by": "" } : list);
    const one = (word: CellValue, to: Refers): CellValue => {
      if (to.forms[0] === "name" || typeof word !== "string") return word;
      const found = this.#find(word, to);
      if (found === undefined) this.refuse(`${header}: there is no ${to.to[0]} "${word}"`);
      else if (own && (found === own.key || found === own.fields.get("code"))) this.refuse(`${header}: itself`);
      return found ?? word;
    };
    if (parts)
      return (value as readonly (readonly CellValue[])[]).map((entry) =>
        entry.map((part, at) => (parts[at] && part !== "" ? one(part, parts[at]) : part)),
      );
    if (!refers) return value;
    return typeof value === "string" ? one(value, refers) : value.map((word) => one(word, refers));
  }

  #find(word: string, { to, forms }: Refers): string | undefined {
    const { registers } = this.context;
    for (const form of forms) {
      if (form === "id") {
        const record = registers.byId(word);
        if (record && to.includes(record.kind)) return record.key;
        continue;
      }
      // Where another form may come, a code is no more than a code: it leads to what it is a code of.
      const own =
        form === "code" && forms.length > 1 ? registers.find("variant", word)?.fields.get("product") : undefined;
      if (typeof own === "string" && to.includes("product")) return own;
      if (form === "code" && forms.length > 1) continue;
      const found = to.map((kind) => registers.find(kind, word)).find((record) => record !== undefined);
      if (found) return found.key;
    }
    return undefined;
  }

  /** Names have to be in the platform's list; so has the name of a column that stands for an entry of it. */
  #listed(
    { header, parts, collection, refers, field }: RecordColumn,
    value: CellValue,
    { name, "joined by": joint }: { readonly name: string; readonly "joined by": string },
  ): CellValue {
    const entries = this.context.registers.lists.get(name);
    const check = (word: string) => {
      if (!entries?.has(word)) this.refuse(`${header}: "${word}" is not in the list ${name}`);
    };
    if (parts) {
      for (const entry of value as readonly (readonly string[])[])
        entry.forEach((part, at) => (parts[at] && part !== "" ? check(part) : undefined));
    } else if (collection !== undefined && !refers) check(/\(([^,)]*)/.exec(field)?.[1] ?? "");
    else if (typeof value === "string") check(value);
    else for (const one of value) check(typeof one === "string" ? one : (one as readonly string[]).join(joint));
    return value;
  }

  /** What has to hold of a record by itself, and among those that are there. */
  #checkRecord(held: RegisterRecord, before: RegisterRecord | undefined): void {
    const { registers } = this.context;
    const problem = treeProblem(held, undefined, [], [], registers);
    if (problem !== undefined) this.refuse(problem);
    if (held.kind === "product") for (const reason of productProblems(held, registers, before)) this.refuse(reason);
    if (held.kind === "variant") for (const reason of variantProblems(held, registers)) this.refuse(reason);
  }
}
