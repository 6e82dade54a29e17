import type { Header, Lang } from "../nominal.js";
import { firstOf } from "../checked.js";
/** The words by which people call columns, in English, German and French, and what each means. */

export type Concept =
  | "key"
  | "parent"
  | "code"
  | "name"
  | "description"
  | "categories"
  | "brand"
  | "price"
  | "offer"
  | "was"
  | "cost"
  | "stock"
  | "weight"
  | "barcode"
  | "picture"
  | "alternative"
  | "shown"
  | "axis"
  | "language"
  | "position"
  | "slug"
  | "from";

/** By language: phrases, without the words for languages, units and currencies that may stand beside them. */
const phrases: Readonly<Record<Concept, Readonly<Record<string, string>>>> = {
  key: {
    en: "style|model|range|family|series|product id|product key|group id|id|key",
    de: "modell|serie|artikel id",
    fr: "modele|gamme",
  },
  parent: {
    en: "parent|parent item|parent code|parent id|parent sku|below|belongs to|part of",
    de: "gehoert zu|ueberartikel|elternartikel",
    fr: "parent|rattache a",
  },
  code: {
    en: "sku|code|article|item no|item number|item code|article no|article number|article code|product no|product number|product code|part no|part number|order code|order no|order number|variant code|variant no|stock code|no|number|ref|reference|catalogue no",
    de: "artikel|artikelnummer|art nr|artnr|artikelnr|artikel nr|bestellnummer|bestell nr|nummer|nr",
    fr: "reference|ref|code article|numero",
  },
  name: {
    en: "name|title|product|product name|item name|article name|style name|item|label|wording",
    de: "name|bezeichnung|titel|artikelname|produktname|artikelbezeichnung|produkt",
    fr: "designation|nom|titre|libelle|produit",
  },
  description: {
    en: "description|long text|text|details|short text|long description|notes|product text|copy",
    de: "beschreibung|langtext|kurztext|artikeltext|anmerkungen|produkttext",
    fr: "description|texte|descriptif",
  },
  categories: {
    en: "category|categories|shelf|group|product group|section|department|dept|tags|place",
    de: "kategorie|kategorien|warengruppe|gruppe|produktgruppe|rubrik",
    fr: "categorie|categories|famille|rubrique|rayon",
  },
  brand: { en: "brand|maker|make|manufacturer", de: "marke|hersteller", fr: "marque|fabricant" },
  price: {
    en: "price|retail|retail price|rrp|list price|net price|price from|selling price|unit price|gross price",
    de: "preis|verkaufspreis|vk|uvp|listenpreis|ladenpreis",
    fr: "prix|prix ht|prix ttc|prix de vente|prix public",
  },
  offer: {
    en: "offer|offer price|sale price|special price|sale",
    de: "aktionspreis|angebotspreis|sonderpreis",
    fr: "prix promo|prix solde",
  },
  was: {
    en: "before|was|rrp before|old price|price before|was price",
    de: "statt|alter preis|vorher",
    fr: "prix barre|ancien prix",
  },
  cost: {
    en: "cost|cost price|trade|trade price|buying price|purchase price",
    de: "ek|einkaufspreis|ek preis|einkauf",
    fr: "prix d achat|cout",
  },
  stock: {
    en: "stock|qty|quantity|in stock|pieces|on hand|available",
    de: "bestand|lagerbestand|stueck|auf lager",
    fr: "stock|quantite",
  },
  weight: { en: "weight|unit weight|net weight|kg", de: "gewicht", fr: "poids" },
  barcode: { en: "ean|gtin|barcode|upc|ean code|gtin code", de: "strichcode", fr: "code barre|gencod" },
  picture: {
    en: "image|picture|photo|photos|images|pictures|image file|file|own photo",
    de: "bild|foto|bilder|bilddatei",
    fr: "image|photo|photos",
  },
  alternative: { en: "alt text|alternative text|caption", de: "alternativtext|bildtext", fr: "texte alternatif" },
  shown: {
    en: "online|web|active|on web|shown|visible|published|on shop|web y n",
    de: "aktiv|sichtbar|im shop",
    fr: "actif|visible|en ligne",
  },
  axis: {
    en: "size|colour|color|length|shade|finish|material|width|volume|pattern|strength|wood|scent|pack|glaze|flavour",
    de: "groesse|farbe|laenge|breite|inhalt|gebinde|material|holz|duft",
    fr: "taille|couleur|longueur|matiere|parfum|contenance",
  },
  language: { en: "language|lang|locale", de: "sprache", fr: "langue" },
  position: { en: "position|sort|order|sort order", de: "reihenfolge|sortierung", fr: "ordre" },
  slug: { en: "slug|web address|address in links", de: "adresse", fr: "adresse web" },
  from: {
    en: "from|from pcs|from quantity|quantity from|min qty|from rolls",
    de: "ab|ab menge|ab stueck",
    fr: "a partir de",
  },
};

export interface Known {
  readonly concept: Concept;
  /** The languages that the word is one of. */
  readonly langs: readonly string[];
}

const known: ReadonlyMap<string, Known> = (() => {
  const map = new Map<string, Known>();
  for (const [concept, byLang] of Object.entries(phrases))
    for (const [lang, list] of Object.entries(byLang))
      for (const phrase of list.split("|")) {
        const before = map.get(phrase);
        if (!before) map.set(phrase, { concept: concept as Concept, langs: [lang] });
        else if (before.concept === concept) map.set(phrase, { ...before, langs: [...before.langs, lang] });
      }
  return map;
})();

const languages: Readonly<Record<string, string>> = {
  en: "en",
  english: "en",
  englisch: "en",
  anglais: "en",
  de: "de",
  german: "de",
  deutsch: "de",
  allemand: "de",
  ger: "de",
  fr: "fr",
  french: "fr",
  franzoesisch: "fr",
  francais: "fr",
  es: "es",
  spanish: "es",
  it: "it",
  italian: "it",
  nl: "nl",
  pl: "pl",
  ja: "ja",
  japanese: "ja",
  ar: "ar",
  arabic: "ar",
};
const units = new Set(["kg", "g", "gr", "lb", "oz", "cm", "mm", "m", "ml", "l", "gramm", "grams"]);
const besides = new Set([
  "eur",
  "euro",
  "gbp",
  "usd",
  "chf",
  "brutto",
  "netto",
  "gross",
  "net",
  "incl",
  "excl",
  "vat",
  "mwst",
  "ht",
  "ttc",
  "inkl",
  "zzgl",
  "in",
  "the",
  "per",
  "der",
  "des",
  "de",
  "la",
  "le",
]);

export interface HeaderName {
  readonly parts: readonly string[];
  readonly lang: Lang | undefined;
  readonly unit: string | undefined;
  /** A number that tells several columns of one sort apart. */
  readonly number: number | undefined;
}

/** The words of a header, folded, with what stands beside them taken out: language, unit, number. */
export function headerNameOf(header: Header): HeaderName {
  const folded = header
    .replace(/([a-z])([A-Z])/g, "$1 $2")
    .toLowerCase()
    .replaceAll("ä", "ae")
    .replaceAll("ö", "oe")
    .replaceAll("ü", "ue")
    .replaceAll("ß", "ss")
    .normalize("NFKD")
    .replace(/\p{M}/gu, "")
    .replace(/([a-z])(\d+)\b/g, "$1 $2");
  const all = folded.split(/[^\p{L}\p{N}]+/u).filter((word) => word !== "");
  let lang: Lang | undefined;
  let unit: string | undefined;
  let number: number | undefined;
  const parts = all.filter((word, at) => {
    if (/^\d{1,2}$/.test(word)) number = Number(word);
    else if (all.length > 1 && Object.hasOwn(languages, word) && (at === all.length - 1 || at === 0) && word !== "it")
      lang = languages[word];
    else if (all.length > 1 && units.has(word))
      unit = word === "gr" || word === "gramm" || word === "grams" ? "g" : word;
    else return true;
    return false;
  });
  return { parts, lang: lang ?? (all.length === 1 ? languages[firstOf(all)] : undefined), unit, number };
}

export interface HeaderMatch extends Known {
  readonly how: "exact" | "without" | "within" | "near";
  readonly phrase: string;
}

/**
 * What a header means by its words: the phrase itself; without words like gross or EUR; a phrase within it; one letter off.
 *
 * @returns the best match; undefined for words that say nothing.
 */
export function meaningOf(
  { parts }: HeaderName,
  isOneSlip: (a: string, b: string) => boolean,
): HeaderMatch | undefined {
  const phrase = parts.join(" ");
  const exact = known.get(phrase);
  if (exact) return { ...exact, how: "exact", phrase };
  const kept = parts.filter((word) => !besides.has(word));
  const without = known.get(kept.join(" "));
  if (without) return { ...without, how: "without", phrase: kept.join(" ") };
  for (let length = kept.length - 1; length > 0; length--)
    for (const part of [kept.slice(-length), kept.slice(0, length)]) {
      const found = known.get(part.join(" "));
      if (found) return { ...found, how: "within", phrase: part.join(" ") };
    }
  const singular = phrase.endsWith("s") ? known.get(phrase.slice(0, -1)) : undefined;
  if (singular) return { ...singular, how: "near", phrase: phrase.slice(0, -1) };
  if (phrase.length >= 5)
    for (const [candidate, meaning] of known)
      if (candidate.length >= 5 && isOneSlip(phrase, candidate)) return { ...meaning, how: "near", phrase: candidate };
  return undefined;
}

export const languageNamed = (word: string): string | undefined =>
  Object.hasOwn(languages, word.toLowerCase()) ? languages[word.toLowerCase()] : undefined;
