/** What the other files of a supplier give: the records that rows of a file can name. */

/** How rows of other files name a record: by its key, or by its code. */
export type NamedBy = "key" | "code";

export interface Surroundings {
  /** The words that name products as wholes, and how. */
  readonly products: ReadonlyMap<string, NamedBy>;
  /** The words that name what is sold: variants, or products without any. */
  readonly sold: ReadonlyMap<string, NamedBy>;
  /** Whether what is sold are variants. */
  readonly hasVariants: boolean;
  /** The names of products: lists repeat them for those who read them. */
  readonly names: ReadonlySet<string>;
  /** The keys of categories. */
  readonly categories: ReadonlySet<string>;
}

export const alone: Surroundings = {
  products: new Map(),
  sold: new Map(),
  hasVariants: false,
  names: new Set(),
  categories: new Set(),
};

/** Whether nearly all words are among others. */
export function areAmong(words: readonly string[], among: { has(word: string): boolean }, most = 0.8): boolean {
  return words.length > 0 && words.filter((word) => among.has(word)).length >= most * words.length;
}
