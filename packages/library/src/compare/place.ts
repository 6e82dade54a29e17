/** Where what differs stands. */

import { targetsOf, valueOn } from "../catalogue/catalogue.js";
import type { Location } from "../location.js";
import { none, type Correspondence } from "../match/correspondence.js";
import type { CatalogueDifference } from "./differences.js";

/** Where a difference stands in the own catalogue; in the other one, where only that has it. */
export function placeOf(matched: Correspondence, difference: CatalogueDifference): Location {
  const { own, other } = matched;
  const { kind, entries, ownEntry, otherEntry, field } = difference;
  if (ownEntry !== none) return own.location(own.table(`${kind}.${entries}`), ownEntry, field);
  if (otherEntry !== none) return other.location(other.table(`${kind}.${entries}`), otherEntry, field);
  const record = own.location(own.table(kind), difference.own, field);
  return field === "values" && record.column === undefined
    ? { ...record, ...columnOfValue(matched, difference) }
    : record;
}

/** The column with a variant's value that differs, by the name of its axis or its number. */
function columnOfValue(matched: Correspondence, difference: CatalogueDifference): Pick<Location, "column"> {
  const { own, other } = matched;
  const [variants, values] = [own.table("variant"), own.table("value")];
  const there = new Set(targetsOf(other, other.table("variant"), "values", difference.other));
  const mine = targetsOf(own, variants, "values", difference.own);
  const value = mine.find((row) => !there.has(matched.otherOf("value", row)));
  if (value === undefined) return {};
  const axis = values.parent(value);
  const number = targetsOf(own, own.table("product"), "axes", variants.parent(difference.own)).indexOf(axis) + 1;
  const axes = own.table("axis");
  const names = [...axes.texts.keys()].flatMap((field) => axes.text(field, axis) ?? []);
  const { headers } = own.sheets[variants.sheet(difference.own)] ?? { headers: new Map<string, string>() };
  const column = [...names, number].map((one) => headers.get(valueOn(one))).find((one) => one !== undefined);
  return column === undefined ? {} : { column };
}
