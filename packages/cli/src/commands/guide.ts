import { type Command, outputOptions } from "../command.js";

export const guide: Command = {
  name: "guide",
  summary: "explain each column of a layout, and write an empty workbook to fill in",
  argument: { flags: "<layout>", means: "a layout file, or TARGET/FILE for a layout of a target, also of your own" },
  options: [
    { flags: "--out <folder>", means: "write NAME.md and NAME.xlsx there (default: only show it)" },
    { flags: "--project <file>", means: "a project whose own kinds and fields the layout names" },
    ...outputOptions,
  ],
  examples: [
    { line: "zest-tier guide layouts/range.yaml", does: "explains the columns" },
    {
      line: "zest-tier guide pennywort/items --out to-send",
      does: "writes the guide, and an empty workbook with drop-down lists",
    },
  ],
  load: () => import("../run/guide.js"),
};
