/** The ledger's file: only ever appended to, each batch whole on the disk before it counts. */

import { open, readFile, truncate } from "node:fs/promises";
import { dirname } from "node:path";
import { finding, type Findings } from "../findings/finding.js";
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

/**
 * Opens a ledger. A file that is not there is an empty one; it is made with the first batch.
 *
 * @param name as findings call it.
 * @throws IoTrouble when it is there and cannot be read.
 */
export async function openLedger(path: string, name: string, findings: Findings): Promise<LedgerFile> {
  const text = await readFile(path, "utf8").catch((error: NodeJS.ErrnoException) => {
    if (error.code === "ENOENT") return "";
    throw new IoTrouble(finding("read/unreadable", { reason: reasonOf(error) }, { file: name }), error);
  });
  const { ledger, whole } = parseLedger(text, name, findings);
  let wholeBytes = Buffer.byteLength(text.slice(0, whole));
  let isTorn = whole < text.length;
  return {
    ledger,
    async save(now) {
      const added = now.addedText();
      if (added === "") return;
      const bytes = new TextEncoder().encode(added);
      try {
        // What was not finished would run into the batch that comes now.
        if (isTorn) await truncate(path, wholeBytes);
        isTorn = false;
        const file = await open(path, "a");
        try {
          isTorn = true;
          await writeFully(file, bytes);
          await file.sync();
        } finally {
          await file.close();
        }
        if (wholeBytes === 0) await syncFolder(dirname(path));
      } catch (error) {
        throw writeTrouble(error, name);
      }
      isTorn = false;
      wholeBytes += bytes.length;
      now.forgetAdded();
    },
  };
}
