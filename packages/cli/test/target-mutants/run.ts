/**
 * `npm run target-mutants -- [--for NAME] [--every N] [--pairs N]`: each small change of the targets that come with Zest Tier has to
 * change the rehearsal of the same files, or the plan, a finding, a written file; or it is listed as equivalent, with the reason.
 */

import { parseArgs } from "node:util";
import { survivors, type Survey } from "./survey.js";
import type { PlatformName } from "./recorded.js";

const { values } = parseArgs({
  options: {
    for: { type: "string" },
    every: { type: "string", default: "1" },
    pairs: { type: "string", default: "150" },
  },
});

const names: readonly PlatformName[] = ["pennywort", "saltmarsh", "tollgate"];
const totals: Survey[] = [];
for (const name of names.filter((one) => values.for === undefined || one === values.for)) {
  const survey = await survivors(name, { every: Number(values.every), pairs: Number(values.pairs) });
  totals.push(survey);
  console.log(`${name}: ${JSON.stringify(survey.counts)}`);
  for (const { path, what } of survey.survived) console.log(`SURVIVED ${name} ${path}: ${what}`);
}
process.exitCode = totals.some(({ survived }) => survived.length > 0) ? 1 : 0;
