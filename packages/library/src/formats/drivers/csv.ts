/** Rows as lines of text, in the encoding that the layout says. */

import { z } from "zod";
import { firstOf, present } from "../../checked.js";
import { phrase } from "../../phrases/phrase.js";
import { readCsv } from "../csv-read.js";
import { csvLine } from "../csv-write.js";
import { lineEndsIn } from "../line-ends.js";
import { decodeText } from "../decode.js";
import { encoderOf, type Encoder } from "../encode.js";
import { isFormula, neutralised } from "../formulas.js";
import type { CellLimit, CellLimits, FormatDriver, FormatOf, RowsToWrite } from "./driver.js";

type Csv = FormatOf<"csv">;

const chunkChars = 65_536;
const mark = "\ufeff";

const isTabs = ({ delimiter }: Csv): boolean => delimiter === "\t";
/** Whoever writes has been refused an encoding that is not written. */
const encoderFor = ({ encoding }: Csv): Encoder => present(encoderOf(encoding));
function lineOf({ delimiter = ",", lineEnd, quote, formulas }: Csv): (cells: readonly string[]) => string {
  const toLine = csvLine({ delimiter, lineEnd, quote });
  return formulas === "neutralise" ? (cells) => toLine(cells.map(neutralised)) : toLine;
}

const schema = z.strictObject({
  delimiter: z.string().length(1).optional(),
  quote: z.union([z.string().length(1), z.literal("none")]).optional(),
  encoding: z.string().optional(),
  "line end": z.enum(["lf", "crlf"]).optional(),
  mark: z.boolean().optional(),
  formulas: z.enum(["as they are", "neutralise", "refuse"]).optional(),
});

export const csvDriver: FormatDriver<Csv, typeof schema> = {
  schema,
  of: ({ delimiter, quote, encoding, mark: isMarked = false, formulas = "as they are", "line end": end }) => ({
    is: "csv",
    delimiter,
    quote,
    encoding,
    lineEnd: end === "lf" ? "\n" : "\r\n",
    mark: isMarked,
    formulas,
  }),
  // What is nothing else is taken for it.
  detect: () => csvDriver.of({}),
  isArchive: false,
  open(format, { bytes, file, findings, caps }) {
    const found = { encoding: "", delimiter: "" };
    const text = decodeText(bytes, file, format.encoding, findings, (encoding) => (found.encoding = encoding));
    const tellDelimiter = (delimiter: string) => void (found.delimiter = delimiter);
    return Promise.resolve({
      is: "rows",
      sheet: undefined,
      batches: readCsv(text, file, { ...format, tellDelimiter, maxRowChars: caps["row characters"] }, findings),
      encoding: () => found.encoding,
      form: () => `CSV ${JSON.stringify(found.delimiter)} ${found.encoding}`,
    });
  },
  ending: (format) => (isTabs(format) ? "tsv" : "csv"),
  resource(format) {
    const { delimiter = ",", lineEnd, quote } = format;
    const quotes = quote === "none" ? {} : { quoteChar: quote ?? '"', doubleQuote: true };
    return {
      format: isTabs(format) ? "tsv" : "csv",
      mediatype: isTabs(format) ? "text/tab-separated-values" : "text/csv",
      encoding: encoderFor(format).name,
      dialect: { delimiter, lineTerminator: lineEnd, ...quotes, header: true },
    };
  },
  unwritten({ encoding, mark: isMarked }) {
    const encoder = encoderOf(encoding);
    if (!encoder) return phrase('"{0}" is an encoding that is read, but not written', encoding);
    if (isMarked && !encoder.hasMark) return phrase("{0} has no byte order mark", encoder.name);
    return undefined;
  },
  elements: undefined,
  rows: {
    linesOf: (cells) => 1 + lineEndsIn(cells),
    bytesOf(format) {
      const [toLine, { byteLength }] = [lineOf(format), encoderFor(format)];
      return (cells) => byteLength(toLine(cells));
    },
    bytesBefore: (format) => (format.mark ? encoderFor(format).byteLength(mark) : 0),
    limits,
    isOpenToFormulas: ({ formulas }) => formulas === "as they are",
    write: (format, sheets) => Promise.resolve(chunksOf(format, firstOf(sheets))),
  },
};

function* chunksOf(format: Csv, { rows }: RowsToWrite): Generator<Uint8Array> {
  const [toLine, { encode }] = [lineOf(format), encoderFor(format)];
  let text = format.mark ? mark : "";
  for (const cells of rows) {
    text += toLine(cells);
    if (text.length < chunkChars) continue;
    yield encode(text);
    text = "";
  }
  if (text !== "") yield encode(text);
}

/**
 * Where they are refused, a cell does not begin like a formula. Without quotes a cell holds no delimiter and no line end; with them only the last cell of a row must not end like a line. None holds
 * what its encoding has no bytes for.
 */
function limits({ formulas, quote, delimiter, encoding }: Csv): CellLimits {
  const breaks = new RegExp(`[${delimiter === "\t" ? "\\t" : `\\${delimiter}`}\r\n]`);
  const encoder = encoderOf(encoding);
  const isRefused = formulas === "refuse";
  const narrow = encoder && encoder.name !== "utf-8" ? encoder : undefined;
  const each: CellLimit = (cell) => {
    if (isRefused && isFormula(cell)) return phrase("text that does not begin like a formula");
    if (narrow && !narrow.holds(cell)) return phrase("characters that {0} has", narrow.name);
    return quote === "none" && breaks.test(cell) ? "text without delimiters and line ends" : undefined;
  };
  const last: CellLimit = (cell) => (cell.endsWith("\r") ? "text that does not end in a carriage return" : undefined);
  return {
    each: isRefused || narrow || quote === "none" ? each : undefined,
    last: quote === "none" ? undefined : last,
  };
}
