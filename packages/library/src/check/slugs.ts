/** Slugs: each one on one record only, among products and among categories below the same parent. */

import { finding } from "../findings/finding.js";
import type { Check } from "./rule.js";

export const checkSlugs: Check = ({ catalogue, findings }) => {
  for (const name of ["product", "category"]) {
    const table = catalogue.table(name);
    for (const [field, column] of table.texts) {
      if (!field.startsWith("slug@")) continue;
      const first = new Map<string, number>();
      for (let row = 0; row < table.size; row++) {
        const slug = column.get(row);
        if (typeof slug !== "string") continue;
        const known = first.get(slug);
        if (known === undefined) first.set(slug, row);
        else
          findings.add(
            finding("check/repeated-slug", { slug, kind: name }, catalogue.location(table, row, field), [
              catalogue.location(table, known, field),
            ]),
          );
      }
    }
  }
};
