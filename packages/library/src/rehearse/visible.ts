/** What hides a product from shoppers. */

/** A product that no shopper would see, and why. */
export interface Hidden {
  readonly product: string;
  /** In the target's words: "it stands at no place". */
  readonly because: readonly string[];
}
