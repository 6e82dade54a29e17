/**
 * The form of a command: data, from which parsing, help and docs are made. A new command is a file in `commands/`, listed in `main.ts`, and
 * what it does a file in `run/`, which is loaded when it is called.
 */

import type { Language } from "zest-tier";
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
  /** A first argument; further ones of one sort. */
  readonly argument?: { readonly flags: string; readonly means: string; readonly choices?: readonly string[] };
  readonly more?: { readonly flags: string; readonly means: string };
  readonly options: readonly OptionSpec[];
  readonly examples: readonly { readonly line: string; readonly does: string }[];
  /** What it does. */
  readonly load: () => Promise<{ readonly run: Run }>;
}

/** @returns the exit code: 0 fine, 1 errors found, 2 usage error, 3 could not read or write. */
export type Run = (given: CommandLine, io: Io) => Promise<number>;

export interface CommandLine {
  readonly argument: string | undefined;
  /** Further arguments. */
  readonly more?: readonly string[] | undefined;
  readonly options: Readonly<Record<string, string | boolean | readonly string[] | undefined>>;
}

/** A usage error: exit code 2, and a hint. */
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
  means: "the project file, or its folder (default: the current folder)",
};
const languages: readonly Language[] = ["en", "de"];
/** How a command shows what it found: on every command that has findings. */
export const outputOptions: readonly OptionSpec[] = [
  {
    flags: "--format <format>",
    means: "text for people, json for programs, sarif for the findings alone (SARIF 2.1.0)",
    choices: ["text", "json", "sarif"],
    preset: "text",
  },
  {
    flags: "--language <tag>",
    means: "the language of findings, steps and run sheets",
    choices: languages,
    preset: "en",
  },
];
export const targetOption: OptionSpec = {
  flags: "--for <target>",
  means: "which target of the project (default: the first)",
};
export const exportOption: OptionSpec = {
  flags: "--export <file>",
  means: "an export of the platform: what is on it now (JSON, or its own files; repeat it for several)",
  many: true,
};
export const wholeRangeOption: OptionSpec = {
  flags: "--whole-range",
  means:
    "upload the whole range, so that records that it does not name are deleted (needs --export; each is reported first)",
};
export const trialOption: OptionSpec = {
  flags: "--trial",
  means: "only the few products that use every feature: a first import before the whole range",
};
export const uploadOption: OptionSpec = {
  flags: "--upload <folder>",
  means: "the upload folder (default: upload-TARGET beside the project)",
};
export const leniencyOptions: readonly OptionSpec[] = [
  { flags: "--hold-back", means: "leave out faulty records and everything that depends on them, and list them" },
  {
    flags: "--despite <code>",
    means: "build although there are errors with this code, to rehearse what they do",
    many: true,
  },
];

export const noRehearsalOption: OptionSpec = {
  flags: "--no-rehearsal",
  means: "write the folder without rehearsing it first",
};

export const allOption: OptionSpec = { flags: "--all", means: "list every finding and every location" };

export const textOption = (given: CommandLine, name: string): string | undefined => {
  const value = given.options[name];
  return typeof value === "string" ? value : undefined;
};
/** An option that may be given several times. */
export const listOption = (given: CommandLine, name: string): readonly string[] => {
  const value = given.options[name];
  if (typeof value === "string") return [value];
  return typeof value === "object" ? value : [];
};
export const formatOf = (given: CommandLine): string | undefined => textOption(given, "format");
export const isJson = (given: CommandLine): boolean => formatOf(given) === "json";
export const languageOf = (given: CommandLine): Language =>
  languages.find((one) => one === given.options["language"]) ?? "en";

export const portOption: OptionSpec = {
  flags: "--port <number>",
  means: "the port to listen on; 0 takes a free one",
  preset: "0",
};

/** @throws UsageError for what is not a valid port. */
export function portOf(given: CommandLine): number {
  const port = Number(textOption(given, "port"));
  if (!Number.isInteger(port) || port < 0 || port > 65_535)
    throw new UsageError(`"${textOption(given, "port")}" is not a valid port`, "Give a whole number from 0 to 65535.");
  return port;
}
