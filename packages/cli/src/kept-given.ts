/** What earlier runs parsed, in the user's cache folder. */

import { isAbsolute } from "node:path";
import { givenStoreIn, keepGivenIn } from "zest-tier/node";

/**
 * Keeps what files that people write are parsed to, and takes it from there. A user without a home has no such folder:
 * then nothing is kept.
 *
 * @param build which build of the program this is.
 */
export async function keepGivenFiles(build: string): Promise<void> {
  const folder = await cacheFolder();
  if (folder !== undefined && isAbsolute(folder)) keepGivenIn(givenStoreIn(folder, build));
}

async function cacheFolder(): Promise<string | undefined> {
  try {
    // It looks for the home as it is loaded, and throws where there is none.
    const { default: envPaths } = await import("env-paths");
    return envPaths("zest-tier", { suffix: "" }).cache;
  } catch {
    return undefined;
  }
}
