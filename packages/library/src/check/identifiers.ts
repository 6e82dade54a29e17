/** Typed identifiers, suppliers' codes and barcodes: each on one sellable only. */

import { targetsOf } from "../catalogue/catalogue.js";
import type { ReadonlyTable } from "../catalogue/readonly-table.js";
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

/** There are many: who has one first is kept as a number. */
function checkBarcodes({ catalogue, findings }: CheckContext): void {
  const tables = [catalogue.table("product"), catalogue.table("variant")];
  const first = new Map<string, number>();
  tables.forEach((table, which) => {
    const column = table.texts.get("barcode");
    for (let row = 0; column && row < table.size; row++) {
      const barcode = column.get(row);
      if (typeof barcode !== "string") continue;
      const known = first.get(barcode);
      if (known === undefined) {
        first.set(barcode, row * tables.length + which);
        continue;
      }
      const other = tables[known % tables.length]!;
      const at = catalogue.location(table, row, "barcode");
      const facts = { type: "barcode", value: barcode };
      const location = catalogue.location(other, Math.floor(known / tables.length), "barcode");
      findings.add(finding("check/repeated-identifier", facts, at, [location]));
    }
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
