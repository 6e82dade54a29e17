import { type Command, projectArgument, targetOption, outputOptions } from "../command.js";

export const trial: Command = {
  name: "trial",
  summary: "choose the fewest products that use every feature of the catalogue, for a first import",
  argument: projectArgument,
  options: [targetOption, ...outputOptions],
  examples: [
    { line: "zest-tier trial", does: "lists the products, and the features that each one shows" },
    {
      line: "zest-tier build --trial",
      does: "builds an upload of these only; afterwards compare --trial checks the result",
    },
  ],
  load: () => import("../run/trial.js"),
};
