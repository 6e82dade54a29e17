/** Products change to another axis; their values become values of that, by name. */

import { z } from "zod";
import { targetsOf } from "../../catalogue/catalogue.js";
import { phrase } from "../../phrases/phrase.js";
import { inSelection, operation } from "../operation.js";
import { findOrMake, findRecord, setTargets } from "../records.js";
import { givenSelection, select } from "../select.js";

const key = z.string().min(1);

export const useAxis = operation({
  schema: z.strictObject({ "use axis": key, "instead of": key, on: givenSelection }),
  async *problems({ on }, kinds) {
    if (on.of !== "product")
      yield { path: ["on", "of"], problem: phrase("the operation is about {0} records", "product") };
    yield* inSelection("on", on, kinds);
  },
  async run(work, { "use axis": to, "instead of": from, on }) {
    const { catalogue } = work;
    const products = catalogue.table("product");
    const variants = catalogue.table("variant");
    const values = catalogue.table("value");
    const old = findRecord(work, "axis", from);
    if (old === undefined) return work.refuse(phrase('there is no axis "{0}"', from));
    for (const row of (await select(work, on)) ?? []) {
      const axes = targetsOf(catalogue, products, "axes", row);
      if (!axes.includes(old)) continue;
      const axis = findOrMake(work, "axis", to, { table: products, row });
      if (axes.includes(axis)) return work.refuse(phrase('{0} already has the axis "{1}"', products.key(row), to));
      const changed = axes.map((one) => (one === old ? axis : one));
      setTargets(catalogue, products, "axes", row, changed);
      work.sets("product", row, "axes");
      for (const child of [...variants.childrenOf(row)]) {
        const like = { table: variants, row: child };
        const own = targetsOf(catalogue, variants, "values", child).map((value) => {
          if (values.parent(value) !== old) return value;
          const name = values.text(`name@${work.source}`, value) ?? values.key(value);
          const made = findOrMake(work, "value", name, like, axis);
          for (const field of [...values.texts.keys()])
            if (field.startsWith("name@") && values.text(field, made) === undefined) {
              values.setText(field, made, values.text(field, value));
              work.sets("value", made, field);
            }
          return made;
        });
        setTargets(catalogue, variants, "values", child, own);
        work.sets("variant", child, "values");
      }
    }
  },
});
