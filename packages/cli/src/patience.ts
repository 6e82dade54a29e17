/** How soon the engine optimises what it runs: not for a short command. */

import { setFlagsFromString } from "node:v8";

/** So much bytecode a function runs before the engine thinks of optimising it. */
const patient = 2_000_000;
/** The engine's own figure. */
const usual = 67_584;
/** A command that takes longer is a long one, whatever it reads. Milliseconds. */
const longEnough = 3_000;
/** Sources of so many bytes make a long run. */
const muchToRead = 2_000_000;

/** Other engines than that of Node 20, whose setting this is, are left as they are. */
const settable = process.versions.node.startsWith("20.");

/**
 * Lets a short command end before the engine optimises for it: that takes a third of its time on the processor, and
 * gains it nothing. A command that goes on is optimised as usual.
 */
export function optimiseOnlyLongRuns(): void {
  if (!settable) return;
  setFlagsFromString(`--interrupt-budget=${patient}`);
  setTimeout(optimiseAsUsual, longEnough).unref();
}

/** @param bytes of what will be read. */
export function optimiseFor(bytes: number): void {
  if (bytes >= muchToRead) optimiseAsUsual();
}

function optimiseAsUsual(): void {
  if (settable) setFlagsFromString(`--interrupt-budget=${usual}`);
}
