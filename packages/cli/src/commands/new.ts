import { allOption, type Command, outputOptions } from "../command.js";

export const newProject: Command = {
  name: "new",
  summary: "make a project of the files that a supplier sent",
  argument: { flags: "<folder>", means: "the folder of the new project; it must not exist yet, or be empty" },
  more: {
    flags: "<file...>",
    means: "the files: CSV, workbooks, XML or JSON documents; pictures, or folders of pictures",
  },
  options: [
    {
      flags: "--for <platform>",
      means: "a platform that comes with Zest Tier, a target of your own (.yaml), or a platform's own import sample",
    },
    { flags: "--reply <question=answer>", means: "reply to a question", many: true },
    { flags: "--yes", means: "ask nothing: take what is assumed" },
    allOption,
    ...outputOptions,
  ],
  examples: [
    {
      line: "zest-tier new shop range.csv stock.csv --for pennywort",
      does: "copies both files into shop/sources, drafts their layouts and the project, and checks it",
    },
    {
      line: "zest-tier new shop range.xlsx --for import-sample.csv",
      does: "drafts a target of the platform's own sample too",
    },
  ],
  load: () => import("../run/new.js"),
};
