/** Imports for some records only: bundles here, others there. */

import assert from "node:assert/strict";
import { test } from "node:test";
import fc from "fast-check";
import { Findings, findingTable, valueOf, type Target } from "#src/index.js";
import { buildUpload, parseTarget, playUpload, recordsOfImports } from "#src/parts.js";
import { nodeSha256 } from "#src/node/index.js";
import { codes, filesOf, kinds, memorySink, one, read, those } from "./support.js";

const runs = Number(process.env["PROPERTY_RUNS"] ?? 40);

const head = `target: wharf
version: 1
languages: [en]
endpoints: { pictures: /pictures, upload: "/in/{name}", catalogue: /all }
importer: { refusal costs: row }
files:`;

const flat = (name: string, columns: string) => `
  ${name}:
    layout:
      layout: ${name}
      format: { csv: {} }
      rows: { each: product }
      columns: { Item: product.key, Code: product.code, Title: product.name@en, ${columns} }`;

const components =
  'Holds: { field: product.components, as: { list: "|", of: { quantity: "*", holds: [quantity, { field: product, as: { by: key } }] } } }';

const targetOf = (imports: string, more = ""): string =>
  `${head}${flat("goods", "Kilos: product.weight")}${flat("crates", components)}${flat("rest", "Seek: product.searchTitle@en")}${more}
imports: ${imports}
`;

const split = "[{ file: crates, for: size(components) > 0 }, { file: goods, for: weight > 0 }, { file: rest }]";

const source = `layout: source\nformat: { csv: { delimiter: ";" } }\nrows: { each: product }\ncolumns: { Item: product.key, Code: product.code, Title: product.name@en, Kilos: product.weight, Seek: product.searchTitle@en, ${components} }`;

interface Product {
  readonly kilos: string;
  readonly seek: string;
  readonly holds: readonly number[];
}

const products = fc.array(
  fc.record({
    kilos: fc.constantFrom("", "1", "2.5"),
    seek: fc.constantFrom("", "pan"),
    holds: fc.uniqueArray(fc.nat(3), { maxLength: 2 }),
  }),
  { minLength: 4, maxLength: 9 },
);

/** The first four hold nothing: what a crate holds is not a crate. */
const csvOf = (all: readonly Product[]): string =>
  `Item;Code;Title;Kilos;Seek;Holds\n${all.map(({ kilos, seek, holds }, at) => `p${at};C${at};Name ${at};${kilos};${seek};${at < 4 ? "" : holds.map((of) => `2*p${of}`).join("|")}`).join("\n")}\n`;

async function built(all: readonly Product[], target: Target, holdBack = false) {
  const { catalogue } = await read([{ layout: source, csv: csvOf(all) }]);
  const sink = memorySink();
  const despite = new Set(holdBack ? [] : Object.keys(findingTable));
  const choices = {
    holdBack,
    despite,
    sha256: nodeSha256,
    found: new Findings(),
    pictures: new Map<string, Uint8Array>(),
  };
  const result = await buildUpload({ catalogue, target, project: "p", ...choices }, sink);
  const texts = new Map(
    Object.entries(sink.files).flatMap(([name, bytes]) =>
      name.endsWith(".csv") ? [[name.replace(/^\d+-|\.csv$/g, ""), new TextDecoder().decode(bytes)] as const] : [],
    ),
  );
  return { catalogue, result, texts, files: filesOf(sink.files) };
}

test("each record is in the first import that it fits, and the platform has all of them in the end", async () => {
  const target = valueOf(parseTarget(targetOf(split), "wharf.yaml", kinds));
  await fc.assert(
    fc.asyncProperty(products, async (all) => {
      const { catalogue, result, texts, files } = await built(all, target);
      const upload = valueOf(result);
      all.forEach(({ kilos, holds }, at) => {
        const fits = at >= 4 && holds.length > 0 ? "crates" : kilos === "" ? "rest" : "goods";
        const written = ["crates", "goods", "rest"].filter((name) => texts.get(name)?.includes(`p${at},C${at},`));
        assert.deepEqual(written, [fits]);
        for (const file of ["crates", "goods", "rest"])
          assert.equal(recordsOfImports(catalogue, target)(file, "product", at), file === fits);
      });
      const verdict = valueOf(await playUpload({ catalogue, target, ...upload, files }));
      assert.equal(verdict.rebuilt, true, JSON.stringify(verdict.differences));
      // What its own file has no place for is reported of a record, though another file has one.
      const lost = those(result.findings.list(), "target/uncarried").map(({ facts }) => facts as { field: string });
      const isLost = (field: string) => lost.some((facts) => facts.field === field);
      const isCrate = ({ holds }: Product, at: number) => at >= 4 && holds.length > 0;
      assert.equal(
        isLost("product.weight"),
        all.some((p, at) => isCrate(p, at) && p.kilos !== ""),
      );
      assert.equal(
        isLost("product.searchTitle@en"),
        all.some((p, at) => (isCrate(p, at) || p.kilos !== "") && p.seek !== ""),
      );
    }),
    { numRuns: runs },
  );
});

test("a record that fits no import is an error at its place, and the others go without it", async () => {
  const target = valueOf(parseTarget(targetOf(split.replace(", { file: rest }", "")), "wharf.yaml", kinds));
  const all = ["1", "", "2", "2"].map((kilos): Product => ({ kilos, seek: "", holds: [] }));
  const faulty = await built(all, target);
  const { at, facts } = one(faulty.result.findings.list(), "target/no-import");
  assert.equal(at?.line, 3);
  assert.deepEqual((facts as { imports: readonly string[] }).imports, ["crates", "goods"]);
  const { catalogue, result, files } = await built(all, target, true);
  const verdict = valueOf(await playUpload({ catalogue, target, ...valueOf(result), files }));
  assert.equal(verdict.counts.created, 3);
  assert.equal(verdict.rebuilt, true);
});

test("conditions of imports that cannot be are refused at their line", () => {
  const grouped = `
  groups:
    layout:
      layout: groups
      rows: { each: variant, of: product, grouped by: Item, shared cells: first row }
      columns: { Item: product.key, Code: variant.code }
    importer: { refusal costs: record, looked up: at the end of the file }`;
  const cases: readonly (readonly [string, string, RegExp])[] = [
    ["[{ file: goods, for: wight > 0 }]", "", /wight/],
    ["[{ file: goods, for: 'weight >' }]", "", /./],
    ["[{ file: goods, mode: update, for: weight > 0 }]", "", /cannot be rehearsed yet/],
    ["[{ file: groups, for: weight > 0 }]", grouped, /cannot be rehearsed yet/],
    ["[{ file: goods, for: weight > 0 }, { file: goods, name: again, mode: update }]", "", /one import/],
    ["[{ file: rest }, { file: goods, for: weight > 0 }]", "", /"rest" leaves no record/],
  ];
  for (const [imports, more, says] of cases) {
    const text = targetOf(imports, more);
    const result = parseTarget(text, "wharf.yaml", kinds);
    assert.ok(!result.ok, imports);
    const mistakes = those(result.findings.list(), "target/mistake");
    assert.ok(mistakes.length > 0, codes(result.findings.list()).join());
    assert.match(String((mistakes[0]!.facts as { problem: unknown }).problem), says);
    assert.equal(mistakes[0]!.at?.line, text.split("\n").findIndex((line) => line.startsWith("imports:")) + 1);
  }
});
