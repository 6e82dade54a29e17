/** Products that become one: which value each of their own fields has then. */

import { fieldOfColumn } from "../field-name.js";
import { targetsOf } from "../catalogue/catalogue.js";
import { fieldNamed } from "../kind.js";
import { setTargets } from "./records.js";
import { sellableParts } from "./sellable-parts.js";
import type { Work } from "./work.js";

/** The products that become one. */
export interface Settling {
  /** Their rows, and their keys in the same order. */
  readonly originals: readonly number[];
  readonly keys: readonly string[];
  /** The row of the one that they become. */
  readonly survivor: number;
  /** By field: the key of the product whose value counts. */
  readonly take: ReadonlyMap<string, string>;
}

/** What tells a product apart, and what the operation gives anyway. */
const neverSettled: ReadonlySet<string> = new Set(["axes", "id", "position"]);

/**
 * The survivor gets, of each field, the value that `take` names, else that of the first product that has one; of a list of records, all of
 * them together. Where two products have different values, a finding says which counts.
 *
 * @param given fields that the operation makes: whatever the products have there needs no word.
 */
export function settleFields(work: Work, settling: Settling, given: ReadonlySet<string>): void {
  const products = work.catalogue.table("product");
  const sold = new Set(sellableParts(work.catalogue.kinds).fields);
  const isSettled = (field: string) => !neverSettled.has(field) && !sold.has(fieldOfColumn(field));
  for (const field of [...products.texts.keys()])
    if (isSettled(field)) settleText(work, settling, field, given.has(field));
  for (const field of [...products.references.keys()]) if (isSettled(field)) settleReference(work, settling, field);
}

function settleText(work: Work, settling: Settling, field: string, isGiven: boolean): void {
  const products = work.catalogue.table("product");
  const values = settling.originals.map((row) => products.text(field, row));
  if (isGiven) {
    const first = values.find((value) => typeof value === "string");
    products.setText(field, settling.survivor, first);
    return work.sets("product", settling.survivor, field);
  }
  const winner = winnerOf(
    work,
    settling,
    field,
    values.map((value) => value ?? ""),
  );
  if (winner !== undefined) products.setText(field, settling.survivor, values[winner]);
}

function settleReference(work: Work, settling: Settling, field: string): void {
  const { catalogue } = work;
  const products = catalogue.table("product");
  const values = settling.originals.map((row) => targetsOf(catalogue, products, field, row));
  const { reference } = fieldNamed(products.kind, field);
  if (reference?.list && !settling.take.has(field)) {
    const all = values.flat();
    if (all.length > 0) setTargets(catalogue, products, field, settling.survivor, all);
    return;
  }
  const winner = winnerOf(
    work,
    settling,
    field,
    values.map((rows) => rows.join()),
  );
  if (winner !== undefined) setTargets(catalogue, products, field, settling.survivor, values[winner] ?? []);
}

/**
 * The place of the product whose value counts; undefined where none has one. Different values without a choice in `take` are reported.
 *
 * @param values by product; blank where it has none, which is never different from another.
 */
export function winnerOf(
  work: Work,
  { keys, originals, survivor, take }: Settling,
  field: string,
  values: readonly string[],
): number | undefined {
  const chosen = take.get(field);
  const filled = values.flatMap((value, place) => (value === "" ? [] : [place]));
  const [first] = filled;
  const differ = new Set(filled.map((place) => values[place])).size > 1;
  if (chosen !== undefined || differ) work.sets("product", survivor, field);
  if (chosen !== undefined) return keys.indexOf(chosen);
  if (first === undefined) return undefined;
  if (differ) {
    const others = filled.map((place) => keys[place]!);
    const rows = filled.map((place) => originals[place]!);
    work.note("reshape/fields-differ", { field, keys: others, winner: keys[first]! }, rows);
  }
  return first;
}
