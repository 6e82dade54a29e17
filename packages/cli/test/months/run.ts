/** `npm run months`: a made-up range of 2 000 products goes through three months on each stand-in, with others editing there in between. */

import { parseArgs } from "node:util";
import { standInNames } from "@zest-tier/standins";
import { monthsOn } from "./story.js";

const { values } = parseArgs({
  options: {
    seed: { type: "string", default: "1" },
    count: { type: "string", default: "2000" },
    on: { type: "string", multiple: true },
  },
});
const figures: object[] = [];
let differences = 0;
for (const name of standInNames.filter((one) => values.on?.includes(one) ?? true))
  for await (const month of monthsOn(name, Number(values.seed), Number(values.count))) {
    figures.push(month);
    differences += month.differences.length;
    console.error(
      `${name}, month ${month.month}: ${month.products} products, ${month.rounds} rounds, ${month.rows} rows, ${month.differences.length} differences, ${month.seconds} s`,
    );
  }
console.log(JSON.stringify({ seed: Number(values.seed), differences, months: figures }, null, 2));
process.exitCode = differences > 0 ? 1 : 0;
