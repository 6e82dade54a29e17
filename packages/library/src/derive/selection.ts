/** References to a selection: every record that fits a condition, but the one that refers. */

import type { Catalogue } from "../catalogue/catalogue.js";
import { phrase, type Text } from "../phrases/phrase.js";
import { betweenKeys } from "./compile.js";
import type { Expression } from "./expression.js";
import { FactReader } from "./facts.js";

/** A list of references that is longer helps no shopper, and costs each record all of it. */
const mostSelected = 500;

/**
 * @param to the kind of the records that are selected.
 * @param report takes a record of that kind that the condition fails on.
 * @returns for a key of a record of that kind, or undefined for one of another, the keys of all others, as one text.
 */
export function selectionReader(
  catalogue: Catalogue,
  to: string,
  fits: Expression,
  report: (row: number, problem: Text) => void,
): (own: string | undefined) => string | { readonly problem: Text } | undefined {
  const table = catalogue.table(to);
  const facts = new FactReader(catalogue, table.kind, fits.names, undefined);
  const keys: string[] = [];
  for (let row = 0; row < table.size; row++) {
    const holds = fits.evaluate(facts.read(row));
    if (holds.is === "failed") report(row, holds.problem);
    if (holds.is === "flag" && holds.flag) keys.push(table.key(row));
  }
  return (own) => {
    if (keys.length > mostSelected)
      return { problem: phrase("{0} records fit, and at most {1} can be referred to", keys.length, mostSelected) };
    const others = keys.filter((key) => key !== own);
    return others.length === 0 ? undefined : others.join(betweenKeys);
  };
}
