/** What fields mean, for whoever fills in a column. */

import { splitLanguage } from "../../field-name.js";
import { fieldOf } from "../../kind.js";
import type { Kinds } from "../../kinds.js";
import { meaningOfField, type Meaning } from "../meanings.js";

/** @param name `name@de`: the language stands behind what it means. */
export function meaningIn(kinds: Kinds, kind: string, name: string): Meaning {
  const { name: field, lang } = splitLanguage(name);
  const spec = fieldOf(kinds.get(kind), field);
  const meaning = meaningOfField(kind, field, spec?.type);
  return lang === undefined ? meaning : { ...meaning, means: `${meaning.means} (${lang})` };
}
