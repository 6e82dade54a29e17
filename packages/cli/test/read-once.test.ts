/** L12: reading once and building for several targets, in any order, gives the bytes of each alone. A stage changes nothing it was given. */

import assert from "node:assert/strict";
import { readFileSync } from "node:fs";
import { join } from "node:path";
import { fileURLToPath } from "node:url";
import { test } from "node:test";
import fc from "fast-check";
import {
  build,
  openProject,
  openTarget,
  planUpload,
  readSourcesOf,
  rehearse,
  targetsOf,
  valueOf,
  withLedger,
  Ledger,
  type FilesPort,
  type OpenedSources,
  type ReadonlyCatalogue,
  type ResolvedCatalogue,
} from "zest-tier";
import { nodePorts } from "zest-tier/node";
import { blobFiles, memoryFolder } from "zest-tier/web";
import { memoryFiles } from "./generate.js";
import { pictureNames, projectOf, rich, type Rich } from "./rich.js";

const runs = Number(process.env["PROPERTY_RUNS"] ?? 12);
const quay = readFileSync(fileURLToPath(new URL("../../../library/test/fennel-quay/target.yaml", import.meta.url)));

/** What a project may want for one target alone. */
const rules = [
  { field: "product.name@en", template: "{name.en}!", overwrite: true },
  { field: "product.description@de", template: "{name.en} ({key})", overwrite: true },
  { field: "variant.prices(price).amount", constant: "12.5", overwrite: true },
  { field: "variant.prices(cost).amount", constant: "3" },
  { field: "product.slug@en", slug: "product.name@en", overwrite: true },
  { field: "variant.weight", constant: "0.25", overwrite: true },
  { field: "category.name@de", template: "{name.en} de", overwrite: true },
] as const;
const targets = ["pennywort", "saltmarsh", "tollgate", "fennel-quay"] as const;
type Name = (typeof targets)[number];

/** By target: which rules it has, and which records have which ids there. */
const wishes = fc.record(
  Object.fromEntries(
    targets.map((name) => [
      name,
      fc.record({
        rules: fc.subarray([...rules]),
        ids: fc.array(fc.tuple(fc.constantFrom("category", "product", "axis"), fc.nat(4), fc.nat(99)), {
          maxLength: 4,
        }),
      }),
    ]),
  ) as Record<Name, fc.Arbitrary<{ rules: (typeof rules)[number][]; ids: [string, number, number][] }>>,
);

function portsOf(given: Rich, wanted: typeof wishes extends fc.Arbitrary<infer T> ? T : never) {
  const project = projectOf(
    given,
    targets.map((name) => ({
      target: name === "fennel-quay" ? "quay.yaml" : name,
      derive: wanted[name].rules,
      ledger: `${name}.jsonl`,
    })),
  );
  const files: Record<string, Uint8Array> = { ...project, "quay.yaml": quay };
  for (const name of targets) {
    const ledger = new Ledger();
    for (const [kind, key, id] of wanted[name].ids)
      ledger.add({
        kind,
        key: kind === "category" ? `c${key}` : kind === "product" ? `p${key}` : ["Wood", "Size"][key % 2]!,
        id: String(id),
        state: "confirmed",
        run: "r",
      });
    files[`${name}.jsonl`] = new TextEncoder().encode(ledger.addedText());
  }
  const read = memoryFiles(files);
  const port: FilesPort = {
    read: (path) =>
      path.startsWith("pictures/") ? memoryFiles({ [path]: new Uint8Array([1]) }).read(path) : read.read(path),
    list: (folder) => Promise.resolve(folder === "pictures" ? pictureNames.map((name) => ({ name, bytes: 1 })) : []),
  };
  return { ...nodePorts("."), files: port };
}

/** Everything that a catalogue holds, as text. */
function contentOf(catalogue: ReadonlyCatalogue): string {
  const resolved = catalogue as ResolvedCatalogue;
  return catalogue.tables
    .flatMap((table) =>
      Array.from({ length: table.size }, (_, row) =>
        JSON.stringify([
          table.name,
          table.key(row),
          table.parent(row),
          table.sheet(row),
          table.line(row),
          [...table.texts].map(([field, column]) => [field, column.get(row), table.fieldOrigin(field, row)]),
          [...table.references.keys()].map((field) => [field, targetsOf(resolved, table, field, row)]),
        ]),
      ),
    )
    .concat(JSON.stringify(catalogue.sheets.map(({ file }) => file)))
    .join("\n");
}

/** Whatever can be done for a target, and every byte of it. */
async function bytesFor(sources: OpenedSources, target: Name): Promise<Record<string, string>> {
  const opened = valueOf(await openTarget(sources, { target }));
  const despite = new Set(opened.findings.list().map(({ code }) => code));
  const planned = await planUpload(opened, { despite });
  for (const { code } of planned.findings.list()) despite.add(code);
  const { sink, files } = memoryFolder();
  const built = await build(opened, { sink, despite });
  const made: Record<string, string> = {
    findings: JSON.stringify(built.findings.list()),
    ledger: String(opened.ledger.size),
  };
  for (const [name, blob] of files) made[name] = Buffer.from(await blob.arrayBuffer()).toString("base64");
  if (!built.ok || built.value.files.length === 0) return made;
  const played = await rehearse(opened, built.value, { files: blobFiles(files), despite });
  made["verdict"] = JSON.stringify(played.ok ? [played.value.counts, played.value.differences] : played.findings);
  withLedger(opened, new Ledger());
  return made;
}

test("L12: read once and built for several targets, in any order, each gets the bytes that it gets alone", async () => {
  let written = 0;
  const orders = fc.array(fc.constantFrom(...targets), { minLength: 2, maxLength: 5 });
  await fc.assert(
    fc.asyncProperty(rich(), wishes, orders, async (given, wanted, order) => {
      const open = async () =>
        valueOf(await readSourcesOf(valueOf(await openProject(portsOf(given, wanted), "project.yaml"))));
      const once = await open();
      const before = contentOf(once.read.catalogue);
      for (const name of order) {
        const together = await bytesFor(once, name);
        assert.equal(contentOf(once.read.catalogue), before, `${name} has changed what it was given`);
        assert.deepEqual(together, await bytesFor(await open(), name), name);
        written += Object.keys(together).length;
      }
    }),
    { numRuns: Math.ceil(runs / 3) },
  );
  assert.ok(written > 3 * runs, `only ${written} files were compared`);
});

test("what a branch was made of cannot be written to any more, nor can its columns", async () => {
  const sources = valueOf(
    await readSourcesOf(valueOf(await openProject(nodePorts(join(import.meta.dirname, "../../../../demo/clean"))))),
  );
  const first = sources.read.catalogue.branch();
  const column = first.table("product").textColumn("name@en");
  const second = first.branch();
  const before = contentOf(first);
  second.table("product").setText("name@en", 0, "other");
  second.table("product").append(0, 1);
  second.table("product").rename(1, "another");
  second.table("variant").referenceColumn("values").set(0, []);
  second.table("category").reparent(0, -1);
  second.pool.toRow("product", 0, { sheet: 0, line: 1 });
  second.sheets.push({ file: "x", headers: new Map(), precedence: 0 });
  assert.equal(contentOf(first), before);
  assert.notEqual(contentOf(second), before);
  for (const write of [
    () => column.set(0, "late"),
    () => first.table("product").setText("name@en", 0, "late"),
    () => first.table("product").append(0, 1),
    () => first.table("product").rename(0, "late"),
    () => first.table("product").setFieldOrigin("name@en", 0, { sheet: 0, line: 1 }),
    () => first.table("variant").referenceColumn("values").set(0, []),
    () => first.table("category").reparent(0, -1),
    () => first.pool.intern(0, -1, "late", { sheet: 0, line: 1 }),
    () => first.state({ reference: 0, field: "name@en", value: "late", met: { sheet: 0, line: 1 } }),
  ])
    assert.throws(write, /after another was made of it/);
});
