/** The features, by name. */

import { entryFeatures } from "./entry-features.js";
import { column, type Feature, type Given, type Kit } from "./feature.js";
import { referenceFeatures } from "./reference-features.js";
import { some } from "./things.js";

const scalar = (
  of: "product" | "sold",
  field: string,
  cell: (owner: Parameters<Feature["rows"]>[0]) => string,
  plain: unknown,
  ...codecs: unknown[]
): Feature => ({
  of,
  plain: (sold) => ({ columns: { [field]: { field: `${of === "sold" ? sold : of}.${field}`, as: plain } } }),
  rows: (owner) => [[cell(owner)]],
  ways: codecs.map((as) => (kit: Kit) => {
    const words = typeof as === "object" && as !== null && "as" in as ? (as as Given) : { as };
    const owner = of === "sold" ? kit.sold : of;
    return {
      columns: [
        {
          place: of === "sold" ? kit.soldAt : "block",
          name: `c-${field}`,
          binding: { field: `${owner}.${field}`, ...words },
        },
      ],
    };
  }),
});

/** With its check digit. */
function gtin(number: number): string {
  const digits = `26004137${String(number).padStart(4, "0")}`;
  const sum = [...digits].reduce((total, digit, at) => total + Number(digit) * (at % 2 === 0 ? 1 : 3), 0);
  return `${digits}${(10 - (sum % 10)) % 10}`;
}

const flags = { yes: true, no: false };
const shown = ({ numbers }: { readonly numbers: readonly number[] }) => ["yes", "no", ""][numbers[1]! % 3]!;

const basics = {
  name: {
    of: "product",
    plain: () => ({ columns: { En: "product.name@en", De: "product.name@de" } }),
    rows: ({ words, all, numbers }) => [[words[0]!, all.isGerman && numbers[0]! % 2 === 0 ? words[1]! : ""]],
    ways: [
      (kit) => ({ columns: kit.texts("block", "Name", (lang) => `product.name${lang}`) }),
      (kit) => ({
        columns: kit.texts("block", "Name", (lang) => ({
          field: `product.name${lang}`,
          as: { between: ["<<", ">>"] },
        })),
      }),
      (kit) =>
        kit.isDocument
          ? { columns: kit.texts("block", "Name", (lang) => `product.name${lang}`) }
          : {
              cells: { Names: { json: { "/en": "N-en", "/more/de": "N-de" } } },
              columns: [
                { place: "block", name: "N-en", binding: "product.name@en" },
                { place: "block", name: "N-de", binding: "product.name@de" },
              ],
            },
    ],
  },
  description: {
    of: "product",
    plain: () => ({ columns: { En: "product.description@en", De: "product.description@de" } }),
    rows: ({ words, all, numbers }) => [
      [numbers[0]! % 3 === 0 ? "" : `${words[2]}\n${words[3]}`, all.isGerman && numbers[0]! % 2 === 0 ? words[3]! : ""],
    ],
    ways: [
      (kit) => ({ columns: kit.texts("block", "Text", (lang) => `product.description${lang}`) }),
      (kit) => ({
        columns: kit.texts("block", "Text", (lang) => ({
          field: `product.description${lang}`,
          as: { markup: "text" },
        })),
      }),
    ],
  },
  emptied: {
    of: "product",
    plain: () => ({ columns: { Text: { field: "product.searchText@en", blank: "emptied" } } }),
    rows: ({ words, numbers }) => [[numbers[2]! % 2 === 0 ? "" : words[4]!]],
    ways: [column("Search", () => ({ field: "product.searchText@en", blank: "emptied" }), "block")],
  },
  "two fields of a column": {
    of: "product",
    plain: () => ({ columns: { Title: "product.searchTitle@en", Slug: "product.slug@en" } }),
    rows: ({ words, numbers }) => {
      const other = numbers[2]! % 9 === 0 ? words[5]! : words[4]!;
      return [numbers[3]! % 3 === 0 ? ["", ""] : [words[4]!, other]];
    },
    ways: [
      column("Both", () => ["product.searchTitle@en", "product.slug@en"], "block"),
      (kit) => ({
        columns: [
          { place: "block", name: "Title", binding: "product.searchTitle@en" },
          { place: "block", name: "Slug", binding: { field: "product.slug@en", fix: ["trim", "invisible"] } },
          { place: kit.soldAt, name: "Fixed", binding: { constant: "2" } },
        ],
      }),
    ],
  },
  "joined cells": {
    of: "product",
    plain: () => ({ columns: { Title: "product.searchTitle@de" } }),
    rows: ({ words, numbers }) => [[numbers[4]! % 3 === 0 ? "" : `${words[5]} ${words[6]}`]],
    ways: [
      column("Whole", () => "product.searchTitle@de", "block"),
      (kit) => ({
        columns: [{ place: "block", name: "Whole", binding: "product.searchTitle@de" }],
        ...(kit.isDocument ? {} : { cells: { Whole: { join: ["First", "Second"], with: " " } } }),
      }),
    ],
  },
  sizes: {
    of: "sold",
    plain: (sold) => ({ columns: { W: `${sold}.width`, H: `${sold}.height` } }),
    rows: ({ numbers }) => [
      [some(numbers[5], 90), some(numbers[6], 90)].map((one) => (one === undefined ? "" : String(one / 10))),
    ],
    ways: [
      ({ sold, soldAt, isDocument }) => ({
        columns: [
          { place: soldAt, name: "W", binding: `${sold}.width` },
          { place: soldAt, name: "H", binding: { field: `${sold}.height`, as: { decimal: "," } } },
        ],
        ...(isDocument ? {} : { cells: { Size: { split: " x ", into: ["W", "H"] } } }),
      }),
      ({ sold, soldAt, isDocument }) => ({
        columns: [
          { place: soldAt, name: "W", binding: `${sold}.width` },
          { place: soldAt, name: "H", binding: `${sold}.height` },
        ],
        ...(isDocument ? {} : { cells: { Size: { json: { "/size/w": "W", "/size/h": "H" } } } }),
      }),
    ],
  },
  weight: scalar(
    "sold",
    "weight",
    ({ numbers }) => (numbers[0]! % 5 === 0 ? "" : String(numbers[0]! / 1000)),
    "decimal",
    "decimal",
    { decimal: "," },
    { decimal: ".", thousands: "," },
    { decimal: ",", thousands: ".", places: 3 },
    { decimal: ",", places: 2 },
    { measure: { kg: "1", g: "0.001" } },
    { measure: { g: "0.001", kg: "1" }, decimal: ",", bare: "kg" },
    { between: ["ca. ", " kg"], of: { decimal: "," } },
  ),
  length: scalar(
    "product",
    "length",
    ({ numbers }) => String(numbers[7]! / 4),
    "decimal",
    { decimal: ",", sign: "cm" },
    { measure: { cm: "1", m: "100", mm: "0.1" } },
  ),
  position: scalar(
    "product",
    "position",
    ({ numbers }) => (numbers[1]! % 5 === 0 ? "" : String(numbers[1])),
    "integer",
    "integer",
    { between: ["no. ", ""], of: "integer" },
  ),
  shown: scalar(
    "product",
    "shown",
    shown,
    { "code words": flags },
    { "code words": flags },
    { "code words": { 1: true, 0: false } },
    { as: { "code words": { on: true, off: false } }, "blank means": "off" },
  ),
  "code words, else text": {
    of: "product",
    plain: () => ({ columns: { Sort: { field: "product.sort" }, Note: "product.unit" } }),
    rows: ({ words, numbers }) => [
      numbers[11]! % 3 === 0
        ? ["", ""]
        : numbers[11]! % 3 === 1
          ? ["", words[6]!]
          : [["goods", "hire"][numbers[10]! % 2]!, ""],
    ],
    ways: [
      column(
        "Sort",
        () => ({
          field: "product.sort",
          as: { "code words": { G: "goods", H: "hire" } },
          "other words": "product.unit",
        }),
        "block",
      ),
    ],
  },
  status: scalar(
    "sold",
    "status",
    ({ numbers }) => ["", "selling", "paused", "ended"][numbers[2]! % 4]!,
    "text",
    "text",
    { "code words": { S: "selling", P: "paused", E: "ended" } },
    { "code words": { S: "selling", P: "paused" } },
  ),
  barcode: scalar(
    "sold",
    "barcode",
    ({ numbers }) => (numbers[3]! % 3 === 0 ? "" : gtin(numbers[3]!)),
    "text",
    "text",
    {
      as: "text",
      fix: { pad: 13 },
    },
  ),
} satisfies Record<string, Feature>;

export const features: Readonly<Record<string, Feature>> = { ...basics, ...entryFeatures, ...referenceFeatures };
