/** Exact decimals, as canonical strings: no exponent, no needless zeros, no `-0`. Arithmetic by big.js only. */

import Big from "big.js";

/** The canonical form of plain digits with an optional sign and point; undefined for anything else. */
export function canonicalDecimal(text: string): string | undefined {
  const match = /^(-?)0*(\d+?)(?:\.(\d*?)0*)?$/.exec(text);
  if (!match || text.length > 60) return undefined;
  const whole = match[2]!;
  const fraction = match[3] ?? "";
  const sign = match[1] === "-" && (whole !== "0" || fraction !== "") ? "-" : "";
  return fraction === "" ? sign + whole : `${sign}${whole}.${fraction}`;
}

/** How many places a canonical decimal has after its point. */
export function decimalPlaces(value: string): number {
  const point = value.indexOf(".");
  return point < 0 ? 0 : value.length - point - 1;
}

export function compareDecimals(a: string, b: string): number {
  return new Big(a).cmp(new Big(b));
}

export function addDecimals(a: string, b: string): string {
  return canonicalDecimal(new Big(a).plus(new Big(b)).toFixed())!;
}
