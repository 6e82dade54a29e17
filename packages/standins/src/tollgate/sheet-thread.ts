/** A thread of its own that takes workbooks apart: whatever one holds, the platform goes on answering. */

import { parentPort } from "node:worker_threads";
import readExcelFile from "read-excel-file/node";

export interface Asked {
  readonly number: number;
  readonly bytes: Uint8Array;
}
export interface Answered {
  readonly number: number;
  /** The cells of the first sheet; undefined for what cannot be read. */
  readonly rows: unknown[][] | undefined;
}

parentPort?.on("message", ({ number, bytes }: Asked) => {
  const answer = (rows: unknown[][] | undefined) => parentPort!.postMessage({ number, rows } satisfies Answered);
  readExcelFile(Buffer.from(bytes), { trim: false }).then(
    (sheets) => answer((sheets[0] as { readonly data: unknown[][] } | undefined)?.data ?? []),
    () => answer(undefined),
  );
});
