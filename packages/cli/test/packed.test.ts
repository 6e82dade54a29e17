/** The packages as they would be published: packed, installed outside the workspace, and used from there. */

import assert from "node:assert/strict";
import { execFile } from "node:child_process";
import { mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { fileURLToPath } from "node:url";
import { promisify } from "node:util";
import { after, before, test } from "node:test";
import { build } from "vite";

const root = fileURLToPath(new URL("../../../../", import.meta.url));
const published = ["packages/library", "packages/cli", "packages/standins", "demo", "examples/shopfront"];
const work = mkdtempSync(join(tmpdir(), "zest-packed-"));
const run = async (command: string, argv: readonly string[], cwd: string) => {
  const { stdout, stderr } = await promisify(execFile)(command, argv, { cwd, maxBuffer: 1 << 26 });
  return { out: stdout, err: stderr };
};
interface Manifest {
  readonly name: string;
  readonly private?: boolean;
  readonly dependencies?: Readonly<Record<string, string>>;
}
const manifestIn = (folder: string) => JSON.parse(readFileSync(join(folder, "package.json"), "utf8")) as Manifest;
const installed = (name: string) => join(work, "node_modules", name);

before(async () => {
  const workspaces = published.flatMap((folder) => ["-w", manifestIn(join(root, folder)).name]);
  await run("npm", ["pack", "--silent", "--pack-destination", work, ...workspaces], root);
  writeFileSync(join(work, "package.json"), JSON.stringify({ name: "outside", private: true, type: "module" }));
  const tarballs = readdirSync(work).filter((name) => name.endsWith(".tgz"));
  assert.equal(tarballs.length, published.length);
  const quietly = ["--prefer-offline", "--no-audit", "--no-fund", "--silent"];
  await run("npm", ["install", ...quietly, ...tarballs.map((name) => `./${name}`)], work);
});
after(() => rmSync(work, { recursive: true, force: true }));

test("nothing private is in a package, or needed by one; each says what it is and under which licence", () => {
  const all = published.map((folder) => manifestIn(join(root, folder)));
  const known = new Set(all.map(({ name }) => name));
  for (const { name } of all) {
    const folder = installed(name);
    const manifest = manifestIn(folder);
    assert.notEqual(manifest.private, true, name);
    const own = Object.keys(manifest.dependencies ?? {}).filter((one) => /^(@zest-tier\/|zest-tier$)/.test(one));
    assert.deepEqual(
      own.filter((one) => !known.has(one)),
      [],
      name,
    );
    const files = readdirSync(folder, { recursive: true, encoding: "utf8" }).map((file) => file.replaceAll("\\", "/"));
    for (const wanted of ["README.md", "LICENSE", "CHANGELOG.md"])
      assert.ok(files.includes(wanted), `${name} ${wanted}`);
    const stray = files.filter((file) =>
      /(^|\/)(test|make|node_modules)(\/|$)|tsbuildinfo|\.test\.|finding-samples|docs-pages|(?<!\.d)\.ts$/.test(file),
    );
    assert.deepEqual(
      stray.filter((file) => !file.startsWith("node_modules/")),
      [],
      name,
    );
  }
});

test("the installed command runs the demo, and checks what it left", async () => {
  const command = join(work, "node_modules/.bin/zest-tier");
  const demo = await run(command, ["demo", "--for", "pennywort"], work);
  assert.match(demo.out, /Everything that pennywort can store is on it as intended\./);
  const checked = await run(command, ["check", "bramblecomb", "--format", "json"], work);
  assert.equal((JSON.parse(checked.out) as { ok: boolean }).ok, true);
});

test("each entry of the library can be imported, and its schemas are there", async () => {
  const code = `
    import { openProject, valueOf } from "zest-tier";
    import { planImport } from "zest-tier/parts";
    import { nodePorts } from "zest-tier/node";
    import { webPorts } from "zest-tier/web";
    import { givenLayout } from "zest-tier/schemas";
    import schema from "zest-tier/schemas/layout.schema.json" with { type: "json" };
    const { project } = valueOf(await openProject(nodePorts("bramblecomb")));
    console.log(project.targets.length, typeof planImport, typeof webPorts, typeof givenLayout.parse, schema.type);`;
  writeFileSync(join(work, "entries.js"), code);
  const { out } = await run(process.execPath, ["--no-warnings", "entries.js"], work);
  assert.equal(out.trim(), "3 function function function object");
});

test("one small function of the library takes less than 5 KB of a bundle", async () => {
  writeFileSync(join(work, "small.js"), `export { formatLocation } from "zest-tier";`);
  const made = await build({
    root: work,
    configFile: false,
    logLevel: "silent",
    build: { write: false, lib: { entry: join(work, "small.js"), formats: ["es"] } },
  });
  const [output] = Array.isArray(made) ? made : [made];
  assert.ok(output && "output" in output);
  const bytes = output.output.reduce((sum, chunk) => sum + ("code" in chunk ? Buffer.byteLength(chunk.code) : 0), 0);
  assert.ok(bytes > 50 && bytes < 5_000, `${bytes} bytes`);
});
