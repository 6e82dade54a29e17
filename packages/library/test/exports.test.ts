/** Exports of platforms in their own files: several make one catalogue, and an unchanged one shows no difference. */

import assert from "node:assert/strict";
import { readFileSync } from "node:fs";
import { test } from "node:test";
import { Findings, valueOf, type Target } from "#src/index.js";
import {
  compareSnapshots,
  exportFromJson,
  intendedByTarget,
  nothingHeldBack,
  parseTarget,
  writeLayout,
  writtenKind,
} from "#src/parts.js";
import { readExports } from "#src/workflow/exports.js";
import { codes, filesOf, kinds, one, read } from "./support.js";

const shipped = (name: string): Target =>
  valueOf(parseTarget(readFileSync(new URL(`../../targets/${name}.yaml`, import.meta.url), "utf8"), name, kinds));

const csv = "format: { csv: { delimiter: ';' } }";
const goods = {
  file: "goods.csv",
  layout: `layout: goods
${csv}
rows: { each: variant, of: product, grouped by: P, shared cells: every row }
columns:
  P: product.key
  Id: product.id
  No: variant.code
  VId: variant.id
  Name: product.name@en
  Brand: { field: product.brand, as: { by: key } }
  Shelf: { field: product.categories, as: { by: key } }
  Wood: { axis: Wood, holds: value }
  Price: variant.prices(price).amount
  Stock: variant.stock(Barn).quantity
`,
  csv: "P;Id;No;VId;Name;Brand;Shelf;Wood;Price;Stock\nhive;11;H1;21;Hive;th;hives;Oak;9.5;3\nhive;11;H2;22;Hive;th;hives;Elm;8;\nlid;12;L1;;Lid;;full;;2;7\n",
};
const named = (kind: string, ...rows: readonly string[]) => ({
  file: `${kind}.csv`,
  layout: `layout: ${kind}\n${csv}\nrows: { each: ${kind} }\ncolumns: { Key: ${kind}.key, Id: ${kind}.id, Name: ${kind}.name@en${kind === "category" ? ", In: { field: category.parent, as: { by: key } }" : ""} }\n`,
  csv: `Key;Id;Name${kind === "category" ? ";In" : ""}\n${rows.join("\n")}\n`,
});
const sources = [
  named("brand", "th;31;Thornapple"),
  named("category", "hives;41;Hives;", "full;42;Full;hives"),
  { ...named("axis", "Wood;51;Wood"), file: "axis.csv" },
  {
    file: "values.csv",
    layout: `layout: values\n${csv}\nrows: { each: value }\ncolumns: { Key: value.key, Id: value.id, Axis: { field: value.axis, as: { by: key } }, Name: value.name@en }\n`,
    csv: "Key;Id;Axis;Name\nWood/Oak;61;Wood;Oak\nWood/Elm;62;Wood;Elm\n",
  },
  goods,
];

/** The files of a target, as it would export them. */
async function exported(target: Target, catalogue: Parameters<typeof intendedByTarget>[0]) {
  const files: Record<string, Uint8Array> = {};
  const findings = new Findings();
  for (const { name, layouts } of target.files.values())
    for (const layout of layouts) {
      // Rows about variants are about singles too: they are not written twice.
      if (layout.link && layouts.some(({ shape }) => shape.parent.of === layout.shape.parent.name)) continue;
      const records = Array.from({ length: catalogue.table(writtenKind(layout, catalogue)).size }, (_, row) => row);
      const chunks = await writeLayout(catalogue, layout, { records, copiesShared: true }, findings);
      const bytes = Buffer.concat([...chunks]);
      // Rows of several kinds stand below one header.
      const known = files[`${name}.csv`];
      if (layout.format.is === "workbook") files[`${name}.xlsx`] = bytes;
      else files[`${name}.csv`] = known ? Buffer.concat([known, bytes.subarray(bytes.indexOf(10) + 1)]) : bytes;
    }
  assert.deepEqual(codes(findings.list()), []);
  return files;
}

for (const name of ["pennywort", "tollgate", "saltmarsh"])
  test(`a platform's unchanged own files show no difference: ${name}`, async () => {
    const target = shipped(name);
    const { catalogue, findings } = await read(sources);
    assert.deepEqual(codes(findings.list()), []);
    const files = await exported(target, catalogue);
    const own = new Findings();
    const given = Object.keys(files).map((file) => ({ file, files: filesOf(files) }));
    const held = await readExports(given, target, kinds, catalogue, own);
    assert.ok(held, JSON.stringify(own.list()));
    const intended = intendedByTarget(catalogue, target, nothingHeldBack).snapshot;
    assert.deepEqual(compareSnapshots(intended, held), []);
    assert.equal(held.product.size, 2);
    // One of several that is needed and not there is reported by its name.
    if (given.length > 1) {
      const lacking = new Findings();
      const rest = given.filter(({ file }) => file !== "goods.csv");
      assert.equal(await readExports(rest, target, kinds, catalogue, lacking), undefined);
      assert.deepEqual(one(lacking.list(), "compare/exports-missing").facts, { missing: ["goods"], target: name });
    }
  });

test("what is wrong with an export is reported: columns that it lacks, and cells that cannot be read", async () => {
  const target = shipped("pennywort");
  const { catalogue } = await read(sources);
  const files = await exported(target, catalogue);
  const [file = ""] = Object.keys(files);
  const text = new TextDecoder().decode(files[file]);
  const reported = async (changed: string) => {
    const findings = new Findings();
    const given = [{ file, files: filesOf({ [file]: changed }) }];
    assert.equal(await readExports(given, target, kinds, catalogue, findings), undefined);
    return findings.list();
  };
  const lacking = one(await reported(text.replace("Brand;", "Marke;")), "compare/other-export");
  assert.deepEqual(lacking.facts, { missing: ["Brand"], target: "pennywort" });
  const [unreadable] = await reported(text.replace("9,5", "9,5,5"));
  assert.deepEqual([unreadable?.code, unreadable?.at?.line], ["cell/not-a-decimal", 2]);
});

test("a catalogue in JSON of a platform that does not describe one is refused, not taken for empty", () => {
  const text = readFileSync(new URL("../../test/fennel-quay/target.yaml", import.meta.url), "utf8");
  const quay = valueOf(parseTarget(text, "fennel-quay", kinds));
  const result = exportFromJson('{ "wares": [] }', "held.json", quay);
  assert.ok(!result.ok);
  assert.deepEqual(one(result.findings.list(), "compare/not-described").at, { file: "held.json" });
});
