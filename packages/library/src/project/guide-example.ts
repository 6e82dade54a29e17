/** The example of a guided column: in the column's language, and one that its target takes. */

import type { Codec } from "../codecs/codec.js";
import { splitLanguage } from "../field-name.js";
import type { Column, Feed } from "../layout/layout.js";
import type { Lang } from "../nominal.js";
import { cellJudge } from "../target/cell-judge.js";
import type { ColumnRule } from "../target/schema.js";

/** The examples of texts in a language, in other languages. Where there is none, a column in that language has no example. */
const translated: Readonly<Record<Lang, Readonly<Record<string, string>>>> = {
  de: {
    "Orchard hive": "Obstgartenbeute",
    "orchard-hive": "obstgartenbeute",
    "A whole hive: floor, brood box, two supers and a roof.":
      "Eine ganze Beute: Boden, Brutraum, zwei Honigräume und Deckel.",
    "Orchard hive, cedar or pine": "Obstgartenbeute, Zeder oder Kiefer",
    "A whole hive for your first bees.": "Eine ganze Beute für Ihre ersten Bienen.",
    "The hive from the front": "Die Beute von vorn",
    "Complete hives": "Ganze Beuten",
    "complete-hives": "ganze-beuten",
    "Hives that are ready for bees.": "Beuten, die bereit für Bienen sind.",
    Hives: "Beuten",
    Wood: "Holz",
    Cedar: "Zeder",
    Size: "Größe",
    Large: "Groß",
    Finish: "Oberfläche",
    Oiled: "Geölt",
    Roof: "Dach",
    Flat: "Flach",
    stainless: "rostfrei",
  },
  fr: {
    "Orchard hive": "Ruche de verger",
    "orchard-hive": "ruche-de-verger",
    "A whole hive: floor, brood box, two supers and a roof.":
      "Une ruche entière : plancher, corps, deux hausses et un toit.",
    "Complete hives": "Ruches complètes",
    "complete-hives": "ruches-completes",
    Hives: "Ruches",
    Wood: "Bois",
    Cedar: "Cèdre",
    Size: "Taille",
    Large: "Grande",
    Finish: "Finition",
    Oiled: "Huilé",
    Roof: "Toit",
    Flat: "Plat",
    stainless: "inoxydable",
  },
};

/** The language of what a column holds; undefined where it has none. */
export function languageOf(feed: Feed): Lang | undefined {
  if (feed.is === "axis" || feed.is === "axes" || feed.is === "named-axis" || feed.is === "naming") return feed.lang;
  if (feed.is === "text" || feed.is === "referred") return splitLanguage(feed.field).lang;
  if (feed.is === "reference") return feed.spec.lang;
  return feed.is === "entry" ? splitLanguage(feed.field.name).lang : undefined;
}

export function inLanguageOf(feed: Feed, example: string): string {
  const lang = languageOf(feed)?.split("-")[0];
  return lang === undefined || lang === "en" ? example : (translated[lang]?.[example] ?? "");
}

/** The example in the form in which the cell takes it; blank where no form of it keeps the rules of the column. */
export function exampleFor(column: Column, codec: Codec, example: string, rule: ColumnRule | undefined): string {
  const text = formatted(codec, example);
  if (rule === undefined || text === "") return text;
  const judge = cellJudge(column, rule, "");
  const most = rule["characters at most"];
  const shorter = most === undefined ? [] : [formatted(codec, cutAtWord(example, most))];
  const within = [rule.from, rule.to].flatMap((bound) => (bound === undefined ? [] : [formatted(codec, bound)]));
  const plain = [text.toUpperCase(), text.toLowerCase(), text.replace(/[^A-Za-z0-9]/g, "")];
  return [text, ...shorter, ...within, ...plain].find((one) => one !== "" && judge(one) === undefined) ?? "";
}

function cutAtWord(text: string, most: number): string {
  const cut = [...text].slice(0, most).join("");
  return cut === text ? text : cut.replace(/\s\S*$/, "");
}

/** A codec's value may be a text, a list of it, or a list of such. */
function formatted(codec: Codec, example: string): string {
  if (example === "") return "";
  for (const value of [[[example]], [example], example]) {
    try {
      const text = codec.format(value);
      if (typeof text === "string") return text;
    } catch {
      // A value of another form than the codec's: the next one is tried.
    }
  }
  return "";
}
