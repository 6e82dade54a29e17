/** A catalogue as sorted lines of text: what two of them have to share to be the same. */

import { targetsOf, type ResolvedCatalogue } from "#src/index.js";

/** A line for each record and entry: kind, key, fields by name. What came from where is left out. */
export function dump(catalogue: ResolvedCatalogue): string[] {
  const lines: string[] = [];
  for (const table of catalogue.tables)
    for (let row = 0; row < table.size; row++) {
      const owner = catalogue.ownerOf(table, row);
      const kind = owner.table.kind;
      const collection = table.kind.entryKey ? ` ${table.name.slice(table.name.indexOf(".") + 1)}` : "";
      const fields = [...table.texts].flatMap(([field, column]) => {
        const cell = column.get(row);
        return cell === undefined ? [] : [[field, cell ?? "(emptied)"] as const];
      });
      const references = [...table.references.keys()].flatMap((field) => {
        const spec = table.kind.fields.find((one) => one.name === field)!.reference!;
        const keys = targetsOf(catalogue, table, field, row).map((target) => catalogue.table(spec.to).key(target));
        return keys.length === 0 ? [] : [[field, keys.join()] as const];
      });
      const order = (field: string) => table.kind.fields.findIndex((one) => one.name === field.split("@")[0]);
      const all = [...fields, ...references].sort(([a], [b]) =>
        collection === "" ? (a < b ? -1 : 1) : order(a) - order(b),
      );
      const words = all.map(([field, value]) => ` ${field}=${value}`).join("");
      lines.push(`${kind.name} ${owner.table.key(owner.row)}${collection}${words}`);
    }
  return lines;
}
