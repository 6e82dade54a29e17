/**
 * The ledger: what is known to be on a platform. JSON Lines, only ever added to, batch by batch: a batch counts from the line that
 * closes it, so that one that was not finished counts not at all.
 *
 * Each line states for a record, or of something that was added to it, how far it has come, and the platform's id where it is known.
 * An id is one record's only, and a record has one id only.
 */

import { present } from "../checked.js";
import type { Key, Lang } from "../nominal.js";
import { splitAddition } from "../field-name.js";
import { z } from "zod";
import { finding, type Finding, type Findings } from "../findings/finding.js";
import { knownRecord, type KnownRecord } from "./known-record.js";
import { ledgerLine, type LedgerLine } from "./ledger-line.js";
import type { Location } from "../location.js";
import { pushAll } from "../lists.js";

/** Ends a batch, and says how many lines it has. */
const closingLine = z.strictObject({ batch: z.literal("whole"), lines: z.number().int().nonnegative() });

/** The entry of lines that say what was delivered. */
const deliveredEntry = "delivered";

/** A digest of a field as it was sent; with that of what the platform made of it, where that is another. */
export type DeliveredDigest = string | readonly [sent: string, readBack: string];

const nameOf = ({ kind, key, entry, lang }: Pick<LedgerLine, "kind" | "key" | "entry" | "lang">): string =>
  JSON.stringify([kind, key, entry ?? "", lang ?? ""]);

/** What is known to be on a platform: records with their ids, what was added to them, what was last delivered. */
export class Ledger {
  readonly #lines = new Map<string, LedgerLine>();
  readonly #owners = new Map<string, LedgerLine>();
  readonly #added: LedgerLine[] = [];
  /** Of records that were unconfirmed: what was known of them. */
  readonly #withdrawn = new Map<string, readonly LedgerLine[]>();
  /** What the sources alone tell. */
  readonly #assumed = new Map<string, LedgerLine>();

  /** Whether anything is known at all. */
  get isEmpty(): boolean {
    return this.#lines.size === 0;
  }

  /** Whether anything was uploaded; what the sources tell to be there was not. */
  get isBegun(): boolean {
    return this.#lines.size > this.#assumed.size;
  }

  /** How many lines count. */
  get size(): number {
    return this.#lines.size;
  }

  id(kind: string, key: Key): string | undefined {
    return this.#lines.get(nameOf({ kind, key }))?.id;
  }

  /** The record that has an id. */
  keyOf(kind: string, id: string): Key | undefined {
    return this.#owners.get(JSON.stringify([kind, id]))?.key;
  }

  /** Whether the platform has the record, or what an update adds to it: `product.prices`, `product@de`. */
  has(kind: string, key: Key, update?: string): boolean {
    return this.#lines.get(nameOf({ kind, key, ...partsOf(update) }))?.state === "confirmed";
  }

  /** Digests of the fields that were last delivered of a record; undefined if it never was. @param key as the platform knows the record. */
  delivered(kind: string, key: Key): Readonly<Record<string, DeliveredDigest>> | undefined {
    return this.#lines.get(nameOf({ kind, key, entry: deliveredEntry }))?.fields;
  }

  /** Notes what was delivered of a record, beside what was before. */
  noteDelivered(kind: string, key: Key, fields: Readonly<Record<string, DeliveredDigest>>, run: string): void {
    const all = { ...this.delivered(kind, key), ...fields } as LedgerLine["fields"];
    this.add({ kind, key, entry: deliveredEntry, fields: all, state: "confirmed", run });
  }

  /** Takes back all that is known of a record: it is no longer on the platform. @returns whether anything was known. */
  unconfirm(kind: string, key: Key, run: string): boolean {
    if (this.#linesOf(kind, key).length === 0) return false;
    this.add({ kind, key, state: "unconfirmed", run });
    return true;
  }

  /** Makes known again what was known of a record before it was unconfirmed. @returns the finding why it cannot; undefined, too, where there is nothing to restore. */
  restore(kind: string, key: Key, run: string): Finding | undefined {
    if (!this.#withdrawn.has(nameOf({ kind, key }))) return undefined;
    return this.add({ kind, key, state: "restored", run });
  }

  /** All records of which anything is, or was, known. */
  records(): KnownRecord[] {
    const known = new Map<string, LedgerLine[]>();
    for (const line of [...this.#withdrawn.values()].flat()) known.set(nameOf({ kind: line.kind, key: line.key }), []);
    for (const line of this.#lines.values()) {
      const name = nameOf({ kind: line.kind, key: line.key });
      const lines = known.get(name);
      if (lines) lines.push(line);
      else known.set(name, [line]);
    }
    return [...known].map(([name, lines]) => knownRecord(lines, this.#withdrawn.get(name), deliveredEntry));
  }

  #linesOf(kind: string, key: Key): LedgerLine[] {
    return [...this.#lines.values()].filter((line) => line.kind === kind && line.key === key);
  }

  #withdraw(line: LedgerLine): void {
    const { kind, key } = line;
    const lines = this.#linesOf(kind, key);
    if (lines.length > 0) this.#withdrawn.set(nameOf({ kind, key }), lines);
    for (const one of lines) {
      this.#lines.delete(nameOf(one));
      if (one.id !== undefined) this.#owners.delete(JSON.stringify([kind, one.id]));
    }
  }

  #restore({ kind, key }: LedgerLine, at: Location | undefined): Finding | undefined {
    const lines = (this.#withdrawn.get(nameOf({ kind, key })) ?? []).filter((one) => !this.#lines.has(nameOf(one)));
    for (const { id } of lines) {
      const owner = id === undefined ? undefined : this.#owners.get(JSON.stringify([kind, id]));
      if (owner && owner.key !== key)
        return finding("ledger/id-taken", { kind, key, id: present(id), owner: owner.key }, at);
    }
    this.#withdrawn.delete(nameOf({ kind, key }));
    for (const line of lines) {
      this.#lines.set(nameOf(line), line);
      if (line.id !== undefined) this.#owners.set(JSON.stringify([kind, line.id]), line);
    }
    return undefined;
  }

  /**
   * Takes a line, unless it would give one id to two records, or a record another id.
   *
   * @returns the finding why it does not.
   */
  add(line: LedgerLine, at?: Location): Finding | undefined {
    const { kind, key, id } = line;
    if (line.state === "unconfirmed" || line.state === "restored") {
      const problem = line.state === "restored" ? this.#restore(line, at) : undefined;
      if (line.state === "unconfirmed") this.#withdraw(line);
      if (!problem) this.#added.push(line);
      return problem;
    }
    const known = this.#lines.get(nameOf(line));
    if (known?.id !== undefined && id !== undefined && known.id !== id)
      return finding("ledger/other-id", { kind, key, id, known: known.id }, at);
    const owner = id === undefined ? undefined : this.#owners.get(JSON.stringify([kind, id]));
    if (owner && owner.key !== key)
      return finding("ledger/id-taken", { kind, key, id: present(id), owner: owner.key }, at);
    const whole = { ...line, ...(id === undefined && known?.id !== undefined ? { id: known.id } : {}) };
    if (known && JSON.stringify({ ...known, run: "" }) === JSON.stringify({ ...whole, run: "" })) return undefined;
    this.#lines.set(nameOf(line), whole);
    if (whole.id !== undefined) this.#owners.set(JSON.stringify([kind, whole.id]), whole);
    this.#added.push(whole);
    return undefined;
  }

  /** Takes a line that is known from elsewhere and is not to be written to the file. @returns the finding why it does not. */
  assume(line: LedgerLine, at: Location | undefined): Finding | undefined {
    const before = this.#added.length;
    const problem = this.add(line, at);
    if (this.#added.length > before) this.#assumed.set(nameOf(line), line);
    this.#added.length = before;
    return problem;
  }

  /** A ledger of what is known from elsewhere alone. */
  ofAssumed(): Ledger {
    const other = new Ledger();
    for (const line of this.#assumed.values()) other.assume(line, undefined);
    return other;
  }

  /** A ledger that knows the same, and can be added to without this one being touched. What is not on the disk yet is not in the copy either. */
  copy(): Ledger {
    const other = new Ledger();
    for (const [name, line] of this.#lines) other.#lines.set(name, line);
    for (const [id, line] of this.#owners) other.#owners.set(id, line);
    pushAll(other.#added, this.#added);
    for (const [name, line] of this.#assumed) other.#assumed.set(name, line);
    for (const [name, lines] of this.#withdrawn) other.#withdrawn.set(name, lines);
    return other;
  }

  /** What was added since the last batch, as the text of a batch to append to the file; "" for nothing. */
  addedText(): string {
    if (this.#added.length === 0) return "";
    const closing = { batch: "whole", lines: this.#added.length };
    return [...this.#added, closing].map((line) => `${JSON.stringify(line)}\n`).join("");
  }

  /** Begins a new batch: what was added is on the disk. */
  forgetAdded(): void {
    this.#added.length = 0;
  }

  /** How many lines were added since the last batch. */
  get addedCount(): number {
    return this.#added.length;
  }
}

/** `product.prices` and `product@de` as a line has them. */
export function partsOf(update: string | undefined): { entry?: string; lang?: Lang } {
  if (update === undefined) return {};
  const { kind, lang, part = kind } = splitAddition(update);
  return lang === undefined ? { entry: part } : { lang };
}

export interface ParsedLedger {
  readonly ledger: Ledger;
  /** How many characters of the text are whole batches: what comes behind was not finished, and is to be cut off. */
  readonly whole: number;
}

/** Reads a ledger. Lines that cannot be read, or that contradict others, are left out and reported; of a batch that is not closed nothing counts. */
export function parseLedger(text: string, file: string, findings: Findings): ParsedLedger {
  const ledger = new Ledger();
  let whole = 0;
  let position = 0;
  let first = 1;
  let batch: { readonly text: string; readonly line: number }[] = [];
  const lines = text.split("\n");
  for (const [index, line] of lines.entries()) {
    position += line.length + 1;
    const isFinished = index < lines.length - 1;
    if (line !== "") batch.push({ text: line, line: index + 1 });
    const closing = isFinished ? parseAs(closingLine, line) : undefined;
    if (!closing) continue;
    takeBatch(ledger, batch.slice(0, -1), closing.lines, { file, line: index + 1 }, findings);
    whole = position;
    first = index + 2;
    batch = [];
  }
  if (batch.length > 0) findings.add(finding("ledger/torn-batch", { lines: batch.length }, { file, line: first }));
  ledger.forgetAdded();
  return { ledger, whole: batch.length > 0 ? whole : text.length };
}

function takeBatch(
  ledger: Ledger,
  batch: readonly { readonly text: string; readonly line: number }[],
  lines: number,
  at: Location & { readonly file: string },
  findings: Findings,
): void {
  if (batch.length !== lines) findings.add(finding("ledger/other-count", { lines, there: batch.length }, at));
  for (const { text, line } of batch) {
    const own: Location = { file: at.file, line };
    const parsed = parseAs(ledgerLine, text);
    const problem = parsed ? ledger.add(parsed, own) : finding("ledger/no-line", {}, own);
    if (problem) findings.add(problem);
  }
}

function parseAs<T>(schema: z.ZodType<T>, line: string): T | undefined {
  try {
    const parsed = schema.safeParse(JSON.parse(line));
    return parsed.success ? parsed.data : undefined;
  } catch {
    return undefined;
  }
}
