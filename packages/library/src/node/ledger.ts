/** The ledger's file: only ever appended to, each batch whole on the disk before it counts. */

import { open, readFile, stat, truncate } from "node:fs/promises";
import { dirname } from "node:path";
import { finding, type Findings } from "../findings/finding.js";
import { phrase, type Text } from "../phrases/phrase.js";
import { Ledger, parseLedger } from "../ledger/ledger.js";
import { IoTrouble, reasonOf, writeTrouble } from "./io-trouble.js";
import { syncFolder, writeFully } from "./write.js";

/** A ledger, and its file on the disk. */
export interface LedgerFile {
  /** As it was read. */
  readonly ledger: Ledger;
  /**
   * Appends what was added to a ledger since as one batch, and waits until it is on the disk.
   *
   * @throws IoTrouble when it cannot be written; then none of the batch counts, now or when the file is read again.
   */
  readonly save: (ledger: Ledger) => Promise<void>;
}

const maxBytes = 500_000_000;

async function bytesOf(path: string, name: string): Promise<Uint8Array> {
  const unreadable = (reason: Text, cause?: unknown) =>
    new IoTrouble(finding("read/unreadable", { reason }, { file: name }), cause);
  try {
    const status = await stat(path);
    if (!status.isFile() && !status.isDirectory()) throw unreadable(phrase("it is a device or a pipe, not a file"));
    if (status.size > maxBytes) throw unreadable(phrase("it has more than {0} bytes", maxBytes));
    return await readFile(path);
  } catch (error) {
    if (error instanceof IoTrouble) throw error;
    if ((error as NodeJS.ErrnoException).code === "ENOENT") return new Uint8Array(0);
    throw unreadable(reasonOf(error), error);
  }
}

/** The text of a ledger. A line that is not UTF-8 is a finding: what it names would be another record. */
function textOf(bytes: Uint8Array, file: string, findings: Findings): string {
  try {
    return new TextDecoder("utf-8", { fatal: true }).decode(bytes);
  } catch {
    const text = new TextDecoder().decode(bytes);
    const lines = text.split("\n");
    // The last line may have been cut in the middle of a character.
    const line = lines.slice(0, -1).findIndex((one) => one.includes("\ufffd"));
    if (line >= 0) findings.add(finding("ledger/no-line", {}, { file, line: line + 1 }));
    return text;
  }
}

/** How many bytes the first lines have, with their ends. */
function lengthOfLines(bytes: Uint8Array, lines: number): number {
  let at = 0;
  for (let line = 0; line < lines; line++) at = bytes.indexOf(10, at) + 1;
  return lines === 0 ? 0 : at;
}

/**
 * Opens a ledger. A file that is not there is an empty one; it is made with the first batch.
 *
 * @param name as findings call it.
 * @throws IoTrouble when it is there and cannot be read.
 */
export async function openLedger(path: string, name: string, findings: Findings): Promise<LedgerFile> {
  const bytes = await bytesOf(path, name);
  const text = textOf(bytes, name, findings);
  const { ledger, whole } = parseLedger(text, name, findings);
  // Of bytes that are no UTF-8 the text has another length: lines are the same in both.
  let wholeBytes = lengthOfLines(bytes, text.slice(0, whole).split("\n").length - 1);
  let isTorn = wholeBytes < bytes.length;
  return {
    ledger,
    async save(now) {
      const added = now.addedText();
      if (added === "") return;
      const own = new TextEncoder().encode(added);
      try {
        // What was not finished would run into the batch that comes now.
        if (isTorn) await truncate(path, wholeBytes);
        isTorn = false;
        const file = await open(path, "a");
        try {
          isTorn = true;
          await writeFully(file, own);
          await file.sync();
        } finally {
          await file.close();
        }
        if (wholeBytes === 0) await syncFolder(dirname(path));
      } catch (error) {
        throw writeTrouble(error, name);
      }
      isTorn = false;
      wholeBytes += own.length;
      now.forgetAdded();
    },
  };
}
