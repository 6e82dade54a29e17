/** Some products of a category go into a new one beside it. */

import { z } from "zod";
import { targetsOf } from "../../catalogue/catalogue.js";
import { phrase } from "../../phrases/phrase.js";
import { inSelection, operation } from "../operation.js";
import { setTargets } from "../records.js";
import { givenSelection, select } from "../select.js";

const key = z.string().min(1);

export const splitCategory = operation({
  schema: z.strictObject({
    "split category": key,
    into: key,
    name: z.record(z.string().min(2), key),
    take: givenSelection,
  }),
  async *problems({ take }, kinds) {
    if (take.of !== "product")
      yield { path: ["take", "of"], problem: phrase("the operation is about {0} records", "product") };
    yield* inSelection("take", take, kinds);
  },
  async run(work, { "split category": from, into, name, take }) {
    const { catalogue } = work;
    const categories = catalogue.table("category");
    const row = work.need("category", from);
    if (row === undefined) return;
    if (categories.find(into) !== undefined) return work.refuse(phrase('{0} "{1}" already exists', "category", into));
    const rows = await select(work, take);
    if (!rows) return;
    const made = categories.append(categories.sheet(row), categories.line(row));
    categories.nameRecord(made, into);
    work.makes("category", made);
    for (const [lang, text] of Object.entries(name)) categories.setText(`name@${lang}`, made, text);
    const above = targetsOf(catalogue, categories, "parent", row);
    if (above.length > 0) setTargets(catalogue, categories, "parent", made, above);
    const products = catalogue.table("product");
    for (const one of rows) {
      const own = targetsOf(catalogue, products, "categories", one);
      if (!own.includes(row)) continue;
      const changed = own.map((category) => (category === row ? made : category));
      setTargets(catalogue, products, "categories", one, changed);
      work.sets("product", one, "categories");
    }
  },
});
