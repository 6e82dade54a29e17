/** Workbooks are taken apart in a thread of their own, with bounds of memory and time. */

import { Worker } from "node:worker_threads";
import { Refusal } from "../common/refusal.js";
import type { Answered, Asked } from "./sheet-thread.js";

const longest = 30_000;
const mostMegabytes = 1_024;

export class ThreadedReader {
  #thread: Worker | undefined;
  #last = 0;
  readonly #waiting = new Map<number, (rows: unknown[][] | undefined) => void>();

  /** The cells of the first sheet. @throws Refusal where there are none to be had within the bounds. */
  async cells(bytes: Uint8Array): Promise<unknown[][]> {
    const thread = (this.#thread ??= this.#start());
    const number = ++this.#last;
    const tooLong = setTimeout(() => void thread.terminate(), longest);
    try {
      const rows = await new Promise<unknown[][] | undefined>((resolve) => {
        this.#waiting.set(number, resolve);
        thread.postMessage({ number, bytes } satisfies Asked);
      });
      if (!rows) throw new Refusal("not-xlsx");
      return rows;
    } finally {
      clearTimeout(tooLong);
      this.#waiting.delete(number);
    }
  }

  async close(): Promise<void> {
    await this.#thread?.terminate();
  }

  #start(): Worker {
    const thread = new Worker(new URL("./sheet-thread.js", import.meta.url), {
      resourceLimits: { maxOldGenerationSizeMb: mostMegabytes },
    });
    thread.unref();
    thread.on("message", ({ number, rows }: Answered) => this.#waiting.get(number)?.(rows));
    // Out of memory, or stopped: what was asked of it has no answer, and the next workbook gets a new thread.
    thread.on("error", () => undefined);
    thread.on("exit", () => {
      this.#thread = undefined;
      for (const resolve of this.#waiting.values()) resolve(undefined);
    });
    return thread;
  }
}
