/** Three months of a small made-up range on each stand-in: all that `npm run months` does with 2 000 products. */

import assert from "node:assert/strict";
import { test } from "node:test";
import { standInNames } from "@zest-tier/standins";
import { monthsOn } from "./months/story.js";

for (const name of standInNames)
  test(`${name}: three months, others editing in between, products combined and split: nothing differs, nothing is written twice`, async () => {
    const months = [];
    for await (const month of monthsOn(name, 3, 50)) months.push(month);
    assert.deepEqual(
      months.map(({ month, differences }) => [month, differences]),
      [1, 2, 3].map((month) => [month, []]),
    );
    assert.ok(months.every(({ rows }) => rows > 0));
  });
