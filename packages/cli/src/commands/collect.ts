import {
  allOption,
  type Command,
  exportOption,
  wholeRangeOption,
  trialOption,
  projectArgument,
  targetOption,
  uploadOption,
  outputOptions,
  leniencyOptions,
} from "../command.js";

export const collect: Command = {
  name: "collect",
  summary: "read the ids that the platform gave out from its reports and exports into the ledger",
  argument: projectArgument,
  options: [
    targetOption,
    exportOption,
    wholeRangeOption,
    trialOption,
    uploadOption,
    {
      flags: "--reports <folder>",
      means: "the folder with the reports and exports (default: reports-TARGET beside the project)",
    },
    {
      flags: "--after <file>",
      means: "an export made after the upload: what the platform made of each value (repeat it for several)",
      many: true,
    },
    ...leniencyOptions,
    allOption,
    ...outputOptions,
  ],
  examples: [
    {
      line: "zest-tier collect --for saltmarsh",
      does: "reads 02-goods.tsv.report.json, goods.export.tsv and so on in reports-saltmarsh",
    },
  ],
  load: () => import("../run/collect.js"),
};
