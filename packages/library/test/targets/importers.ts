/** The words of an importer with their values. */

export const importerValues = {
  "refusal costs": ["row", "record", "file"],
  "at an error": ["go on", "stop"],
  header: ["any order", "as it is"],
  "known record": ["update"],
  "unknown id": ["refuse", "create"],
  lists: ["replace", "add"],
  "children not named": ["kept", "deleted"],
  "child of another parent": ["refuse", "moves"],
  "parent without children": ["kept", "deleted", "refuse"],
  "axes of a known parent": ["must match", "replace"],
  "shared cells below the first row": ["refuse", "ignore"],
  "missing pictures": ["refuse", "left out", "awaited"],
  "looked up": ["as rows arrive", "at the end of the file", "before the file", "after the import"],
  "unknown names": ["refuse", "leave out", "create"],
  "identified by": [{ product: ["key"] }, { product: ["key"], variant: ["code"] }],
} as const;

export type ImporterWord = keyof typeof importerValues;
