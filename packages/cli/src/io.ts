/** What a command sees of the terminal. Tests bring their own. */

import picocolors from "picocolors";

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
  /** Resolves when the user wants to stop a command that runs until then. */
  readonly stopped: () => Promise<void>;
}

export type Colours = ReturnType<typeof picocolors.createColors>;
export const coloursOf = (io: Io): Colours => picocolors.createColors(io.colour);
