/** From a source to the upload: exactly the cells whose origins are there, for rows, cells, sheets of workbooks and elements of documents. */

import assert from "node:assert/strict";
import { fileURLToPath } from "node:url";
import { test } from "node:test";
import {
  formatLocation,
  openProject,
  openTarget,
  planUpload,
  readSourcesOf,
  valueOf,
  type Location,
  type TracedCell,
} from "#src/index.js";
import { nodePorts } from "#src/node/index.js";
import { parseTarget, planImport, traceCells, traceSource } from "#src/parts.js";
import { kinds, read } from "./support.js";

const demo = fileURLToPath(new URL("../../../../demo/clean/", import.meta.url));
/** Of all places so many are asked for. */
const asked = 12;

const nameOf = ({ file, line, header }: TracedCell): string => `${file}:${line}:${header}`;
const rowOf = ({ file, sheet, pointer, line }: Location): Location =>
  JSON.parse(JSON.stringify({ file, sheet, pointer, line })) as Location;

for (const name of ["pennywort", "saltmarsh", "tollgate"])
  test(`a place of a source is traced to the cells that name it as their origin: ${name}`, async () => {
    const sources = valueOf(await readSourcesOf(valueOf(await openProject(nodePorts(demo)))));
    const { catalogue, target } = valueOf(await openTarget(sources, { target: name }));
    const { plan } = valueOf(
      await planUpload(valueOf(await openTarget(sources, { target: name })), { holdBack: true }),
    );
    const isLeftOut = () => false;
    const all = [...traceCells(catalogue, target, plan, isLeftOut, () => true)];
    const places = [
      ...new Map(
        all.flatMap(({ origins }) => origins.map((one) => [formatLocation(one.location), one.location])),
      ).values(),
    ].filter(({ line, pointer }) => line !== undefined || pointer !== undefined);
    const isSampled = (at: number): boolean => at % Math.ceil(places.length / asked) === 0;
    // A place without a column is its whole row.
    const cellsWith = (place: string): string[] =>
      all
        .filter(({ origins }) =>
          origins.some(({ location }) => [location, rowOf(location)].some((one) => formatLocation(one) === place)),
        )
        .map(nameOf);
    const traced = (source: Location | string): string[] =>
      [...traceSource(catalogue, target, plan, isLeftOut, source)].map(nameOf);
    let found = 0;
    for (const place of places.filter((_, at) => isSampled(at))) {
      const [cell, row] = [formatLocation(place), formatLocation(rowOf(place))];
      const ofCell = cellsWith(cell);
      assert.deepEqual(traced(cell), ofCell, cell);
      assert.deepEqual(traced(row), cellsWith(row), row);
      assert.deepEqual(traced(place), ofCell, `${cell}, not printed`);
      found += ofCell.length;
    }
    assert.ok(found >= asked, `${found} cells`);
    assert.ok(places.some(({ pointer }) => pointer !== undefined) && places.some(({ sheet }) => sheet !== undefined));
  });

test("a row in a language is traced to the texts in that, also where an import writes some columns alone", async () => {
  const target = valueOf(
    parseTarget(
      `target: bothy
version: 1
languages: [en, de]
endpoints: { pictures: /pictures, upload: "/in/{name}", catalogue: /all }
importer: { refusal costs: row }
files:
  goods:
    layout:
      layout: goods
      format: { csv: {} }
      rows: { each: product, language: { column: Lang, code words: { E: en, D: de } } }
      columns: { Key: product.key, Brand: product.code, Name: product.name, Text: product.description }
imports: [{ file: goods, columns: [Key, Brand, Lang, Name] }, { name: texts, file: goods, mode: update, columns: [Key, Lang, Text] }]
`,
      "bothy.yaml",
      kinds,
    ),
  );
  const fields =
    "K: product.key, B: product.code, E: product.name@en, D: product.name@de, Et: product.description@en, Dt: product.description@de";
  const layout = `layout: source\nformat: { csv: { delimiter: ";" } }\nrows: { each: product }\ncolumns: { ${fields} }`;
  const { catalogue } = await read([{ layout, csv: "K;B;E;D;Et;Dt\na;A1;Kettle;Kessel;Boils.;Kocht.\n" }]);
  const plan = valueOf(planImport(catalogue, target, { bytesOf: () => 0, headerBytes: () => 0, pictures: [] }));
  const isLeftOut = () => false;
  const cells = [...traceCells(catalogue, target, plan, isLeftOut, () => true)];
  const texts = cells.filter(({ header }) => header === "Name" || header === "Text");
  const from = texts.map(({ text, origins }) => `${text} ${origins.map(({ location }) => location.column).join()}`);
  assert.deepEqual(from, ["Kettle E", "Kessel D", "Boils. Et", "Kocht. Dt"]);
});
