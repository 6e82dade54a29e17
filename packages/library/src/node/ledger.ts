/** The ledger's file: only ever appended to, each batch on the disk before it counts. */

import { open, readFile, truncate } from "node:fs/promises";
import type { Findings } from "../finding.js";
import { Ledger, parseLedger } from "../ledger/ledger.js";

export interface LedgerFile {
  readonly ledger: Ledger;
  /** Appends what was added since, in one write, and waits until it is on the disk. */
  readonly save: () => Promise<void>;
}

/** @param name as findings call it. A file that is not there is an empty ledger; it is made with the first batch. */
export async function openLedger(path: string, name: string, findings: Findings): Promise<LedgerFile> {
  const text = await readFile(path, "utf8").catch((error: NodeJS.ErrnoException) => {
    if (error.code === "ENOENT") return "";
    throw error;
  });
  const { ledger, whole } = parseLedger(text, name, findings);
  let torn = whole < text.length;
  const wholeBytes = Buffer.byteLength(text.slice(0, whole));
  return {
    ledger,
    async save() {
      const added = ledger.takeAdded();
      if (added === "") return;
      // What was not finished would run into the line that comes now.
      if (torn) await truncate(path, wholeBytes);
      torn = false;
      const file = await open(path, "a");
      try {
        await file.writeFile(added);
        await file.sync();
      } finally {
        await file.close();
      }
    },
  };
}
