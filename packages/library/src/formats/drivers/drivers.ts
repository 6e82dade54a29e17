/** All formats. A new one is a file and a line here. */

import { z } from "zod";
import { firstOf, fitting, present } from "../../checked.js";
import { encodingByMark } from "../decode.js";
import type { Format } from "../format.js";
import { encodingByZeros } from "../guess-encoding.js";
import { csvDriver } from "./csv.js";
import type { CellLimits, FormatDriver, FormatOf } from "./driver.js";
import { jsonDriver } from "./json.js";
import { workbookDriver } from "./workbook.js";
import { xmlDriver } from "./xml.js";

export const drivers = {
  csv: csvDriver,
  workbook: workbookDriver,
  xml: xmlDriver,
  json: jsonDriver,
} satisfies { readonly [K in Format["is"]]: FormatDriver<FormatOf<K>> };

type Drivers = typeof drivers;

/** A format by its name, with its words, as a layout gives it. */
export type GivenFormat = {
  [K in keyof Drivers]: { readonly [P in K]: z.infer<Drivers[K]["schema"]> };
}[keyof Drivers];

/** One format by its name, with its words. */
export const givenFormat: z.ZodType<GivenFormat> = z.union(
  Object.entries(drivers).map(([name, { schema }]) => z.strictObject({ [name]: schema })),
) as unknown as z.ZodType<GivenFormat>;

/** @param given has passed `givenFormat`: one format by its name. */
export function formatOf(given: GivenFormat): Format {
  const [name, words] = firstOf(Object.entries(given));
  // The words were checked by the schema that stands beside what reads them.
  const { of } = fitting(Object.entries(drivers), ([one]) => one === name)[1] as { of: (words: unknown) => Format };
  return of(words);
}

/** What a format has to say. */
export function driverOf<F extends Format>({ is }: F): FormatDriver<F> {
  // Each entry of the table takes the formats of its own name: the compiler has checked that there, and cannot carry it over here.
  const byName: Readonly<Record<string, unknown>> = drivers;
  return byName[is] as FormatDriver<F>;
}

/** What the cells of a file cannot hold. */
export function limitsOf<F extends Format>(format: F): CellLimits {
  const { rows, elements } = driverOf(format);
  return rows ? rows.limits(format) : { each: elements?.limits };
}

/** The sheet that rows are written into, where a layout names none by its name. */
export const sheetName = (format: Format): string =>
  format.is === "workbook" && typeof format.sheet === "string" ? format.sheet : "Sheet1";

/** A beginning as text, as far as one can tell what it is in: the marks of formats are the same in most encodings. */
function textOfHead(head: Uint8Array): string {
  const encoding = encodingByMark(head) ?? encodingByZeros(head) ?? "latin1";
  return new TextDecoder(encoding).decode(head);
}

/** What a file is, by its beginning: the last format of the table that takes it for its own. CSV, the first, takes what no other does. */
export function detectFormat(head: Uint8Array): Format {
  const text = textOfHead(head);
  const found = Object.values(drivers).flatMap(({ detect }): Format[] => [detect(head, text) ?? []].flat());
  return present(found[found.length - 1]);
}
