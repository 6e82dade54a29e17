/** What a stand-in holds, in the form in which tests compare it: read by the layouts of exports, which are none of the upload. */

import { heldOf, type Snapshot, type Target } from "zest-tier";
import { Kinds } from "zest-tier/parts";
import { readPlatform } from "#src/platform.js";

export async function snapshotOn(url: string, target: Target): Promise<Snapshot> {
  return heldOf(await readPlatform(url, target, new Kinds()), target);
}
