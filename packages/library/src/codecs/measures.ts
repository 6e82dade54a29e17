/** C1: measures with a unit, exactly: `"250 g"` ⇄ `"0.25"` for a field in kilograms. */

import { firstOf, present } from "../checked.js";
import { canonicalDecimal, divideDecimals, multiplyDecimals } from "../decimal.js";
import { problem, unwritable, type Codec } from "./codec.js";
import { phrase } from "../phrases/phrase.js";

export interface MeasureOptions {
  /** Each unit with how many of the field's own it is; the first is the one that is written. */
  readonly units: Readonly<Record<string, string>>;
  readonly point: "," | ".";
  /** The unit of a number that stands alone; without one, a number alone is a problem. */
  readonly bare?: string | undefined;
}

export function measureCodec({ units, point, bare }: MeasureOptions): Codec {
  const names = Object.keys(units);
  const written = firstOf(names);
  const takes = phrase("a number with {0}", names.join(", "));
  return {
    takes,
    parse: (text) => {
      const match = /^(-?[\d.,]+)\s*(\D*)$/.exec(text.trim());
      const number = match && canonicalDecimal(present(match[1]), point);
      const unit = match?.[2] === "" ? bare : match?.[2];
      const factor = unit === undefined || !Object.hasOwn(units, unit) ? undefined : units[unit];
      return number && factor ? multiplyDecimals(number, factor) : problem("not-a-measure", text, takes);
    },
    format: (value) => {
      const number = divideDecimals(value as string, units[written]!);
      if (number === undefined)
        return unwritable(value as string, phrase("a number with a fixed number of decimals in {0}", written));
      const shown = point === "," ? number.replace(".", ",") : number;
      // Where a number alone is in the unit that is written, it is written alone.
      return bare === written ? shown : `${shown} ${written}`;
    },
    textOfNumber: (number) => (point === "," ? number.replace(".", ",") : number),
  };
}
