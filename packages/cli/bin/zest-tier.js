#!/usr/bin/env node
/** The command, there before anything is built: npm links commands at install, and only to files that exist. */

import { existsSync } from "node:fs";

const built = new URL("../dist/src/bin.js", import.meta.url);
if (existsSync(built)) await import(built.href);
else {
  console.error("Zest Tier is not built yet. Run npm run build in its folder.");
  process.exitCode = 2;
}
