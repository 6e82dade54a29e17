/** What a project's records say in a language, for translators; and the file that goes to them. */

import type { Lang } from "../nominal.js";
import { type TranslationItem, translationList } from "../translations/translation-list.js";
import type { OpenedTarget } from "./open.js";

/** Every text that should be in the language, with its source text and its state: missing, stale, copied, done. */
export function translationsOf({ catalogue, project, findings }: OpenedTarget, lang: Lang): readonly TranslationItem[] {
  const stale = findings.list().flatMap((one) => (one.code === "read/stale-translation" && one.at ? [one.at] : []));
  return translationList(catalogue, project.languages[0] ?? "en", lang, stale);
}
