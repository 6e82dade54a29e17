#!/usr/bin/env node
/** The command, there before anything is built: npm links commands at install, and only to files that exist. Put into one, else as compiled. */

import { existsSync } from "node:fs";

const built = ["../dist/command/bin.js", "../dist/src/bin.js"].map((file) => new URL(file, import.meta.url));
const command = built.find((file) => existsSync(file));
if (command) await import(command.href);
else {
  console.error("Zest Tier is not built yet. Run npm run build in its folder.");
  process.exitCode = 2;
}
