/**
 * What a Pennywort shop holds: a database in memory, and the public catalogue made from it (description, section 8).
 *
 * The importer changes it through the functions here; each change of a group happens inside `transaction`.
 */

import { Database, type Stored } from "../common/database.js";

/** A word in the shop's first language, and in its other one. */
export interface TranslatedName {
  readonly main: string | null;
  readonly other: string | null;
}
export interface Tier {
  readonly from: number;
  readonly club: string | null;
  readonly cents: number;
}
export interface StoredItem {
  word: string;
  title: string;
  otherTitle: string | null;
  text: string | null;
  otherText: string | null;
  brand: string | null;
  shown: number;
  traits: TranslatedName[];
  pictures: string[];
}
export interface CodeRow {
  code: string;
  item: string;
  seq: number;
  cents: number;
  wasCents: number | null;
  stock: number;
  weight: number | null;
  barcode: string | null;
  picture: string | null;
  values: TranslatedName[];
  tiers: Tier[];
}

/** What an account may have, the first one preset. */
export const shopLanguages = [["en", "de"], ["de", "en"], ["en"], ["de"]] as const;
export type ShopLanguages = (typeof shopLanguages)[number];

const tables = `
CREATE TABLE items (word TEXT PRIMARY KEY, title TEXT NOT NULL, otherTitle TEXT, text TEXT, otherText TEXT, brand TEXT,
  shown INTEGER NOT NULL, traits TEXT NOT NULL, pictures TEXT NOT NULL);
CREATE TABLE codes (code TEXT PRIMARY KEY, item TEXT NOT NULL REFERENCES items(word) ON DELETE CASCADE, seq INTEGER NOT NULL,
  cents INTEGER NOT NULL, wasCents INTEGER, stock INTEGER NOT NULL, weight INTEGER, barcode TEXT, picture TEXT, vals TEXT NOT NULL,
  tiers TEXT NOT NULL);
CREATE INDEX codes_item ON codes(item, seq);
CREATE TABLE nodes (id INTEGER PRIMARY KEY, parent INTEGER REFERENCES nodes(id), main TEXT NOT NULL, other TEXT);
CREATE INDEX nodes_parent ON nodes(parent, main);
CREATE TABLE places (item TEXT NOT NULL REFERENCES items(word) ON DELETE CASCADE, seq INTEGER NOT NULL, node INTEGER NOT NULL REFERENCES nodes(id));
CREATE INDEX places_item ON places(item);
CREATE TABLE links (item TEXT NOT NULL REFERENCES items(word) ON DELETE CASCADE, name TEXT NOT NULL, seq INTEGER NOT NULL,
  other TEXT NOT NULL REFERENCES items(word) ON DELETE CASCADE);
CREATE INDEX links_item ON links(item, name);
CREATE INDEX links_other ON links(other);
`;

export class PennywortStore {
  readonly #db = new Database(tables);
  #languages: ShopLanguages = shopLanguages[0];

  /** Of the account: the first one is what the shop's tree and traits are known by. */
  get languages(): ShopLanguages {
    return this.#languages;
  }

  /** @returns false where the shop has something in the languages that it has. */
  speak(languages: ShopLanguages): boolean {
    if (this.itemWords().length > 0 || this.tree().length > 0) return false;
    this.#languages = languages;
    return true;
  }

  close(): void {
    this.#db.close();
  }

  empty(): void {
    this.#db.empty(["links", "places", "codes", "items", "nodes"]);
    this.#languages = shopLanguages[0];
  }

  /** Keeps everything `work` changes, or nothing if it throws. */
  transaction<T>(work: () => T): T {
    return this.#db.attempt(() => ({ keep: true, result: work() }));
  }

  item(word: string): StoredItem | undefined {
    const row = this.#db.all("SELECT * FROM items WHERE word = ?", word)[0];
    if (!row) return undefined;
    return {
      ...(row as unknown as StoredItem),
      traits: JSON.parse(row["traits"] as string) as TranslatedName[],
      pictures: JSON.parse(row["pictures"] as string) as string[],
    };
  }

  saveItem(item: StoredItem): void {
    this.#db.run(
      `INSERT INTO items VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?) ON CONFLICT(word) DO UPDATE SET title = excluded.title, otherTitle = excluded.otherTitle,
       text = excluded.text, otherText = excluded.otherText, brand = excluded.brand, shown = excluded.shown, traits = excluded.traits, pictures = excluded.pictures`,
      ...[item.word, item.title, item.otherTitle, item.text, item.otherText, item.brand, item.shown],
      ...[JSON.stringify(item.traits), JSON.stringify(item.pictures)],
    );
  }

  deleteItem(word: string): void {
    this.#db.run("DELETE FROM items WHERE word = ?", word);
  }

  code(code: string): CodeRow | undefined {
    const row = this.#db.all("SELECT * FROM codes WHERE code = ?", code)[0];
    return row && toCode(row);
  }

  codesOf(item: string): CodeRow[] {
    return this.#db.all("SELECT * FROM codes WHERE item = ? ORDER BY seq", item).map(toCode);
  }

  nextSeq(item: string): number {
    return (this.#db.all("SELECT coalesce(max(seq), 0) + 1 AS next FROM codes WHERE item = ?", item)[0]!["next"] ??
      1) as number;
  }

  saveCode(row: CodeRow): void {
    this.#db.run("DELETE FROM codes WHERE code = ?", row.code);
    this.#db.run(
      "INSERT INTO codes VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?)",
      ...[row.code, row.item, row.seq, row.cents, row.wasCents, row.stock, row.weight, row.barcode, row.picture],
      ...[JSON.stringify(row.values), JSON.stringify(row.tiers)],
    );
  }

  /** The node at the end of a path, made where it is not there yet. */
  node(path: readonly string[], other?: readonly string[]): number {
    let parent: number | null = null;
    path.forEach((main, depth) => {
      const found: Stored | undefined = this.#db.all(
        "SELECT id FROM nodes WHERE parent IS ? AND main = ?",
        parent,
        main,
      )[0];
      if (!found) this.#db.run("INSERT INTO nodes (parent, main) VALUES (?, ?)", parent, main);
      parent = (found ?? this.#db.all("SELECT last_insert_rowid() AS id")[0]!)["id"] as number;
      if (other) this.#db.run("UPDATE nodes SET other = ? WHERE id = ?", other[depth], parent);
    });
    return parent!;
  }

  placesOf(item: string): number[] {
    return this.#db
      .all("SELECT node FROM places WHERE item = ? ORDER BY seq", item)
      .map((row) => row["node"] as number);
  }

  savePlaces(item: string, nodes: readonly number[]): void {
    this.#db.run("DELETE FROM places WHERE item = ?", item);
    nodes.forEach((node, seq) => this.#db.run("INSERT INTO places VALUES (?, ?, ?)", item, seq, node));
  }

  linksOf(item: string, name: string): string[] {
    return this.#db
      .all("SELECT other FROM links WHERE item = ? AND name = ? ORDER BY seq", item, name)
      .map((row) => row["other"] as string);
  }

  saveLinks(item: string, name: string, others: readonly string[]): void {
    this.#db.run("DELETE FROM links WHERE item = ? AND name = ?", item, name);
    others.forEach((other, seq) => this.#db.run("INSERT INTO links VALUES (?, ?, ?, ?)", item, name, seq, other));
  }

  hasPicture(name: string): boolean {
    return this.#db.hasPicture(name);
  }

  savePicture(name: string, bytes: Uint8Array): void {
    this.#db.savePicture(name, bytes);
  }

  picture(name: string): Uint8Array | undefined {
    return this.#db.picture(name);
  }

  itemWords(): string[] {
    return this.#db.all("SELECT word FROM items ORDER BY word").map((row) => row["word"] as string);
  }

  /** Each node with its path, parents first, siblings as they were made. */
  tree(): { id: number; path: string[]; other: string | null }[] {
    const nodes = this.#db.all("SELECT * FROM nodes ORDER BY id");
    const under = (parent: number | null, path: string[]): { id: number; path: string[]; other: string | null }[] =>
      nodes
        .filter((node) => node["parent"] === parent)
        .flatMap((node) => {
          const own = [...path, node["main"] as string];
          return [
            { id: node["id"] as number, path: own, other: node["other"] as string | null },
            ...under(node["id"] as number, own),
          ];
        });
    return under(null, []);
  }
}

function toCode(row: Stored): CodeRow {
  return {
    ...(row as unknown as CodeRow),
    values: JSON.parse(row["vals"] as string) as TranslatedName[],
    tiers: JSON.parse(row["tiers"] as string) as Tier[],
  };
}
