/** The headers of a layout as given: numbered ones and those of listed words stand for several columns. */

import type { Header } from "../../nominal.js";
import type { GivenBinding, GivenLayout } from "../schema.js";

/** A column of the sheet, as its layout writes it. */
export interface SheetHeader {
  readonly header: Header;
  readonly written: string | undefined;
  readonly number: number;
  /** For a column per entry of a list: which one. */
  readonly entry: { readonly word: string; readonly is: string } | undefined;
}

/** `variant.stock({place}).quantity` for one of the places. */
export function withEntry(given: GivenBinding, { word, is }: NonNullable<SheetHeader["entry"]>): GivenBinding {
  const fill = (text: string) => text.replace(`{${word}}`, is);
  if (typeof given === "string") return fill(given);
  if ("field" in given) return { ...given, field: fill(given.field) };
  if ("axis" in given && typeof given.axis === "string") return { ...given, axis: fill(given.axis) };
  return given;
}

/** Each header with the one written in the file: `{n}` replaced by each number, `{word}` by each of what is listed. */
export function sheetHeadersOf(given: GivenLayout): SheetHeader[] {
  return Object.keys(given.columns).flatMap((written): SheetHeader[] => {
    const word = Object.keys(given.listed).find((one) => written.includes(`{${one}}`));
    if (word !== undefined)
      return given.listed[word]!.map((entry, at) => ({
        header: written.replace(`{${word}}`, entry),
        written,
        number: at + 1,
        entry: { word, is: entry },
      }));
    const count = written.includes("{n}") ? given.numbered : 1;
    return Array.from({ length: count }, (_, at) => ({
      header: written.replace("{n}", String(at + 1)),
      written,
      number: at + 1,
      entry: undefined,
    }));
  });
}
