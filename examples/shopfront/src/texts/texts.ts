/** The interface of the shopfront. A shop's own texts are in the shop's languages. */

import { useLanguage } from "@zest-tier/kit";

const some = (count: number, one: string, many: string, lang: string): string =>
  `${count.toLocaleString(lang)} ${count === 1 ? one : many}`;

const en = {
  title: "shopfront",
  skip: "Go to the content",
  platform: "Platform",
  shopLanguage: "Language of the shop",
  reviewer: "Reviewer’s view",
  search: "Search by name or code",
  categories: "Categories",
  all: "Everything",
  products: (count: number) => some(count, "product", "products", "en"),
  nothingFound: "No product matches. Search for less, or use the category tree.",
  from: "from",
  hidden: "not visible to shoppers",
  unavailable: "does not exist",
  notSold: "This combination is not sold. Choose another.",
  inStock: (count: number) => `${count} in stock`,
  outOfStock: "out of stock",
  paused: "not sold at the moment",
  ended: "no longer sold",
  code: "Code",
  was: "before",
  withSurcharge: (amount: string) => `including ${amount} for options`,
  free: "no surcharge",
  required: "please choose",
  optional: "optional",
  nothing: "None",
  tiers: "Other prices",
  tier: (from: string, group: string, hire: string) =>
    [hire === "" ? "" : `a ${hire}`, from === "" ? "" : `from ${from} pieces`, group === "" ? "" : `for ${group}`]
      .filter((part) => part !== "")
      .join(", "),
  parts: "In this set",
  related: "Goes with it",
  missingText: (lang: string) => `Not in ${lang}: shown in another language.`,
  loading: "Loading what is on the platform",
  failedTitle: "The shop does not answer",
  failed: "Start it: npm run demo -- --open. Then reload this page.",
  emptyShop: "There are no products on this platform.",
  back: "Back to the products",
  intended: "intended",
  onPlatform: "on the platform",
  field: "Field",
  same: "as intended",
  differs: "differs",
  allSame: (fields: number) =>
    `All ${fields.toLocaleString("en")} fields that this platform can store are as intended.`,
  someDiffer: (records: number) => `${some(records, "record differs", "records differ", "en")} from what is intended.`,
  absent: "empty",
  next: "Next",
  nextLook: "Look at the first difference",
  nextBrowse: "Look at a product as a shopper",
  picture: "Picture",
};
type ShopTexts = typeof en;

const de: ShopTexts = {
  title: "Schaufenster",
  skip: "Zum Inhalt",
  platform: "Plattform",
  shopLanguage: "Shopsprache",
  reviewer: "Prüfansicht",
  search: "Nach Name oder Artikelnummer suchen",
  categories: "Kategorien",
  all: "Alles",
  products: (count) => some(count, "Produkt", "Produkte", "de"),
  nothingFound: "Kein Produkt passt. Suchen Sie nach weniger, oder verwenden Sie den Kategorienbaum.",
  from: "ab",
  hidden: "für Kunden nicht sichtbar",
  unavailable: "gibt es nicht",
  notSold: "Diese Kombination gibt es nicht. Wählen Sie eine andere.",
  inStock: (count) => `${count} auf Lager`,
  outOfStock: "nicht auf Lager",
  paused: "zurzeit nicht erhältlich",
  ended: "nicht mehr erhältlich",
  code: "Artikelnummer",
  was: "vorher",
  withSurcharge: (amount) => `einschließlich ${amount} für Optionen`,
  free: "ohne Aufpreis",
  required: "bitte wählen",
  optional: "wahlweise",
  nothing: "Keine",
  tiers: "Andere Preise",
  tier: (from, group, hire) =>
    [hire === "" ? "" : `je ${hire}`, from === "" ? "" : `ab ${from} Stück`, group === "" ? "" : `für ${group}`]
      .filter((part) => part !== "")
      .join(", "),
  parts: "In diesem Set",
  related: "Passt dazu",
  missingText: (lang) => `Nicht auf ${lang}: in einer anderen Sprache gezeigt.`,
  loading: "Lade, was auf der Plattform ist",
  failedTitle: "Der Shop antwortet nicht",
  failed: "Starten Sie ihn: npm run demo -- --open. Laden Sie diese Seite dann neu.",
  emptyShop: "Auf dieser Plattform gibt es keine Produkte.",
  back: "Zurück zu den Produkten",
  intended: "vorgesehen",
  onPlatform: "auf der Plattform",
  field: "Feld",
  same: "wie vorgesehen",
  differs: "anders",
  allSame: (fields) =>
    `Alle ${fields.toLocaleString("de")} Felder, die diese Plattform speichern kann, sind wie vorgesehen.`,
  someDiffer: (records) => `${some(records, "Datensatz weicht", "Datensätze weichen", "de")} vom Vorgesehenen ab.`,
  absent: "leer",
  next: "Als Nächstes",
  nextLook: "Den ersten Unterschied ansehen",
  nextBrowse: "Ein Produkt als Kunde ansehen",
  picture: "Bild",
};

const all = { en, de };
export const useTexts = (): ShopTexts => all[useLanguage().lang];
