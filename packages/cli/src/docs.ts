/** Writes the pages of docs/ and the published schemas that are made from data. `npm run docs`. */

import { mkdirSync, writeFileSync } from "node:fs";
import { madeFiles } from "./docs-pages.js";

const root = new URL("../../../../", import.meta.url);
for (const [path, text] of madeFiles()) {
  mkdirSync(new URL(".", new URL(path, root)), { recursive: true });
  writeFileSync(new URL(path, root), text);
}
