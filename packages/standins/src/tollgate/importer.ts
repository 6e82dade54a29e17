/** Tollgate's importer: a file as a whole, or nothing of it (description, sections 2 to 5). */

import type { PriceStep } from "./cells.js";
import { once } from "./cells.js";
import { Refusal } from "../common/refusal.js";
import { storePlaces, table, type RangeColumn } from "./columns.js";
import { readSheet, type RangeRow } from "./sheet.js";
import type { ThreadedReader } from "./threaded-reader.js";
import type { TillData, TollgateStore } from "./store.js";

type Outcome = "created" | "updated" | "unchanged" | "refused";
export interface TollgateReport {
  readonly file: string;
  readonly refused: string | null;
  readonly rows: readonly { readonly line: number; readonly outcome: Outcome; readonly reasons: readonly string[] }[];
  /** Of a file that is the whole range: numbers and codes that it does not name. */
  readonly takenOut?: readonly string[];
}

export interface ImportOptions {
  /** Whether it counts, or is a test. */
  readonly keep: boolean;
  /** Whether the file is the whole range. */
  readonly isWhole: boolean;
}

export async function importWorkbook(
  store: TollgateStore,
  reader: ThreadedReader,
  file: string,
  bytes: Uint8Array,
  { keep, isWhole }: ImportOptions,
): Promise<TollgateReport> {
  let rows: RangeRow[];
  try {
    rows = await readSheet(bytes, reader);
  } catch (error) {
    if (error instanceof Refusal) return { file, refused: error.reason, rows: [] };
    throw error;
  }
  return store.attempt(() => {
    const work = new Import(store, rows, isWhole);
    const report = work.run();
    const isRefused = report.some((row) => row.reasons.length > 0);
    const told = isRefused ? report.map((row) => ({ ...row, outcome: "refused" as const })) : report;
    const result = { file, refused: isRefused ? "rows" : null, rows: told };
    return {
      keep: keep && !isRefused,
      result: isWhole ? { ...result, takenOut: isRefused ? [] : work.takenOut } : result,
    };
  });
}

const levelColumns = (level: "A" | "V") => table.filter((column) => column.level === level);
const articleColumns = levelColumns("A");
const versionColumns = levelColumns("V");

class Import {
  readonly #reasons = new Map<RangeRow, Set<string>>();
  readonly #outcomes = new Map<RangeRow, Outcome>();
  readonly #codesSeen = new Set<string>();
  /** Articles of the file with the row that speaks of them first. */
  readonly #touched = new Map<string, RangeRow>();

  constructor(
    readonly store: TollgateStore,
    readonly rows: readonly RangeRow[],
    readonly isWhole: boolean,
  ) {}

  takenOut: readonly string[] = [];

  run(): TollgateReport["rows"] {
    for (const row of this.rows) this.#row(row);
    if (this.isWhole) this.takenOut = this.store.takeOut(new Set(this.#touched.keys()), this.#codesSeen);
    for (const row of this.rows) this.#lookUp(row);
    for (const [number, row] of this.#touched) this.#together(number, row);
    return this.rows.map((row) => ({
      line: row.line,
      outcome: this.#outcomes.get(row) ?? "unchanged",
      reasons: [...(this.#reasons.get(row) ?? [])].sort(),
    }));
  }

  #refuse(row: RangeRow, reason: string): void {
    this.#reasons.set(row, (this.#reasons.get(row) ?? new Set()).add(reason));
  }

  #try<T>(row: RangeRow, work: () => T): T | undefined {
    try {
      return work();
    } catch (error) {
      if (!(error instanceof Refusal)) throw error;
      this.#refuse(row, error.reason);
      return undefined;
    }
  }

  #row(row: RangeRow): void {
    const line = row.cell("Line");
    if (line !== "A" && line !== "V") return this.#refuse(row, line === "" ? "needed" : "cell");
    const number = row.cell("Number");
    if (number === "") return this.#refuse(row, "needed");
    this.#try(row, () => table[1]!.read(number));
    if (line === "V") {
      if (articleColumns.some((column) => row.cell(column.name) !== "")) this.#refuse(row, "wrong-line");
      if (!this.store.article(number)) return this.#refuse(row, "no-article");
      if (!this.#touched.has(number)) this.#touched.set(number, row);
      if (row.cell("Code") === "") return this.#refuse(row, "needed");
      this.#outcomes.set(row, this.#version(row, number));
      return;
    }
    if (!this.#touched.has(number)) this.#touched.set(number, row);
    const article = this.#article(row, number);
    if (row.cell("Code") === "") {
      if (versionColumns.some((column) => row.cell(column.name) !== "")) this.#refuse(row, "wrong-line");
      this.#outcomes.set(row, article);
      return;
    }
    const version = this.#version(row, number);
    const either = [article, version];
    const outcome = either.every((one) => one === "unchanged") ? "unchanged" : "updated";
    this.#outcomes.set(row, article === "created" ? "created" : outcome);
  }

  #cells(row: RangeRow, columns: readonly RangeColumn[]): TillData {
    const data: TillData = {};
    for (const column of columns) {
      const text = row.cell(column.name);
      if (text === "" && column.needed) this.#refuse(row, "needed");
      data[column.name] = text === "" ? (column.preset ?? null) : (this.#try(row, () => column.read(text)) ?? null);
    }
    return data;
  }

  #article(row: RangeRow, number: string): Outcome {
    const old = this.store.article(number);
    const data = this.#cells(row, articleColumns);
    const features = [1, 2, 3].map((n) => data[`Feature ${n}`] as string | null);
    const count = features.findLastIndex((one) => one !== null) + 1;
    if (features.slice(0, count).includes(null)) this.#refuse(row, "gap");
    this.#try(row, () => once(features.filter((one) => one !== null)));
    for (const path of data["Section"] as string[][]) this.#listed(row, "sections", path.join(">"));
    if (typeof data["Maker"] === "string") this.#listed(row, "makers", data["Maker"]);
    const pictures = data["Pictures"] as string[] | null;
    for (const name of pictures ?? []) if (!this.store.hasPicture(name)) this.#refuse(row, "no-picture");
    const texts = data["Picture texts"] as string[] | null;
    if (texts && texts.length !== pictures?.length) this.#refuse(row, "not-parallel");
    for (const column of ["Section", "Options", "Pictures", "Goes with", "Spares"]) data[column] ??= [];
    // Links are set when the file is through.
    const before = old ?? {};
    data["Goes with"] = before["Goes with"] ?? [];
    data["Spares"] = before["Spares"] ?? [];
    this.store.saveArticle(number, data);
    return old ? (same(old, data) ? "unchanged" : "updated") : "created";
  }

  #listed(row: RangeRow, list: string, entry: string): void {
    if (!this.store.isListed(list, entry)) this.#refuse(row, "not-listed");
  }

  #version(row: RangeRow, number: string): Outcome {
    const code = row.cell("Code");
    this.#try(row, () => table[2]!.read(code));
    if (this.#codesSeen.has(code)) this.#refuse(row, "twice");
    this.#codesSeen.add(code);
    const old = this.store.version(code);
    if (old && old.number !== number && !this.isWhole) {
      this.#refuse(row, "taken");
      return "refused";
    }
    const data = this.#cells(row, versionColumns);
    const { Price: price, Was: was, Least: least, Most: most, Day: day, Week: week } = data as Record<string, string>;
    if (was && price && Number(was) <= Number(price)) this.#refuse(row, "was");
    if (least && most && Number(most) < Number(least)) this.#refuse(row, "least");
    const isRented = this.store.article(number)?.["Sort"] === "R";
    if ((day || week) && !isRented) this.#refuse(row, "not-rented");
    if (isRented && !day && !week) this.#refuse(row, "no-hire");
    for (const { group } of (data["Steps"] as PriceStep[] | null) ?? [])
      if (group !== null) this.#listed(row, "groups", group);
    data["Tax"] ??= row.cell("Tax") === "" ? this.store.accountTax : null;
    if (row.cell("Tax") !== "" && typeof data["Tax"] === "string") this.#listed(row, "taxes", data["Tax"]);
    if (typeof data["Unit"] === "string") this.#listed(row, "units", data["Unit"]);
    for (const { supplier } of (data["Supplied by"] as { supplier: string }[] | null) ?? [])
      this.#listed(row, "suppliers", supplier);
    for (const place of storePlaces) {
      const column = `Stock ${place}`;
      if (row.cell(column) !== "") this.#listed(row, "places", place);
      else data[column] = old?.data[column] ?? "0";
    }
    for (const column of ["Steps", "Supplied by", "Parts"]) data[column] ??= [];
    data["Parts"] = old?.data["Parts"] ?? [];
    this.store.saveVersion({ code, number, data });
    return old ? (old.number === number && same(old.data, data) ? "unchanged" : "updated") : "created";
  }

  /** Links and parts, once everything of the file is there. */
  #lookUp(row: RangeRow): void {
    const number = row.cell("Number");
    const code = row.cell("Code");
    let isChanged = false;
    const article = row.cell("Line") === "A" ? this.store.article(number) : undefined;
    if (article) {
      const links = ["Goes with", "Spares"].map((column) => {
        const text = row.cell(column);
        const wanted =
          text === "" ? [] : (this.#try(row, () => table.find(({ name }) => name === column)!.read(text)) ?? []);
        for (const other of wanted as string[]) {
          const found = this.store.version(other)?.number ?? other;
          if (found === number) this.#refuse(row, "itself");
          else if (!this.store.article(found)) this.#refuse(row, "unknown");
        }
        return [column, (wanted as string[]).map((other) => this.store.version(other)?.number ?? other)] as const;
      });
      const data = { ...article, ...Object.fromEntries(links) };
      isChanged = !same(article, data);
      this.store.saveArticle(number, data);
    }
    const version = code === "" ? undefined : this.store.version(code);
    if (version?.number === number && this.#codesSeen.has(code)) {
      const text = row.cell("Parts");
      const wanted = (
        text === "" ? [] : (this.#try(row, () => table.find(({ name }) => name === "Parts")!.read(text)) ?? [])
      ) as {
        count: string;
        code: string;
      }[];
      for (const part of wanted) {
        if (part.code === code) this.#refuse(row, "itself");
        else if (!this.store.version(part.code)) this.#refuse(row, "unknown");
      }
      const data = { ...version.data, Parts: wanted };
      isChanged ||= !same(version.data, data);
      this.store.saveVersion({ ...version, data });
    }
    if (isChanged && this.#outcomes.get(row) === "unchanged") this.#outcomes.set(row, "updated");
  }

  /** What has to hold of an article once the file is through. */
  #together(number: string, row: RangeRow): void {
    const article = this.store.article(number);
    if (!article) return;
    const features = [1, 2, 3].map((n) => article[`Feature ${n}`]).filter((one) => one !== null);
    const versions = this.store.versionsOf(number);
    const ownCode = this.rows.some(
      (one) => one.cell("Line") === "A" && one.cell("Number") === number && one.cell("Code") !== "",
    );
    if (versions.length === 0) this.#refuse(row, "no-version");
    if (ownCode && versions.length > 1) this.#refuse(row, "code-and-versions");
    const combinations = versions.map(({ data }) => [1, 2, 3].map((n) => data[`Is ${n}`] as string | null));
    for (const values of combinations)
      if (values.some((value, at) => (value === null) !== at >= features.length)) this.#refuse(row, "features");
    if (new Set(combinations.map((one) => JSON.stringify(one))).size < combinations.length) this.#refuse(row, "twice");
  }
}

function same(a: TillData, b: TillData): boolean {
  const names = new Set([...Object.keys(a), ...Object.keys(b)]);
  return [...names].every((name) => JSON.stringify(a[name] ?? null) === JSON.stringify(b[name] ?? null));
}
