/** What updates add to records. */

import { targetsOf, type ResolvedCatalogue } from "../catalogue/catalogue.js";
import type { ReadonlyTable } from "../catalogue/readonly-table.js";
import { fieldOfColumn, splitAddition } from "../field-name.js";
import type { Lang } from "../nominal.js";

/** Whether a record has what an update adds to it: `product.prices`, `product@de`, `product.axes@de`. */
export function hasAddition(catalogue: ResolvedCatalogue, update: string, kind: string): (row: number) => boolean {
  const table = catalogue.table(kind);
  const { lang, part } = splitAddition(update);
  if (lang !== undefined && part !== undefined) {
    const text = table.texts.get(`${part}@${lang}`);
    return text ? (row) => text.has(row) : namedIn(catalogue, table, part, lang);
  }
  if (lang !== undefined) {
    const columns = [...table.texts].filter(([field]) => field.endsWith(`@${lang}`)).map(([, column]) => column);
    return (row) => columns.some((column) => column.has(row));
  }
  const name = update.slice(kind.length + 1);
  if (catalogue.kinds.get(kind).entries?.[name] !== undefined) {
    const entries = catalogue.table(update);
    return (row) => entries.countChildren(row) > 0;
  }
  const texts = [...table.texts].filter(([field]) => fieldOfColumn(field) === name).map(([, column]) => column);
  if (texts.length > 0) return (row) => texts.some((column) => column.has(row));
  const references = table.references.get(name);
  return (row) => (references?.first(row) ?? -1) >= 0;
}

/** Whether what a record refers to has a name in a language. */
function namedIn(
  catalogue: ResolvedCatalogue,
  table: ReadonlyTable,
  field: string,
  lang: Lang,
): (row: number) => boolean {
  const to = table.kind.fields.find(({ name }) => name === field)?.reference?.to;
  if (to === undefined) return () => false;
  const names = catalogue.table(to).textsOf(`name@${lang}`);
  return (row) => targetsOf(catalogue, table, field, row).some((target) => names.has(target));
}
