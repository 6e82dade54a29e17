/** `only` and `trimmed`: which characters a cell may hold, and where. */

import { finding } from "../../findings/finding.js";
import { phrase } from "../../phrases/phrase.js";
import type { RuleKind } from "./rule-kind.js";

const known = new Map<string, RegExp>();
const mostKnown = 1_000;

/** A test for texts of characters from a class; the class is checked to be no more than that by escaping what could end it. */
export function onlyThese(characters: string): RegExp {
  const found = known.get(characters);
  if (found) return found;
  const made = new RegExp(`^[${characters.replace(/[\\\]^]/g, "\\$&")}]*$`, "u");
  if (known.size >= mostKnown) known.clear();
  known.set(characters, made);
  return made;
}

export const onlyRule: RuleKind = {
  cell({ only }, { header: column, target }) {
    if (only === undefined) return undefined;
    const isAllowed = onlyThese(only);
    return ({ text }) =>
      isAllowed.test(text)
        ? undefined
        : finding("target/characters", { column, target, text, allowed: phrase("only {0}", only) });
  },
  describe: ({ only }) => (only === undefined ? undefined : phrase("only {0}", only)),
};

export const trimmedRule: RuleKind = {
  cell: ({ trimmed }, { header: column, target }) =>
    trimmed
      ? ({ text }) =>
          text.trim() === text
            ? undefined
            : finding("target/characters", {
                column,
                target,
                text,
                allowed: phrase("no space at the beginning or the end"),
              })
      : undefined,
};
