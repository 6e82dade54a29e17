/** Features that are entries of a record: in columns of their own, lists, parts, parallel lists, lanes. */

import { plainSheet, type Binding, type Feature, type Given, type Kit, type Part } from "./feature.js";

export const list = (of?: unknown): Given => ({ list: "|", escape: "!", ...(of === undefined ? {} : { of }) });
/** Gaps are blank. */
export const gaps = (of?: unknown): Given => ({ ...list(of), blanks: true });

/** One column of the sold record. */
const one =
  (name: string, field: string, more: Given = {}) =>
  ({ sold, soldAt }: Kit): Part => ({
    columns: [{ place: soldAt, name, binding: { field: `${sold}.${field}`, ...more } }],
  });

type Columns = Readonly<Record<string, Binding>>;

/** The entries of the lane `each`, a row each. @param of whose entries; the sold record's, if left out. */
const lane =
  (name: string, collection: string, columns: Columns, words: Given | undefined, of?: "product") =>
  ({ sold }: Kit): Part => ({
    lanes: { [name]: { entries: `${of ?? sold}.${collection}`, ...(words === undefined ? {} : { with: words }) } },
    columns: Object.entries(columns).map(([header, binding]) => ({
      place: name,
      name: header,
      binding: inLane(name, binding),
    })),
  });

function inLane(name: string, binding: Binding): Binding {
  if (typeof binding === "string") return `${name}.${binding}`;
  return { ...(binding as Given), field: `${name}.${String((binding as Given)["field"])}` };
}

/** The plain way: a lane in a sheet of its own. */
const plainLane = (collection: string, columns: Columns, words?: Given, of?: "product"): Feature["plain"] => {
  const each = Object.entries(columns).map(([header, binding]) => [header, inLane("each", binding)] as const);
  return (sold) => ({
    columns: Object.fromEntries(each),
    lane: { entries: `${of ?? sold}.${collection}`, ...(words === undefined ? {} : { with: words }) },
  });
};

const code: Given = { by: "code" };
const key: Given = { by: "key" };
const byName: Given = { by: "name@en" };
const comma: Given = { decimal: "," };
const componentPart = { field: "variant", as: code };

const ownProperty = { field: "property", as: byName, missing: "create", within: "product" } as const;

export const entryFeatures = {
  price: {
    of: "sold",
    plain: (sold) => ({ columns: { Price: { field: `${sold}.prices(price).amount`, as: "decimal" } } }),
    rows: ({ numbers }) => [[numbers[4]! % 4 === 0 ? "" : String(numbers[4]! / 100)]],
    ways: [
      one("Price", "prices(price).amount", { as: "decimal" }),
      one("Price", "prices(price).amount", { as: { decimal: ",", sign: "€" } }),
      one("Price", "prices(price).amount", { as: { decimal: ",", places: 2, thousands: "." } }),
    ],
  },
  offer: {
    of: "sold",
    plain: (sold) => ({
      columns: {
        Offer: `${sold}.prices(offer).amount`,
        Until: `${sold}.prices(offer).until`,
        Tax: `${sold}.prices(offer).taxIncluded`,
      },
    }),
    rows: ({ numbers }) => [
      numbers[5]! % 2 === 0
        ? ["", "", ""]
        : [
            String(numbers[5]! / 10),
            `2027-0${1 + (numbers[5]! % 9)}-1${numbers[5]! % 10}`,
            ["yes", "no"][numbers[6]! % 2]!,
          ],
    ],
    ways: [
      (kit) => ({
        columns: [
          ...one("Offer", "prices(offer).amount", { as: comma })(kit).columns,
          ...one("Until", "prices(offer).until", { as: { date: "DD.MM.YYYY" } })(kit).columns,
          ...one("Tax", "prices(offer).taxIncluded", { as: { "code words": { incl: true, excl: false } } })(kit)
            .columns,
        ],
      }),
      (kit) => ({
        columns: [
          ...one("Until", "prices(offer).until", { as: { date: ["D/M/YYYY", "YYYY-MM-DD"] } })(kit).columns,
          ...one("Tax", "prices(offer).taxIncluded")(kit).columns,
          ...one("Offer", "prices(offer).amount")(kit).columns,
        ],
      }),
    ],
  },
  tiers: {
    of: "sold",
    plain: plainLane("prices", { From: "quantityFrom", Each: "amount" }, { role: "tier" }),
    rows: ({ numbers }) =>
      numbers.slice(0, numbers[7]! % 3).map((number, at) => [String(2 + at * 5), String(number / 100)]),
    ways: [
      lane("tiers", "prices", { From: "quantityFrom", Each: { field: "amount", as: comma } }, { role: "tier" }),
      one("Tiers", "prices(tier)", {
        as: list({ parts: ":", holds: ["quantityFrom", { field: "amount", as: comma }] }),
      }),
      one("Tiers", "prices(tier)", {
        as: list({
          parts: "=",
          escape: "!",
          holds: [{ field: "amount", as: { between: ["€ ", ""], of: "decimal" } }, "quantityFrom"],
        }),
      }),
      one("Tiers", "prices(tier)", { as: { list: "; ", of: { parts: "/", holds: ["quantityFrom", "amount"] } } }),
    ],
  },
  stock: {
    of: "sold",
    plain: plainLane("stock", { Place: "location", Pieces: "quantity" }),
    rows: ({ numbers }) =>
      ["Shed", "Loft"].flatMap((place, at) => (numbers[at]! % 3 === 0 ? [] : [[place, String(numbers[at])]])),
    ways: [
      ({ sold, soldAt }) => ({
        columns: ["Shed", "Loft"].map((place) => ({
          place: soldAt,
          name: `In-${place}`,
          binding: `${sold}.stock(${place}).quantity`,
        })),
      }),
      ({ sold, soldAt }) => ({
        listed: { spot: ["Shed", "Loft"] },
        columns: [{ place: soldAt, name: "Of-{spot}", binding: `${sold}.stock({spot}).quantity` }],
      }),
      lane("stores", "stock", { Place: "location", Pieces: { field: "quantity", as: "integer" } }, undefined),
      one("Stores", "stock", { as: list({ quantity: " x ", holds: ["quantity", "location"] }) }),
      one("Stores", "stock", { as: list({ parts: ":", holds: ["location", "quantity"] }) }),
      one("Stores", "stock", {
        as: list({
          parts: ":",
          holds: ["quantity", { field: "location", ending: { " in the shed": "Shed", " aloft": "Loft" } }],
        }),
      }),
    ],
  },
  pictures: {
    of: "product",
    plain: plainLane("pictures", { File: "file", Alt: "alternative@en" }, { role: "main" }, "product"),
    rows: ({ words, numbers }) =>
      words
        .slice(0, numbers[8]! % 4)
        .map((word, at) => [`s${at}${word}`, numbers[at]! % 3 === 0 ? "" : words[at + 1]!]),
    ways: [
      lane("shots", "pictures", { File: "file", Alt: "alternative@en" }, { role: "main" }, "product"),
      () => ({
        columns: [
          { place: "block", name: "Files", binding: { field: "product.pictures(main).file", as: list() } },
          { place: "block", name: "Alts", binding: { field: "product.pictures(main).alternative@en", as: gaps() } },
        ],
      }),
      () => ({
        columns: [
          {
            place: "block",
            name: "Shots",
            binding: { field: "product.pictures(main)", as: list({ parts: "=", holds: ["file", "alternative@en"] }) },
          },
        ],
      }),
    ],
  },
  components: {
    of: "sold",
    plain: (sold) => {
      const named =
        sold === "variant" ? { Of: { field: "each.variant", as: code } } : { Of: { field: "each.product", as: key } };
      return { columns: { ...named, Count: "each.quantity" }, lane: { entries: `${sold}.components` } };
    },
    rows: ({ codes, productKeys, numbers }) => {
      const all = codes.length > 0 ? codes : productKeys;
      const from = numbers[11]! % all.length;
      return all.slice(from, from + (numbers[9]! % 3)).map((one, at) => [one, String(1 + at)]);
    },
    ways: [
      ({ sold, soldAt }) => ({
        columns: [
          {
            place: soldAt,
            name: "Set",
            binding: { field: `${sold}.components`, as: list({ quantity: " x ", holds: ["quantity", partOf(sold)] }) },
          },
        ],
      }),
      ({ sold, soldAt }) => ({
        columns: [
          {
            place: soldAt,
            name: "Set",
            binding: {
              field: `${sold}.components`,
              as: { list: "; ", of: { quantity: "*", holds: [partOf(sold), "quantity"] } },
            },
          },
        ],
      }),
      ({ sold, soldAt }) => ({
        columns: [
          {
            place: soldAt,
            name: "Set",
            binding: { field: `${sold}.components`, as: list({ parts: ":", holds: [partOf(sold), "quantity"] }) },
          },
        ],
      }),
      ({ sold, soldAt }) => ({
        columns: [
          { place: soldAt, name: "Of", binding: { field: `${sold}.components.${sold}`, as: list(partOf(sold).as) } },
          { place: soldAt, name: "Count", binding: { field: `${sold}.components.quantity`, as: gaps("integer") } },
        ],
      }),
      (kit) =>
        lane(
          "set",
          "components",
          { Of: partOf(kit.sold), Count: { field: "quantity", as: "integer" } },
          undefined,
        )(kit),
    ],
  },
  properties: {
    of: "product",
    instead: "properties",
    beside: () => [
      plainSheet({ each: "property" }, { No: "property.key", Name: "property.name@en" }, [
        ["a", "Age"],
        ["b", "Bulk"],
      ]),
    ],
    plain: plainLane(
      "properties",
      { "Fact-of": { field: "property", as: key }, "Fact-is": "value" },
      undefined,
      "product",
    ),
    rows: ({ words, numbers }) => ["a", "b"].flatMap((one, at) => (numbers[at]! % 3 === 0 ? [] : [[one, words[at]!]])),
    ways: [
      () => ({
        columns: ["Age", "Bulk"].map((name) => ({
          place: "block",
          name,
          binding: `product.properties(${name}).value`,
        })),
      }),
      lane(
        "facts",
        "properties",
        { "Fact-of": { field: "property", as: byName }, "Fact-is": "value" },
        undefined,
        "product",
      ),
      () => ({
        columns: [
          {
            place: "block",
            name: "Facts",
            binding: {
              field: "product.properties",
              as: list({ parts: ": ", escape: "!", holds: [{ field: "property", as: byName }, "value"] }),
            },
          },
        ],
      }),
      () => ({
        columns: [
          { place: "block", name: "Fact-of", binding: { field: "product.properties.property", as: list(key) } },
          { place: "block", name: "Fact-is", binding: { field: "product.properties.value", as: gaps() } },
        ],
      }),
    ],
  },
  "properties of the product": {
    of: "product",
    instead: "properties",
    plain: plainLane("properties", { "Fact-of": ownProperty, "Fact-is": "value" }, undefined, "product"),
    rows: ({ words, numbers }) =>
      ["Age", "Bulk"].flatMap((one, at) => (numbers[at]! % 3 === 0 ? [] : [[one, words[at]!]])),
    ways: [
      lane("facts", "properties", { "Fact-of": ownProperty, "Fact-is": "value" }, undefined, "product"),
      () => ({
        columns: [
          {
            place: "block",
            name: "Facts",
            binding: {
              ...ownProperty,
              field: "product.properties",
              as: list({ parts: ": ", escape: "!", holds: [{ field: "property", as: byName }, "value"] }),
            },
          },
        ],
      }),
      () => ({
        columns: [
          {
            place: "block",
            name: "Fact-of",
            binding: { ...ownProperty, field: "product.properties.property", as: list(byName) },
          },
          { place: "block", name: "Fact-is", binding: { field: "product.properties.value", as: gaps() } },
        ],
      }),
    ],
  },
  supplies: {
    of: "sold",
    plain: plainLane("supplies", {
      Seller: { field: "supplier", as: byName, missing: "create" },
      "Their-no": "code",
      Buying: "cost",
    }),
    rows: ({ words, numbers, all }) =>
      all.words
        .slice(0, numbers[10]! % 3)
        .map((name, at) => [
          `S${at}${name}`,
          numbers[at]! % 2 === 0 ? words[at]! : "",
          numbers[at]! % 3 === 0 ? String(numbers[at]! / 10) : "",
        ]),
    ways: [
      lane(
        "bought",
        "supplies",
        {
          Seller: { field: "supplier", as: byName, missing: "create" },
          "Their-no": "code",
          Buying: { field: "cost", as: comma },
        },
        undefined,
      ),
      ({ sold, soldAt }) => ({
        columns: [
          {
            place: soldAt,
            name: "Seller",
            binding: { field: `${sold}.supplies.supplier`, as: list(byName), missing: "create" },
          },
          { place: soldAt, name: "Their-no", binding: { field: `${sold}.supplies.code`, as: gaps() } },
          { place: soldAt, name: "Buying", binding: { field: `${sold}.supplies.cost`, as: gaps("decimal") } },
        ],
      }),
      one("Bought", "supplies", {
        missing: "create",
        as: list({ parts: "=", holds: [{ field: "supplier", as: byName }, "code", { field: "cost", as: "decimal" }] }),
      }),
    ],
  },
  "a supplier and its number": {
    of: "sold",
    instead: "supplies",
    plain: plainLane("supplies", { Seller: { field: "supplier", as: byName, missing: "create" }, "Their-no": "code" }),
    rows: ({ words, numbers, all }) => (numbers[10]! % 3 === 0 ? [] : [[all.words[numbers[10]! % 8]!, words[0]!]]),
    ways: [
      ({ sold, soldAt }) => ({
        columns: [
          {
            place: soldAt,
            name: "Seller",
            binding: { field: `${sold}.supplies.supplier`, as: byName, missing: "create" },
          },
          { place: soldAt, name: "Their-no", binding: `${sold}.supplies.code` },
        ],
      }),
      one("Bought", "supplies", {
        missing: "create",
        as: { parts: "=", escape: "!", holds: [{ field: "supplier", as: byName }, "code"] },
      }),
    ],
  },
  identifiers: {
    of: "sold",
    plain: plainLane("identifiers", { "Id-type": "type", "Id-is": "value" }),
    rows: ({ words, numbers }) =>
      ["MPN", "ISBN"].flatMap((type, at) => (numbers[at + 3]! % 3 === 0 ? [] : [[type, words[at]!]])),
    ways: [
      ({ sold, soldAt }) => ({
        columns: ["MPN", "ISBN"].map((type) => ({
          place: soldAt,
          name: `Id-${type}`,
          binding: `${sold}.identifiers(${type}).value`,
        })),
      }),
      lane("numbers", "identifiers", { "Id-type": "type", "Id-is": "value" }, undefined),
      one("Numbers", "identifiers", { as: list({ parts: "=", holds: ["type", "value"] }) }),
    ],
  },
  relations: {
    of: "product",
    plain: plainLane("relations", { "Link-name": "name", "Link-to": { field: "to", as: key } }, undefined, "product"),
    rows: ({ productKeys, numbers }) =>
      productKeys.flatMap((to, at) =>
        numbers[at]! % 2 === 0 ? [] : [[numbers[at]! % 3 === 0 ? "needs" : "goes-with", to]],
      ),
    ways: [
      () => ({
        columns: ["needs", "goes-with"].map((name) => ({
          place: "block",
          name,
          binding: { field: `product.relations(${name}).to`, as: list(key) },
        })),
      }),
      lane("links", "relations", { "Link-name": "name", "Link-to": { field: "to", as: key } }, undefined, "product"),
      () => ({
        columns: [
          {
            place: "block",
            name: "Links",
            binding: {
              field: "product.relations",
              as: list({ parts: ">", holds: ["name", { field: "to", as: key }] }),
            },
          },
        ],
      }),
    ],
  },
  redirects: {
    of: "product",
    plain: plainLane("redirects", { Old: "from", In: "language" }, undefined, "product"),
    rows: ({ words, numbers }) => words.slice(0, numbers[11]! % 3).map((word, at) => [`r${at}${word}`, "en"]),
    ways: [
      () => ({
        columns: [{ place: "block", name: "Old", binding: { field: "product.redirects(en).from", as: list() } }],
      }),
      lane("old", "redirects", { Old: "from", In: "language" }, undefined, "product"),
    ],
  },
} satisfies Record<string, Feature>;

const partOf = (sold: string): { readonly field: string; readonly as: Given } =>
  sold === "variant" ? { ...componentPart, field: "variant" } : { field: "product", as: key };
