/**
 * What a good script by hand does of the job, with the same packages: parse, join by code, check codes, barcodes and numbers, write. No
 * layouts, no places of findings, no plan, no rehearsal.
 */

import { createWriteStream } from "node:fs";
import { once } from "node:events";
import { join } from "node:path";
import { dsvFormat } from "d3-dsv";
import type { Workload } from "./generate.js";
import { parsedRows } from "./parsed-rows.js";

const isNumber = /^(€ )?-?\d+(,\d+)?$/;

function isBarcode(text: string): boolean {
  if (!/^\d{13}$/.test(text)) return false;
  let sum = 0;
  for (let at = 0; at < 13; at++) sum += Number(text[12 - at]) * (at % 2 === 0 ? 1 : 3);
  return sum % 10 === 0;
}

export async function byHand({ name, sources, separators }: Workload, out: string): Promise<{ wrong: number }> {
  const [main, stock] = sources as [Workload["sources"][number], Workload["sources"][number]];
  const { delimiter } = separators;
  const more = new Map<string, string[]>();
  for await (const rows of parsedRows(stock.file, delimiter))
    for (const [code = "", ...cells] of rows) more.set(code, cells);
  const columns =
    name === "plain" ? { code: 1, numbers: [13, 15, 16], barcode: 14 } : { code: 0, numbers: [10], barcode: 15 };
  const format = dsvFormat(delimiter);
  const file = createWriteStream(join(out, "hand.csv"));
  const seen = new Set<string>();
  let wrong = 0;
  let isHeader = true;
  for await (const rows of parsedRows(main.file, delimiter)) {
    const written: string[][] = [];
    for (const cells of rows) {
      const code = cells[columns.code]!;
      if (isHeader) isHeader = false;
      else if (code !== "") {
        if (seen.has(code)) wrong++;
        seen.add(code);
        if (!isBarcode(cells[columns.barcode]!)) wrong++;
        for (const at of columns.numbers) {
          if (!isNumber.test(cells[at]!)) wrong++;
          cells[at] = Number(cells[at]!.replace("€ ", "").replace(",", ".")).toFixed(2).replace(".", ",");
        }
      }
      written.push([...cells, ...(more.get(code) ?? ["", ""])]);
    }
    if (written.length > 0 && !file.write(`${format.formatRows(written)}\r\n`)) await once(file, "drain");
  }
  file.end();
  await once(file, "finish");
  if (seen.size === 0 || wrong > 0) throw new Error(`${wrong} of ${seen.size} are wrong`);
  return { wrong };
}
