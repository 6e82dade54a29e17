/** Amounts of money: price endings, tax added and taken out, rounding. Exact, half away from zero. */

import Big from "big.js";

const halfUp = 1;
const up = 3;

export interface Ending {
  /** `0.95`: every price that ends so; `9.90`: every tenth. */
  readonly to: string;
  readonly goes: "up" | "down" | "nearest";
}

/** The price with a wanted ending that is next; never below zero. */
export function toEnding(amount: string, { to, goes }: Ending): string {
  const ending = new Big(to);
  const whole = ending.round(0, 0).toFixed().replace(/^0$/, "");
  const step = new Big(10).pow(whole.length);
  const steps = new Big(amount).minus(ending).div(step);
  const below = floor(steps);
  const above = below.eq(steps) ? below : below.plus(1);
  const price = (count: Big) => count.times(step).plus(ending);
  const low = price(below);
  const high = price(above);
  const isDown = goes === "down" || (goes === "nearest" && new Big(amount).minus(low).lt(high.minus(amount)));
  return (isDown && low.gte(0) ? low : high).toFixed();
}

function floor(value: Big): Big {
  const cut = value.round(0, 0);
  return cut.gt(value) ? cut.minus(1) : value.lt(0) && !cut.eq(value) ? value.round(0, up) : cut;
}

/**
 * An amount with tax added or taken out.
 *
 * @param rate in percent: `19`. @returns the amount with tax, or without, to so many places.
 */
export function withTax(amount: string, rate: string, does: "added" | "taken out", places: number): string {
  const factor = new Big(rate).div(100).plus(1);
  const value = does === "added" ? new Big(amount).times(factor) : divided(new Big(amount), factor, places);
  return value.round(places, halfUp).toFixed();
}

/** With places enough behind those that are kept. */
function divided(amount: Big, factor: Big, places: number): Big {
  const Precise = Big();
  Precise.DP = places + 20;
  return new Big(new Precise(amount.toFixed()).div(new Precise(factor.toFixed())).toFixed());
}

export function toPlaces(amount: string, places: number): string {
  return new Big(amount).round(places, halfUp).toFixed();
}
