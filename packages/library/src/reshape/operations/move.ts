/** Categories go below another one; `null` makes them roots. */

import { z } from "zod";
import { phrase } from "../../phrases/phrase.js";
import { operation } from "../operation.js";
import { liesIn, setTargets } from "../records.js";

const key = z.string().min(1);

export const move = operation({
  schema: z.strictObject({ move: z.array(key).min(1), under: key.nullable() }),
  problems: () => [],
  run(work, { move: keys, under }) {
    const { catalogue } = work;
    const table = catalogue.table("category");
    const above = under === null ? undefined : work.need("category", under);
    if (under !== null && above === undefined) return;
    for (const one of keys) {
      const row = work.need("category", one);
      if (row === undefined) return;
      if (above !== undefined && liesIn(catalogue, above, row))
        return work.refuse(phrase("{0} is below {1}", under ?? "", one));
      setTargets(catalogue, table, "parent", row, above === undefined ? [] : [above]);
      if (above === undefined) table.referenceColumn("parent").unset(row);
      work.sets("category", row, "parent");
    }
  },
});
