/** The order of the values of an axis by their positions; the order of the axes of products. */

import { z } from "zod";
import { targetsOf } from "../../catalogue/catalogue.js";
import { phrase } from "../../phrases/phrase.js";
import { inSelection, operation } from "../operation.js";
import { findRecord, setTargets } from "../records.js";
import { givenSelection, select } from "../select.js";

export const order = operation({
  schema: z.strictObject({
    order: z.array(z.string().min(1)).min(1),
    of: z.enum(["value", "axis"]),
    on: givenSelection.optional(),
  }),
  async *problems({ of, on }, kinds) {
    if (!on) return;
    if (of === "value")
      yield { path: ["on"], problem: phrase("values have one order for all products. Remove {0}", "on") };
    else if (on.of !== "product")
      yield { path: ["on", "of"], problem: phrase("the operation is about {0} records", "product") };
    yield* inSelection("on", on, kinds);
  },
  async run(work, { order: keys, of, on = { of: "product" } }) {
    const { catalogue } = work;
    const rows = keys.map((key) => findRecord(work, of, key));
    const unknown = rows.indexOf(undefined);
    if (unknown >= 0) return work.refuse(phrase('there is no {0} "{1}"', of, keys[unknown]));
    if (of === "value") {
      for (const [at, row] of (rows as number[]).entries()) {
        catalogue.table("value").setText("position", row, String(at + 1));
        work.sets("value", row, "position");
      }
      return;
    }
    const products = catalogue.table("product");
    for (const row of (await select(work, on)) ?? []) {
      const own = targetsOf(catalogue, products, "axes", row);
      const first = (rows as number[]).filter((axis) => own.includes(axis));
      if (first.length > 0)
        setTargets(catalogue, products, "axes", row, [...first, ...own.filter((axis) => !first.includes(axis))]);
    }
  },
});
