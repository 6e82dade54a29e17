import {
  type Command,
  exportOption,
  projectArgument,
  wholeRangeOption,
  targetOption,
  trialOption,
  outputOptions,
  leniencyOptions,
} from "../command.js";

export const trace: Command = {
  name: "trace",
  summary: "show where a cell of the upload comes from, or where a cell of a source goes",
  argument: projectArgument,
  options: [
    { flags: "--cell <location>", means: "a cell or a row of the upload: 02-items.csv:5:Price" },
    {
      flags: "--source <location>",
      means: "a cell or a row of a source, as findings print it: sources/range.csv:12 [Price]",
    },
    targetOption,
    exportOption,
    wholeRangeOption,
    trialOption,
    ...leniencyOptions,
    ...outputOptions,
  ],
  examples: [
    {
      line: "zest-tier trace --cell 02-items.csv:5:Price",
      does: "shows the source cell, or the rule, of this price",
    },
    {
      line: "zest-tier trace --source sources/range.csv:12",
      does: "shows every cell of the upload that this row feeds",
    },
  ],
  load: () => import("../run/trace.js"),
};
