/**
 * Texts and row numbers that cannot be taken for each other. Any text that comes from a file may be called one of these; what was called
 * one is refused by the compiler where another is wanted.
 */

declare const called: unique symbol;
type Called<T, N extends string> = T & { readonly [called]?: N };

/** What a record is known by in its table. */
export type Key = Called<string, "key">;
/** The article code of a sellable: a SKU. */
export type Code = Called<string, "code">;
/** A language tag of the data: `de`, `pt-BR`. */
export type Lang = Called<string, "language">;
/** What stands above a column of a sheet; in documents the path. */
export type Header = Called<string, "header">;

declare const rowOf: unique symbol;
/** A row of the table of that name. @template T `product`, or `product.prices`. */
export type Row<T extends string> = number & { readonly [rowOf]?: T };

/** The table of what contains the rows of a table. */
export type ContainerOf<T extends string> = T extends "variant"
  ? "product"
  : T extends "value"
    ? "axis"
    : T extends `${infer Kind}.${string}`
      ? Kind
      : T;
