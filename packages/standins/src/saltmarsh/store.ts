/** What Saltmarsh holds: a database in memory. Ids come from one counter for all registers, with gaps that nobody can foresee. */

import { Database, type Stored } from "../common/database.js";

export type RegisterData = Record<string, string | readonly string[] | null>;

export interface StoredRecord {
  readonly id: string;
  readonly register: string;
  readonly tag: string;
  readonly data: RegisterData;
}

export interface Entry {
  readonly owner: string;
  readonly file: string;
  readonly key: string;
  readonly data: RegisterData;
}

const tables = `
CREATE TABLE records (id INTEGER PRIMARY KEY, register TEXT NOT NULL, tag TEXT NOT NULL, data TEXT NOT NULL, UNIQUE (register, tag));
CREATE TABLE codes (code TEXT PRIMARY KEY, id INTEGER NOT NULL UNIQUE REFERENCES records(id));
CREATE TABLE entries (seq INTEGER PRIMARY KEY, owner INTEGER NOT NULL REFERENCES records(id), file TEXT NOT NULL, key TEXT NOT NULL, data TEXT NOT NULL,
  UNIQUE (owner, file, key));
CREATE TABLE words (id INTEGER NOT NULL REFERENCES records(id), lang TEXT NOT NULL, data TEXT NOT NULL, PRIMARY KEY (id, lang));
`;

export class SaltmarshStore {
  readonly #db = new Database(tables);
  #last = 10_000;

  close(): void {
    this.#db.close();
  }

  empty(): void {
    this.#db.empty(["words", "entries", "codes", "records"]);
    this.#last = 10_000;
  }

  find(id: string): StoredRecord | undefined {
    return this.#db.all("SELECT * FROM records WHERE id = ?", Number(id)).map(toRecord)[0];
  }
  byTag(register: string, tag: string): StoredRecord | undefined {
    return this.#db.all("SELECT * FROM records WHERE register = ? AND tag = ?", register, tag).map(toRecord)[0];
  }
  register(register: string): StoredRecord[] {
    return this.#db.all("SELECT * FROM records WHERE register = ? ORDER BY id", register).map(toRecord);
  }

  create(register: string, tag: string, data: RegisterData): string {
    this.#last += 1 + ((this.#last * 7) % 11);
    this.#db.run("INSERT INTO records VALUES (?, ?, ?, ?)", this.#last, register, tag, JSON.stringify(data));
    this.#saveCode(String(this.#last), data);
    return String(this.#last);
  }
  save(id: string, data: RegisterData): void {
    this.#db.run("UPDATE records SET data = ? WHERE id = ?", JSON.stringify(data), Number(id));
    this.#saveCode(id, data);
  }
  #saveCode(id: string, { Code: code }: RegisterData): void {
    this.#db.run("DELETE FROM codes WHERE id = ?", Number(id));
    if (typeof code === "string") this.#db.run("INSERT INTO codes VALUES (?, ?)", code, Number(id));
  }
  idOfCode(code: string): string | undefined {
    const found = this.#db.all("SELECT id FROM codes WHERE code = ?", code)[0];
    return found && String(found["id"]);
  }

  formsOf(good: string): StoredRecord[] {
    return this.#db
      .all("SELECT * FROM records WHERE register = 'forms' AND json_extract(data, '$.Good') = ? ORDER BY id", good)
      .map(toRecord);
  }

  entries(owner: string, file: string): Entry[] {
    return this.#db
      .all("SELECT * FROM entries WHERE owner = ? AND file = ? ORDER BY seq", Number(owner), file)
      .map(toEntry);
  }
  entry(owner: string, file: string, key: string): Entry | undefined {
    return this.#db
      .all("SELECT * FROM entries WHERE owner = ? AND file = ? AND key = ?", Number(owner), file, key)
      .map(toEntry)[0];
  }
  saveEntry({ owner, file, key, data }: Entry): void {
    this.#db.run(
      "INSERT INTO entries (owner, file, key, data) VALUES (?, ?, ?, ?) ON CONFLICT (owner, file, key) DO UPDATE SET data = excluded.data",
      ...[Number(owner), file, key, JSON.stringify(data)],
    );
  }

  texts(id: string, lang: string): RegisterData | undefined {
    const found = this.#db.all("SELECT data FROM words WHERE id = ? AND lang = ?", Number(id), lang)[0];
    return found && (JSON.parse(found["data"] as string) as RegisterData);
  }
  saveTexts(id: string, lang: string, data: RegisterData): void {
    this.#db.run(
      "INSERT INTO words VALUES (?, ?, ?) ON CONFLICT (id, lang) DO UPDATE SET data = excluded.data",
      ...[Number(id), lang, JSON.stringify(data)],
    );
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

function toRecord(row: Stored): StoredRecord {
  return {
    id: String(row["id"]),
    register: row["register"] as string,
    tag: row["tag"] as string,
    data: JSON.parse(row["data"] as string) as RegisterData,
  };
}

function toEntry(row: Stored): Entry {
  return {
    owner: String(row["owner"]),
    file: row["file"] as string,
    key: row["key"] as string,
    data: JSON.parse(row["data"] as string) as RegisterData,
  };
}
