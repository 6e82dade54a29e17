/** L11 for documents: every value of a document is read, or listed by its path with how often it stands there. */

import assert from "node:assert/strict";
import { test } from "node:test";
import fc from "fast-check";
import { Findings, type ReadonlyFindings } from "#src/index.js";
import { Catalogue, readSources } from "#src/parts.js";
import { filesOf, kinds, layoutOf, read as readAll, those } from "./support.js";

const runs = Number(process.env["PROPERTY_RUNS"] ?? 150);

/** An element: a text, or elements by their names, several of a name; with attributes. */
interface Tree {
  readonly attributes: Readonly<Record<string, string>>;
  readonly text: string;
  readonly inside: readonly (readonly [string, Tree])[];
}
const bare: Tree = { attributes: {}, text: "bare", inside: [] };
const word = fc.constantFrom("red", "4", "0", "Beute", "日本", "a b");
const { tree } = fc.letrec<{ tree: Tree }>((tie) => ({
  tree: fc.record({
    attributes: fc.dictionary(fc.constantFrom("id", "lang", "unit"), word, { maxKeys: 2 }),
    text: fc.oneof(fc.constant(""), word),
    inside: fc.array(
      fc.tuple(
        fc.constantFrom("a", "b", "c"),
        fc.oneof({ maxDepth: 4, withCrossShrink: true }, fc.constant(bare), tie("tree")),
      ),
      {
        maxLength: 2,
      },
    ),
  }),
}));

const leavesOf = ({ attributes, text, inside }: Tree): number =>
  Object.keys(attributes).length + Number(text !== "") + inside.reduce((sum, [, one]) => sum + leavesOf(one), 0);
const xmlOf = (name: string, { attributes, text, inside }: Tree): string =>
  `<${name}${Object.entries(attributes)
    .map(([key, value]) => ` ${key}="${value}"`)
    .join("")}>${text}${inside.map(([own, one]) => xmlOf(own, one)).join("")}</${name}>`;
const pathsOf = ({ attributes, inside }: Tree, above = ""): string[] => [
  ...Object.keys(attributes).map((name) => `${above}@${name}`),
  ...inside.flatMap(([name, one]) => [`${above}${name}/text()`, ...pathsOf(one, `${above}${name}/`)]),
];

async function read(format: string, file: string, document: string, columns: readonly string[], more = "") {
  const bound = columns.map(
    (path, at) => `${JSON.stringify(path)}: ${at === 0 ? "product.key" : `product.properties(p${at}).value`}`,
  );
  const element = format === "json" ? "/items" : "/f/item";
  const layout = layoutOf(
    `layout: l\\nformat: { ${format}: {} }\\nrows: { each: product, element: ${element} }\\n${more}columns: { ${bound.join(", ")} }\\n`.replaceAll(
      "\\n",
      "\n",
    ),
  );
  const findings = new Findings();
  const [counts] = await readSources([{ file, layout }], new Catalogue(kinds), filesOf({ [file]: document }), findings);
  assert.ok(counts);
  const { filled, inRecords, inFindings, byRule } = counts.cells;
  assert.equal(filled, inRecords + inFindings + Object.values(byRule).reduce((sum, one) => sum + one, 0));
  return { counts, findings };
}
const listed = (findings: ReadonlyFindings): string[] =>
  findings
    .list()
    .flatMap(({ code, at }) =>
      code === "read/column-unbound" || code === "read/further-values" ? (at?.column ?? []) : [],
    );

test("each text and attribute of XML is read or listed, whatever is bound; what is ignored is not listed", async () => {
  await fc.assert(
    fc.asyncProperty(fc.array(tree, { minLength: 1, maxLength: 3 }), fc.nat(), async (trees, pick) => {
      const document = `<f>${trees.map((one, at) => `<item key="k${at}">${xmlOf("own", one)}</item>`).join("")}</f>`;
      const all = [...new Set(trees.flatMap((one) => pathsOf(one, "own/")))];
      const columns = ["@key", ...all.filter((_, at) => (pick >> at) % 2 === 1)];
      const { counts, findings } = await read("xml", "s.xml", document, columns);
      const leaves = trees.reduce((sum, one) => sum + 1 + leavesOf(one), 0);
      assert.equal(counts.cells.filled, leaves, document);
      const unread = listed(findings);
      const ignored = await read("xml", "s.xml", document, columns, `ignore: ${JSON.stringify(unread)}\\n`);
      assert.deepEqual(listed(ignored.findings), []);
    }),
    { numRuns: runs },
  );
});

type Json = string | number | boolean | null | readonly Json[] | { readonly [name: string]: Json };
const json = fc.letrec<{ value: Json; object: Json }>((tie) => ({
  value: fc.oneof({ depthSize: "small" }, word, fc.integer(), fc.constant(null), fc.constant(""), tie("object")),
  object: fc.dictionary(fc.constantFrom("a", "b", "c/d", "e~"), tie("value"), { maxKeys: 3 }),
})).object;

const stepOf = (name: string): string => `/${name.replaceAll("~", "~0").replaceAll("/", "~1")}`;
const jsonPaths = (value: Json, above: string): string[] =>
  typeof value !== "object" || value === null
    ? value === null || value === ""
      ? []
      : [above]
    : Object.entries(value).flatMap(([name, inner]) => jsonPaths(inner, above + stepOf(name)));

const objectPaths = (value: Json, above: string): string[] =>
  typeof value !== "object" || value === null
    ? []
    : [above, ...Object.entries(value).flatMap(([name, inner]) => objectPaths(inner, above + stepOf(name)))];

test("each value of JSON is read or listed, whatever is bound", async () => {
  await fc.assert(
    fc.asyncProperty(fc.array(json, { minLength: 1, maxLength: 3 }), fc.nat(), async (values, pick) => {
      const document = JSON.stringify({ items: values.map((own, at) => ({ key: `k${at}`, own })) });
      const paths = values.map((value) => jsonPaths(value, "/own"));
      const all = [...new Set(paths.flat())];
      const columns = ["/key", ...all.filter((_, at) => (pick >> at) % 2 === 1)];
      const { counts, findings } = await read("json", "s.json", document, columns);
      // A path that leads to a value here leads to an object elsewhere: it is read as a whole.
      const objects = new Set(values.flatMap((value) => objectPaths(value, "/own")));
      const isPlain = !columns.some((path) => objects.has(path));
      if (isPlain) assert.equal(counts.cells.filled, values.length + paths.flat().length, document);
      const ignored = await read("json", "s.json", document, columns, `ignore: ${JSON.stringify(listed(findings))}\\n`);
      assert.deepEqual(listed(ignored.findings), []);
      const covered = new Set([...columns, ...listed(findings)]);
      for (const path of all)
        assert.ok(
          [...covered].some((one) => path === one || path.startsWith(`${one}/`)),
          path,
        );
    }),
    { numRuns: runs },
  );
});

const feed = `<feed currency="EUR"><shop>Alder Mill</shop>
<item id="a"><name lang="en">Hive</name><name lang="fr">Ruche</name><pic>1.png</pic><pic>2.png</pic>
<lot no="1"><w>3</w></lot><lot no="2"><w>4</w></lot></item>
<item id="b"><name lang="en">Box</name></item><footer>end</footer></feed>`;

test("what is listed stands at its line, named as a layout would name it; further values are counted", async () => {
  const layout = layoutOf(
    'layout: l\nformat: { xml: {} }\nrows: { each: product, element: /feed/item }\ncolumns:\n  "@id": product.key\n  "name[@lang=\'en\']": product.name@en\n  pic: product.pictures(main).file\n',
  );
  const findings = new Findings();
  await readSources([{ file: "s.xml", layout }], new Catalogue(kinds), filesOf({ "s.xml": feed }), findings);
  const places = findings
    .list()
    .flatMap(({ code, at, facts }) =>
      code === "read/column-unbound" || code === "read/further-values"
        ? [[code, at?.line, at?.column, "values" in facts ? facts.values : 0]]
        : [],
    );
  assert.deepEqual(places.sort(), [
    ["read/column-unbound", 1, "../@currency", 0],
    ["read/column-unbound", 1, "../shop", 0],
    ["read/column-unbound", 2, "name[@lang='fr']", 0],
    ["read/column-unbound", 3, "lot/@no", 0],
    ["read/column-unbound", 3, "lot/w", 0],
    ["read/column-unbound", 4, "../footer", 0],
    ["read/further-values", 2, "pic", 1],
  ]);
});

test("JSON: what stands around the repeated elements is listed too, and may be left out by its name", async () => {
  const document =
    '{"made":"2027-01-01","shop":{"name":"Bramblecomb","place":{"town":"Wend"},"items":[{"key":"a","names":{"en":"Hive"}}],"currency":"EUR"},"notes":["x","y",null]}';
  const layout = (ignore: string) =>
    `layout: l\nformat: { json: {} }\nrows: { each: product, element: /shop/items }\ncolumns: { /key: product.key, /names/en: product.name@en }\nignore: [${ignore}]\n`;
  const unbound = async (ignore: string) => {
    const { findings } = await readAll([{ layout: layout(ignore), csv: document }]);
    return those(findings.list(), "read/column-unbound").map(({ at }) => at?.column);
  };
  assert.deepEqual(await unbound(""), ["../../made", "../../notes", "../currency", "../name", "../place/town"]);
  assert.deepEqual(await unbound("../../made, ../name, ../place/town, ../../notes"), ["../currency"]);
});
