/** What a reference of words is made of. */

export interface ReferenceEntry {
  /** As it is written: `format: csv: delimiter`. The last part is the word itself. */
  readonly word: string;
  readonly means: string;
  readonly example: string;
}

/** A part of a reference. */
export interface ReferenceSection {
  readonly title: string;
  readonly about: string;
  readonly entries: readonly ReferenceEntry[];
}

/** A word with its meaning and an example. */
export const entry = (word: string, means: string, example: string): ReferenceEntry => ({ word, means, example });
