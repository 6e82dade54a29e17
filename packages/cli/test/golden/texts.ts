/** How golden cases are put into text: the same on every machine, and small where nothing is worth reading. */

import { createHash } from "node:crypto";
import { uploadMark } from "zest-tier/parts";

export interface GoldenCase {
  readonly id: string;
  /** By aspect: findings, plan, files, verdict … */
  readonly texts: Readonly<Record<string, string>>;
  /** Kept in full, not as hashes alone. */
  readonly isFull?: boolean;
}

export const hashOf = (bytes: string | Uint8Array): string =>
  createHash("sha256").update(bytes).digest("hex").slice(0, 12);

/** What people read beside the data files: its texts change more often than what is uploaded. */
const isPaper = (name: string): boolean =>
  name.startsWith("run-sheet.") || name === "datapackage.json" || name === uploadMark;

/** A line a file: name, bytes, hash. What is uploaded, and apart from it what only goes with it. */
export function filesTexts(files: readonly (readonly [string, Uint8Array])[]): { files: string; papers: string } {
  const lines = (all: typeof files) =>
    all
      .map(([name, bytes]) => `${name} ${bytes.length} ${hashOf(bytes)}\n`)
      .sort()
      .join("");
  return {
    files: lines(files.filter(([name]) => !isPaper(name))),
    papers: lines(files.filter(([name]) => isPaper(name))),
  };
}

interface RehearsedRow {
  readonly line: number;
  readonly outcome: string;
  readonly notes: Iterable<string>;
}

interface AnyVerdict {
  readonly rebuilt: boolean;
  readonly counts: Readonly<Record<string, number>>;
  readonly differences: readonly object[];
  readonly hidden: readonly object[];
  readonly files: readonly {
    readonly name: string;
    readonly refused?: string | null | undefined;
    readonly rows: readonly RehearsedRow[];
  }[];
}

/** Counts, differences and rows with something to tell; of each file's rows as a whole, a hash. */
export function verdictText({ rebuilt, counts, differences, hidden, files }: AnyVerdict): string {
  // Of deleted rows only where there are any.
  const told = Object.entries(counts).filter(([outcome, rows]) => outcome !== "deleted" || rows > 0);
  const lines = [`rebuilt: ${rebuilt}`, `counts: ${JSON.stringify(Object.fromEntries(told))}`];
  for (const one of differences) lines.push(`difference: ${JSON.stringify(one)}`);
  for (const one of hidden) lines.push(`hidden: ${JSON.stringify(one)}`);
  for (const { name, refused, rows } of files) {
    const told = rows.map((row) => JSON.stringify({ ...row, notes: [...row.notes].sort() }));
    lines.push(`file: ${name} ${refused ?? "taken"}, ${rows.length} rows, ${hashOf(told.join("\n"))}`);
    rows.forEach((row, at) => {
      if (row.outcome === "refused" || [...row.notes].length > 0) lines.push(`  ${told[at]}`);
    });
  }
  return `${lines.join("\n")}\n`;
}
