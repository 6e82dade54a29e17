/**
 * What further people send: a supplier's workbook, another's nested XML, translators' sheets, pictures keyed by line, the old shop's
 * export, a schema.org document. All of it is made up.
 */

import { Buffer } from "node:buffer";
import * as xlsx from "@e965/xlsx";

/** A GTIN for use within a shop. */
function barcode(number) {
  const digits = `27${String(50_110_000 + number * 41).padStart(10, "0")}`;
  const sum = [...digits].reverse().reduce((total, digit, at) => total + Number(digit) * (at % 2 === 0 ? 3 : 1), 0);
  return digits + ((10 - (sum % 10)) % 10);
}

/** Glimmer & Sons, candles and colours: range number, name, colour, size, code, cost, price, offer, stock, grams. */
const glimmer = [
  ["G-010", "Wax dye", "Yellow", "", "0010-1", "1.10", "3.20", "", "40", "25"],
  ["G-010", "Wax dye", "Red", "", "0010-2", "1.10", "3.20", "2.80", "35", "25"],
  ["G-010", "Wax dye", "Green", "", "0010-3", "1.10", "3.20", "", "0", "25"],
  ["G-020", "Lantern", "White", "Small", "0020-1", "7.40", "16.50", "", "12", "640"],
  ["G-020", "Lantern", "White", "Large", "0020-2", "9.90", "22.00", "19.00", "8", "910"],
  ["G-020", "Lantern", "Green", "Small", "0020-3", "7.40", "16.50", "", "5", "640"],
  ["G-020", "Lantern", "Green", "Large", "0020-4", "9.90", "22.00", "", "4", "910"],
  ["G-030", "Candle snuffer", "", "", "0030-1", "3.00", "7.90", "", "22", "80"],
];
const shelfOf = { "G-010": "Wax and gifts / Candle moulds", "G-020": "Wax and gifts", "G-030": "Wax and gifts" };

/** @param change gets the sheets as rows and the workbook's cells: for damage. */
export function workbook(change = () => undefined) {
  const articles = [
    ["Glimmer & Sons"],
    ["Articles for the season; prices on the next sheet"],
    ["Range no", "Article", "Group", "Colour", "Size", "Item code", "Stock", "Weight g", "GTIN"],
    ...glimmer.map(([range, name, colour, size, code, , , , stock, grams], at) => [
      range,
      name,
      shelfOf[range],
      colour,
      size,
      code,
      Number(stock),
      Number(grams),
      barcode(at),
    ]),
  ];
  const prices = [
    ["Item code", "Our price", "Retail", "Offer"],
    ...glimmer.map(([, , , , code, cost, price, sale]) => [code, Number(cost), Number(price), sale === "" ? null : Number(sale)]),
  ];
  const book = xlsx.utils.book_new();
  const sheets = { Articles: xlsx.utils.aoa_to_sheet(articles), Prices: xlsx.utils.aoa_to_sheet(prices) };
  change(sheets);
  for (const [name, sheet] of Object.entries(sheets)) xlsx.utils.book_append_sheet(book, sheet, name);
  xlsx.utils.book_append_sheet(book, xlsx.utils.aoa_to_sheet([["Terms"], ["Thirty days."]]), "Terms");
  return Buffer.from(xlsx.write(book, { type: "buffer", bookType: "xlsx", compression: true }));
}

/** Reedmace Works sends its catalogue as a document: machines, with their versions inside. */
export const machines = `<?xml version="1.0" encoding="UTF-8"?>
<catalogue xmlns:rw="urn:reedmace:works" issued="2026-10-01">
  <section title="Honey / Extraction">
    <machine rw:no="steam-melter">
      <label>Steam wax melter</label>
      <about><![CDATA[Melts brood comb & cappings; drains below.]]></about>
      <versions>
        <version sku="RW-ST-25" volume="25 l"><retail>148.00</retail><mass unit="kg">11.5</mass><gtin>${barcode(20)}</gtin><held>6</held></version>
        <version sku="RW-ST-50" volume="50 l"><retail>199.00</retail><mass unit="kg">15.2</mass><gtin>${barcode(21)}</gtin><held>3</held></version>
      </versions>
      <shots><shot>steam-melter.png</shot><shot>steam-melter-detail.png</shot></shots>
    </machine>
    <machine rw:no="honey-pump">
      <label>Honey pump</label>
      <about>Lifts honey two metres, gently.</about>
      <versions>
        <version sku="RW-HP-CR" drive="Crank"><retail>320.00</retail><mass unit="kg">9.4</mass><gtin>${barcode(22)}</gtin><held>2</held></version>
        <version sku="RW-HP-MO" drive="Motor 230 V"><retail>489.00</retail><mass unit="kg">13.1</mass><gtin>${barcode(23)}</gtin><held>4</held></version>
      </versions>
      <shots><shot>honey-pump.png</shot></shots>
    </machine>
    <machine rw:no="refractometer">
      <label>Hand refractometer</label>
      <about>Tells the water in honey from one drop.</about>
      <versions>
        <version sku="RW-RF"><retail>59.00</retail><mass unit="kg">0.3</mass><gtin>${barcode(24)}</gtin><held>17</held></version>
      </versions>
      <shots><shot>refractometer.png</shot></shots>
    </machine>
  </section>
</catalogue>
`;

/** A file per language: the German of the machines and of Glimmer's goods, beside the English it was made from. */
export const german = [
  ["Key", "English", "Deutsch", "Text"],
  ["steam-melter", "Steam wax melter", "Dampfwachsschmelzer", "Schmilzt Altwaben und Entdeckelungswachs; Ablauf unten."],
  ["honey-pump", "Honey pump", "Honigpumpe", "Hebt Honig zwei Meter, schonend."],
  ["refractometer", "Hand refractometer", "Handrefraktometer", "Zeigt den Wassergehalt an einem Tropfen."],
  ["G-010", "Wax dye", "Wachsfarbe", "Ein Stück färbt zwei Kilogramm."],
  ["G-020", "Lantern", "Laterne", "Für ein Glas oder eine Stumpenkerze."],
  ["G-030", "Candle snuffer", "Kerzenlöscher", "Löscht ohne Rauch."],
  ["first-book", "Pim and the hollow log", "Pim und der hohle Stamm", ""],
];

/** A row per language: French, Japanese and Arabic for part of the range. */
export const languages = [
  ["Key", "Lang", "Name", "Text"],
  ["orchard-hive", "fr", "Ruche du verger", "Une ruche entière : plancher, corps, deux hausses et un toit."],
  ["orchard-hive", "ja", "果樹園の巣箱", "底板、育児箱、継箱二段、屋根のそろった巣箱。"],
  ["orchard-hive", "ar", "خلية البستان", "خلية كاملة: أرضية وصندوق تربية وعاسلتان وغطاء."],
  ["smoker", "fr", "Enfumoir", "Acier ou cuivre, à soufflet de cuir."],
  ["smoker", "ja", "燻煙器（くんえんき）", "革のふいご付き。"],
  ["smoker", "ar", "المدخن", "من الفولاذ أو النحاس، بمنفاخ جلدي."],
  ["round-jar", "fr", "Pot à miel rond", ""],
  ["round-jar", "ja", "丸いはちみつの瓶", ""],
  ["round-jar", "ar", "مرطبان عسل مستدير", ""],
  ["honey-bucket", "fr", "Seau à miel", ""],
  ["honey-bucket", "ja", "はちみつバケツ", ""],
  ["hive-tool", "fr", "Lève-cadres", ""],
  ["hive-tool", "ar", "عتلة الخلية", ""],
  ["full-suit", "fr", "Combinaison", ""],
  ["full-suit", "ja", "防護服", ""],
];

/** The photographer's list: pictures by the line of the article in the queen-rearing list. */
export const photos = [
  ["Line", "Shot", "File", "Seen on it"],
  ["2", "detail", "grafting-tool-detail.png", "the tip of the tool, with a larva"],
  ["5", "detail", "cell-bar-detail.png", "three bars, one of them turned"],
  ["8", "detail", "cell-cups-detail.png", "cups in two colours"],
];
export const morePictures = [
  "grafting-tool-detail.png",
  "cell-bar-detail.png",
  "cell-cups-detail.png",
  "steam-melter.png",
  "steam-melter-detail.png",
  "honey-pump.png",
  "refractometer.png",
  "first-book.png",
];

/** The old shop's export, in the encoding of its time: addresses, and texts in markup. */
export const oldShop = [
  ["article", "address", "html"],
  ["0010-1", "wax-dye", "One piece colours two kilograms.<br>Caf&eacute; brown is gone &amp; will not come back."],
  ["0020-1", "lantern", "<p>For a jar or a pillar candle.</p><p>Straße, garden, hut.</p>"],
  ["0030-1", "candle-snuffer", "Puts a flame out without smoke; très simple."],
  ["BC-OH-CEDA-RAW", "orchard-hive-complete", ""],
  ["BC-SF", "lavender-smoker-fuel", ""],
];

/** A publisher's list, as schema.org has it. */
export const books = {
  "@context": "https://schema.org",
  "@graph": [
    {
      "@type": "ProductGroup",
      productGroupID: "first-book",
      name: "Pim and the hollow log",
      description: "Pictures for small readers, words for large ones.",
      brand: { "@type": "Brand", name: "Quillmoth Pages" },
      category: "Wax and gifts > Books",
      image: ["first-book.png"],
      hasVariant: [
        { "@type": "Product", sku: "FX-101", gtin13: barcode(30), size: "Small", offers: { "@type": "Offer", price: "9.80" }, weight: { "@type": "QuantitativeValue", value: 0.21, unitCode: "KGM" } },
        { "@type": "Product", sku: "FX-102", gtin13: barcode(31), size: "Large", offers: { "@type": "Offer", price: "18.50" }, weight: { "@type": "QuantitativeValue", value: 0.64, unitCode: "KGM" } },
      ],
    },
    {
      "@type": "ProductGroup",
      productGroupID: "flower-wheel",
      name: "Wheel of bee flowers",
      description: "Turn it to the month, and read what blooms.",
      brand: { "@type": "Brand", name: "Quillmoth Pages" },
      category: "Wax and gifts > Books",
      hasVariant: [{ "@type": "Product", sku: "FX-201", gtin13: barcode(32), offers: { "@type": "Offer", price: "6.40" }, weight: { "@type": "QuantitativeValue", value: 0.09, unitCode: "KGM" } }],
    },
  ],
};
