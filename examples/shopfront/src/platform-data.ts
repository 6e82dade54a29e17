/** What is sent of a platform: its records, and of each what was intended beside what is on it. */

/** What a record or an entry has: texts by field, as `name@en`; the keys of what it refers to. */
export interface RecordEntry {
  readonly texts: Readonly<Record<string, string>>;
  readonly references: Readonly<Record<string, readonly string[]>>;
}

export interface PlatformRecord extends RecordEntry {
  readonly kind: string;
  readonly key: string;
  /** The key of what contains it. */
  readonly of?: string;
  /** By list: `prices`, `pictures`. */
  readonly entries: Readonly<Record<string, readonly RecordEntry[]>>;
}

export interface FieldPair {
  readonly field: string;
  readonly intended?: string;
  readonly onPlatform?: string;
  readonly isSame: boolean;
}

export interface RecordPair {
  readonly kind: string;
  readonly key: string;
  /** Whether only one side has it. */
  readonly isAlone: boolean;
  readonly fields: readonly FieldPair[];
}

export interface ShopfrontData {
  readonly name: string;
  /** ISO 4217; null where the project names none. */
  readonly currency: string | null;
  readonly records: readonly PlatformRecord[];
  readonly reviewed: readonly RecordPair[];
}

/** Records by kind and key. */
export class Records {
  readonly #byKind = new Map<string, Map<string, PlatformRecord>>();

  constructor(records: readonly PlatformRecord[]) {
    for (const record of records) {
      const own = this.#byKind.get(record.kind) ?? new Map<string, PlatformRecord>();
      this.#byKind.set(record.kind, own.set(record.key, record));
    }
  }

  of(kind: string): readonly PlatformRecord[] {
    return [...(this.#byKind.get(kind)?.values() ?? [])];
  }
  find(kind: string, key: string | undefined): PlatformRecord | undefined {
    return key === undefined ? undefined : this.#byKind.get(kind)?.get(key);
  }
  /** What a field refers to, as far as it is there. */
  referred(kind: string, from: RecordEntry, field: string): PlatformRecord[] {
    return (from.references[field] ?? []).flatMap((key) => this.find(kind, key) ?? []);
  }
  get all(): readonly PlatformRecord[] {
    return [...this.#byKind.values()].flatMap((own) => [...own.values()]);
  }
}
