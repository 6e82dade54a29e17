/** What Tollgate holds: a database in memory. A file is one transaction. */

import Database from "libsql";

export type Data = Record<string, unknown>;
export interface Version {
  readonly code: string;
  readonly number: string;
  readonly data: Data;
}

const tables = `
CREATE TABLE articles (number TEXT PRIMARY KEY, data TEXT NOT NULL);
CREATE TABLE versions (seq INTEGER PRIMARY KEY, code TEXT NOT NULL UNIQUE, number TEXT NOT NULL REFERENCES articles(number), data TEXT NOT NULL);
CREATE INDEX versions_number ON versions(number);
CREATE TABLE lists (list TEXT NOT NULL, entry TEXT NOT NULL, PRIMARY KEY (list, entry));
CREATE TABLE pictures (name TEXT PRIMARY KEY, bytes BLOB NOT NULL);
`;

type Stored = Record<string, string | number | null>;

export class Store {
  readonly #db: Database.Database;
  readonly #statements = new Map<string, Database.Statement>();

  constructor() {
    this.#db = new Database(":memory:");
    this.#db.exec("PRAGMA foreign_keys = ON");
    this.#db.exec(tables);
  }

  #prepared(sql: string): Database.Statement {
    let statement = this.#statements.get(sql);
    if (!statement) this.#statements.set(sql, (statement = this.#db.prepare(sql)));
    return statement;
  }
  #run(sql: string, ...values: unknown[]): void {
    this.#prepared(sql).run(...values);
  }
  #all(sql: string, ...values: unknown[]): Stored[] {
    return this.#prepared(sql).all(...values) as Stored[];
  }

  close(): void {
    this.#db.close();
  }
  empty(): void {
    for (const table of ["versions", "articles", "lists", "pictures"]) this.#run(`DELETE FROM ${table}`);
  }

  /** Keeps what `work` has changed if it says so. */
  attempt<T>(work: () => { readonly keep: boolean; readonly result: T }): T {
    this.#db.exec("SAVEPOINT work");
    let keep = false;
    try {
      const done = work();
      keep = done.keep;
      return done.result;
    } finally {
      if (!keep) this.#db.exec("ROLLBACK TO work");
      this.#db.exec("RELEASE work");
    }
  }

  article(number: string): Data | undefined {
    const found = this.#all("SELECT data FROM articles WHERE number = ?", number)[0];
    return found && (JSON.parse(found["data"] as string) as Data);
  }
  articles(): string[] {
    return this.#all("SELECT number FROM articles ORDER BY number").map((row) => row["number"] as string);
  }
  saveArticle(number: string, data: Data): void {
    this.#run(
      "INSERT INTO articles VALUES (?, ?) ON CONFLICT (number) DO UPDATE SET data = excluded.data",
      number,
      JSON.stringify(data),
    );
  }

  version(code: string): Version | undefined {
    return this.#all("SELECT * FROM versions WHERE code = ?", code).map(toVersion)[0];
  }
  versionsOf(number: string): Version[] {
    return this.#all("SELECT * FROM versions WHERE number = ? ORDER BY seq", number).map(toVersion);
  }
  saveVersion({ code, number, data }: Version): void {
    this.#run(
      "INSERT INTO versions (code, number, data) VALUES (?, ?, ?) ON CONFLICT (code) DO UPDATE SET data = excluded.data",
      ...[code, number, JSON.stringify(data)],
    );
  }

  setUp(list: string, entries: readonly string[]): number {
    for (const entry of entries) this.#run("INSERT OR IGNORE INTO lists VALUES (?, ?)", list, entry);
    return this.#all("SELECT count(*) AS count FROM lists WHERE list = ?", list)[0]!["count"] as number;
  }
  isListed(list: string, entry: string): boolean {
    return this.#all("SELECT 1 AS one FROM lists WHERE list = ? AND entry = ?", list, entry).length > 0;
  }

  hasPicture(name: string): boolean {
    return this.#all("SELECT 1 AS one FROM pictures WHERE name = ?", name).length > 0;
  }
  savePicture(name: string, bytes: Uint8Array): void {
    this.#run(
      "INSERT INTO pictures VALUES (?, ?) ON CONFLICT (name) DO UPDATE SET bytes = excluded.bytes",
      name,
      Buffer.from(bytes),
    );
  }
}

function toVersion(row: Stored): Version {
  return {
    code: row["code"] as string,
    number: row["number"] as string,
    data: JSON.parse(row["data"] as string) as Data,
  };
}
