/** Exact decimals, as canonical strings: no exponent, no needless zeros, no `-0`. Arithmetic by big.js only. */

import { present } from "./checked.js";
import Big from "big.js";

const zero = 48;
const nine = 57;
const minus = 45;
const maxChars = 60;

/**
 * The canonical form of plain digits with an optional sign and point; undefined for anything else.
 *
 * Cells of numbers are many: the text is walked once, and cut only where something has to go.
 *
 * @param point what stands before the places.
 */
export function canonicalDecimal(text: string, point: "." | "," = "."): string | undefined {
  const length = text.length;
  if (length === 0 || length > maxChars) return undefined;
  const start = text.charCodeAt(0) === minus ? 1 : 0;
  const pointUnit = point.charCodeAt(0);
  let pointAt = -1;
  for (let at = start; at < length; at++) {
    const unit = text.charCodeAt(at);
    if (unit >= zero && unit <= nine) continue;
    if (unit !== pointUnit || pointAt >= 0) return undefined;
    pointAt = at;
  }
  const wholeEnd = pointAt < 0 ? length : pointAt;
  if (wholeEnd === start) return undefined;
  let wholeStart = start;
  while (wholeStart < wholeEnd - 1 && text.charCodeAt(wholeStart) === zero) wholeStart++;
  let end = length;
  if (pointAt >= 0) while (end > pointAt + 1 && text.charCodeAt(end - 1) === zero) end--;
  const hasPlaces = pointAt >= 0 && end > pointAt + 1;
  const isZero = !hasPlaces && text.charCodeAt(wholeStart) === zero;
  const sign = start === 1 && !isZero ? "-" : "";
  if (!hasPlaces) return wholeStart === 0 && wholeEnd === length ? text : sign + text.slice(wholeStart, wholeEnd);
  if (point === "." && wholeStart === start && end === length) return text;
  return `${sign}${text.slice(wholeStart, wholeEnd)}.${text.slice(pointAt + 1, end)}`;
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

/** @param value a canonical decimal. @returns below 0, 0, or above it. */
export function signOf(value: string): number {
  if (value === "0") return 0;
  return value.charCodeAt(0) === minus ? -1 : 1;
}

export function addDecimals(a: string, b: string): string {
  return present(canonicalDecimal(new Big(a).plus(new Big(b)).toFixed()));
}

export function multiplyDecimals(a: string, b: string): string {
  return present(canonicalDecimal(new Big(a).times(new Big(b)).toFixed()));
}

/** @returns undefined where the quotient has more places than can be kept exactly. */
export function divideDecimals(a: string, b: string): string | undefined {
  const quotient = new Big(a).div(new Big(b));
  return quotient.times(new Big(b)).eq(new Big(a)) ? canonicalDecimal(quotient.toFixed()) : undefined;
}

/** How often `b` goes into `a` as a whole, towards zero. */
export function divideWhole(a: string, b: string): string {
  return present(canonicalDecimal(new Big(a).div(new Big(b)).round(0, 0).toFixed()));
}
