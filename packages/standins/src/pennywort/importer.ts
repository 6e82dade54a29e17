/**
 * Pennywort's importer: works through a file group by group and states for every row what became of it
 * (description, sections 3 to 7). Each group is one transaction.
 */

import {
  barcode,
  codeText,
  flag,
  itemKey,
  list,
  money,
  paths,
  plainText,
  thousandths,
  namesInList,
  wholeNumber,
} from "./cells.js";
import { Breather } from "../common/breather.js";
import { Refusal } from "../common/refusal.js";
import { readFile, type Group, type ImportFile, type ItemRow } from "./file.js";
import type { CodeRow, PennywortStore, StoredItem, Tier, TranslatedName } from "./store.js";

export interface PennywortReportRow {
  readonly line: number;
  readonly item: string;
  readonly code: string;
  outcome: "created" | "updated" | "unchanged" | "refused";
  readonly reasons: readonly string[];
  readonly notes: Set<string>;
}
export interface PennywortReport {
  readonly file: string;
  readonly refused: string | null;
  readonly rows: readonly (Omit<PennywortReportRow, "notes"> & { readonly notes: readonly string[] })[];
}

const linkColumns = ["Goes with", "Spares"] as const;
type Links = Partial<Record<(typeof linkColumns)[number], string[]>>;
interface Awaiting {
  readonly item: string;
  readonly links: Links;
  readonly first: PennywortReportRow;
}

export async function importFile(store: PennywortStore, name: string, bytes: Uint8Array): Promise<PennywortReport> {
  let file: ImportFile;
  try {
    file = await readFile(bytes, store.languages);
  } catch (error) {
    if (error instanceof Refusal) return { file: name, refused: error.reason, rows: [] };
    throw error;
  }
  const rows: PennywortReportRow[] = [];
  const awaiting: Awaiting[] = [];
  const breather = new Breather();
  for (const group of file.groups) {
    for (const row of importGroup(store, file, group, awaiting)) rows.push(row);
    await breather.breathe();
  }
  for (const waiting of awaiting) resolveLinks(store, waiting);
  return { file: name, refused: null, rows: rows.map((row) => ({ ...row, notes: [...row.notes].sort() })) };
}

function importGroup(
  store: PennywortStore,
  file: ImportFile,
  group: Group,
  awaiting: Awaiting[],
): PennywortReportRow[] {
  try {
    return store.transaction(() => new GroupImport(store, file, group).run(awaiting));
  } catch (error) {
    if (!(error instanceof Reasons)) throw error;
    const reasons = [...error.reasons].sort();
    return group.rows.map(({ line, item, code }) => ({
      line,
      item,
      code,
      outcome: "refused",
      reasons,
      notes: new Set(),
    }));
  }
}

function resolveLinks(store: PennywortStore, { item, links, first }: Awaiting): void {
  if (!store.item(item)) return;
  for (const column of linkColumns) {
    const wanted = links[column];
    if (!wanted) continue;
    const found = wanted.filter((other) => other !== item && store.item(other) !== undefined);
    if (found.length < wanted.length) first.notes.add("link-unknown");
    const before = store.linksOf(item, column);
    if (before.join("\n") === found.join("\n")) continue;
    store.saveLinks(item, column, found);
    if (first.outcome === "unchanged") first.outcome = "updated";
  }
}

class Reasons extends Error {
  constructor(readonly reasons: ReadonlySet<string>) {
    super("refused");
  }
}

/** One group on its way in. Collects every reason there is, then throws them together. */
class GroupImport {
  readonly #reasons: Set<string>;
  readonly #notes = new Map<ItemRow, Set<string>>();

  constructor(
    readonly store: PennywortStore,
    readonly file: ImportFile,
    readonly group: Group,
  ) {
    this.#reasons = new Set(group.reasons);
  }

  run(awaiting: Awaiting[]): PennywortReportRow[] {
    const first = this.group.rows[0]!;
    this.#try(() => itemKey(this.group.item));
    const before = this.store.item(this.group.item);
    const placesBefore = this.store.placesOf(this.group.item).join();
    if (!before && first.code === "") this.#reasons.add("new-item-without-code");
    const item = this.#item(first, before);
    const links = this.#links(first);
    this.#stopIfRefused();

    this.store.saveItem(item);
    const nodes = this.#places(first);
    if (nodes) this.store.savePlaces(item.word, nodes);
    const itemChanged =
      JSON.stringify(item) !== JSON.stringify(before) || this.store.placesOf(item.word).join() !== placesBefore;

    const report: PennywortReportRow[] = [];
    for (let at = 0; at < this.group.rows.length; at++) {
      const row = this.group.rows[at]!;
      const continued = [row];
      while (this.group.rows[at + 1]?.continuation) continued.push(this.group.rows[++at]!);
      const codeOutcome = row.code === "" ? "unchanged" : this.#code(continued, item);
      let outcome = codeOutcome;
      if (row === first)
        outcome = !before ? "created" : itemChanged || codeOutcome !== "unchanged" ? "updated" : "unchanged";
      for (const { line, item: word, code } of continued)
        report.push({ line, item: word, code, outcome, reasons: [], notes: new Set() });
    }
    this.#codesTogether(item);
    this.#stopIfRefused();
    report.forEach((row, at) => this.#notes.get(this.group.rows[at]!)?.forEach((note) => row.notes.add(note)));
    awaiting.push({ item: item.word, links, first: report[0]! });
    return report;
  }

  #stopIfRefused(): void {
    if (this.#reasons.size > 0) throw new Reasons(this.#reasons);
  }

  /** The value that `read` gives, or undefined with the reason kept. */
  #try<T>(read: () => T): T | undefined {
    try {
      return read();
    } catch (error) {
      if (!(error instanceof Refusal)) throw error;
      this.#reasons.add(error.reason);
      return undefined;
    }
  }

  #note(row: ItemRow, note: string): void {
    const notes = this.#notes.get(row) ?? new Set();
    this.#notes.set(row, notes.add(note));
  }

  /** What the column stores: the old value if it is not in the file, null if blank, else what `read` makes of it. */
  #stored<T>(row: ItemRow, column: string, old: T | null, read: (text: string) => T): T | null {
    const text = row.cell(column);
    if (text === undefined) return old;
    return text === "" ? null : (this.#try(() => read(text)) ?? null);
  }

  #item(row: ItemRow, before: StoredItem | undefined): StoredItem {
    const { main, other } = this.file;
    const text = (column: string, old: string | null) =>
      this.#stored(row, column, old, (cell) => {
        const all = [...cell];
        if (all.length > 2000) this.#note(row, "text-cut");
        return all.slice(0, 2000).join("");
      });
    const title = this.#stored(row, main("Title"), before?.title ?? null, (cell) => plainText(cell, 80));
    if (title === null && !row.cell(main("Title"))) this.#reasons.add("title-missing");
    const shown = row.cell("Shown") ?? "";
    return {
      word: this.group.item,
      title: title ?? "",
      otherTitle: this.#stored(row, other("Title"), before?.otherTitle ?? null, (cell) => plainText(cell, 80)),
      text: text(main("Text"), before?.text ?? null),
      otherText: text(other("Text"), before?.otherText ?? null),
      brand: this.#stored(row, "Brand", before?.brand ?? null, (cell) => plainText(cell, 40)),
      shown: shown === "" ? (before?.shown ?? 0) : Number(this.#try(() => flag(shown)) ?? false),
      traits: this.#traits(row, before),
      pictures: this.#pictures(row, before?.pictures ?? []),
    };
  }

  #pictures(row: ItemRow, old: string[]): string[] {
    const text = row.cell("Pictures");
    if (text === undefined) return old;
    return (this.#try(() => list(text)) ?? []).filter((name) => this.#hasPicture(row, name));
  }

  #codePicture(row: ItemRow, old: string | null): string | null {
    const name = row.cell("Code picture");
    if (name === undefined) return old;
    return name !== "" && this.#hasPicture(row, name) ? name : null;
  }

  #hasPicture(row: ItemRow, name: string): boolean {
    if (this.store.hasPicture(name)) return true;
    this.#note(row, "picture-missing");
    return false;
  }

  #traits(row: ItemRow, before: StoredItem | undefined): TranslatedName[] {
    const { inMain, inOther } = this.#wordsIn(row, "Differs by", 160);
    const old = before?.traits ?? [];
    const known = old.map((trait) => trait.main);
    const names = inMain ?? known;
    if (names.length > 4) this.#reasons.add("too-many-traits");
    if (new Set(names).size < names.length) this.#reasons.add("trait-repeated");
    if (before && JSON.stringify(names) !== JSON.stringify(known)) this.#reasons.add("traits-differ");
    if (inOther?.slice(names.length).some((word) => word !== null)) this.#reasons.add("german-traits-differ");
    return names.map((name, at) => ({
      main: name,
      other: (inOther ? inOther[at] : old[at]?.other) ?? null,
    }));
  }

  /** The words of a list in the shop's two languages; undefined for a column that the file does not have. */
  #wordsIn(row: ItemRow, column: string, most: number) {
    const read = (header: string, blanks: boolean): (string | null)[] | undefined => {
      const text = row.cell(header);
      return text === undefined ? undefined : (this.#try(() => namesInList(text, most, { blanks })) ?? []);
    };
    const { main, other } = this.file;
    return { inMain: read(main(column), false), inOther: read(other(column), true) };
  }

  #links(row: ItemRow): Links {
    const links: Links = {};
    for (const column of linkColumns) {
      const text = row.cell(column);
      if (text === undefined) continue;
      const others = this.#try(() => list(text)) ?? [];
      if (others.length > 20) this.#reasons.add("too-many-links");
      links[column] = others;
    }
    return links;
  }

  /** The nodes that the row names, made as needed; undefined when the file does not say. */
  #places(row: ItemRow): number[] | undefined {
    const { main, other } = this.file;
    const inMain = row.cell(main("Place"));
    const inOther = row.cell(other("Place")) ?? "";
    if (inMain === undefined || inMain === "") {
      if (inOther !== "") this.#reasons.add("german-places-differ");
      return inMain === undefined ? undefined : [];
    }
    const all = this.#try(() => paths(inMain)) ?? [];
    const names = inOther === "" ? undefined : this.#try(() => paths(inOther));
    if (names && (names.length !== all.length || names.some((path, at) => path.length !== all[at]!.length))) {
      this.#reasons.add("german-places-differ");
      return undefined;
    }
    return [...new Set(all.map((path, at) => this.store.node(path, names?.[at])))];
  }

  /** Applies a row that has a code, with its continuation rows. */
  #code(rows: readonly ItemRow[], item: StoredItem): "created" | "updated" | "unchanged" {
    const row = rows[0]!;
    this.#try(() => codeText(row.code));
    const held = this.store.code(row.code);
    const moved = held !== undefined && held.item !== item.word;
    const fresh = held === undefined || moved;
    const price = row.cell("Price");
    if (price === "" || (price === undefined && !held)) this.#reasons.add("price-missing");
    const stock = row.cell("Stock") ?? "";
    const code: CodeRow = {
      code: row.code,
      item: item.word,
      seq: fresh ? this.store.nextSeq(item.word) : held.seq,
      cents: this.#stored(row, "Price", held?.cents ?? null, money) ?? 0,
      wasCents: this.#stored(row, "Was", held?.wasCents ?? null, money),
      stock: stock === "" ? (held?.stock ?? 0) : (this.#try(() => wholeNumber(stock, 0)) ?? 0),
      weight: this.#stored(row, "Weight kg", held?.weight ?? null, thousandths),
      barcode: this.#stored(row, "Barcode", held?.barcode ?? null, barcode),
      picture: this.#codePicture(row, held?.picture ?? null),
      values: this.#values(row, item, fresh ? undefined : held),
      tiers: this.file.columns.has("Tier price") ? this.#tiers(rows) : (held?.tiers ?? []),
    };
    if (code.wasCents !== null && code.wasCents <= code.cents) this.#reasons.add("was-not-above");
    this.store.saveCode(code);
    if (moved) {
      this.#note(row, "code-taken");
      if (this.store.codesOf(held.item).length === 0) this.store.deleteItem(held.item);
    }
    if (!held) return "created";
    return moved || JSON.stringify(this.store.code(row.code)) !== JSON.stringify(held) ? "updated" : "unchanged";
  }

  #values(row: ItemRow, item: StoredItem, old: CodeRow | undefined): TranslatedName[] {
    const { inMain, inOther } = this.#wordsIn(row, "This one", 240);
    const count = item.traits.length;
    if (inMain ? inMain.length < count : !old && count > 0) this.#reasons.add("value-missing");
    if ([...(inMain ?? []).slice(count), ...(inOther ?? []).slice(count)].some((word) => word !== null))
      this.#reasons.add("value-without-trait");
    return item.traits.map((_, at) => ({
      main: (inMain ? inMain[at] : old?.values[at]?.main) ?? null,
      other: (inOther ? inOther[at] : old?.values[at]?.other) ?? null,
    }));
  }

  #tiers(rows: readonly ItemRow[]): Tier[] {
    const tiers: Tier[] = [];
    for (const row of rows) {
      const from = row.cell("From") ?? "";
      const price = row.cell("Tier price") ?? "";
      const club = row.cell("Club") ?? "";
      if (from === "" && price === "" && club === "") continue;
      if (from === "" || price === "") {
        this.#reasons.add("tier-half");
        continue;
      }
      const tier = this.#try(() => ({
        from: wholeNumber(from, 2),
        club: club === "" ? null : plainText(club, 40),
        cents: money(price),
      }));
      if (!tier) continue;
      if (tiers.some((other) => other.from === tier.from && other.club === tier.club))
        this.#reasons.add("tier-repeated");
      tiers.push(tier);
    }
    const order = (tier: Tier) => tier.club ?? "";
    return tiers.sort((a, b) => a.from - b.from || (order(a) < order(b) ? -1 : Number(order(a) > order(b))));
  }

  /** What has to hold of the item's codes once all rows are in. */
  #codesTogether(item: StoredItem): void {
    const codes = this.store.codesOf(item.word);
    if (item.traits.length === 0) {
      if (codes.length > 1) this.#reasons.add("one-code-only");
      return;
    }
    const combinations = codes.map((code) => JSON.stringify(code.values.map((value) => value.main)));
    if (new Set(combinations).size < combinations.length) this.#reasons.add("values-repeated");
  }
}
