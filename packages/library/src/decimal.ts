/** Exact decimals, as canonical strings: no exponent, no needless zeros, no `-0`. Arithmetic by big.js only. */

import Big from "big.js";

/** The canonical form of plain digits with an optional sign and point; undefined for anything else. */
export function canonicalDecimal(text: string): string | undefined {
  if (isPlainDigits(text)) return text;
  const match = /^(-?)0*(\d+?)(?:\.(\d*?)0*)?$/.exec(text);
  if (!match || text.length > 60) return undefined;
  const whole = match[2]!;
  const fraction = match[3] ?? "";
  const sign = match[1] === "-" && (whole !== "0" || fraction !== "") ? "-" : "";
  return fraction === "" ? sign + whole : `${sign}${whole}.${fraction}`;
}

/** Short whole numbers without a leading zero: canonical as they are, and most of what comes. */
function isPlainDigits(text: string): boolean {
  if (text.length > 15 || text.length === 0 || (text.length > 1 && text.charCodeAt(0) === 48)) return false;
  for (let at = 0; at < text.length; at++) {
    const unit = text.charCodeAt(at);
    if (unit < 48 || unit > 57) return false;
  }
  return true;
}

/** How many places a canonical decimal has after its point. */
export function decimalPlaces(value: string): number {
  const point = value.indexOf(".");
  return point < 0 ? 0 : value.length - point - 1;
}

/** Numbers of at most 15 digits keep their order as doubles; longer ones are compared by the package. */
const exactAsDouble = 15;

export function compareDecimals(a: string, b: string): number {
  if (a.length <= exactAsDouble && b.length <= exactAsDouble) return Number(a) - Number(b);
  return new Big(a).cmp(new Big(b));
}

export function addDecimals(a: string, b: string): string {
  return canonicalDecimal(new Big(a).plus(new Big(b)).toFixed())!;
}
