/** What a project needs of the world around it: `zest-tier/node` and `zest-tier/web` have them. */

import type { FilesPort, Sha256 } from "../ports.js";

/** What a project needs of the world around it. */
export interface ProjectPorts {
  /** The files of the project's folder. */
  readonly files: FilesPort;
  readonly sha256: Sha256;
  /** The text of a target that comes with Zest Tier, by its name; undefined if there is none. */
  readonly shippedTarget: (name: string) => Promise<string | undefined>;
  /** The same for layouts. */
  readonly shippedLayout: (name: string) => Promise<string | undefined>;
}
