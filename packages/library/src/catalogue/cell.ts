/** What a column of texts has in a row: a text, `null` where it was emptied, undefined where there is none. */
export type Cell<T extends string = string> = T | null | undefined;
