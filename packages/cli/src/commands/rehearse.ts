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

export const rehearse: Command = {
  name: "rehearse",
  summary: "run the upload folder against a simulated platform and compare the result with what is intended",
  argument: projectArgument,
  options: [
    targetOption,
    exportOption,
    wholeRangeOption,
    trialOption,
    uploadOption,
    { flags: "--bulk-change <name>", means: "rehearse the file that build --bulk-change wrote" },
    { flags: "--rollback", means: "rehearse the upload and then its rollback, and compare with what was there" },
    ...leniencyOptions,
    allOption,
    ...outputOptions,
  ],
  examples: [
    { line: "zest-tier rehearse", does: "rehearses the folder that build wrote (give it the same options as build)" },
    { line: "zest-tier rehearse --export export.json --rollback", does: "rehearses the rollback of a change" },
  ],
  load: () => import("../run/rehearse.js"),
};
