/** The same by an embedded SQL engine on one thread: load, check codes, barcodes and numbers, join, export. */

import { join } from "node:path";
import type { Workload } from "./generate.js";

export async function bySql({ name, sources }: Workload, out: string): Promise<undefined> {
  const { DuckDBInstance } = await import("@duckdb/node-api");
  const connection = await (await DuckDBInstance.create(":memory:", { threads: "1" })).connect();
  const [main, stock] = sources as [Workload["sources"][number], Workload["sources"][number]];
  const load = (table: string, file: string) =>
    connection.run(
      `CREATE TABLE ${table} AS SELECT * FROM read_csv('${file}', delim=';', header=true, all_varchar=true, null_padding=true, quote='"', parallel=false)`,
    );
  await load("main", main.file);
  await load("stock", stock.file);
  const [code, barcode, price] = name === "plain" ? ["Code", "Barcode", "Price"] : ["Item no", "EAN", "Price"];
  const digit = (at: number) => `CAST(substr("${barcode}", ${at}, 1) AS INT) * ${at % 2 === 0 ? 3 : 1}`;
  const sum = Array.from({ length: 13 }, (_, at) => digit(at + 1)).join(" + ");
  const number = `TRY_CAST(replace(replace("${price}", '€ ', ''), ',', '.') AS DECIMAL(18, 2))`;
  const wrong = await connection.runAndReadAll(
    `SELECT (SELECT count(*) FROM (SELECT "${code}" FROM main WHERE "${code}" <> '' GROUP BY 1 HAVING count(*) > 1)),
            (SELECT count(*) FROM main WHERE "${code}" <> '' AND (NOT regexp_full_match("${barcode}", '\\d{13}') OR (${sum}) % 10 <> 0)),
            (SELECT count(*) FROM main WHERE "${code}" <> '' AND ${number} IS NULL)`,
  );
  if (wrong.getRows()[0]?.some((count) => Number(count) > 0)) throw new Error(`wrong: ${String(wrong.getRows()[0])}`);
  await connection.run(
    `COPY (SELECT main.*, stock.* EXCLUDE ("${code}") FROM main LEFT JOIN stock ON main."${code}" = stock."${code}") TO '${join(out, "sql.csv")}' (HEADER, DELIMITER ';')`,
  );
}
