/** The form of a command: data, from which parsing, help and docs are made. A new command is a file in `commands/`, listed in `main.ts`. */

import type { Io } from "./io.js";

export interface OptionSpec {
  /** As commander writes it: `--out <folder>`. */
  readonly flags: string;
  readonly means: string;
  readonly preset?: string;
  readonly choices?: readonly string[];
  /** May be given more than once. */
  readonly many?: boolean;
}

export interface Command {
  readonly name: string;
  readonly summary: string;
  /** As commander writes it: `[project]`. */
  readonly argument?: { readonly flags: string; readonly means: string; readonly choices?: readonly string[] };
  readonly options: readonly OptionSpec[];
  readonly examples: readonly { readonly line: string; readonly does: string }[];
  /** @returns the exit code: 0 fine, 1 errors found, 2 usage error, 3 could not read or write. */
  readonly run: (given: CommandLine, io: Io) => Promise<number>;
}

export interface CommandLine {
  readonly argument: string | undefined;
  readonly options: Readonly<Record<string, string | boolean | readonly string[] | undefined>>;
}

/** Wrong use of the command line: exit code 2, and a hint. */
export class UsageError extends Error {
  constructor(
    message: string,
    readonly hint: string,
  ) {
    super(message);
  }
}

export const projectArgument = {
  flags: "[project]",
  means: "the project file, or the folder that has one (default: here)",
};
export const formatOption: OptionSpec = {
  flags: "--format <form>",
  means: "how to say it",
  choices: ["text", "json"],
  preset: "text",
};
export const targetOption: OptionSpec = {
  flags: "--for <target>",
  means: "which of the project's targets (default: its first)",
};
export const exportOption: OptionSpec = {
  flags: "--export <file>",
  means: "what the platform holds already, as it exports it: JSON, or one of its files",
};
export const wholeRangeOption: OptionSpec = {
  flags: "--whole-range",
  means:
    "upload the whole range; what it does not name is deleted there (needs --export; lists each, and refuses unless told)",
};
export const trialOption: OptionSpec = {
  flags: "--trial",
  means: "only the few products that show everything: a first import before the whole",
};
export const uploadOption: OptionSpec = {
  flags: "--upload <folder>",
  means: "the upload folder (default: upload-TARGET beside the project)",
};
export const leniencyOptions: readonly OptionSpec[] = [
  { flags: "--hold-back", means: "leave out faulty records and all that depend on them, and list them" },
  {
    flags: "--despite <code>",
    means: "build although there are errors of this code, to rehearse the damage",
    many: true,
  },
];

export const allOption: OptionSpec = { flags: "--all", means: "list every finding, not only the first of each kind" };

export const textOption = (given: CommandLine, name: string): string | undefined => {
  const value = given.options[name];
  return typeof value === "string" ? value : undefined;
};
export const isJson = (given: CommandLine): boolean => given.options["format"] === "json";

export const portOption: OptionSpec = {
  flags: "--port <number>",
  means: "where it listens; 0 takes a free port",
  preset: "0",
};

/** @throws WrongUse for what is no port. */
export function portOf(given: CommandLine): number {
  const port = Number(textOption(given, "port"));
  if (!Number.isInteger(port) || port < 0 || port > 65_535)
    throw new UsageError(`"${textOption(given, "port")}" is no port`, "Take a whole number from 0 to 65535.");
  return port;
}
