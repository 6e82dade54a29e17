/** Long work, with pauses in it. */

import { setImmediate as nextTurn } from "node:timers/promises";

/** Lets others be answered during long work. */
export class Breather {
  #since = performance.now();

  /** Goes on at once, unless the work has run for a while. */
  async breathe(): Promise<void> {
    if (performance.now() - this.#since < 20) return;
    await nextTurn();
    this.#since = performance.now();
  }
}
