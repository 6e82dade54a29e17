/** Small catalogues of products with variants: generated, or line by line. */

import fc from "fast-check";
import type { ResolvedCatalogue } from "#src/index.js";
import { identityOf, type MatchInput } from "#src/parts.js";
import { read } from "./support.js";

export const columns = ["P", "No", "Name", "Brand", "Shelf", "Wood", "Kg", "Price", "Club"] as const;
export type Column = (typeof columns)[number];
export type Line = Readonly<Record<Column, string>>;

const layout = `layout: goods
format: { csv: { delimiter: ";" } }
rows: { each: variant, of: product, grouped by: P, shared cells: every row }
columns:
  P: product.key
  No: variant.code
  Name: product.name@en
  Brand: { field: product.brand, as: { by: name@en }, missing: create }
  Shelf: { field: product.categories, as: { list: "|", of: { path: ">", by: name@en } }, missing: create }
  Wood: { axis: Wood, holds: value }
  Kg: variant.weight
  Price: variant.prices(price).amount
  Club: variant.prices(club).amount
`;

/** The blocks of products, each of one to three variants. */
export const blocks: fc.Arbitrary<readonly (readonly Line[])[]> = fc
  .array(
    fc.record({
      brand: fc.constantFrom("", "Thornapple", "Sandhopper"),
      shelf: fc.constantFrom("", "Hives", "Hives>Full", "Tools|Hives>Full"),
      woods: fc.uniqueArray(fc.constantFrom("Oak", "Elm", "Pine"), { minLength: 1, maxLength: 3 }),
      kg: fc.constantFrom("", "1", "2.5"),
      price: fc.constantFrom("", "3", "4.25"),
    }),
    { minLength: 1, maxLength: 6 },
  )
  .map((products) =>
    products.map(({ brand, shelf, woods, kg, price }, at) =>
      woods.map((wood, nth) => ({
        P: `p${at}`,
        No: `c${at}-${nth}`,
        Name: `Hive ${at}`,
        Brand: brand,
        Shelf: shelf,
        Wood: wood,
        Kg: kg,
        Price: price,
        Club: nth === 0 ? "" : "2",
      })),
    ),
  );

export async function catalogueOf(lines: readonly Line[]): Promise<ResolvedCatalogue> {
  const csv = [columns.join(";"), ...lines.map((line) => columns.map((name) => line[name]).join(";"))].join("\n");
  return (await read([{ file: "goods.csv", layout, csv: `${csv}\n` }])).catalogue;
}

/** Nothing but keys tells by them: products and variants by codes, the rest by names. */
export const byContent: Pick<MatchInput, "identitiesOf"> = {
  identitiesOf: (kind) =>
    ({ product: [identityOf("code")], variant: [identityOf("code")], category: [identityOf("path@en")] })[kind] ?? [
      identityOf("name@en"),
    ],
};

/** A single with one price at most. */
export const line = (P: string, No: string, Name: string, Brand = ""): Line => ({
  ...{ P, No, Name, Brand, Shelf: "", Wood: "Oak", Kg: "", Price: "", Club: "" },
});
