import { allOption, type Command, outputOptions } from "../command.js";

export const calibrate: Command = {
  name: "calibrate",
  summary: "read a file with a layout, write it back, and compare cell by cell",
  argument: { flags: "<file>", means: "a sample or an export, unchanged" },
  options: [
    { flags: "--layout <file>", means: "the layout file, or TARGET/FILE for a layout of a target, also of your own" },
    allOption,
    { flags: "--project <file>", means: "a project whose own kinds and fields the layout names" },
    ...outputOptions,
  ],
  examples: [
    {
      line: "zest-tier calibrate prices.csv --layout layouts/prices.yaml",
      does: "shows for each column how many cells come back unchanged",
    },
    {
      line: "zest-tier calibrate export.csv --layout pennywort/items",
      does: "checks a layout of a target against a file that the platform wrote",
    },
  ],
  load: () => import("../run/calibrate.js"),
};
