import { allOption, type Command, projectArgument, targetOption, outputOptions } from "../command.js";

export const reshape: Command = {
  name: "reshape",
  summary: "carry out the operations of the project and show what each one changes",
  argument: projectArgument,
  options: [targetOption, allOption, ...outputOptions],
  examples: [
    {
      line: "zest-tier reshape",
      does: "shows codes, prices, stock, pictures and relations before and after each operation",
    },
  ],
  load: () => import("../run/reshape.js"),
};
