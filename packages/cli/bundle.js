/**
 * The command as few files: it starts in two thirds of the time that its modules take one by one. What the demo and the stand-ins need
 * stays outside; the licences of what goes in are written beside it.
 */

import { createHash } from "node:crypto";
import { existsSync, readdirSync, readFileSync } from "node:fs";
import { join } from "node:path";
import { build } from "rolldown";

/** Packages that the command loads as they are: they have threads and files beside their modules. */
const apart = ["@pnpm/tabtab", "@zest-tier/demo", "@zest-tier/shopfront", "@zest-tier/standins"];

/** The folder of the package that a module is of; undefined for our own. */
const packageOf = (id) => /^.*\/node_modules\/(?:@[^/]+\/)?[^/]+(?=\/)/.exec(id)?.[0];

function noticeOf(folder) {
  const { name, version, license } = JSON.parse(readFileSync(join(folder, "package.json"), "utf8"));
  const file = readdirSync(folder).find((one) => /^licen[cs]e/i.test(one));
  const text = file === undefined ? "" : `\n${readFileSync(join(folder, file), "utf8").trim()}\n`;
  return `${name} ${version} (${license})\n${text}`;
}

const notices = {
  name: "notices",
  generateBundle(_, bundle) {
    const folders = new Set(
      Object.values(bundle).flatMap((chunk) =>
        chunk.type === "chunk" ? chunk.moduleIds.flatMap((id) => packageOf(id) ?? []) : [],
      ),
    );
    const known = [...folders].filter((folder) => existsSync(join(folder, "package.json"))).sort();
    this.emitFile({
      type: "asset",
      fileName: "NOTICES.txt",
      source: known.map(noticeOf).join(`\n${"-".repeat(60)}\n\n`),
    });
  },
};

/** What parses the files that people write: what an earlier build kept of them is not what this one would make. */
function idOfBuild() {
  const hash = createHash("sha256");
  for (const folder of ["../library/dist/src", "dist/src"])
    for (const file of readdirSync(folder, { recursive: true }).sort())
      if (file.endsWith(".js")) hash.update(`${file}\n`).update(readFileSync(join(folder, file)));
  for (const name of ["yaml", "zod"]) {
    const manifest = new URL("package.json", import.meta.resolve(`${name}/package.json`));
    hash.update(JSON.parse(readFileSync(manifest, "utf8")).version);
  }
  return hash.digest("hex");
}

const buildId = {
  name: "build id",
  load: (id) =>
    id.endsWith("/dist/src/build-id.js") ? `export const buildId = ${JSON.stringify(idOfBuild())};` : undefined,
};

await build({
  input: "dist/src/bin.js",
  platform: "node",
  external: (id) => id.startsWith("node:") || apart.some((name) => id === name || id.startsWith(`${name}/`)),
  // A tenth of the text is comments: each command would read them.
  output: { dir: "dist/command", format: "esm", cleanDir: true, comments: false },
  plugins: [buildId, notices],
});
