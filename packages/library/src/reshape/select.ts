/** The records that an operation is about: by kind, keys, category, expression. */

import { z } from "zod";
import { present } from "../checked.js";
import { targetsOf } from "../catalogue/catalogue.js";
import { FactReader, rootsOf } from "../derive/facts.js";
import type { Kinds } from "../kinds.js";
import { phrase, type Text } from "../phrases/phrase.js";
import { findRecord, liesIn } from "./records.js";
import type { Work } from "./work.js";

/** Which records an operation is about. */
export const givenSelection = z.strictObject({
  of: z.string().min(1),
  /** A category: what stands in it, or below it. */
  in: z.string().min(1).optional(),
  /** An expression over the record's fields. */
  where: z.string().min(1).optional(),
  keys: z.array(z.string().min(1)).min(1).optional(),
});
/** Which records an operation is about. */
export type Selection = z.infer<typeof givenSelection>;

/** What is wrong with a selection whatever the sources say: a kind that is not there, a condition that cannot be read. */
export async function selectionProblem(
  { of, in: within, where }: Selection,
  kinds: Kinds,
): Promise<{ readonly word: keyof Selection; readonly problem: Text } | undefined> {
  const kind = kinds.find(of);
  if (!kind || kind.entryKey) return { word: "of", problem: phrase('there is no kind "{0}"', of) };
  if (within !== undefined && !["product", "variant", "category"].includes(of))
    return { word: "in", problem: phrase("{0} records are in no category", of) };
  if (where === undefined) return undefined;
  const { expressionParser } = await import("../derive/expression.js");
  const parsed = expressionParser(rootsOf(kind, kinds))(where);
  return parsed.ok
    ? undefined
    : { word: "where", problem: phrase('the condition "{0}" cannot be read: {1}', where, parsed.problem) };
}

/** @returns the rows, in order; undefined, and refused, where the selection names what is not there. */
export async function select(work: Work, selection: Selection): Promise<number[] | undefined> {
  const { catalogue } = work;
  const { of, in: within, where, keys } = selection;
  const wrong = await selectionProblem(selection, catalogue.kinds);
  if (wrong) return work.refuse(wrong.problem);
  const kind = catalogue.kinds.get(of);
  const table = catalogue.table(of);
  const unknown = keys?.find((one) => table.find(one) === undefined);
  if (unknown !== undefined) return work.refuse(phrase('there is no {0} "{1}"', of, unknown));
  const named = keys && [...new Set(keys.map((one) => present(table.find(one))))].sort((one, other) => one - other);
  let rows = named ?? [...work.rows(of)];
  if (within !== undefined) {
    const category = findRecord(work, "category", within);
    if (category === undefined) return work.refuse(phrase('there is no {0} "{1}"', "category", within));
    const products = catalogue.table("product");
    rows = rows.filter((row) => {
      const categories =
        of === "category"
          ? targetsOf(catalogue, table, "parent", row)
          : targetsOf(catalogue, products, "categories", of === "variant" ? table.parent(row) : row);
      return categories.some((one) => liesIn(catalogue, one, category));
    });
  }
  if (where === undefined) return rows;
  const { expressionParser } = await import("../derive/expression.js");
  const parsed = expressionParser(rootsOf(kind, catalogue.kinds))(where);
  if (!parsed.ok) return work.refuse(parsed.problem);
  const facts = new FactReader(catalogue, kind, parsed.expression.names, catalogue);
  return rows.filter((row) => {
    const holds = parsed.expression.evaluate(facts.read(row));
    return holds.is === "flag" && holds.flag;
  });
}
