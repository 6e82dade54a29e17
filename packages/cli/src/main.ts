/** The command line: parse → load → call one public function → render → exit code. Only the bin file exits. */

import { Command as Parser, CommanderError, Option } from "commander";
import { type Command, type CommandLine, UsageError } from "./command.js";
import { build } from "./commands/build.js";
import { calibrate } from "./commands/calibrate.js";
import { collect } from "./commands/collect.js";
import { check } from "./commands/check.js";
import { compare } from "./commands/compare.js";
import { completion } from "./commands/completion.js";
import { demo } from "./commands/demo.js";
import { draft } from "./commands/draft.js";
import { guide } from "./commands/guide.js";
import { ledger } from "./commands/ledger.js";
import { newProject } from "./commands/new.js";
import { plan } from "./commands/plan.js";
import { rehearse } from "./commands/rehearse.js";
import { reshape } from "./commands/reshape.js";
import { standin } from "./commands/standin.js";
import { trace } from "./commands/trace.js";
import { trial } from "./commands/trial.js";
import { translations } from "./commands/translations.js";
import { coloursOf, safeIo, type Io } from "./io.js";
import { version } from "./version.js";

/** Every command, in the order in which help lists them. */
export const commands: readonly Command[] = [
  demo,
  newProject,
  draft,
  calibrate,
  guide,
  check,
  plan,
  build,
  rehearse,
  reshape,
  collect,
  ledger,
  compare,
  trace,
  trial,
  translations,
  standin,
  completion,
];

/** @param argv without the program's own name. @returns the exit code: 0 fine, 1 errors found, 2 usage error, 3 could not read or write. */
export async function main(argv: readonly string[], terminal: Io): Promise<number> {
  const io = safeIo(terminal);
  let code = 0;
  const parser = parserOf(io, async (command, given, typed) => {
    code = await runCommand(command, given, typed, io);
  });
  try {
    await parser.parseAsync([...argv], { from: "user" });
    return code;
  } catch (error) {
    if (error instanceof CommanderError) {
      const renamed = renamedWord(argv);
      if (error.exitCode !== 0 && renamed !== undefined) io.err(`→ ${renamed}\n`);
      return error.exitCode === 0 ? 0 : 2;
    }
    if (!(error instanceof UsageError)) throw error;
    const colours = coloursOf(io);
    io.err(`${colours.red("error:")} ${error.message}\n${colours.green("→")} ${error.hint}\n`);
    return 2;
  }
}

/** What the disk refuses in the middle of a command is a finding like any other. */
async function runCommand(command: Command, given: CommandLine, typed: ReadonlySet<string>, io: Io): Promise<number> {
  const read = new Set(outputNames);
  try {
    const { run } = await command.load();
    const code = await run({ ...given, options: noting(given.options, read) }, io);
    const unread = [...typed].find((name) => !read.has(name));
    // Where errors ended it, the command came to no option that it would have looked at later.
    if (code > 0 || unread === undefined) return code;
    throw new UsageError(
      `--${unread.replace(/[A-Z]/g, (letter) => `-${letter.toLowerCase()}`)} had no effect together with these options`,
      `Leave it out. zest-tier ${command.name} --help explains the options.`,
    );
  } catch (error) {
    if (error instanceof UsageError) throw error;
    const { sayTrouble } = await import("./trouble.js");
    if (!sayTrouble(error, command.name, given, io)) throw error;
    return 3;
  }
}

/** Options of the output alone: a command may finish without showing what they are about. */
const outputNames: readonly string[] = ["format", "language", "all"];

/** @returns the same options; each name that a command looks up is added to `read`. */
const noting = (options: CommandLine["options"], read: Set<string>): CommandLine["options"] =>
  new Proxy(options, {
    get(of, name, self) {
      if (typeof name === "string") read.add(name);
      return Reflect.get(of, name, self) as unknown;
    },
  });

/** Options and commands by their old names. */
const renamed: Readonly<Record<string, string>> = {
  "--target": "--for",
  "--replace": "--whole-range",
  "--repair": "--bulk-change",
  "--answers": "--reports",
  "--answer": "--reply",
  "--month": "--later",
  words: "translations",
};

function renamedWord(argv: readonly string[]): string | undefined {
  const old = argv.find((word, at) => Object.hasOwn(renamed, word) && (word.startsWith("--") || at === 0));
  return old === undefined ? undefined : `${old} is now called ${renamed[old]}`;
}

function parserOf(
  io: Io,
  run: (command: Command, given: CommandLine, typed: ReadonlySet<string>) => Promise<void>,
): Parser {
  const parser = new Parser("zest-tier")
    .description(
      "Know before you upload. Reads suppliers' files, reports every error, works out the import order, writes the import files, and rehearses the import.",
    )
    .version(version(), "--version", "show the version")
    .helpCommand(false)
    .exitOverride()
    .showHelpAfterError("→ zest-tier --help lists the commands")
    .configureOutput({ writeOut: io.out, writeErr: io.err });
  for (const command of commands) {
    const sub = parser
      .command(command.name)
      .summary(command.summary)
      .description(command.summary)
      .exitOverride()
      .showHelpAfterError(`→ zest-tier ${command.name} --help`);
    sub.configureOutput({ writeOut: io.out, writeErr: io.err });
    if (command.argument) {
      const argument = sub.createArgument(command.argument.flags, command.argument.means);
      sub.addArgument(command.argument.choices ? argument.choices([...command.argument.choices]) : argument);
    }
    if (command.more) sub.addArgument(sub.createArgument(command.more.flags, command.more.means));
    for (const spec of command.options) {
      const option = new Option(spec.flags, spec.means);
      if (spec.preset !== undefined) option.default(spec.preset);
      if (spec.choices) option.choices([...spec.choices]);
      if (spec.many) option.argParser((value: string, before: string[] | undefined) => [...(before ?? []), value]);
      sub.addOption(option);
    }
    sub.addHelpText(
      "after",
      `\nExamples:\n${command.examples.map(({ line, does }) => `  ${line}\n      ${does}`).join("\n")}`,
    );
    sub.action((...args: unknown[]) => {
      const argument = command.argument ? (args[0] as string | undefined) : undefined;
      const more = command.more ? (args[1] as readonly string[]) : undefined;
      const options: CommandLine["options"] = sub.opts();
      const typed = new Set(Object.keys(options).filter((name) => sub.getOptionValueSource(name) === "cli"));
      return run(command, { argument, options, more }, typed);
    });
  }
  return parser;
}
