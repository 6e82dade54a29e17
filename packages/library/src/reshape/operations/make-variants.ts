/** Singles get a variant, with a value on an axis. */

import { z } from "zod";
import { phrase } from "../../phrases/phrase.js";
import { operation } from "../operation.js";
import { findOrMake, makeVariant, setTargets } from "../records.js";

const key = z.string().min(1);

export const makeVariants = operation({
  schema: z.strictObject({ "make variants of": z.array(key).min(1), axis: key, value: key }),
  problems: () => [],
  run(work, { "make variants of": keys, axis: axisName, value }) {
    const { catalogue } = work;
    const products = catalogue.table("product");
    for (const one of keys) {
      const row = work.need("product", one);
      if (row === undefined) return;
      if (catalogue.table("variant").countChildren(row) > 0)
        return work.refuse(phrase("{0} already has variants", one));
      const axis = findOrMake(work, "axis", axisName, { table: products, row });
      const own = findOrMake(work, "value", value, { table: products, row }, axis);
      makeVariant(work, row, row, [own]);
      setTargets(catalogue, products, "axes", row, [axis]);
      work.sets("product", row, "axes");
    }
  },
});
