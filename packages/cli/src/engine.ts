/** How the engine optimises what a command runs: not for a short command, and with less inlining than usual. */

import { setFlagsFromString } from "node:v8";

/** So much bytecode a function runs before the engine thinks of optimising it. */
const patient = 2_000_000;
/** The engine's own figure. */
const usual = 67_584;
/** A command that takes longer is a long one, whatever it reads. Milliseconds. */
const longEnough = 1_500;
/** Sources of so many bytes make a long run. */
const muchToRead = 1_000_000;
/** So much bytecode of others is put into a function that is optimised. The engine's own figure is 920. */
const inlined = 400;

/** Other engines than that of Node 20, whose settings these are, are left as they are. */
const settable = process.versions.node.startsWith("20.");

/**
 * Lets a short command end before the engine optimises for it: that takes a third of its time on the processor, and
 * gains it nothing. A command that goes on is optimised as usual, but with less inlining: what is made is as fast, and
 * takes less to make.
 */
export function setUpEngine(): void {
  if (!settable) return;
  setFlagsFromString(`--max-inlined-bytecode-size-cumulative=${inlined}`);
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
