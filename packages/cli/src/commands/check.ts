import { allOption, type Command, projectArgument, targetOption, outputOptions } from "../command.js";

export const check: Command = {
  name: "check",
  summary: "read the sources and report every error with file, row and column",
  argument: projectArgument,
  options: [
    targetOption,
    allOption,
    ...outputOptions,
    { flags: "--despite <code>", means: "errors with this code do not count for the exit code", many: true },
  ],
  examples: [
    { line: "zest-tier check", does: "checks the project in this folder" },
    {
      line: "zest-tier check --format sarif > findings.sarif",
      does: "writes the findings for an editor or a build server",
    },
    { line: "zest-tier check shop/project.yaml --format json", does: "the same as JSON, for a program" },
  ],
  load: () => import("../run/check.js"),
};
