/** Findings about what the target allows and requires. */

import { error, note, warning } from "../definition.js";
import { aKind, kindName, listed, nearestOf, quoted, some, type Text } from "../wording.js";

type ColumnFacts = { readonly column: string; readonly target: string };
type Instead = { readonly instead: Text | undefined };
const insteadIs = (instead: Text | undefined): string => (instead === undefined ? "" : `. Instead: ${instead}`);

export const target = {
  "target/required": error((f: ColumnFacts) => `${f.target} requires a value in "${f.column}"`, "Fill the field."),
  "target/half": error(
    (f: ColumnFacts & { partner: string }) =>
      `"${f.column}" is filled but "${f.partner}" is empty. ${f.target} takes both or neither`,
    "Fill both, or empty both.",
  ),
  "target/not-fitting": error(
    (f: ColumnFacts & { text: string; because: Text }) =>
      `${quoted(f.text)} is not allowed in "${f.column}" of ${f.target}: ${f.because}`,
    "Correct the cell, or those that it is compared with.",
  ),
  "target/condition": error(
    (f: ColumnFacts & { because: string }) => `${f.target} does not take "${f.column}": ${f.because}`,
    "Correct the row.",
  ),
  "target/needed": error(
    (f: { columns: readonly string[]; field: string; is: string; target: string }) =>
      `${f.target} needs ${f.columns.map((column) => `"${column}"`).join(" or ")} for products with ${f.field} "${f.is}"`,
    "Fill one of the columns.",
  ),
  "target/part-missing": error(
    (f: ColumnFacts) => `an entry has no "${f.column}", and ${f.target} needs it`,
    "Fill the fields that the cell is made of.",
  ),
  "target/repeated-entry": error(
    (f: { columns: readonly string[]; target: string }) =>
      `two entries of a record have the same ${f.columns.map((column) => `"${column}"`).join(", ")}. ${f.target} keeps only the last one`,
    "Change one of the two, or leave it out.",
  ),
  "target/uncarried-kind": warning(
    (f: Instead & { kind: string; count: number; target: string }) =>
      `${f.target} cannot store ${aKind(f.kind)}. ${some(f.count, "record has", "records have")} no place on it${insteadIs(f.instead)}`,
    "Keep these records elsewhere, or express them in another way.",
  ),
  "target/too-long": error(
    (f: ColumnFacts & { chars: number; most: number }) =>
      `the text has ${f.chars} characters. ${f.target} allows ${f.most} in "${f.column}"`,
    "Shorten the text.",
  ),
  "target/cut": warning(
    (f: ColumnFacts & { chars: number; most: number }) =>
      `the text has ${f.chars} characters. ${f.target} cuts "${f.column}" after ${f.most}`,
    "Shorten the text.",
  ),
  "target/characters": error(
    (f: ColumnFacts & { text: string; allowed: Text }) =>
      `${quoted(f.text)} is not allowed in "${f.column}". ${f.target} takes ${f.allowed}`,
    "Change the text.",
  ),
  "target/out-of-range": error(
    (f: ColumnFacts & { text: string; range: Text }) =>
      `${f.text} is not allowed in "${f.column}". ${f.target} takes ${f.range}`,
    "Correct the number.",
  ),
  "target/too-many-entries": error(
    (f: ColumnFacts & { count: number; most: number }) =>
      `the list has ${some(f.count, "entry", "entries")}. ${f.target} allows ${f.most} in "${f.column}"`,
    "Remove some of them.",
  ),
  "target/too-deep": error(
    (f: ColumnFacts & { depth: number; most: number }) =>
      `the category is at level ${f.depth}. ${f.target} allows ${some(f.most, "level")} in "${f.column}"`,
    "Move it higher in the tree.",
  ),
  "target/longer-than-recommended": warning(
    (f: { column: string; chars: number; advised: number; target: string }) =>
      `${f.column} has ${f.chars} characters. ${f.target} recommends at most ${f.advised}`,
    "Shorten it if it matters where it is shown.",
  ),
  "target/recommended": note(
    (f: { column: string; kind: string; count: number; examples: readonly string[]; by: string; target: string }) =>
      `${f.target} recommends a value in "${f.column}". ${some(f.count, `${kindName(f.kind)} record has`, `${kindName(f.kind)} records have`)} none: ${listed(f.examples, f.count)}`,
    "Fill it, or derive it from other fields, if it matters to you.",
  ),
  "target/overwritten": note(
    (f: { column: string; kind: string; count: number; examples: readonly string[]; by: string; target: string }) =>
      `"${f.column}" is overwritten by ${f.by}. ${some(f.count, `${kindName(f.kind)} record does`, `${kindName(f.kind)} records do`)} not keep the uploaded value: ${listed(f.examples, f.count)}`,
    "Maintain it in that system. The uploaded value stays only until that system next writes.",
  ),
  "target/more-axes-than-recommended": warning(
    (f: { axes: number; advised: number; target: string }) =>
      `the product has ${some(f.axes, "axis", "axes")}. ${f.target} recommends at most ${f.advised}`,
    "Leave it, or split the product.",
  ),
  "target/too-many-axes": error(
    (f: { axes: number; most: number; target: string }) =>
      `the product has ${some(f.axes, "axis", "axes")}. ${f.target} allows ${f.most}`,
    "Split the product, or join two axes.",
  ),
  "target/not-made": error(
    (f: { column: string; name: string; target: string }) =>
      `${f.column} names "${f.name}", but no import of ${f.target} makes such a record, and unknown names are refused`,
    "Give the id that the platform has for it, or say in the target what becomes of unknown names.",
  ),
  "target/left-out": warning(
    (f: { column: string; name: string; target: string }) =>
      `${f.column} names "${f.name}", but no import of ${f.target} makes such a record: the name is left out`,
    "Give the id that the platform has for it, if there is one.",
  ),
  "target/uncarried": warning(
    (f: Instead & { field: string; count: number; examples: readonly string[]; target: string }) =>
      `${f.target} has no place for ${f.field}. ${some(f.count, "record has", "records have")} it: ${listed(f.examples, f.count)}${insteadIs(f.instead)}`,
    "It will not be on the platform. Keep it elsewhere if you need it.",
  ),
  "target/formula": warning(
    (f: { column: string; text: string }) =>
      `"${f.column}" begins like a formula (${quoted(f.text)}). A spreadsheet program would run it`,
    "Upload the file as it is. If you have to open it in a spreadsheet program, import the column as text.",
  ),
  "target/no-import": error(
    (f: { kind: string; key: string; imports: readonly string[]; target: string; problem: Text | undefined }) =>
      `${f.kind} "${f.key}" fits none of the imports of ${f.target}: ${f.imports.join(", ")}${f.problem === undefined ? "" : ` (${f.problem})`}`,
    'Correct the record, or the condition under "for" in the target.',
  ),
  "target/variants-only": error(
    (f: { column: string; product: string; variants: number; target: string }) =>
      `this names product "${f.product}", which has ${some(f.variants, "variant")}. "${f.column}" of ${f.target} can only name a single variant by its code`,
    "Name one of its variants in the source.",
  ),
  "target/empty-category": warning(
    (f: { count: number; examples: readonly string[]; target: string }) =>
      `${some(f.count, "category has", "categories have")} no products, and ${f.target} creates only categories that a product names: ${listed(f.examples, f.count)}`,
    "No action is needed if shoppers need not see them yet.",
  ),
  "target/not-listed": error(
    (f: { name: string; list: string; target: string; nearest: readonly string[] }) =>
      `${quoted(f.name)} is not in the list ${f.list} of ${f.target}${nearestOf(f.nearest)}`,
    'Correct the name, or add it to the list on the platform and under "has" in the project.',
  ),
  "target/not-there": error(
    (f: { kind: string; name: string; target: string; nearest: readonly string[] }) =>
      `${f.target} has no ${kindName(f.kind)} ${quoted(f.name)}${nearestOf(f.nearest)}`,
    'Correct the name, or add it on the platform and under "has" in the project.',
  ),
  "write/cannot-be-written": error(
    (f: { column: string; text: string; wanted: Text }) =>
      `${quoted(f.text)} cannot be written into "${f.column}": the column takes ${f.wanted}`,
    "Change the text.",
  ),
  "write/names-incomplete": warning(
    (f: { column: string; names: readonly string[]; lang: string }) =>
      `"${f.column}" stays blank: other names beside ${listed(f.names, f.names.length)} are missing in ${f.lang}`,
    "Add the missing names, or leave the names in this language out.",
  ),
};
