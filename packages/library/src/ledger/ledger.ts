/**
 * The ledger: what a platform is known to hold of ours. JSON Lines, only ever added to; a line that was not finished is dropped.
 *
 * Each line says of a record, or of something that was added to it, how far it has come, and the platform's id where it is known.
 * An id is one record's only, and a record has one id only.
 */

import { z } from "zod";
import { finding, type Finding, type Findings } from "../finding.js";
import type { Place } from "../place.js";

const ledgerLine = z.strictObject({
  kind: z.string().min(1),
  key: z.string(),
  /** What was added to the record: `prices`, `categories`. */
  entry: z.string().optional(),
  /** The language of texts that were added. */
  lang: z.string().optional(),
  id: z.string().min(1).optional(),
  state: z.enum(["built", "sent", "confirmed"]),
  /** Digests of what was last delivered, by field as snapshots name it; stands in a line of entry `fields`. */
  fields: z.record(z.string(), z.string()).optional(),
  /** Which run of the program wrote it. */
  run: z.string(),
});
export type LedgerLine = z.infer<typeof ledgerLine>;

/** The entry of lines that say what was delivered. */
const deliveredEntry = "fields";

const nameOf = ({ kind, key, entry, lang }: Pick<LedgerLine, "kind" | "key" | "entry" | "lang">): string =>
  JSON.stringify([kind, key, entry ?? "", lang ?? ""]);

export class Ledger {
  readonly #lines = new Map<string, LedgerLine>();
  readonly #owners = new Map<string, LedgerLine>();
  readonly #added: LedgerLine[] = [];

  /** Whether anything is known at all. */
  get isEmpty(): boolean {
    return this.#lines.size === 0;
  }

  /** How many lines count. */
  get size(): number {
    return this.#lines.size;
  }

  id(kind: string, key: string): string | undefined {
    return this.#lines.get(nameOf({ kind, key }))?.id;
  }

  /** Whether the platform has the record, or what an update adds to it: `product.prices`, `product@de`. */
  has(kind: string, key: string, update?: string): boolean {
    return this.#lines.get(nameOf({ kind, key, ...partsOf(update) }))?.state === "confirmed";
  }

  /** Digests of the fields that were last delivered of a record, as a snapshot names it; undefined if it never was. */
  delivered(kind: string, key: string): Readonly<Record<string, string>> | undefined {
    return this.#lines.get(nameOf({ kind, key, entry: deliveredEntry }))?.fields;
  }

  /** Notes what was delivered of a record, beside what was before. */
  noteDelivered(kind: string, key: string, fields: Readonly<Record<string, string>>, run: string): void {
    const all = { ...this.delivered(kind, key), ...fields };
    this.add({ kind, key, entry: deliveredEntry, fields: all, state: "confirmed", run });
  }

  /**
   * Takes a line, unless it would give one id to two records, or a record another id.
   *
   * @returns the finding why it does not.
   */
  add(line: LedgerLine, at?: Place): Finding | undefined {
    const { kind, key, id } = line;
    const known = this.#lines.get(nameOf(line));
    if (known?.id !== undefined && id !== undefined && known.id !== id)
      return finding("ledger/other-id", { kind, key, id, known: known.id }, at);
    const owner = id === undefined ? undefined : this.#owners.get(JSON.stringify([kind, id]));
    if (owner && owner.key !== key) return finding("ledger/id-taken", { kind, key, id: id!, owner: owner.key }, at);
    const whole = { ...line, ...(id === undefined && known?.id !== undefined ? { id: known.id } : {}) };
    if (known && JSON.stringify({ ...known, run: "" }) === JSON.stringify({ ...whole, run: "" })) return undefined;
    this.#lines.set(nameOf(line), whole);
    if (whole.id !== undefined) this.#owners.set(JSON.stringify([kind, whole.id]), whole);
    this.#added.push(whole);
    return undefined;
  }

  /** The lines that were added since the last time, as text to append to the file. */
  takeAdded(): string {
    return this.#added
      .splice(0)
      .map((line) => `${JSON.stringify(line)}\n`)
      .join("");
  }
}

/** `product.prices` and `product@de` as a line has them. */
export function partsOf(update: string | undefined): { entry?: string; lang?: string } {
  if (update === undefined) return {};
  const [name = "", lang] = update.split("@");
  if (lang !== undefined) return { lang };
  return { entry: name.slice(name.indexOf(".") + 1) };
}

export interface ParsedLedger {
  readonly ledger: Ledger;
  /** How many characters of the text are whole lines: what comes behind was not finished, and is to be cut off. */
  readonly whole: number;
}

/** Reads a ledger. Lines that cannot be read, or that contradict others, are left out and said; a torn last line only costs itself. */
export function parseLedger(text: string, file: string, findings: Findings): ParsedLedger {
  const ledger = new Ledger();
  const whole = text.lastIndexOf("\n") + 1;
  if (whole < text.length) findings.add(finding("ledger/torn-line", {}, { file, line: text.split("\n").length }));
  text
    .slice(0, whole)
    .split("\n")
    .forEach((line, index) => {
      if (line === "") return;
      const at: Place = { file, line: index + 1 };
      const parsed = parseLine(line);
      const problem = parsed ? ledger.add(parsed, at) : finding("ledger/no-line", {}, at);
      if (problem) findings.add(problem);
    });
  ledger.takeAdded();
  return { ledger, whole };
}

function parseLine(line: string): LedgerLine | undefined {
  try {
    const parsed = ledgerLine.safeParse(JSON.parse(line));
    return parsed.success ? parsed.data : undefined;
  } catch {
    return undefined;
  }
}
