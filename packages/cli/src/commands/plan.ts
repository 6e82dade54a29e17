import {
  allOption,
  type Command,
  exportOption,
  wholeRangeOption,
  trialOption,
  projectArgument,
  targetOption,
  outputOptions,
  leniencyOptions,
} from "../command.js";

export const plan: Command = {
  name: "plan",
  summary: "show what to upload, in which order, and why",
  argument: projectArgument,
  options: [
    targetOption,
    exportOption,
    wholeRangeOption,
    trialOption,
    {
      flags: "--why <key>",
      means: "only the record with this key or code: its file, and what has to exist before it",
    },
    { flags: "--svg <file>", means: "write the plan as a diagram" },
    { flags: "--left-out", means: "only what the target cannot store: one row for each field of each record" },
    allOption,
    ...outputOptions,
    ...leniencyOptions,
  ],
  examples: [
    { line: "zest-tier plan --for pennywort", does: "shows the steps for one target of the project" },
    {
      line: "zest-tier plan --for saltmarsh --why 0010-1",
      does: "explains why this variant is in its file",
    },
    {
      line: "zest-tier plan --for tollgate --left-out",
      does: "lists what Tollgate has no place for, record by record",
    },
    { line: "zest-tier plan --for saltmarsh --svg plan.svg", does: "writes the plan as a diagram" },
  ],
  load: () => import("../run/plan.js"),
};
