/** Who has changed a field since it was last delivered, as a comparison found it: for fields as catalogues call them. */

import type { ResolvedCatalogue } from "../catalogue/catalogue.js";
import type { ChangedBy, Comparison } from "../compare/compare.js";
import { byLanguage } from "../layout/layout.js";
import type { Target } from "../target/target.js";

/** @param catalogue what is intended, without singles. @returns who changed a field of a record: `name@en`, `prices(price).amount`, `categories`. */
export function changedBy(
  { records }: Comparison,
  catalogue: ResolvedCatalogue,
  target: Target,
): (kind: string, row: number, field: string) => ChangedBy {
  const found = new Map(
    records.map(({ kind, key, fields }) => [`${kind} ${key}`, new Map(fields.map(({ field, by }) => [field, by]))]),
  );
  const lanes = lanesOf(target);
  const goesByCode = !target.slots.some(({ creates }) => creates.length === 1 && creates[0] === "variant");
  return (kind, row, field) => {
    const table = catalogue.table(kind);
    const key = kind === "variant" && goesByCode ? (table.text("code", row) ?? "") : table.key(row);
    const of = found.get(`${kind} ${key}`);
    if (!of) return "not known";
    const [entries = field] = field.split(/[.(]/);
    const names = [field, entries, ...(lanes.get(`${kind}.${entries}`) ?? [])];
    const known = names.flatMap((name) => of.get(name) ?? []);
    if (known[0]) return known[0];
    // Axes and values are compared by their numbers.
    const numbered = kind === "product" ? /^axis \d+$/ : /^value \d+$/;
    const isOfAxes = field === "axes" || field === "values";
    return [...of].find(([name]) => isOfAxes && numbered.test(name))?.[1] ?? "not known";
  };
}

/** By `kind.collection`: the names of its lanes. */
function lanesOf({ files }: Target): Map<string, string[]> {
  const lanes = new Map<string, string[]>();
  for (const { layouts } of files.values())
    for (const layout of layouts.flatMap((one) => byLanguage(one).map(([, own]) => own)))
      for (const { name, of, collection } of layout.lanes) {
        const kind = of === "parent" ? layout.shape.parent : layout.shape.child;
        const at = `${kind?.name ?? ""}.${collection}`;
        lanes.set(at, [...(lanes.get(at) ?? []), name]);
      }
  return lanes;
}
