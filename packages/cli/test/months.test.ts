/** Months of a small made-up range on each stand-in: all that `npm run months` does with 2 000 products. */

import assert from "node:assert/strict";
import { test } from "node:test";
import { standInNames } from "@zest-tier/standins";
import { monthsOn } from "./months/story.js";

for (const name of standInNames)
  test(`${name}: months of changes, others editing in between, products combined and split: nothing differs, nothing is written twice`, async () => {
    // Saltmarsh takes many files: its third month is left to the command.
    const last = name === "saltmarsh" ? 2 : 3;
    const months = [];
    for await (const month of monthsOn(name, 3, 50)) {
      months.push(month);
      if (month.month === last) break;
    }
    assert.deepEqual(
      months.map(({ month, differences }) => [month, differences]),
      [1, 2, 3].slice(0, last).map((month) => [month, []]),
    );
    assert.ok(months.every(({ rows }) => rows > 0));
  });
