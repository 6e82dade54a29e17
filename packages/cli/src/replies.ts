/** Replies to questions on the command line: `--reply currency=CHF`. */

import type { Question } from "zest-tier";
import { listOption, UsageError, type CommandLine } from "./command.js";

/** @throws UsageError for a reply without its question. */
export function repliesOf(given: CommandLine, example: string): Map<string, string> {
  const pairs = listOption(given, "reply").map((one): [string, string] => {
    const at = one.indexOf("=");
    if (at < 1)
      throw new UsageError(`--reply ${one} has no "="`, `Give the question and the reply: --reply ${example}`);
    return [one.slice(0, at), one.slice(at + 1)];
  });
  return new Map(pairs);
}

/** @throws UsageError for a question that there is not, or a reply that is none of its choices. */
export function refuseUnknown(replies: ReadonlyMap<string, string>, questions: readonly Question[]): void {
  for (const [name, reply] of replies) {
    const known = questions.find((one) => one.name === name);
    if (!known) {
      const names = questions.map((one) => one.name).join(", ");
      throw new UsageError(`there is no question "${name}"`, `The questions are ${names}.`);
    }
    if (known.choices && !known.choices.includes(reply))
      throw new UsageError(`"${reply}" is not a reply to ${name}`, `Reply ${known.choices.join(" or ")}.`);
  }
}
