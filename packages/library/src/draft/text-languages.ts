/** In which language each column of texts is: by its mark, by the name of the file, by its letters, by the word of its header. */

import type { Lang } from "../nominal.js";
import type { Looked, LookedSample } from "./looked.js";

const concepts = ["name", "description", "shortText", "searchText", "categoryName"];
/** From this lead on letters are believed rather than the word of a header. */
const clear = 0.06;

/** @param language of the supplier. */
export function textLanguages({ columns, lang: ofFile }: LookedSample, language: Lang): Map<Looked, Lang> {
  const found = new Map<Looked, Lang>();
  const isText = ({ profile }: Looked) => profile.isText;
  for (const concept of [...concepts, undefined]) {
    const texts = columns.filter((one) => isText(one) && one.meaning?.concept === concept);
    const taken = new Set<Lang>();
    const give = (one: Looked, lang: Lang) => {
      found.set(one, lang);
      taken.add(lang);
    };
    for (const one of texts) if (one.lang !== undefined) give(one, one.lang);
    const open = () => texts.filter((one) => !found.has(one));
    if (ofFile !== undefined) for (const one of open()) give(one, ofFile);
    const rank = ({ written }: Looked) => written?.lead ?? 0;
    for (const one of open().sort((a, b) => rank(b) - rank(a))) {
      const wishes = wishesOf(one, language);
      // Texts without a word for what they are may be a name and a description in one language.
      give(one, wishes.find((lang) => concept === undefined || !taken.has(lang)) ?? wishes[0]!);
    }
  }
  return found;
}

/** The languages that a column may be in, the likeliest first. */
function wishesOf({ written, meaning, profile }: Looked, language: Lang): Lang[] {
  const byWord = meaning?.langs ?? [];
  const isMuch = profile.usualLength > 40 || profile.distinct.length >= 12;
  const enough = byWord.length === 0 && isMuch ? 0 : clear;
  const byLetters = isMuch && written && written.lead >= enough ? [written.lang] : [];
  const byBoth = written && byWord.includes(written.lang) ? [written.lang] : [];
  const own = byWord.includes(language) || byWord.length === 0 ? [language] : byWord.slice(0, 1);
  return [...byLetters, ...byBoth, ...own, language];
}
