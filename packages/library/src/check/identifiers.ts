/** Typed identifiers, suppliers' codes and barcodes: each on one sellable only. */

import { targetsOf } from "../catalogue/catalogue.js";
import type { ReadonlyTable } from "../catalogue/readonly-table.js";
import type { ReadonlyTextColumn } from "../catalogue/text-column.js";
import { finding } from "../findings/finding.js";
import type { Location } from "../location.js";
import type { CheckContext, Check } from "./rule.js";

export const checkIdentifiers: Check = (context) => {
  const { catalogue, findings } = context;
  const seen = new Map<string, () => Location>();
  const see = (type: string, value: string, location: () => Location): void => {
    const key = `${type}\u0000${value}`;
    const first = seen.get(key);
    if (first) findings.add(finding("check/repeated-identifier", { type, value }, location(), [first()]));
    else seen.set(key, location);
  };
  checkBarcodes(context);
  const suppliers = catalogue.table("supplier");
  for (const owner of ["product", "variant"]) {
    const identifiers = catalogue.table(`${owner}.identifiers`);
    each(identifiers, "value", (value, row) =>
      see(identifiers.text("type", row) ?? "", value, () =>
        catalogue.location(identifiers, row, "identifiers[].value"),
      ),
    );
    const supplies = catalogue.table(`${owner}.supplies`);
    each(supplies, "code", (code, row) => {
      const supplier = targetsOf(catalogue, supplies, "supplier", row)[0];
      const whose = supplier === undefined ? "a supplier's code" : `code of ${suppliers.key(supplier)}`;
      see(whose, code, () => catalogue.location(supplies, row, "supplies[].code"));
    });
  }
};

interface BarcodesOf {
  readonly table: ReadonlyTable;
  readonly column: ReadonlyTextColumn;
}

/** There are many: by their texts only those are looked for that come again as numbers, or are none. */
function checkBarcodes({ catalogue, findings }: CheckContext): void {
  const all = ["product", "variant"].flatMap((name): BarcodesOf[] => {
    const table = catalogue.table(name);
    const column = table.texts.get("barcode");
    return column ? [{ table, column }] : [];
  });
  const { again, hasOthers } = numbersAgain(all);
  if (again.size === 0 && !hasOthers) return;
  const first = new Map<string, number>();
  all.forEach(({ table, column }, which) => {
    for (let row = 0; row < table.size; row++) {
      const barcode = column.get(row);
      if (typeof barcode !== "string") continue;
      const number = numberOf(barcode);
      if (number !== undefined && !again.has(number)) continue;
      const known = first.get(barcode);
      if (known === undefined) {
        first.set(barcode, row * all.length + which);
        continue;
      }
      findings.addOf("check/repeated-identifier", () => {
        const at = catalogue.location(table, row, "barcode");
        const facts = { type: "barcode", value: barcode };
        const other = all[known % all.length]!.table;
        const location = catalogue.location(other, Math.floor(known / all.length), "barcode");
        return finding("check/repeated-identifier", facts, at, [location]);
      });
    }
  });
}

/** The barcodes that several records have, as numbers, and whether some are no numbers. */
function numbersAgain(all: readonly BarcodesOf[]): {
  readonly again: ReadonlySet<number>;
  readonly hasOthers: boolean;
} {
  const numbers = new Float64Array(all.reduce((sum, { table }) => sum + table.size, 0));
  let count = 0;
  let hasOthers = false;
  for (const { table, column } of all)
    for (let row = 0; row < table.size; row++) {
      const barcode = column.get(row);
      if (typeof barcode !== "string") continue;
      const number = numberOf(barcode);
      if (number === undefined) hasOthers = true;
      else numbers[count++] = number;
    }
  const sorted = numbers.subarray(0, count).sort();
  const again = new Set<number>();
  for (let at = 1; at < count; at++) if (sorted[at] === sorted[at - 1]) again.add(sorted[at]!);
  return { again, hasOthers };
}

const mostDigits = 15;

/** Digits as a number of their own, zeros in front included: a 1 before them. @returns undefined for what is not digits alone. */
function numberOf(text: string): number | undefined {
  if (text.length > mostDigits) return undefined;
  let number = 1;
  for (let at = 0; at < text.length; at++) {
    const digit = text.charCodeAt(at) - 48;
    if (digit < 0 || digit > 9) return undefined;
    number = number * 10 + digit;
  }
  return number;
}

function each(table: ReadonlyTable, field: string, see: (text: string, row: number) => void): void {
  const column = table.texts.get(field);
  if (!column) return;
  for (let row = 0; row < table.size; row++) {
    const text = column.get(row);
    if (typeof text === "string" && text !== "") see(text, row);
  }
}
