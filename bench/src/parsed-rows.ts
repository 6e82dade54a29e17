/** The rows of a file by the CSV package alone, batch by batch. */

import { createReadStream } from "node:fs";
import Papa from "papaparse";
import { Findings } from "zest-tier";
import { decodeText } from "zest-tier/parts";

const { Parser } = Papa as unknown as {
  Parser: new (config: object) => {
    parse: (text: string, base: number, ignoreLast: boolean) => { data: string[][]; meta: { cursor: number } };
  };
};

export async function* parsedRows(file: string, delimiter: string): AsyncGenerator<string[][]> {
  const text = decodeText(createReadStream(file, { highWaterMark: 1 << 18 }), file, "utf-8", new Findings());
  const config = { delimiter, newline: "\r\n" };
  let rest = "";
  for await (const chunk of text) {
    rest += chunk;
    const parsed = new Parser(config).parse(rest, 0, true);
    yield parsed.data;
    rest = rest.slice(parsed.meta.cursor);
  }
  yield new Parser(config).parse(rest, 0, false).data;
}
