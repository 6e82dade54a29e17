/**
 * C8: text in a cell of markup. Paragraphs and line breaks are those of the text; other elements are a problem, or are dropped
 * where the layout says so. Entities: the five of XML, numbers, and the few that people write.
 */

import { problem, type Codec } from "./codec.js";
import { phrase } from "../phrases/phrase.js";

const named: Readonly<Record<string, string>> = {
  amp: "&",
  lt: "<",
  gt: ">",
  quot: '"',
  apos: "'",
  nbsp: "\u00a0",
  shy: "\u00ad",
  ndash: "–",
  mdash: "—",
  hellip: "…",
  euro: "€",
  deg: "°",
  times: "×",
  auml: "ä",
  ouml: "ö",
  uuml: "ü",
  Auml: "Ä",
  Ouml: "Ö",
  Uuml: "Ü",
  szlig: "ß",
  eacute: "é",
  egrave: "è",
};

const token = /<(\/?)([a-z][a-z0-9]*)\b[^<>]*>|&(#x[0-9a-f]{1,6}|#\d{1,7}|[a-z]+);|[<>&]|[^<>&]+/gi;

/** @param drops whether elements other than `p` and `br` are taken out; what they hold stays. */
export function markupCodec(drops: boolean): Codec {
  const takes = phrase("text in markup{0}", drops ? "" : phrase(", with p and br only"));
  return {
    takes,
    parse: (given) => {
      let text = "";
      for (const [all, closes, element, entity] of given.matchAll(token)) {
        if (element !== undefined) {
          const name = element.toLowerCase();
          if (name === "br") text += "\n";
          else if (name === "p") text += closes === "" && text !== "" ? "\n\n" : "";
          else if (!drops) return problem("other-markup", given, takes);
        } else if (entity !== undefined) {
          const char = charOf(entity);
          if (char === undefined) return problem("other-markup", given, takes);
          text += char;
        } else if (all.length === 1 && "<>&".includes(all)) return problem("other-markup", given, takes);
        else text += all;
      }
      return text;
    },
    format: (value) =>
      (value as string)
        .replace(/[&<>]/g, (char) => (char === "&" ? "&amp;" : char === "<" ? "&lt;" : "&gt;"))
        .replaceAll("\n", "<br>"),
  };
}

function charOf(entity: string): string | undefined {
  if (!entity.startsWith("#")) return Object.hasOwn(named, entity) ? named[entity] : undefined;
  const code = /^#x/i.test(entity) ? parseInt(entity.slice(2), 16) : parseInt(entity.slice(1), 10);
  return code > 0 && code <= 0x10ffff && (code < 0xd800 || code > 0xdfff) ? String.fromCodePoint(code) : undefined;
}
