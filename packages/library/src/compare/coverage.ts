/** What a catalogue that was read from a platform tells. What it does not tell is unknown, which is not the same as empty. */

export interface Coverage {
  /** Of a kind, all records, some, or none. */
  readonly records: (kind: string) => "all" | "some" | "none";
  /** Whether it tells a field of the records that it has. @param table a kind, or `kind.entries`. @param field with its language. */
  readonly tells: (table: string, field: string) => boolean;
  /** Of a record's entries, all, some, or none. @param table `kind.entries`. */
  readonly entries: (table: string) => "all" | "some" | "none";
  /** Whether it tells an entry: then a record that it shows without one has none. @param textOf a field of the entry. */
  readonly tellsEntry: (table: string, textOf: (field: string) => string | undefined) => boolean;
}

/** All there is, as of your own sources. */
export const everything: Coverage = {
  records: () => "all",
  tells: () => true,
  entries: () => "all",
  tellsEntry: () => true,
};
