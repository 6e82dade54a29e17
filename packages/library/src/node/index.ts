/** What the library needs of Node: files, hashes, and the targets that it ships. Browsers bring their own. */

import { createHash } from "node:crypto";
import { readdir, readFile } from "node:fs/promises";
import type { Sha256 } from "../ports.js";
import type { ProjectPorts } from "../workflow/ports.js";
import { nodeFiles } from "./files.js";

export { keepGivenIn, type GivenStore } from "../given/store.js";
export { givenStoreIn } from "./given-store.js";
export { openLedger, type LedgerFile } from "./ledger.js";
export { nodeFiles } from "./files.js";
export { folderSink } from "./upload-folder.js";
export { lockAll, type Lock } from "./lock.js";
export { copyWholeFolder, writeFully, writeWholeFile, type ByteSink } from "./write.js";
export { IoTrouble, isSystemError, reasonOf } from "./io-trouble.js";

/** SHA-256 by Node. */
export const nodeSha256: Sha256 = () => {
  const hash = createHash("sha256");
  return { update: (bytes) => void hash.update(bytes), digest: () => hash.digest("hex") };
};

// By the name of the package, as these modules may have been put into one file with others.
const shipped = new URL(".", import.meta.resolve("zest-tier/targets/pennywort.yaml"));

/** The text of a target that comes with Zest Tier; undefined if there is none of that name. */
export async function shippedTarget(name: string): Promise<string | undefined> {
  const names = await shippedTargetNames();
  return names.includes(name) ? readFile(new URL(`${name}.yaml`, shipped), "utf8") : undefined;
}

const shippedLayouts = new URL(".", import.meta.resolve("zest-tier/layouts/schema-org.yaml"));

/** The text of a layout that comes with Zest Tier; undefined if there is none of that name. */
export async function shippedLayout(name: string): Promise<string | undefined> {
  const files = await readdir(shippedLayouts);
  return files.includes(`${name}.yaml`) ? readFile(new URL(`${name}.yaml`, shippedLayouts), "utf8") : undefined;
}

/** The names of the targets that come with Zest Tier, in order. */
export async function shippedTargetNames(): Promise<string[]> {
  return (await readdir(shipped))
    .filter((file) => file.endsWith(".yaml"))
    .map((file) => file.slice(0, -5))
    .sort();
}

/** What a project in a folder needs of Node. */
export const nodePorts = (folder: string): ProjectPorts => ({
  files: nodeFiles(folder),
  sha256: nodeSha256,
  shippedTarget,
  shippedLayout,
});
