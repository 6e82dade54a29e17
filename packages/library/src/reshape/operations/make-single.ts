/** Products with one variant become singles. */

import { z } from "zod";
import { firstOf } from "../../checked.js";
import { phrase } from "../../phrases/phrase.js";
import { operation } from "../operation.js";
import { makeSingle, pushDown } from "../records.js";

export const makeSingles = operation({
  schema: z.strictObject({ "make single": z.array(z.string().min(1)).min(1) }),
  problems: () => [],
  run(work, { "make single": keys }) {
    const { catalogue } = work;
    for (const key of keys) {
      const row = work.need("product", key);
      if (row === undefined) return;
      const children = [...catalogue.table("variant").childrenOf(row)];
      if (children.length !== 1)
        return work.refuse(
          phrase("{0} has {1} variants. Only a single one can become the product itself", key, children.length),
        );
      pushDown(catalogue, row);
      makeSingle(work, row, firstOf(children));
    }
  },
});
