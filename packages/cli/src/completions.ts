/** What a shell may complete a command line with: commands, options, what an option takes. */

import { existsSync, readFileSync } from "node:fs";
import { basename, dirname, join, resolve } from "node:path";
import { parse } from "yaml";
import { shippedTargetNames } from "zest-tier/node";
import type { Command, OptionSpec } from "./command.js";

/** Words that may stand there; `files` where the shell completes names of files. */
export type Completions = readonly string[] | "files";

/** @param words of the line, the program's name first. @param at which of them is typed. @param cwd where relative paths are taken from. */
export async function completionsFor(
  commands: readonly Command[],
  words: readonly string[],
  at: number,
  cwd: string,
): Promise<Completions> {
  const typed = words[at] ?? "";
  const fitting = (all: readonly string[]) => all.filter((one) => one.startsWith(typed));
  if (at <= 1) return fitting(commands.map(({ name }) => name));
  const command = commands.find(({ name }) => name === words[1]);
  if (!command) return [];
  const before = command.options.find((option) => longName(option) === words[at - 1]);
  if (before && takesValue(before)) {
    if (before.choices) return fitting(before.choices);
    return longName(before) === "--for" ? fitting(await targetsOf(command, words, cwd)) : "files";
  }
  if (typed.startsWith("-")) return fitting(command.options.map(longName).filter((name) => !words.includes(name)));
  return command.argument?.choices ? fitting(command.argument.choices) : "files";
}

const longName = ({ flags }: OptionSpec): string => /--[\w-]+/.exec(flags)?.[0] ?? flags;
const takesValue = ({ flags }: OptionSpec): boolean => flags.includes("<");

/** The targets of the project that the line is about; for a new one, those that come with Zest Tier. */
async function targetsOf({ name }: Command, words: readonly string[], cwd: string): Promise<readonly string[]> {
  if (name === "new" || name === "guide") return shippedTargetNames();
  const given = words.slice(2).find((word) => !word.startsWith("-") && existsSync(resolve(cwd, word)));
  const path = resolve(cwd, given ?? ".");
  const file = /\.ya?ml$/i.test(path) ? path : join(path, "project.yaml");
  return targetsIn(existsSync(file) ? readFileSync(file, "utf8") : "", dirname(file));
}

function targetsIn(text: string, folder: string): string[] {
  const targets = (readYaml(text) as { targets?: unknown } | undefined)?.targets;
  if (!Array.isArray(targets)) return [];
  return targets.flatMap((one: unknown): string[] => {
    const named = (one as { target?: unknown } | null)?.target;
    if (typeof named !== "string") return [];
    if (!/\.ya?ml$/i.test(named)) return [named];
    const path = join(folder, named);
    const own = existsSync(path)
      ? (readYaml(readFileSync(path, "utf8")) as { target?: unknown } | undefined)?.target
      : "";
    return [typeof own === "string" && own !== "" ? own : basename(named).replace(/\.\w+$/, "")];
  });
}

/** @returns undefined for what is not YAML: a file that is being edited completes nothing. */
function readYaml(text: string): unknown {
  try {
    return parse(text, { maxAliasCount: 0 });
  } catch {
    return undefined;
  }
}
