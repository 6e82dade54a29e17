/** A database in memory, and the pictures that every stand-in keeps in it. */

import Libsql from "libsql";

export type Stored = Record<string, string | number | null>;

export class Database {
  readonly #db: Libsql.Database;
  readonly #statements = new Map<string, Libsql.Statement>();

  /** @param tables what the stand-in keeps besides pictures. */
  constructor(tables: string) {
    this.#db = new Libsql(":memory:");
    this.#db.exec("PRAGMA foreign_keys = ON");
    this.#db.exec(`${tables}\nCREATE TABLE pictures (name TEXT PRIMARY KEY, bytes BLOB NOT NULL);`);
  }

  run(sql: string, ...values: unknown[]): void {
    this.#prepared(sql).run(...values);
  }
  all(sql: string, ...values: unknown[]): Stored[] {
    return this.#prepared(sql).all(...values) as Stored[];
  }
  #prepared(sql: string): Libsql.Statement {
    let statement = this.#statements.get(sql);
    if (!statement) this.#statements.set(sql, (statement = this.#db.prepare(sql)));
    return statement;
  }

  close(): void {
    this.#db.close();
  }

  /** Takes out everything, tables that refer to others first. */
  empty(tables: readonly string[]): void {
    for (const table of [...tables, "pictures"]) this.run(`DELETE FROM ${table}`);
  }

  /** Keeps what `work` has changed if it says so; nothing if it throws. */
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

  hasPicture(name: string): boolean {
    return this.all("SELECT 1 AS one FROM pictures WHERE name = ?", name).length > 0;
  }
  picture(name: string): Uint8Array | undefined {
    return this.all("SELECT bytes FROM pictures WHERE name = ?", name)[0]?.["bytes"] as Uint8Array | undefined;
  }
  savePicture(name: string, bytes: Uint8Array): void {
    this.run(
      "INSERT INTO pictures VALUES (?, ?) ON CONFLICT (name) DO UPDATE SET bytes = excluded.bytes",
      name,
      Buffer.from(bytes),
    );
  }
}
