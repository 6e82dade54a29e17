/** What is written in each encoding and kind of file comes back as it was, or is reported before it is lost. */

import assert from "node:assert/strict";
import { test } from "node:test";
import fc from "fast-check";
import { Findings, valueOf } from "#src/index.js";
import { buildUpload, decodeText, openWorkbook, parseTarget, readCsv, readSheet } from "#src/parts.js";
import type { Format } from "#src/formats/format.js";
import type { CellLimits, RowsDriver } from "#src/formats/drivers/driver.js";
import { driverOf } from "#src/formats/drivers/drivers.js";
import { encoderOf } from "#src/formats/encode.js";
import { isFormula } from "#src/formats/formulas.js";
import { nodeSha256 } from "#src/node/index.js";
import {
  bytesOf,
  kinds,
  memorySink,
  pennywort,
  pennywortText,
  rangeCsv,
  rangeLayout,
  read,
  single,
  those,
} from "./support.js";

const rowsOf = <F extends Format>(format: F): RowsDriver<F> => {
  const { rows } = driverOf(format);
  assert.ok(rows);
  return rows;
};

const runs = Number(process.env["PROPERTY_RUNS"] ?? 100);
const pages = ["windows-1250", "windows-1251", "windows-1252", "windows-1254", "iso-8859-2", "koi8-r", "macintosh"];
const unicode = ["utf-8", "utf-16le", "utf-16be"];

/** What the bytes of a file say, read in the encoding that it was written in. */
async function textOf(bytes: Uint8Array, encoding: string): Promise<string> {
  const findings = new Findings();
  let text = "";
  for await (const piece of decodeText(bytesOf(bytes, 7), "given", encoding, findings)) text += piece;
  assert.deepEqual(findings.list(), []);
  return text;
}

test("a text that an encoding holds comes back from it; one that it does not hold is known", async () => {
  const texts = fc.string({ unit: fc.constantFrom(...'aZ0 ;"äöüßéñçřžŁЖиЯ€™–…蜂😀'), maxLength: 30 });
  let held = 0;
  await fc.assert(
    fc.asyncProperty(fc.constantFrom(...pages, ...unicode), texts, async (label, text) => {
      const encoder = encoderOf(label);
      assert.ok(encoder);
      if (!encoder.holds(text)) return assert.throws(() => encoder.encode(text));
      held += Number(/[^\u0020-\u007e]/.test(text));
      const bytes = encoder.encode(text);
      assert.equal(bytes.length, encoder.byteLength(text));
      assert.equal(await textOf(bytes, label), text);
    }),
    { numRuns: 5 * runs },
  );
  assert.ok(held > runs / 2, `${held} texts with more than ASCII`);
});

test("an encoding of several bytes a character is read, and not written", () => {
  assert.deepEqual(
    [encoderOf("shift_jis"), encoderOf("gb18030"), encoderOf("no such")],
    [undefined, undefined, undefined],
  );
  assert.equal(encoderOf("latin1")?.name, "windows-1252");
});

/** The cells with another in the place of each that the driver reports. */
const writable = (cells: readonly string[], { each, last }: CellLimits): string[] =>
  cells.map((cell, at) => {
    const wanted = each?.(cell) ?? (at === cells.length - 1 ? last?.(cell) : undefined);
    return wanted === undefined ? cell : "x";
  });

test("CSV: rows come back as they were, whatever stands for quotes, delimiters, line ends and formulas", async () => {
  const cell = fc.string({ unit: fc.constantFrom(..."ab'\"|;, \n\t#ä=+-@1"), maxLength: 8 });
  await fc.assert(
    fc.asyncProperty(
      fc.array(fc.array(cell, { minLength: 2, maxLength: 2 }), { minLength: 1, maxLength: 6 }),
      fc.constantFrom(undefined, '"', "'", "|", "none"),
      fc.constantFrom(";", "\t", "#"),
      fc.constantFrom("\n" as const, "\r\n" as const),
      fc.constantFrom("utf-8", "windows-1252", "utf-16be"),
      fc.constantFrom("as they are", "neutralise", "refuse"),
      async (given, quote, delimiter, lineEnd, encoding, formulas) => {
        const format = { is: "csv", delimiter, quote, encoding, lineEnd, mark: false, formulas } as const;
        const limits = rowsOf(format).limits(format);
        const rows = given.map((cells) => writable(cells, limits));
        const all = [["A", "B"], ...rows];
        const chunks = [...(await rowsOf(format).write(format, [{ sheet: "", rows: all }]))];
        const bytes = new Uint8Array(await new Blob(chunks.map((one) => new Uint8Array(one))).arrayBuffer());
        const { bytesOf: size, linesOf } = rowsOf(format);
        assert.equal(
          all.reduce((sum, cells) => sum + (size?.(format)(cells) ?? 0), 0),
          bytes.length,
        );
        const findings = new Findings();
        const found: (readonly string[])[] = [];
        const lines: number[] = [];
        for await (const batch of readCsv(
          decodeText(bytesOf(bytes), "a.csv", encoding, findings),
          "a.csv",
          format,
          findings,
        )) {
          found.push(...batch.rows);
          lines.push(...batch.lines);
        }
        assert.deepEqual(found, all);
        assert.deepEqual(findings.list(), []);
        const asOthersRead = { ...format, formulas: "as they are" } as const;
        if (formulas !== "as they are")
          for await (const { rows: plain } of readCsv(
            decodeText(bytesOf(bytes), "a.csv", encoding, findings),
            "a.csv",
            asOthersRead,
            findings,
          ))
            assert.ok(!plain.flat().some(isFormula), "no formula is left for others");
        lines.reduce((line, own, at) => (assert.equal(own, line), line + linesOf(all[at] ?? [])), 1);
      },
    ),
    { numRuns: 3 * runs },
  );
});

for (const kind of ["xlsx", "xls", "ods"] as const)
  test(`${kind}: cells are texts, and come back as they were, or the driver reports them`, async () => {
    const format = { is: "workbook", sheet: "Goods", kind, skipsHidden: false, repeatsMerged: false } as const;
    const limits = rowsOf(format).limits(format);
    const cell = fc.oneof(
      fc.string({ unit: fc.constantFrom(..."a1 =+-@,.;\"'<&>\n\tä蜂"), minLength: 1, maxLength: 12 }),
      fc.constantFrom("001", "1e5", "2027-01-05", "TRUE", "=1+1", "_x0041_", "5 %", " lead", "trail "),
    );
    let reported = 0;
    await fc.assert(
      fc.asyncProperty(
        fc.array(fc.array(cell, { minLength: 3, maxLength: 3 }), { minLength: 1, maxLength: 5 }),
        async (rows) => {
          const good = rows.map((cells) => writable(cells, limits));
          reported += Number(good.join() !== rows.join());
          const all = [["A", "B", "C"], ...good];
          const chunks = [...(await rowsOf(format).write(format, [{ sheet: "Goods", rows: all }]))];
          const bytes = new Uint8Array(await new Blob(chunks.map((one) => new Uint8Array(one))).arrayBuffer());
          const again = [...(await rowsOf(format).write(format, [{ sheet: "Goods", rows: all }]))];
          assert.deepEqual(again, chunks, "the same rows give the same bytes");
          const book = valueOf(await openWorkbook(bytes, "goods"));
          const options = { sheet: "Goods", skipsHidden: false, repeatsMerged: false };
          const batches = [...readSheet(book, "Goods", options, { file: "goods" }, new Findings())];
          assert.deepEqual(
            batches.flatMap((batch) => batch.rows),
            all,
          );
          assert.ok(batches.every(({ evidence }) => [...(evidence ?? [])].length === 0));
        },
      ),
      { numRuns: Math.ceil(runs / 2) },
    );
    assert.equal(reported > 0, kind === "ods");
    assert.equal(driverOf(format).ending(format), kind);
  });

const csvIn = (csv: string) => (text: string) =>
  text.replace('format: { csv: { delimiter: ";", line end: crlf } }', `format: ${csv}`);

test("a target's file is written in the encoding that it says; what that cannot hold is a finding at its cell, and blank", async () => {
  const target = pennywort(csvIn('{ csv: { delimiter: ";", line end: crlf, encoding: windows-1252 } }'));
  const { catalogue } = await read([
    {
      layout: rangeLayout,
      csv: rangeCsv(single("brush", { Name: "Bürste für 5 €" }), single("bee", { Name: "Bee", Bezeichnung: "蜂" })),
    },
  ]);
  const choices = { project: "p", pictures: new Map(), holdBack: false, sha256: nodeSha256, found: new Findings() };
  const refused = await buildUpload({ catalogue, target, ...choices, despite: new Set() }, memorySink());
  assert.equal(refused.ok, false);
  const [found, ...more] = those(refused.findings.list(), "write/cannot-be-written");
  assert.deepEqual(
    [found?.at?.file, found?.at?.line, found?.at?.column, more.length],
    ["source.csv", 3, "Bezeichnung", 0],
  );
  const sink = memorySink();
  const built = await buildUpload(
    { catalogue, target, ...choices, despite: new Set(["write/cannot-be-written"]) },
    sink,
  );
  assert.ok(built.ok);
  const name = built.value.files.find(({ slot }) => slot)?.name ?? "";
  const bytes = sink.files[name] ?? new Uint8Array(0);
  const text = await textOf(bytes, "windows-1252");
  assert.match(text, /Bürste für 5 €/);
  assert.ok(bytes.includes(0x80), "the euro is one byte");
  assert.doesNotMatch(text, /\?|蜂/);
  assert.match(new TextDecoder().decode(sink.files["datapackage.json"]), /"encoding": "windows-1252"/);
});

test("UTF-16 with its mark", async () => {
  const target = pennywort(csvIn('{ csv: { delimiter: ";", encoding: utf-16le, mark: true } }'));
  const { catalogue } = await read([{ layout: rangeLayout, csv: rangeCsv(single("bee", { Name: "蜂" })) }]);
  const choices = { project: "p", pictures: new Map(), holdBack: false, sha256: nodeSha256, found: new Findings() };
  const sink = memorySink();
  const built = valueOf(await buildUpload({ catalogue, target, ...choices, despite: new Set() }, sink));
  const bytes = sink.files[built.files.find(({ slot }) => slot)?.name ?? ""] ?? new Uint8Array(0);
  assert.deepEqual([bytes[0], bytes[1]], [0xff, 0xfe]);
  assert.match(await textOf(bytes, "utf-16le"), /蜂/);
});

const refused: readonly (readonly [what: string, format: string, says: RegExp])[] = [
  ["an encoding that is not written", "{ csv: { encoding: shift_jis } }", /shift_jis.*not written/],
  ["a mark where there is none", "{ csv: { encoding: windows-1252, mark: true } }", /no byte order mark/],
];
for (const [what, format, says] of refused)
  test(`a target is refused when it is loaded: ${what}`, () => {
    const result = parseTarget(csvIn(format)(pennywortText), "pennywort.yaml", kinds);
    assert.equal(result.ok, false);
    const [found] = those(result.findings.list(), "target/mistake");
    assert.match(JSON.stringify(found?.facts), says);
    const line = pennywortText.split("\n").findIndex((one) => one.includes("format: {")) + 1;
    assert.equal(found?.at?.line, line);
  });
