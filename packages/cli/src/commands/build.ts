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
  noRehearsalOption,
} from "../command.js";

export const build: Command = {
  name: "build",
  summary: "write the upload folder: numbered import files, pictures, data package, run sheet",
  argument: projectArgument,
  options: [
    {
      flags: "--bulk-change <name>",
      means: "write only this bulk change of the project: a file with the keys of the records and one column",
    },
    targetOption,
    exportOption,
    wholeRangeOption,
    trialOption,
    uploadOption,
    ...leniencyOptions,
    noRehearsalOption,
    allOption,
    ...outputOptions,
  ],
  examples: [
    {
      line: "zest-tier build",
      does: "writes upload-TARGET beside the project, rehearsed; writes nothing if there are errors",
    },
    { line: "zest-tier build --hold-back", does: "leaves out faulty records and lists them" },
    { line: "zest-tier build --despite check/barcode", does: "builds with invalid barcodes, to rehearse what they do" },
  ],
  load: () => import("../run/build.js"),
};
