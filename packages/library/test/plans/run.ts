/**
 * `npm run plans`: the plans for the demo's targets, loaded into PostgreSQL with foreign keys that hold at once. A plan whose files come in
 * the opposite order has to fail: else the keys would prove nothing.
 */

import { join } from "node:path";
import { fileURLToPath } from "node:url";
import { openProject, openTarget, planUpload, readSourcesOf, valueOf } from "#src/index.js";
import { isHeldBack } from "#src/build/hold-back.js";
import { nodePorts } from "#src/node/index.js";
import { startDatabase } from "./postgres.js";
import { statementsOf, tables } from "./statements.js";

const demo = fileURLToPath(new URL("../../../../../demo/", import.meta.url));
const database = startDatabase();
let failed = 0;

function load(statements: readonly string[]): string | undefined {
  try {
    database.run(`${tables}${statements.join("\n")}`);
    return undefined;
  } catch (error) {
    return String((error as { readonly stderr?: Buffer }).stderr).split("\n")[0];
  }
}

try {
  for (const name of ["clean", "rough"]) {
    const sources = valueOf(await readSourcesOf(valueOf(await openProject(nodePorts(join(demo, name))))));
    for (const { name: target } of sources.project.targets) {
      const opened = valueOf(await openTarget(sources, { target }));
      const { plan, heldBack } = valueOf(await planUpload(opened, { holdBack: true }));
      const { files, atTheEnd } = statementsOf(opened.catalogue, opened.target, plan, isHeldBack(heldBack));
      const problem = load([...files.flat(), ...atTheEnd]);
      const [records, links] = ["record", "link"].map((table) =>
        problem === undefined ? database.run(`select count(*) from ${table};`).trim() : "?",
      );
      const opposite = load([...[...files].reverse().flat(), ...atTheEnd]);
      const isFine = problem === undefined && (opposite !== undefined || files.length < 2);
      if (!isFine) failed++;
      console.log(
        `${name} ${target}: ${files.length} files, ${records} records, ${links} links, ${problem ?? "loaded"}; in the opposite order: ${opposite ?? "loaded"}`,
      );
    }
  }
} finally {
  database.stop();
}
process.exitCode = failed > 0 ? 1 : 0;
