/** Translations: what a record says in the source language and not in the others that the project wants. */

import { firstOf } from "../checked.js";
import { inLanguage } from "../field-name.js";
import { finding } from "../findings/finding.js";
import type { Check } from "./rule.js";

export const checkTranslations: Check = ({ catalogue, languages, findings }) => {
  const [source, ...others] = languages;
  if (source === undefined) return;
  for (const table of catalogue.tables) {
    const fields = table.kind.fields
      .filter((field) => field.perLanguage && field.name !== "slug")
      .map(({ name }) => name);
    for (const lang of others)
      for (let row = 0; row < table.size; row++) {
        const missing = fields.filter(
          (field) =>
            typeof table.text(inLanguage(field, source), row) === "string" &&
            table.text(inLanguage(field, lang), row) === undefined,
        );
        if (missing.length === 0) continue;
        const location = catalogue.location(table, row, inLanguage(firstOf(missing), source));
        findings.add(finding("check/missing-translation", { fields: missing, lang }, location));
      }
  }
};
