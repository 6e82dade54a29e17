/** What Tollgate holds: a database in memory. A file is one transaction. */

import { Database, type Stored } from "../common/database.js";

export type TillData = Record<string, unknown>;
export interface StoredVersion {
  readonly code: string;
  readonly number: string;
  readonly data: TillData;
}

const tables = `
CREATE TABLE articles (number TEXT PRIMARY KEY, data TEXT NOT NULL);
CREATE TABLE versions (seq INTEGER PRIMARY KEY, code TEXT NOT NULL UNIQUE, number TEXT NOT NULL REFERENCES articles(number), data TEXT NOT NULL);
CREATE INDEX versions_number ON versions(number);
CREATE TABLE lists (list TEXT NOT NULL, entry TEXT NOT NULL, PRIMARY KEY (list, entry));
`;

export class TollgateStore {
  readonly #db = new Database(tables);
  /** What a blank tax comes to. */
  accountTax = "standard";

  close(): void {
    this.#db.close();
  }
  empty(): void {
    this.#db.empty(["versions", "articles", "lists"]);
    this.accountTax = "standard";
  }

  /** Keeps what `work` has changed if it says so. */
  attempt<T>(work: () => { readonly keep: boolean; readonly result: T }): T {
    return this.#db.attempt(work);
  }

  article(number: string): TillData | undefined {
    const found = this.#db.all("SELECT data FROM articles WHERE number = ?", number)[0];
    return found && (JSON.parse(found["data"] as string) as TillData);
  }
  articles(): string[] {
    return this.#db.all("SELECT number FROM articles ORDER BY number").map((row) => row["number"] as string);
  }
  saveArticle(number: string, data: TillData): void {
    this.#db.run(
      "INSERT INTO articles VALUES (?, ?) ON CONFLICT (number) DO UPDATE SET data = excluded.data",
      number,
      JSON.stringify(data),
    );
  }

  version(code: string): StoredVersion | undefined {
    return this.#db.all("SELECT * FROM versions WHERE code = ?", code).map(toVersion)[0];
  }
  versionsOf(number: string): StoredVersion[] {
    return this.#db.all("SELECT * FROM versions WHERE number = ? ORDER BY seq", number).map(toVersion);
  }
  saveVersion({ code, number, data }: StoredVersion): void {
    this.#db.run(
      "INSERT INTO versions (code, number, data) VALUES (?, ?, ?) ON CONFLICT (code) DO UPDATE SET number = excluded.number, data = excluded.data",
      ...[code, number, JSON.stringify(data)],
    );
  }

  /** Takes out what is not among these. @returns the numbers and codes that were. */
  takeOut(numbers: ReadonlySet<string>, codes: ReadonlySet<string>): string[] {
    const gone = this.#db.all("SELECT code FROM versions ORDER BY code").map((row) => row["code"] as string);
    const goneCodes = gone.filter((code) => !codes.has(code));
    for (const code of goneCodes) this.#db.run("DELETE FROM versions WHERE code = ?", code);
    const goneArticles = this.articles().filter((number) => !numbers.has(number));
    for (const number of goneArticles) {
      this.#db.run("DELETE FROM versions WHERE number = ?", number);
      this.#db.run("DELETE FROM articles WHERE number = ?", number);
    }
    return [...new Set([...goneArticles, ...goneCodes])].sort();
  }

  setUp(list: string, entries: readonly string[]): number {
    for (const entry of entries) this.#db.run("INSERT OR IGNORE INTO lists VALUES (?, ?)", list, entry);
    return this.#db.all("SELECT count(*) AS count FROM lists WHERE list = ?", list)[0]!["count"] as number;
  }
  isListed(list: string, entry: string): boolean {
    return this.#db.all("SELECT 1 AS one FROM lists WHERE list = ? AND entry = ?", list, entry).length > 0;
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
}

function toVersion(row: Stored): StoredVersion {
  return {
    code: row["code"] as string,
    number: row["number"] as string,
    data: JSON.parse(row["data"] as string) as TillData,
  };
}
