/** A bar on standard error while long work goes on, for someone who watches; nothing for short work or for a pipe. */

import cliProgress from "cli-progress";
import { visibleText } from "zest-tier";
import type { Io } from "./io.js";

export interface Meter {
  /** @param part what is worked on now. @param done how much of it, in the unit of the total. */
  readonly tell: (part: string, done: number) => void;
  readonly stop: () => void;
}

const quiet: Meter = { tell: () => undefined, stop: () => undefined };

/** @param worth totals below this are done before a bar could be read. */
export function startMeter(verb: string, total: number, worth: number, io: Io): Meter {
  if (!io.watched || total < worth) return quiet;
  const bar = new cliProgress.SingleBar(
    { format: `${verb} {part} {bar} {percentage} %`, clearOnComplete: true, hideCursor: true, stream: process.stderr },
    cliProgress.Presets.shades_classic,
  );
  bar.start(total, 0, { part: "" });
  const done = new Map<string, number>();
  return {
    tell: (part, amount) => {
      done.set(part, amount);
      bar.update(
        [...done.values()].reduce((sum, one) => sum + one, 0),
        { part: visibleText(part) },
      );
    },
    stop: () => bar.stop(),
  };
}
