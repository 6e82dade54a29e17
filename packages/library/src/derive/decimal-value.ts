/** A number of the data, as expressions see it: never a double. */

import type Big from "big.js";

export class Decimal {
  constructor(readonly value: Big) {}
}
