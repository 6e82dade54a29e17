/**
 * How the public catalogues of the made-up platforms show what they hold: for comparing with a rehearsal, until exports are read with
 * layouts alone.
 */

import type { ReadbackRules, RecordReadback } from "./played.js";

const languages = ["en", "de", "fr", "ja", "ar"] as const;

/** A field in the main language, and in the others among the words of each. */
const translated = (field: string, at: string): Record<string, string> =>
  Object.fromEntries(languages.map((lang) => [`${field}@${lang}`, lang === "en" ? at : `words.${lang}.${at}`]));

const inEach = (field: string, at: string): Record<string, string> =>
  Object.fromEntries(languages.map((lang) => [`${field}@${lang}`, `${at}.${lang}`]));

const each = (langs: readonly string[], entry: (lang: string) => [string, string]): Record<string, string> =>
  Object.fromEntries(langs.map(entry));

/** @param langs of the account, the main one first. */
const pennywort = (langs: readonly string[]): ReadbackRules => ({
  products: { each: "items", key: "item" },
  fields: {
    ...each(langs, (lang) => [`name@${lang}`, `title.${lang}`]),
    ...each(langs, (lang) => [`description@${lang}`, `text.${lang}`]),
    categories: "places",
    brand: "brand",
    "pictures.file": "pictures",
    "relations(goes-with).to": "goesWith",
    "relations(spare-part).to": "spares",
    shown: "shown",
  },
  axes: { each: "traits", languages: each(langs, (lang) => [lang, lang]) },
  variants: { each: "codes", key: "code" },
  "variant fields": {
    "prices(price).amount": "price",
    "prices(was).amount": "was",
    "stock.quantity": "stock",
    weight: "weight",
    barcode: "barcode",
    "pictures(main).file": "picture",
  },
  values: { each: "values", languages: each(langs, (lang) => [lang, lang]) },
  lanes: { tiers: { each: "tiers", fields: { quantityFrom: "from", customerGroup: "club", amount: "price" } } },
  categories: { each: "tree", path: "path", fields: each(langs.slice(1), (lang) => [`name@${lang}`, lang]) },
});

const saltmarsh: RecordReadback = {
  records: {
    category: {
      each: "branches",
      key: "tag",
      fields: {
        ...translated("name", "title"),
        parent: "under",
        position: "rank",
        shown: "open",
        "slug@en": "path",
        ...translated("searchTitle", "seekTitle"),
        ...translated("searchText", "seekText"),
        visibleTo: "circles",
        ...inEach("description", "stories"),
        redirects: { each: "bends", sorted: true, of: ["from", "lang"] },
      },
    },
    brand: {
      each: "makers",
      key: "tag",
      fields: {
        ...translated("name", "title"),
        parent: "under",
        position: "rank",
        shown: "open",
        "slug@en": "path",
        ...translated("searchTitle", "seekTitle"),
        ...translated("searchText", "seekText"),
        visibleTo: "circles",
        ...inEach("description", "stories"),
        redirects: { each: "bends", sorted: true, of: ["from", "lang"] },
      },
    },
    "customer-group": {
      each: "circles",
      key: "tag",
      fields: {
        ...translated("name", "title"),
        parent: "under",
        position: "rank",
        shown: "open",
        "slug@en": "path",
        ...translated("searchTitle", "seekTitle"),
        ...translated("searchText", "seekText"),
        visibleTo: "circles",
        ...inEach("description", "stories"),
        redirects: { each: "bends", sorted: true, of: ["from", "lang"] },
      },
    },
    axis: {
      each: "scales",
      key: "tag",
      fields: {
        ...translated("name", "title"),
        parent: "under",
        position: "rank",
        shown: "open",
        "slug@en": "path",
        ...translated("searchTitle", "seekTitle"),
        ...translated("searchText", "seekText"),
        visibleTo: "circles",
        ...inEach("description", "stories"),
        redirects: { each: "bends", sorted: true, of: ["from", "lang"] },
      },
    },
    value: { each: "marks", key: "tag", fields: { ...translated("name", "title"), axis: "scale", position: "rank" } },
    "option-group": {
      each: "extras",
      key: "tag",
      fields: { ...translated("name", "title"), required: "must", position: "rank" },
    },
    "property-group": { each: "clusters", key: "tag", fields: { ...translated("name", "title"), position: "rank" } },
    property: {
      each: "traits",
      key: "tag",
      fields: {
        ...translated("name", "title"),
        group: "cluster",
        type: { at: "sort", words: { words: "text", number: "number", yesno: "flag", day: "date" } },
        unit: "in",
        position: "rank",
      },
    },
    assortment: {
      each: "baskets",
      key: "tag",
      fields: { ...translated("name", "title"), members: "goods", position: "rank" },
    },
    choice: {
      each: "picks",
      key: "tag",
      fields: {
        ...translated("name", "title"),
        "option-group": "extra",
        surcharge: "charge",
        surchargeIs: { at: "chargeIs", words: { sum: "amount", share: "percent" } },
        position: "rank",
        variant: "takes",
      },
    },
    product: {
      each: "goods",
      key: "tag",
      fields: {
        ...translated("name", "title"),
        ...translated("description", "text"),
        brand: "maker",
        categories: "branches",
        axes: "scales",
        optionGroups: "extras",
        sort: { at: "nature", words: { thing: "goods", file: "file", hire: "hire" } },
        shown: "open",
        code: "code",
        weight: "weight",
        barcode: "barcode",
        status: { at: "state", words: { on: "selling", rest: "paused", gone: "ended" } },
        length: "long",
        width: "wide",
        height: "high",
        quantityStep: "step",
        "slug@en": "path",
        ...translated("searchTitle", "seekTitle"),
        ...translated("searchText", "seekText"),
        visibleTo: "circles",
        redirects: { each: "bends", sorted: true, of: ["from", "lang"] },
        identifiers: { each: "numbers", sorted: true, of: ["sort", "number"] },
        properties: { each: "facts", sorted: true, of: ["trait", "says"] },
        prices: {
          each: "amounts",
          sorted: true,
          of: [
            { at: "sort", words: { price: "price", was: "was", offer: "offer" } },
            "from",
            "circle",
            "begins",
            "ends",
            "per",
            "amount",
          ],
        },
        pictures: { each: "sights", sorted: true, of: ["picture", "role", "place", "says", "hidden"] },
        stock: { each: "stocks", sorted: true, of: ["store", "count", "orderAt", "orderTo"] },
        components: { each: "parts", sorted: true, of: ["part", "count"] },
        relations: { each: "ties", sorted: true, of: ["sort", "good"] },
      },
    },
    variant: {
      each: "forms",
      key: "tag",
      fields: {
        product: "good",
        code: "code",
        values: "marks",
        weight: "weight",
        barcode: "barcode",
        status: { at: "state", words: { on: "selling", rest: "paused", gone: "ended" } },
        length: "long",
        width: "wide",
        height: "high",
        quantityStep: "step",
        position: "rank",
        identifiers: { each: "numbers", sorted: true, of: ["sort", "number"] },
        prices: {
          each: "amounts",
          sorted: true,
          of: [
            { at: "sort", words: { price: "price", was: "was", offer: "offer" } },
            "from",
            "circle",
            "begins",
            "ends",
            "per",
            "amount",
          ],
        },
        pictures: { each: "sights", sorted: true, of: ["picture", "role", "place", "says", "hidden"] },
        stock: { each: "stocks", sorted: true, of: ["store", "count", "orderAt", "orderTo"] },
      },
    },
  },
};

const tollgate: RecordReadback = {
  records: {
    product: {
      each: "articles",
      key: "number",
      fields: {
        ...inEach("name", "name"),
        ...inEach("description", "text"),
        categories: "sections",
        brand: "maker",
        sort: { at: "sort", words: { G: "goods", S: "service", D: "file", R: "hire" } },
        optionGroups: {
          each: "options",
          of: [
            "name",
            "must",
            { each: "choices", of: ["name", "charge", { at: "share", words: { false: "amount", true: "percent" } }] },
          ],
        },
        "axis 1": "features.0",
        "axis 2": "features.1",
        "axis 3": "features.2",
        "pictures.file": { each: "pictures", of: "file" },
        "pictures.alternative@en": { each: "pictures", of: "text" },
        "relations(goes-with).to": "goesWith",
        "relations(spare-part).to": "spares",
        shown: "onSale",
      },
      within: {
        variant: {
          each: "codes",
          key: "code",
          parent: "product",
          fields: {
            "value 1": "is.0",
            "value 2": "is.1",
            "value 3": "is.2",
            status: { at: "state", words: { A: "selling", P: "paused", E: "ended" } },
            backorder: { at: "owed", words: { N: "refused", Y: "allowed", T: "announced" } },
            "prices(price).amount": "price",
            "prices(was).amount": "was",
            "prices(cost).amount": "cost",
            "prices(price, hire: day).amount": "day",
            "prices(price, hire: week).amount": "week",
            "prices[]": { each: "steps", of: ["from", "price", "group"] },
            tax: "tax",
            unit: "unit",
            quantityLeast: "least",
            quantityMost: "most",
            weight: "weight",
            barcode: "barcode",
            "supplies[]": { each: "supplies", of: ["supplier", "code"] },
            "components[]": { each: "parts", of: ["count", "code"] },
            "stock(Barn).quantity": "stock.Barn",
            "stock(Mill).quantity": "stock.Mill",
          },
        },
      },
    },
  },
};

/** By the name of the target. */
/** By platform; of the languages of the account. */
export const readbacks: Readonly<Record<string, (languages: readonly string[]) => ReadbackRules | RecordReadback>> = {
  pennywort,
  saltmarsh: () => saltmarsh,
  tollgate: () => tollgate,
};
