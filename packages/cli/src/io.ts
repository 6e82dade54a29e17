/** What a command sees of the terminal. Tests bring their own. */

import picocolors from "picocolors";
// Not the whole library: help and completion need no more.
import { visibleText } from "zest-tier/safe-text";

export interface Io {
  /** Data. */
  readonly out: (text: string) => void;
  /** Findings, progress, and what is wrong with the command line. */
  readonly err: (text: string) => void;
  /** Relative paths are taken from here. */
  readonly cwd: string;
  readonly colour: boolean;
  /** How many characters a line holds. */
  readonly width: number;
  /** How many lines a screen holds: findings are cut to it. */
  readonly height: number;
  /** Whether someone watches: only then is progress drawn. */
  readonly watched: boolean;
  /** Asks the person at the terminal; left out where the terminal is none. */
  readonly ask?: ((question: string) => Promise<string>) | undefined;
  /** Whether the command can be run again from its beginning, with more memory. */
  readonly mayRunAgain?: boolean | undefined;
  /** Resolves when the user wants to stop a command that runs until then. */
  readonly stopped: () => Promise<void>;
}

/** What our own colours write, and no other command to a terminal: bold, dim, and foreground colours but black. */
const ownColour = /(\u001b\[(?:0|1|2|22|3[1-79]|9[0-7])m)/;

/** Whatever is printed shows characters that could command a terminal by their numbers. */
export function safeIo(io: Io): Io {
  const safe = (text: string): string =>
    io.colour
      ? text
          .split(ownColour)
          .map((part, at) => (at % 2 === 1 ? part : visibleText(part)))
          .join("")
      : visibleText(text);
  return { ...io, out: (text) => io.out(safe(text)), err: (text) => io.err(safe(text)) };
}

export type Colours = ReturnType<typeof picocolors.createColors>;
export const coloursOf = (io: Io): Colours => picocolors.createColors(io.colour);
