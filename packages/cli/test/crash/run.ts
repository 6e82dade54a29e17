/**
 * `npm run crash [-- --every N --fault F --scene S]`: each fault of the disk, and a sudden end of the process, at every call of the file
 * system that a build, a collection of ids and the demo's upload make. Each that breaks a promise is printed, with the call.
 */

import { mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { parseArgs } from "node:util";
import { faults } from "./inject.js";
import { callsOf, scenes, strike } from "./scenes.js";

const { values } = parseArgs({
  options: {
    every: { type: "string", default: "1" },
    fault: { type: "string" },
    scene: { type: "string" },
    from: { type: "string", default: "1" },
    verbose: { type: "boolean" },
  },
});
const above = mkdtempSync(join(tmpdir(), "zest-crash-"));
let broken = 0;
try {
  for (const scene of await scenes(above)) {
    if (values.scene !== undefined && !scene.name.startsWith(values.scene)) continue;
    const calls = await callsOf(scene);
    for (const fault of faults) {
      if (values.fault !== undefined && values.fault !== fault) continue;
      const own = { tried: 0, struck: 0, broken: 0 };
      for (let at = Number(values.from); at <= calls; at += Number(values.every)) {
        own.tried += 1;
        try {
          const { struck, code } = await strike(scene, fault, at);
          if (struck !== undefined) own.struck += 1;
          if (values.verbose && code === 0) console.log(`  ${fault} at call ${at}, ${struck}: passed over`);
        } catch (error) {
          own.broken += 1;
          console.log(
            `${scene.name}, ${fault} at call ${at}: ${error instanceof Error ? error.message : String(error)}`,
          );
        }
      }
      broken += own.broken;
      console.log(`${scene.name}: ${fault} at ${own.tried} of ${calls} calls, met ${own.struck}, broken ${own.broken}`);
    }
  }
} finally {
  rmSync(above, { recursive: true, force: true });
}
process.exitCode = broken > 0 ? 1 : 0;
