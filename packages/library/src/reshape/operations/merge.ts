/** Several records become one: references to the others lead to it, what they contain is its own. */

import { z } from "zod";
import { targetsOf } from "../../catalogue/catalogue.js";
import { kindPhrase, phrase } from "../../phrases/phrase.js";
import { operation } from "../operation.js";
import { liesIn } from "../records.js";
import { uniteInto } from "../unite.js";
import type { Work } from "../work.js";

const key = z.string().min(1);

export const merge = operation({
  schema: z.strictObject({ merge: z.array(key).min(1), of: key, into: key }),
  *problems({ of }, kinds) {
    const kind = kinds.find(of);
    if (!kind || kind.entryKey) yield { path: ["of"], problem: phrase('there is no kind "{0}"', of) };
    else if (of === "product" || of === "variant")
      yield { path: ["of"], problem: phrase("{0} records cannot be merged. Products can be combined", of) };
  },
  run(work, { merge: keys, of, into }) {
    const { catalogue } = work;
    const kind = catalogue.kinds.find(of);
    if (!kind || kind.entryKey || of === "product" || of === "variant")
      return work.refuse(phrase("{0} records cannot be merged. Products can be combined", of));
    const table = catalogue.table(of);
    const survivor = work.need(of, into);
    const rows = keys.filter((one) => one !== into).map((one) => work.need(of, one));
    if (survivor === undefined || rows.includes(undefined)) return;
    for (const row of rows as number[]) {
      if (of === "category" && liesIn(catalogue, survivor, row))
        return work.refuse(phrase("{0} is below {1}", into, table.key(row)));
      if (of === "value" && table.parent(row) !== table.parent(survivor))
        return work.refuse(phrase("{0} is on another axis than {1}", table.key(row), into));
      uniteInto(work, of, row, survivor);
      work.step({
        title: phrase("Remove {0} {1}", kindPhrase(of), table.key(row)),
        why: phrase("Everything that it had belongs to {0} now.", into),
        when: "after",
        about: { kind: of, key: table.key(row) },
      });
    }
    if (of === "value" || of === "axis") refuseTwins(work);
  },
});

/** Two variants of a product may not come to the same values. */
function refuseTwins(work: Work): void {
  const { catalogue } = work;
  const variants = catalogue.table("variant");
  const merged = work.dropped.get("value") ?? new Map<number, number>();
  const valuesOf = (row: number): number[] => targetsOf(catalogue, variants, "values", row);
  const products = new Set<number>();
  for (const row of work.rows("variant"))
    if (valuesOf(row).some((value) => merged.has(value))) products.add(variants.parent(row));
  for (const product of products) {
    const seen = new Map<string, number>();
    for (const row of variants.childrenOf(product)) {
      const own = new Set(valuesOf(row).map((value) => merged.get(value) ?? value));
      const name = [...own].sort().join();
      const other = seen.get(name);
      if (other !== undefined && own.size > 0)
        return work.refuse(phrase("{0} and {1} would have the same values", variants.key(other), variants.key(row)));
      seen.set(name, row);
    }
  }
}
