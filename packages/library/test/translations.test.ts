/** Translators' translation lists: out as a sheet and as XLIFF, back in, and what a project wants of gaps. */

import assert from "node:assert/strict";
import { test } from "node:test";
import fc from "fast-check";
import { Findings, translationSheet, translationXliff, writeWorkbook, type TranslationItem } from "#src/index.js";
import { itemsOfSheet, itemsOfXliff, loadProject, readProject, translationList } from "#src/parts.js";
import { codes, filesOf, one, pennywortText, those } from "./support.js";

const project = (more = "") => `
project: p
sources: [{ file: a.csv, layout: a.yaml }]
languages: [en, de]
targets: [{ target: t.yaml }]
${more}`;
const layout = `
layout: a
format: { csv: { delimiter: ";" } }
rows: { each: product }
columns:
  Key: product.key
  Code: product.code
  Name: product.name@en
  Name de: product.name@de
  Text: product.description@en
  Photo: { field: product.pictures.file, as: { list: "," } }
  Says: { field: product.pictures.alternative@en, as: { list: "," } }
`;
const csv =
  "Key;Code;Name;Name de;Text;Photo;Says\nhive;H;Beehive;Beehive;For bees;a.png;A hive\nsmoker;S;Smoker;Raucher;;;\n";

async function readWith(more = "", files: Readonly<Record<string, string | Uint8Array>> = {}) {
  const all = filesOf({
    "project.yaml": project(more),
    "a.yaml": layout,
    "a.csv": csv,
    "t.yaml": pennywortText,
    ...files,
  });
  const findings = new Findings();
  const loaded = findings.took(await loadProject("project.yaml", all, () => Promise.resolve(undefined)));
  assert.ok(loaded, JSON.stringify(findings.list()));
  const { catalogue } = await readProject(loaded, all, findings);
  return { catalogue, findings };
}
const textOf = async function* (text: string) {
  yield await Promise.resolve(text);
};

test("lists what a language lacks, and what only repeats the source", async () => {
  const { catalogue } = await readWith();
  const items = translationList(catalogue, "en", "de");
  assert.deepEqual(
    items.map(({ kind, key, field, state }) => [kind, key, field, state]),
    [
      ["product", "hive", "name", "same as the source"],
      ["product", "hive", "description", "missing"],
      ["product", "smoker", "name", "done"],
      ["product.pictures", "hive ·  · a.png", "alternative", "missing"],
    ],
  );
});

const item = fc.record({
  kind: fc.constantFrom("product", "category"),
  key: fc
    .string({ unit: "grapheme", minLength: 1, maxLength: 12 })
    .map((text) => text.replace(/[\p{C}|]/gu, "").trim() || "k"),
  field: fc.constant("name"),
  source: fc
    .string({ unit: "grapheme", minLength: 1, maxLength: 20 })
    .map((text) => text.replace(/[\p{C}\r\n]/gu, "") || "s"),
  translation: fc.option(
    fc
      .string({ unit: "grapheme", minLength: 1, maxLength: 20 })
      .map((text) => text.replace(/[\p{C}\r\n]/gu, "") || "w"),
    { nil: undefined },
  ),
  state: fc.constant("missing" as const),
});
const plain = ({ kind, key, field, source, translation }: Omit<TranslationItem, "state">) => ({
  kind,
  key,
  field,
  source,
  translation,
});

test("what goes out as XLIFF comes back as it was", async () => {
  await fc.assert(
    fc.asyncProperty(fc.array(item, { maxLength: 6 }), async (items) => {
      const findings = new Findings();
      const text = translationXliff(items, "en", "de", findings);
      const back = await itemsOfXliff(textOf(text), "w.xlf", findings);
      assert.deepEqual(findings.list(), []);
      assert.deepEqual(
        back.map((each) => plain(each.item)),
        items.map(plain),
      );
    }),
  );
});

test("what goes out as a sheet comes back as it was", () => {
  fc.assert(
    fc.property(fc.array(item, { maxLength: 6 }), (items) => {
      const { rows } = translationSheet(items, "en", "de");
      const back = itemsOfSheet(
        rows,
        rows.map((_, at) => at + 1),
        "de",
      )!;
      assert.deepEqual(
        back.map((each) => plain(each.item)),
        items.map(plain),
      );
    }),
  );
});

test("takes words from a workbook and from XLIFF, leaves out what was made of an older text, and says what names nothing", async () => {
  const of = (key: string, source: string, translation: string, field = "description"): TranslationItem => ({
    ...{ kind: "product", key, field, source, translation },
    state: "missing",
  });
  const sheet = await writeWorkbook([translationSheet([of("hive", "For bees", "Für Bienen")], "en", "de")]);
  const xliff = translationXliff(
    [of("smoker", "Smoke box", "Rauchkasten", "name"), of("skep", "Skep", "Korb", "name")],
    "en",
    "de",
    new Findings(),
  );
  const { catalogue, findings } = await readWith(
    "translations: [{ file: w.xlsx, language: de }, { file: w.xlf, language: de }]",
    { "w.xlsx": sheet, "w.xlf": xliff },
  );
  assert.equal(catalogue.table("product").text("description@de", 0), "Für Bienen");
  assert.equal(catalogue.table("product").text("name@de", 1), "Raucher", "the older words stay");
  const list = findings.list();
  assert.deepEqual(one(list, "read/stale-translation").facts, { here: "Smoke box", first: "Smoker" });
  assert.equal(one(list, "read/names-none").at?.file, "w.xlf");
  assert.deepEqual(
    those(list, "translations/taken")
      .map((each) => (each.facts as { taken: number }).taken)
      .sort(),
    [0, 1],
  );
});

test("says what is not a translation list", async () => {
  const { findings } = await readWith("translations: [{ file: w.csv, language: de }]", { "w.csv": "a,b\n1,2\n" });
  assert.equal(one(findings.list(), "translations/no-list").at?.file, "w.csv");
});

test("fills gaps as the project wants: blank, copied with a mark, or held back", async () => {
  const blank = await readWith("gaps: { de: leave blank }");
  assert.equal(blank.catalogue.table("product").text("description@de", 0), undefined);
  const copied = await readWith('gaps: { de: { copy: "[en] " } }');
  assert.equal(copied.catalogue.table("product").text("description@de", 0), "[en] For bees");
  assert.equal((one(copied.findings.list(), "translations/copied").facts as { count: number }).count, 2);
  const held = await readWith("gaps: { de: hold back }");
  assert.deepEqual(
    those(held.findings.list(), "translations/needed").map((each) => [
      each.severity,
      each.at?.record?.key,
      each.at?.line,
    ]),
    [
      ["error", "hive", 2],
      ["error", "hive", 2],
    ],
  );
  assert.ok(!codes(blank.findings.list()).includes("translations/needed"));
});
