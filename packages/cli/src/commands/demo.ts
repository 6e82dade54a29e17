import { allOption, type Command, outputOptions, targetOption, portOption } from "../command.js";

export const presetFolder = "bramblecomb";

export const demo: Command = {
  name: "demo",
  summary: "run the whole job on the made-up shop Bramblecomb Bee Supply",
  argument: {
    flags: "[folder]",
    means: `the folder for the demo project; an earlier copy in it is used again (default: ${presetFolder})`,
  },
  options: [
    { ...targetOption, means: "only one of the three platforms (default: all)" },
    {
      flags: "--later",
      means: "a later import: the platform was filled, someone edited it by hand, and the sources have changed",
    },
    {
      flags: "--open",
      means: "afterwards show what is on each platform beside what was intended, in a browser, until Ctrl-C",
    },
    { ...portOption, means: "the port of the shopfront; 0 takes a free one" },
    allOption,
    ...outputOptions,
  ],
  examples: [
    { line: "zest-tier demo --open", does: "the same, and opens the shopfront at the end" },
    {
      line: "zest-tier demo --later",
      does: "uploads only what has changed since the first import",
    },
    {
      line: "zest-tier demo",
      does: "copies the project; then checks, plans, builds, rehearses, uploads and compares for each platform",
    },
  ],
  load: () => import("../run/demo.js"),
};
