/** What the fields of records mean, in words for somebody who fills a sheet, with an example of each. */

import type { FieldType } from "../kind.js";

interface Meaning {
  readonly means: string;
  readonly example: string;
}

const meanings: Readonly<Record<string, Meaning>> = {
  "category.key": { means: "the category's own word, the same every month", example: "hives-full" },
  "category.name": { means: "the category's name", example: "Complete hives" },
  "category.parent": { means: "the category above", example: "hives" },
  "category.position": { means: "its place among its neighbours", example: "20" },
  "axis.name": { means: "what versions differ in", example: "Wood" },
  "value.name": { means: "one of the ways in which they differ", example: "Cedar" },
  "product.key": {
    means: "what the rows of one product have in common, the same every month",
    example: "orchard-hive",
  },
  "product.name": { means: "the product's name", example: "Orchard hive" },
  "product.description": {
    means: "a text about the product",
    example: "A whole hive: floor, brood box, two supers and a roof.",
  },
  "product.slug": { means: "the product's word in addresses", example: "orchard-hive" },
  "product.brand": { means: "who makes it", example: "Thornapple Joinery" },
  "product.categories": { means: "where it stands in the tree", example: "Hives" },
  "product.axes": { means: "what its versions differ in", example: "Wood" },
  "product.shown": { means: "whether shoppers see it", example: "true" },
  "relation.to": { means: "a product that belongs to it", example: "smoker" },
  code: { means: "the stock-keeping code, on one article only", example: "BC-OH-CEDA" },
  barcode: { means: "the GTIN with its check digit", example: "2600413737005" },
  weight: { means: "the weight in kilograms", example: "14.2" },
  "price.amount": { means: "the price", example: "189" },
  "price.quantityFrom": { means: "from how many pieces the price holds", example: "5" },
  "price.customerGroup": { means: "for whom the price holds", example: "Clubs" },
  "stock.quantity": { means: "how many there are", example: "20" },
  "stock.location": { means: "where they are", example: "Shed" },
  "picture.file": { means: "the name of the picture's file", example: "orchard-hive.png" },
  "picture.alternative": { means: "the picture in words", example: "The hive from the front" },
  "picture.role": { means: "what the picture is for", example: "main" },
};

const byType: Readonly<Record<FieldType, string>> = {
  text: "a text",
  code: "a code",
  barcode: "a barcode",
  decimal: "a number",
  integer: "a whole number",
  flag: "yes or no",
  date: "a date",
  file: "a file",
};

/** @param kind of the record, or of the entry. */
export function meaningOfField(kind: string, field: string, type: FieldType | undefined): Meaning {
  return (
    meanings[`${kind}.${field}`] ??
    meanings[field] ?? { means: `${field} of the ${kind}: ${byType[type ?? "text"]}`, example: "" }
  );
}
