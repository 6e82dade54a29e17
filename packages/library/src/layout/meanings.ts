/**
 * What kinds and their fields mean, with an example of each: for the guide of a layout's columns, for the reference in docs/, and for
 * suggestions where a layout names a field that does not exist.
 */

import type { FieldType } from "../kind.js";

export interface Meaning {
  readonly means: string;
  readonly example: string;
}

/** What records of each kind are. */
export const kindMeanings: Readonly<Record<string, string>> = {
  category: "A node of the category tree.",
  axis: "What variants of a product differ in, such as size or colour.",
  value: "One value of an axis. It belongs to its axis.",
  brand: "Who makes a product.",
  supplier: "Who a product is bought from.",
  "customer-group": "Customers with prices or products of their own.",
  "option-group": "Choices that a shopper makes in addition to a variant, such as engraving.",
  choice: "One choice of an option group. It belongs to its group.",
  "property-group": "A group of properties.",
  property: "A descriptive fact with a type, such as voltage.",
  product: "What shoppers see as one item. A product without variants is a single: it is sold itself.",
  variant: "One form of a product with its own code. It belongs to its product.",
  assortment: "A flat, named group of products, given by members or by a rule.",
  price: "A price of a product or variant.",
  stock: "The stock of a product or variant at a location.",
  picture: "The use of a picture file by a record.",
  identifier: "A number of a product or variant in another system.",
  supply: "How a product or variant is bought.",
  component: "What a bundle contains.",
  relation: "A link from a product to another product.",
  redirect: "An old address that leads to the record.",
  "property-value": "The value of a property of a product.",
};

const name = (of: string, example: string): Meaning => ({ means: `the name of the ${of}`, example });
const key = (of: string, example: string): Meaning => ({
  means: `your own key of the ${of}, the same in every file and every month`,
  example,
});
const position: Meaning = { means: "its position among its neighbours", example: "20" };
const id: Meaning = { means: "the platform's own id, if a source has it", example: "10482" };

/** By `kind.field`; fields that several kinds share by the field alone. */
const meanings: Readonly<Record<string, Meaning>> = {
  id,
  position,
  "category.key": key("category", "hives-full"),
  "axis.key": key("axis", "wood"),
  "value.key": key("value", "cedar"),
  "brand.key": key("brand", "thornapple"),
  "supplier.key": key("supplier", "sandhopper"),
  "customer-group.key": key("customer group", "clubs"),
  "option-group.key": key("option group", "engraving"),
  "choice.key": key("choice", "own-text"),
  "property-group.key": key("property group", "technical"),
  "property.key": key("property", "voltage"),
  "variant.key": key("variant", "orchard-hive-cedar"),
  "assortment.key": key("assortment", "beginners"),
  "category.name": name("category", "Complete hives"),
  "category.description": { means: "a text about the category", example: "Hives that are ready for bees." },
  "category.slug": { means: "its part of web addresses", example: "complete-hives" },
  "category.shown": { means: "whether shoppers see it", example: "true" },
  "category.parent": { means: "the category above it", example: "hives" },
  "category.visibleTo": { means: "the customer groups that see it; all, if empty", example: "Clubs" },
  searchTitle: { means: "the title for search engines", example: "Orchard hive, cedar or pine" },
  searchText: { means: "the text for search engines", example: "A whole hive for your first bees." },
  "axis.name": name("axis", "Wood"),
  "value.name": name("value", "Cedar"),
  "brand.name": name("brand", "Thornapple Joinery"),
  "supplier.name": name("supplier", "Sandhopper Glass"),
  "customer-group.name": name("customer group", "Clubs"),
  "option-group.name": name("option group", "Engraving"),
  "option-group.description": { means: "a text about the option group", example: "Up to 20 letters." },
  "option-group.required": { means: "whether a shopper has to choose", example: "false" },
  "option-group.product": {
    means: "the product that the option group belongs to; any may use it, if empty",
    example: "smoker",
  },
  "choice.name": name("choice", "Your own text"),
  "choice.surcharge": { means: "what the choice adds to the price", example: "4.50" },
  "choice.surchargeIs": { means: "whether the surcharge is an amount or percent", example: "amount" },
  "choice.variant": { means: "the variant that is added by the choice", example: "BC-SM" },
  "choice.product": { means: "the product that is added by the choice", example: "smoker" },
  "property-group.name": name("property group", "Technical data"),
  "property.name": name("property", "Voltage"),
  "property.type": { means: "the type of its values", example: "number" },
  "property.unit": { means: "the unit of its values", example: "V" },
  "property.group": { means: "the property group that it is in", example: "Technical data" },
  "property.product": {
    means: "the product that the property belongs to; any may use it, if empty",
    example: "smoker",
  },
  "product.key": {
    means: "your own key of the product, the same on all its rows and every month",
    example: "orchard-hive",
  },
  "product.name": name("product", "Orchard hive"),
  "product.description": {
    means: "a text about the product",
    example: "A whole hive: floor, brood box, two supers and a roof.",
  },
  "product.slug": { means: "its part of web addresses", example: "orchard-hive" },
  "product.sort": { means: "the sort of product", example: "goods" },
  "product.brand": { means: "who makes it", example: "Thornapple Joinery" },
  "product.categories": { means: "the categories that it is in", example: "Hives" },
  "product.axes": { means: "what its variants differ in", example: "Wood" },
  "product.optionGroups": { means: "the option groups that a shopper chooses from", example: "Engraving" },
  "product.shown": { means: "whether shoppers see it", example: "true" },
  "product.visibleTo": { means: "the customer groups that see it; all, if empty", example: "Clubs" },
  "variant.values": { means: "its value on each axis", example: "Cedar" },
  "assortment.name": name("assortment", "For beginners"),
  "assortment.members": { means: "the products in it", example: "orchard-hive" },
  "assortment.rule": { means: "an expression that its products fit", example: 'sort == "hire"' },
  code: { means: "the article number (SKU), unique over all products and variants", example: "BC-OH-CEDA" },
  barcode: { means: "the GTIN with its check digit", example: "2600413737005" },
  weight: { means: "the weight in kilograms", example: "14.2" },
  length: { means: "the length in centimetres", example: "46" },
  width: { means: "the width in centimetres", example: "46" },
  height: { means: "the height in centimetres", example: "52" },
  status: { means: "whether it is sold now", example: "selling" },
  backorder: { means: "what happens when it is out of stock", example: "allowed" },
  quantityLeast: { means: "the smallest quantity of an order", example: "1" },
  quantityMost: { means: "the largest quantity of an order", example: "50" },
  quantityStep: { means: "the step between quantities", example: "5" },
  unit: { means: "the unit in which it is sold", example: "piece" },
  tax: { means: "the tax class", example: "standard" },
  "price.role": { means: "what the price is: price, offer, was, list, cost, or a word of your own", example: "price" },
  "price.amount": { means: "the amount", example: "189" },
  "price.currency": { means: "the currency (ISO 4217)", example: "EUR" },
  "price.taxIncluded": { means: "whether tax is included", example: "true" },
  "price.quantityFrom": { means: "the quantity from which the price is valid", example: "5" },
  "price.quantityTo": { means: "the quantity up to which the price is valid", example: "9" },
  "price.customerGroup": { means: "the customer group that the price is for", example: "Clubs" },
  "price.from": { means: "the first day of the price", example: "2027-03-01" },
  "price.until": { means: "the last day of the price", example: "2027-03-31" },
  "price.hire": { means: "the period that the price is for, if the product is for hire", example: "day" },
  "stock.location": { means: "where the stock is", example: "Barn" },
  "stock.quantity": { means: "the quantity in stock", example: "20" },
  "stock.reorderAt": { means: "the quantity at which to reorder", example: "5" },
  "stock.reorderTo": { means: "the quantity to reorder up to", example: "40" },
  "picture.role": { means: "what the picture is for", example: "main" },
  "picture.file": { means: "the name of the picture file", example: "orchard-hive.png" },
  "picture.alternative": { means: "a text in place of the picture", example: "The hive from the front" },
  "picture.position": { means: "its position among the pictures", example: "1" },
  "picture.hidden": { means: "whether shoppers do not see it", example: "false" },
  "identifier.type": { means: "the kind of number", example: "MPN" },
  "identifier.value": { means: "the number", example: "OH-7" },
  "supply.supplier": { means: "the supplier", example: "Sandhopper Glass" },
  "supply.code": { means: "the supplier's article number", example: "SG-500-H" },
  "supply.cost": { means: "the purchase price", example: "0.42" },
  "supply.days": { means: "the delivery time in days", example: "14" },
  "component.variant": { means: "the variant in the bundle", example: "BC-SM" },
  "component.product": { means: "the product in the bundle", example: "smoker" },
  "component.quantity": { means: "how many of it", example: "2" },
  "relation.name": { means: "the kind of link", example: "goes-with" },
  "relation.to": { means: "the product that the link leads to", example: "smoker" },
  "relation.language": { means: "the language that the link is for; all, if empty", example: "de" },
  "redirect.language": { means: "the language of the old address", example: "en" },
  "redirect.from": { means: "the old address", example: "hive-orchard" },
  "property-value.property": { means: "the property", example: "Voltage" },
  "property-value.value": { means: "the value", example: "230" },
  "property-value.text": { means: "the value as a text in a language", example: "stainless" },
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

/**
 * What a field means, with an example.
 *
 * @returns undefined for fields of a project's own. @param kind of the record, or of the entry.
 */
export const knownMeaning = (kind: string, field: string): Meaning | undefined =>
  meanings[`${kind}.${field}`] ?? meanings[field];

export function meaningOfField(kind: string, field: string, type: FieldType | undefined): Meaning {
  return knownMeaning(kind, field) ?? { means: `${field} of the ${kind}: ${byType[type ?? "text"]}`, example: "" };
}

/** Other names that people look for, by the field that has it. */
const synonyms: Readonly<Record<string, string>> = {
  images: "pictures",
  image: "pictures",
  photos: "pictures",
  photo: "pictures",
  media: "pictures",
  sku: "code",
  article: "code",
  ean: "barcode",
  gtin: "barcode",
  upc: "barcode",
  title: "name",
  headline: "name",
  text: "description",
  url: "slug",
  address: "slug",
  manufacturer: "brand",
  maker: "brand",
  vendor: "brand",
  category: "categories",
  price: "prices",
  quantity: "stock",
  inventory: "stock",
  active: "shown",
  visible: "shown",
  published: "shown",
  attributes: "properties",
  features: "properties",
  specifications: "properties",
  options: "optionGroups",
  related: "relations",
  parts: "components",
  type: "sort",
  parentCategory: "parent",
  order: "position",
  sorting: "position",
  rank: "position",
  alt: "alternative",
};

/** The field that people look for by another name, if the kind has it. */
export function fieldBySynonym(name: string, fields: readonly string[]): string | undefined {
  const wanted = Object.hasOwn(synonyms, name.toLowerCase()) ? synonyms[name.toLowerCase()] : undefined;
  return wanted !== undefined && fields.includes(wanted) ? wanted : undefined;
}
