import { startStandIn, type StandInName } from "@zest-tier/standins";
import { portOf, UsageError, type Run } from "../command.js";
import { coloursOf } from "../io.js";

export const run: Run = async (given, io) => {
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
};
