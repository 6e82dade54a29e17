import { standInNames, startStandIn, type StandInName } from "@zest-tier/standins";
import { type Command, portOf, portOption, UsageError } from "../command.js";
import { coloursOf } from "../io.js";

export const standin: Command = {
  name: "standin",
  summary: "start one of the fictional platforms, empty, on this computer",
  argument: { flags: "<platform>", means: "which one", choices: standInNames },
  options: [portOption],
  examples: [{ line: "zest-tier standin pennywort --port 8400", does: "runs until you stop it with Ctrl-C" }],
  async run(given, io) {
    const port = portOf(given);
    const name = given.argument as StandInName;
    const shop = await startStandIn(name, port).catch((error: NodeJS.ErrnoException) => {
      throw new UsageError(
        `cannot listen on port ${port}: ${error.code ?? error.message}`,
        "Choose another port, or 0 for a free one.",
      );
    });
    const colours = coloursOf(io);
    io.out(
      `${colours.bold(name)} listens on ${colours.bold(shop.url)}\n  what is on it: ${shop.url}/catalogue\n  how it works:  docs/standins/${name}.md\n  Ctrl-C stops it. Nothing is kept.\n`,
    );
    await io.stopped();
    await shop.stop();
    return 0;
  },
};
