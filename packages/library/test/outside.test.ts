/** Files that a project names stay in its folder, links followed first, unless it names another folder under `outside`. */

import assert from "node:assert/strict";
import { mkdir, mkdtemp, readdir, realpath, rm, symlink, writeFile } from "node:fs/promises";
import { tmpdir } from "node:os";
import { dirname, join } from "node:path";
import { afterEach, beforeEach, test } from "node:test";
import { openProject, openTarget, readSourcesOf, type ReadonlyFindings } from "#src/index.js";
import { nodeFiles, nodePorts, shippedTarget } from "#src/node/index.js";

let root: string;
let folder: string;
beforeEach(async () => {
  root = await realpath(await mkdtemp(join(tmpdir(), "zest-outside-")));
  folder = join(root, "shop");
  await mkdir(join(root, "other/pictures"), { recursive: true });
  await mkdir(folder);
});
afterEach(() => rm(root, { recursive: true, force: true }));

const contents = {
  source: "No;Name\nsmoker;Bee smoker\n",
  layout:
    'layout: range\nformat: { csv: { delimiter: ";" } }\nrows: { each: product }\ncolumns: { No: product.key, Name: product.name@en }\n',
  table: "No,Maker\nsmoker,Thornapple\n",
  list: "kind,key,field,source,text\n",
  target: (await shippedTarget("tollgate"))!.replace(/^target: tollgate$/m, "target: own"),
  ledger: "",
  pictures: undefined,
};
type Named = keyof typeof contents;
const allNamed = Object.keys(contents) as Named[];

/** The project, with each file at a path; pictures are a folder. */
const projectWith = (paths: Readonly<Record<Named, string>>, more = ""): string =>
  [
    "project: p",
    `sources: [{ file: "${paths.source}", layout: "${paths.layout}" }]`,
    `tables: { t: { file: "${paths.table}", key: No } }`,
    "languages: [en, de]",
    `translations: [{ file: "${paths.list}", language: de }]`,
    `pictures: "${paths.pictures}"`,
    `targets: [{ target: pennywort, ledger: "${paths.ledger}" }, { target: "${paths.target}" }]`,
    more,
  ].join("\n");
const inside: Readonly<Record<Named, string>> = {
  source: "s.csv",
  layout: "l.yaml",
  table: "t.csv",
  list: "de.csv",
  target: "own.yaml",
  ledger: "ledger.jsonl",
  pictures: "pictures",
};

async function put(path: string, named: Named): Promise<void> {
  await mkdir(dirname(path), { recursive: true });
  const content = contents[named];
  if (content === undefined) await mkdir(path, { recursive: true });
  else await writeFile(path, content);
}
async function findingsOf(text: string): Promise<ReadonlyFindings> {
  await writeFile(join(folder, "project.yaml"), text);
  const opened = await openProject(nodePorts(folder));
  if (!opened.ok) return opened.findings;
  const sources = await readSourcesOf(opened.value);
  return sources.findings;
}
const outsides = (findings: ReadonlyFindings) => findings.list().filter(({ code }) => code === "project/outside");
const lineOf: Readonly<Record<Named, number>> = {
  ...{ source: 2, layout: 2, table: 3, list: 5, pictures: 6, ledger: 7, target: 7 },
};

for (const named of allNamed) {
  test(`the ${named} outside of the folder is refused at its line, by each way to write the path`, async () => {
    await put(join(root, "other", inside[named]), named);
    for (const path of [
      `../other/${inside[named]}`,
      `x/../../other/${inside[named]}`,
      `./../other/${inside[named]}`,
      join(root, "other", inside[named]),
      `..\\\\other\\\\${inside[named]}`,
      `C:/other/${inside[named]}`,
    ]) {
      const found = outsides(await findingsOf(projectWith({ ...inside, [named]: path })));
      assert.deepEqual(
        found.map(({ at }) => [at?.file, at?.line]),
        [["project.yaml", lineOf[named]]],
        path,
      );
    }
  });

  test(`a link to a ${named} outside is refused, and the folder named under "outside" allows it`, async () => {
    await put(join(root, "other", inside[named]), named);
    for (const one of allNamed.filter((other) => other !== named)) await put(join(folder, inside[one]), one);
    await symlink(join(root, "other", inside[named]), join(folder, inside[named]));
    assert.deepEqual(
      outsides(await findingsOf(projectWith(inside))).map(({ facts }) => facts),
      [{ path: inside[named] }],
    );
    for (const outside of ["../other", join(root, "other")])
      assert.deepEqual(outsides(await findingsOf(projectWith(inside, `outside: ["${outside}"]`))), []);
    const path = `../other/${inside[named]}`;
    const elsewhere = await findingsOf(projectWith({ ...inside, [named]: path }, "outside: [../other]"));
    assert.deepEqual(outsides(elsewhere), []);
    const beside = await findingsOf(projectWith({ ...inside, [named]: path }, "outside: [../othe, ../other/deeper]"));
    assert.equal(outsides(beside).length, 1);
  });
}

test("a link within the folder, a link to the folder, and a name that begins with two points are inside", async () => {
  for (const one of allNamed) await put(join(folder, inside[one]), one);
  await mkdir(join(folder, "..lists"));
  await writeFile(join(folder, "..lists/s.csv"), contents.source);
  await symlink("..lists/s.csv", join(folder, "link.csv"));
  await symlink(folder, join(root, "shop-link"));
  await writeFile(join(folder, "project.yaml"), projectWith({ ...inside, source: "link.csv" }));
  for (const at of [folder, join(root, "shop-link")]) {
    const opened = await openProject(nodePorts(at));
    assert.ok(opened.ok);
    const sources = await readSourcesOf(opened.value);
    assert.deepEqual(outsides(sources.findings), []);
    assert.ok(sources.ok && (await openTarget(sources.value)).ok);
  }
});

test("a link that leads nowhere yet is followed too: its file would be made outside", async () => {
  const files = nodeFiles(folder).within?.([]);
  await symlink("../other/new.jsonl", join(folder, "ledger.jsonl"));
  await symlink("circle", join(folder, "circle"));
  for (const path of ["ledger.jsonl", "../other/new.jsonl", "nothing/../../other/new.jsonl"]) {
    const read = await files!.read(path);
    assert.deepEqual([read.ok, read.findings.list()[0]?.code], [false, "project/outside"], path);
  }
  assert.equal((await files!.read("circle")).ok, false);
  await assert.rejects(files!.list("../other"), /project\/outside/);
  assert.deepEqual(await readdir(join(root, "other")), ["pictures"]);
});
