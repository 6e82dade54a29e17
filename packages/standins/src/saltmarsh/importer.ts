/** Saltmarsh's importer: row by row, each by itself (description, sections 2 to 5 and 7). */

import {
  lists,
  owners,
  readStoryLanguage,
  readTag,
  registers,
  story,
  toldInReport,
  textColumns,
  type TableColumn,
} from "./files.js";
import { Breather } from "../common/breather.js";
import { Refusal } from "../common/refusal.js";
import { readSheet, type TableRow } from "./sheet.js";
import type { RegisterData, StoredRecord, SaltmarshStore } from "./store.js";

export interface SaltmarshReportRow {
  readonly line: number;
  readonly outcome: "created" | "updated" | "unchanged" | "refused";
  readonly reasons: readonly string[];
  readonly id: string | null;
}
export interface SaltmarshReport {
  readonly file: string;
  readonly refused: string | null;
  readonly rows: readonly SaltmarshReportRow[];
}

type Taken = { readonly outcome: SaltmarshReportRow["outcome"]; readonly id: string | null };

export function importRegister(store: SaltmarshStore, file: string, bytes: Uint8Array): Promise<SaltmarshReport> {
  const columns = registers[file]!;
  const names = ["Id", "Tag", ...columns.map((column) => column.name)];
  return importRows(file, bytes, names, ["Id", "Tag"], (cells) => takeRecord(store, file, columns, cells));
}

export function importList(store: SaltmarshStore, file: string, bytes: Uint8Array): Promise<SaltmarshReport> {
  const columns = lists[file]!;
  const names = ["Of", ...columns.map((column) => column.name)];
  return importRows(file, bytes, names, ["Of"], (cells) => takeEntry(store, file, columns, cells));
}

export function importTexts(store: SaltmarshStore, lang: string, bytes: Uint8Array): Promise<SaltmarshReport> {
  const names = ["Id", ...textColumns.map((column) => column.name)];
  return importRows("words", bytes, names, ["Id"], (cells) => takeTexts(store, lang, textColumns, cells));
}

/** One file for all languages: each row says which it is in. */
export function importStories(store: SaltmarshStore, bytes: Uint8Array): Promise<SaltmarshReport> {
  return importRows("stories", bytes, ["Id", "Lang", "Text"], ["Id", "Lang"], (cells) => {
    if (store.find(cells.get("Id")!)?.register !== "branches") throw new Refusal("unknown-id");
    return takeTexts(store, `story ${readStoryLanguage(cells.get("Lang")!)}`, story, cells);
  });
}

async function importRows(
  file: string,
  bytes: Uint8Array,
  known: readonly string[],
  needed: readonly string[],
  take: (cells: ReadonlyMap<string, string>) => Taken,
): Promise<SaltmarshReport> {
  let rows: TableRow[];
  try {
    rows = await readSheet(bytes, known, needed);
  } catch (error) {
    if (error instanceof Refusal) return { file, refused: error.reason, rows: [] };
    throw error;
  }
  const outcomeOf = ({ line, cells }: TableRow): SaltmarshReportRow => {
    try {
      if (!cells) throw new Refusal("cells");
      const { outcome, id } = take(cells);
      return { line, outcome, reasons: [], id: toldInReport.has(file) ? id : null };
    } catch (error) {
      if (error instanceof Refusal) return { line, outcome: "refused", reasons: [error.reason], id: null };
      throw error;
    }
  };
  const report: SaltmarshReportRow[] = [];
  const breather = new Breather();
  for (const row of rows) {
    report.push(outcomeOf(row));
    await breather.breathe();
  }
  return { file, refused: null, rows: report };
}

/** The cells of a row onto what is stored. */
function applyCells(
  store: SaltmarshStore,
  columns: readonly TableColumn[],
  cells: ReadonlyMap<string, string>,
  old: RegisterData | undefined,
) {
  const data: RegisterData = { ...old };
  for (const column of columns) {
    const text = cells.get(column.name);
    const before = old?.[column.name];
    if (text === undefined || text === "") {
      if (!old && column.needed) throw new Refusal("needed");
      const clears = text === "" && column.blank !== "leaves";
      if (!old && column.made) {
        data[column.name] = column.made(cells.get("Title")!);
        continue;
      }
      if (!old || clears) data[column.name] = column.list ? [] : (column.preset ?? null);
      continue;
    }
    const value = readCell(store, column, text);
    if (column.fixed && old && JSON.stringify(value) !== JSON.stringify(before)) throw new Refusal("fixed");
    data[column.name] = value;
  }
  return data;
}

function readCell(store: SaltmarshStore, column: TableColumn, text: string): string | string[] {
  const read = (one: string): string => {
    const value = column.read(one);
    if (column.refersTo && !column.refersTo.includes(store.find(value)?.register ?? ""))
      throw new Refusal("unknown-id");
    return value;
  };
  if (!column.list) return read(text);
  const all = text.split(" ").map(read);
  if (new Set(all).size < all.length) throw new Refusal("twice");
  return all;
}

function takeRecord(
  store: SaltmarshStore,
  register: string,
  columns: readonly TableColumn[],
  cells: ReadonlyMap<string, string>,
): Taken {
  const id = cells.get("Id")!;
  const held = id === "" ? undefined : store.find(id);
  if (id !== "" && held?.register !== register) throw new Refusal("unknown-id");
  const tag = cells.get("Tag")!;
  if (!held) {
    if (tag === "") throw new Refusal("needed");
    readTag(tag);
    if (store.byTag(register, tag)) throw new Refusal("taken");
  }
  const data = applyCells(store, columns, cells, held?.data);
  checkCode(store, data, held);
  if (register === "branches") checkCircle(store, held?.id, data["Under"] as string | null);
  if (register === "goods") checkGood(store, data, held);
  if (register === "forms") checkForm(store, data, held);
  if (!held) return { outcome: "created", id: store.create(register, tag, data) };
  if (same(held.data, data)) return { outcome: "unchanged", id };
  store.save(id, data);
  return { outcome: "updated", id };
}

/** Whatever the order of the fields. */
function same(a: RegisterData, b: RegisterData): boolean {
  const names = new Set([...Object.keys(a), ...Object.keys(b)]);
  return [...names].every((name) => JSON.stringify(a[name] ?? null) === JSON.stringify(b[name] ?? null));
}

function checkCode(store: SaltmarshStore, { Code: code }: RegisterData, held: StoredRecord | undefined): void {
  if (typeof code !== "string") return;
  const owner = store.idOfCode(code);
  if (owner !== undefined && owner !== held?.id) throw new Refusal("taken");
}

function checkCircle(store: SaltmarshStore, own: string | undefined, under: string | null): void {
  for (let at = under; at !== null; at = store.find(at)!.data["Under"] as string | null)
    if (at === own) throw new Refusal("circle");
}

function checkGood(store: SaltmarshStore, data: RegisterData, held: StoredRecord | undefined): void {
  if ((data["Scales"] as string[]).length > 3) throw new Refusal("too-many");
  if (!held) return;
  const forms = store.formsOf(held.id);
  if (forms.length === 0) return;
  if (typeof data["Code"] === "string") throw new Refusal("code-and-forms");
  if (JSON.stringify(data["Scales"]) !== JSON.stringify(held.data["Scales"])) throw new Refusal("fixed");
}

function checkForm(store: SaltmarshStore, data: RegisterData, held: StoredRecord | undefined): void {
  const good = store.find(data["Good"] as string)!;
  if (typeof good.data["Code"] === "string") throw new Refusal("code-and-forms");
  const scales = good.data["Scales"] as string[];
  const marks = data["Marks"] as string[];
  const onScales = marks.map((mark) => store.find(mark)!.data["Scale"] as string);
  if (marks.length !== scales.length || scales.some((scale) => !onScales.includes(scale))) throw new Refusal("marks");
  const key = (list: readonly string[]): string => [...list].sort().join(" ");
  for (const form of store.formsOf(good.id))
    if (form.id !== held?.id && key(form.data["Marks"] as string[]) === key(marks)) throw new Refusal("taken");
}

function takeEntry(
  store: SaltmarshStore,
  file: string,
  columns: readonly TableColumn[],
  cells: ReadonlyMap<string, string>,
): Taken {
  const owner = store.find(cells.get("Of")!);
  if (!owner || !(owners[file] ?? ["goods", "forms"]).includes(owner.register)) throw new Refusal("unknown-id");
  const keys = columns.filter((column) => column.key);
  for (const column of keys) if (column.needed && !cells.get(column.name)) throw new Refusal("needed");
  const keyData = applyCells(store, keys, cells, undefined);
  const key = JSON.stringify(keys.map((column) => keyData[column.name]));
  if (file === "sights" && !store.hasPicture(keyData["Picture"] as string)) throw new Refusal("no-picture");
  if (file === "ties" && keyData["Good"] === owner.id) throw new Refusal("circle");
  if (file === "parts") checkParts(store, owner.id, keyData["Part"] as string);
  const old = store.entry(owner.id, file, key);
  const others = columns.filter((column) => !column.key);
  for (const column of others) if (column.needed && cells.get(column.name) === "") throw new Refusal("needed");
  const data = { ...applyCells(store, others, cells, old?.data), ...keyData };
  if (old && same(old.data, data)) return { outcome: "unchanged", id: null };
  store.saveEntry({ owner: owner.id, file, key, data });
  return { outcome: old ? "updated" : "created", id: null };
}

/** No good may be a part of itself, however deep. */
function checkParts(store: SaltmarshStore, good: string, part: string): void {
  const open = [goodOf(store, part)];
  const seen = new Set<string>();
  while (open.length > 0) {
    const at = open.pop()!;
    if (at === good) throw new Refusal("circle");
    if (seen.has(at)) continue;
    seen.add(at);
    for (const { data } of store.entries(at, "parts")) open.push(goodOf(store, data["Part"] as string));
  }
}

function goodOf(store: SaltmarshStore, id: string): string {
  const held = store.find(id)!;
  return held.register === "forms" ? (held.data["Good"] as string) : id;
}

/** @param under the language; stories are kept beside the words of each. */
function takeTexts(
  store: SaltmarshStore,
  under: string,
  columns: readonly TableColumn[],
  cells: ReadonlyMap<string, string>,
): Taken {
  const held = store.find(cells.get("Id")!);
  if (!held) throw new Refusal("unknown-id");
  for (const { name, of } of columns)
    if (cells.get(name) && of?.includes(held.register) === false) throw new Refusal("cell");
  const old = store.texts(held.id, under);
  const none = Object.fromEntries(columns.map(({ name }) => [name, null]));
  const data = applyCells(store, columns, cells, old ?? none);
  if (old ? same(old, data) : Object.values(data).every((value) => value === null))
    return { outcome: "unchanged", id: null };
  store.saveTexts(held.id, under, data);
  return { outcome: old ? "updated" : "created", id: null };
}
