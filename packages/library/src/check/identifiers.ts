/** Typed identifiers, suppliers' codes and barcodes: each on one sellable only. */

import { targetsOf } from "../catalogue/catalogue.js";
import type { ReadonlyTable } from "../catalogue/readonly-table.js";
import { repeatedTexts } from "../catalogue/repeated-texts.js";
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

/** There are many: who has one first is kept as a number, and only of those that may come again. */
function checkBarcodes({ catalogue, findings }: CheckContext): void {
  const all = ["product", "variant"].flatMap((name): BarcodesOf[] => {
    const table = catalogue.table(name);
    const column = table.texts.get("barcode");
    return column ? [{ table, column }] : [];
  });
  const eachBarcode = (see: (barcode: string, row: number, which: number) => void): void =>
    all.forEach(({ table, column }, which) => {
      for (let row = 0; row < table.size; row++) {
        const barcode = column.get(row);
        if (typeof barcode === "string") see(barcode, row, which);
      }
    });
  const most = all.reduce((sum, { table }) => sum + table.size, 0);
  const comesAgain = repeatedTexts(most, eachBarcode);
  if (!comesAgain) return;
  const first = new Map<string, number>();
  eachBarcode((barcode, row, which) => {
    if (!comesAgain(barcode)) return;
    const known = first.get(barcode);
    if (known === undefined) {
      first.set(barcode, row * all.length + which);
      return;
    }
    findings.addOf("check/repeated-identifier", () => {
      const at = catalogue.location(all[which]!.table, row, "barcode");
      const facts = { type: "barcode", value: barcode };
      const other = all[known % all.length]!.table;
      const location = catalogue.location(other, Math.floor(known / all.length), "barcode");
      return finding("check/repeated-identifier", facts, at, [location]);
    });
  });
}

function each(table: ReadonlyTable, field: string, see: (text: string, row: number) => void): void {
  const column = table.texts.get(field);
  if (!column) return;
  for (let row = 0; row < table.size; row++) {
    const text = column.get(row);
    if (typeof text === "string" && text !== "") see(text, row);
  }
}
