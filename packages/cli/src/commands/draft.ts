import { allOption, type Command, outputOptions } from "../command.js";

export const draft: Command = {
  name: "draft",
  summary: "draft a layout for a supplier's file, each line with confidence and reason",
  argument: { flags: "<file>", means: "a CSV file, a workbook, or an XML or JSON document" },
  options: [
    { flags: "--out <layout>", means: "write the layout to this file (default: only show it)" },
    { flags: "--sheet <name>", means: "which sheet of a workbook (default: every sheet)" },
    {
      flags: "--for <name>",
      means: "the file is a platform's own import sample: draft a target with this name, and ask what no sample shows",
    },
    { flags: "--reply <question=answer>", means: "reply to one of its questions", many: true },
    { flags: "--calibrate", means: "also read the file with the drafted layout, write it back and compare" },
    allOption,
    ...outputOptions,
  ],
  examples: [
    { line: "zest-tier draft prices.csv", does: "shows the drafted layout" },
    {
      line: "zest-tier draft prices.csv --out layouts/prices.yaml --calibrate",
      does: "drafts and writes the layout, tests it, and lists what is left to do",
    },
  ],
  load: () => import("../run/draft.js"),
};
