/** How the cells of a column are to be read, as a layout says it: amounts, weights, lengths. */

import { present } from "../checked.js";
import type { Looked } from "./looked.js";

type As = Readonly<Record<string, unknown>>;

/** A number with its decimal sign, and the sign of a currency. */
export function amountCodec({ profile: { decimal } }: Looked): As {
  const { point, sign } = present(decimal);
  return {
    as: point === "." && sign === undefined ? "decimal" : { decimal: point, ...(sign === undefined ? {} : { sign }) },
  };
}

const kilograms: Readonly<Record<string, string>> = { g: "0.001", lb: "0.45359237", oz: "0.028349523125" };
const centimetres: Readonly<Record<string, string>> = { mm: "0.1", m: "100" };

export const weightCodec = (one: Looked): As => measureCodec(one, "kg", kilograms);
export const lengthCodec = (one: Looked): As => measureCodec(one, "cm", centimetres);

/** A number in the unit of the header. */
function measureCodec(one: Looked, own: string, factors: Readonly<Record<string, string>>): As {
  const { profile, unit } = one;
  const factor = factors[unit ?? ""];
  if (unit === undefined || factor === undefined) return amountCodec(one);
  const decimal = present(profile.decimal).point;
  return { as: { measure: { [own]: "1", [unit]: factor }, ...(decimal === "," ? { decimal } : {}), bare: unit } };
}
