import { getCompletionScript } from "@pnpm/tabtab";
import type { Run } from "../command.js";

type Shell = Parameters<typeof getCompletionScript>[0]["shell"];

export const run: Run = async (given, io) => {
  const shell = given.argument as Shell;
  io.out(await getCompletionScript({ name: "zest-tier", completer: "zest-tier", shell }));
  return 0;
};
