import type { StandInName } from "@zest-tier/standins";
import { type Command, portOption } from "../command.js";

const standIns: readonly StandInName[] = ["pennywort", "saltmarsh", "tollgate"];

export const standin: Command = {
  name: "standin",
  summary: "start one of the fictional platforms, empty, on this computer",
  argument: { flags: "<platform>", means: "which one", choices: standIns },
  options: [portOption],
  examples: [{ line: "zest-tier standin pennywort --port 8400", does: "runs until you stop it with Ctrl-C" }],
  load: () => import("../run/standin.js"),
};
