import {
  allOption,
  type Command,
  exportOption,
  trialOption,
  projectArgument,
  targetOption,
  outputOptions,
} from "../command.js";

export const compare: Command = {
  name: "compare",
  summary: "compare your sources with what is on the platform and what was last delivered: who changed what",
  argument: projectArgument,
  options: [
    targetOption,
    exportOption,
    trialOption,
    { flags: "--report <file>", means: "also write it as an HTML page" },
    { flags: "--despite <code>", means: "errors with this code do not count for the exit code", many: true },
    allOption,
    ...outputOptions,
  ],
  examples: [
    {
      line: "zest-tier compare --for pennywort --export shop.json",
      does: "reads the export and lists the differences, the most dangerous first",
    },
    {
      line: "zest-tier compare --export shop.json --report differences.html",
      does: "also writes a page that you can send to someone",
    },
  ],
  load: () => import("../run/compare.js"),
};
