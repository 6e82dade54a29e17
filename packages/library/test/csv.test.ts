import assert from "node:assert/strict";
import { test } from "node:test";
import { dsvFormat } from "d3-dsv";
import fc from "fast-check";
import { Findings, type RowBatch } from "#src/index.js";
import { csvLine, decodeText, readCsv } from "#src/parts.js";
import { bytesOf, codes, one } from "./support.js";

async function parse(
  text: string | Uint8Array,
  options: { delimiter?: string; chunk?: number } = {},
): Promise<{ rows: string[][]; lines: number[]; findings: Findings }> {
  const findings = new Findings();
  const rows: string[][] = [];
  const lines: number[] = [];
  const decoded = decodeText(bytesOf(text, options.chunk), "a.csv", "utf-8", findings);
  for await (const batch of readCsv(
    decoded,
    "a.csv",
    { delimiter: options.delimiter },
    findings,
  ) as AsyncIterable<RowBatch>) {
    rows.push(...batch.rows.map((row) => [...row]));
    lines.push(...batch.lines);
  }
  return { rows, lines, findings };
}

test("reads what it wrote, with the line each row begins on, however the bytes are cut", async () => {
  const cell = fc.string({ unit: fc.constantFrom("a", ";", '"', "\n", "é", "蜂", "😀", " ", "\t"), maxLength: 6 });
  await fc.assert(
    fc.asyncProperty(
      fc.array(fc.array(cell, { minLength: 2, maxLength: 4 }), { minLength: 1, maxLength: 30 }),
      fc.constantFrom("\n" as const, "\r\n" as const),
      fc.integer({ min: 1, max: 40 }),
      async (table, lineEnd, chunk) => {
        const toLine = csvLine({ delimiter: ";", lineEnd });
        const written = table.map((row) => toLine(row));
        const { rows, lines, findings } = await parse(written.join(""), { delimiter: ";", chunk });
        assert.deepEqual(findings.list(), []);
        assert.deepEqual(rows, table);
        let line = 1;
        for (const [at, text] of written.entries()) {
          assert.equal(lines[at], line);
          line += text.split("\n").length - 1;
        }
      },
    ),
  );
});

test("lines are counted in long files too, in parts with line ends in cells and in parts without", async () => {
  const cells = Array.from({ length: 30_000 }, (_, at) => [
    String(at),
    at % 9_000 === 17 ? "two\nlines" : at % 50 === 0 ? 'a "quoted" one' : "plain text, of some length",
  ]);
  const toLine = csvLine({ delimiter: ";", lineEnd: "\n" });
  const { rows, lines } = await parse(cells.map(toLine).join(""), { delimiter: ";" });
  assert.deepEqual(rows, cells);
  let line = 1;
  const expected = cells.map(([, text = ""]) => (line += text.split("\n").length) - text.split("\n").length);
  assert.deepEqual(lines, expected);
});

const anyText = fc.string({
  unit: fc.constantFrom("a", "é", '"', ",", ";", "\t", "|", "^", "]", "-", "\\", "\r", "\n", " "),
});

test("rows without anything to quote are written as the package writes them", () => {
  fc.assert(
    fc.property(
      fc.constantFrom(",", ";", "\t", "|", "^"),
      fc.array(anyText, { minLength: 1, maxLength: 5 }),
      (delimiter, cells) => {
        const line = dsvFormat(delimiter).formatRow(cells);
        assert.equal(csvLine({ delimiter, lineEnd: "\n" })(cells), `${line === "" ? '""' : line}\n`);
      },
    ),
    { numRuns: 1_000 },
  );
});

test("whatever the delimiter is, what is written is read again", async () => {
  const cell = anyText.filter((text) => !text.endsWith("\r"));
  await fc.assert(
    fc.asyncProperty(
      fc.constantFrom(",", ";", "\t", "|", "^", "]", "-", "\\", "."),
      fc.array(fc.array(cell, { minLength: 2, maxLength: 4 }), { minLength: 1, maxLength: 5 }),
      async (delimiter, table) => {
        const written = table.map(csvLine({ delimiter, lineEnd: "\n" })).join("");
        const { rows, findings } = await parse(written, { delimiter });
        assert.deepEqual([rows, findings.list()], [table, []]);
      },
    ),
    { numRuns: 1_000 },
  );
});

test("takes the delimiter from the first row, and line ends of Windows, Unix and the old Mac", async () => {
  for (const delimiter of [",", ";", "\t", "|"])
    for (const lineEnd of ["\n", "\r\n", "\r"])
      assert.deepEqual((await parse([`a${delimiter}"b,;"`, `1${delimiter}2`].join(lineEnd))).rows, [
        ["a", "b,;"],
        ["1", "2"],
      ]);
});

test("reads UTF-16 and UTF-8 by their byte order marks", async () => {
  const utf16 = Buffer.concat([Buffer.from([0xff, 0xfe]), Buffer.from("größe;x\n", "utf16le")]);
  assert.deepEqual((await parse(utf16)).rows, [["größe", "x"]]);
  assert.deepEqual((await parse("\ufeffgröße;x\n")).rows, [["größe", "x"]]);
});

test("says at which byte a file stops being UTF-8, and keeps what came before", async () => {
  const { rows, findings } = await parse(new Uint8Array([0x61, 0x3b, 0x62, 0x0a, 0x63, 0xfc, 0x64]), { chunk: 4 });
  const found = one(findings.list(), "read/wrong-encoding");
  assert.deepEqual(found.facts, { encoding: "utf-8", byte: 5 });
  assert.deepEqual(rows, [["a", "b"]]);
});

test("takes a line with an open quote as it is, and goes on below it", async () => {
  const { rows, lines, findings } = await parse('a;b\n1;"x\n2;y\n3;z\n', { delimiter: ";" });
  assert.deepEqual(rows, [
    ["a", "b"],
    ["1", '"x'],
    ["2", "y"],
    ["3", "z"],
  ]);
  assert.deepEqual(lines, [1, 2, 3, 4]);
  assert.equal(one(findings.list(), "read/open-quote").at?.line, 2);
});

test("does not let a quote inside a cell swallow the rows below", async () => {
  const { rows, findings } = await parse('a;b\n"5" nail";1\n6;2\n', { delimiter: ";" });
  assert.deepEqual(
    rows.map((row) => row.length),
    [2, 2, 2],
  );
  assert.deepEqual(codes(findings.list()), ["read/open-quote"]);
});

test("gives up on a file that is nothing but open quotes, in time that grows with its length only", async () => {
  const { findings } = await parse(`a;b\n${'"x;1\n'.repeat(300_000)}`, { delimiter: ";" });
  one(findings.list(), "read/gave-up");
});

test("makes rows and findings of arbitrary bytes, never an exception, the same wherever the bytes are cut", async () => {
  // Bytes of quotes, line ends, byte order marks, and of characters that are begun and not ended.
  const telling = [34, 10, 13, 59, 0x80, 0xff, 0xfe, 0xe2, 0x82, 0xac, 0xf0, 0x9f, 0x98, 0xd8, 0xdc, 0xef, 0xbb, 0xbf];
  const byte = fc.oneof(fc.nat(255), fc.constantFrom(...telling));
  const mark = fc.constantFrom([], [], [0xff, 0xfe], [0xfe, 0xff], [0xef, 0xbb, 0xbf]);
  const bytes = fc.tuple(mark, fc.array(byte, { maxLength: 80 })).map((parts) => Uint8Array.from(parts.flat()));
  await fc.assert(
    fc.asyncProperty(bytes, fc.integer({ min: 1, max: 9 }), async (given, chunk) => {
      const [whole, cut] = [await parse(given, { delimiter: ";" }), await parse(given, { delimiter: ";", chunk })];
      assert.deepEqual([cut.rows, cut.lines, cut.findings.list()], [whole.rows, whole.lines, whole.findings.list()]);
    }),
    { numRuns: 3_000 },
  );
});

test("fixes hundreds of broken quotes in a large file, and reads all its rows", async () => {
  const lines = Array.from({ length: 60_000 }, (_, at) => (at % 200 === 7 ? `"${at}" nail";x` : `"${at}";"a ""b"""`));
  const { rows, findings } = await parse(`${lines.join("\n")}\n`, { delimiter: ";" });
  assert.equal(rows.length, 60_000);
  assert.deepEqual(rows[59_999], ["59999", 'a "b"']);
  assert.equal(findings.list().length, 300);
});
