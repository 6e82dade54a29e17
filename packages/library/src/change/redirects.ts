/** An address that changes keeps leading to its record: the old one becomes a redirect. */

import { present } from "../checked.js";
import type { Lang } from "../nominal.js";
import { splitLanguage } from "../field-name.js";
import { asTargetView, type TargetView } from "../catalogue/catalogue.js";
import type { Comparison } from "../compare/comparison.js";
import { policyOf, type ChangeWishes } from "../compare/policies.js";

/** An old address that leads to a record. */
export interface Redirect {
  readonly kind: string;
  /** The row of the intended record. */
  readonly row: number;
  readonly language: Lang;
  readonly from: string;
  readonly to: string;
}

/** The addresses that the platform has and that are to be others. */
export function redirectsNeeded({ records }: Comparison, wishes: ChangeWishes): Redirect[] {
  return records.flatMap((record) =>
    record.fields.flatMap((change): Redirect[] => {
      const { name, lang: language } = splitLanguage(change.field);
      const { onPlatform: from, intended: wanted, by } = change;
      const policy = policyOf(record.kind, change.field, wishes);
      // Where the platform's address stays, it needs no redirect.
      const stays = policy === "leave" || policy === "fill" || (policy === undefined && by === "platform");
      const to = stays ? from : wanted;
      if (name !== "slug" || typeof from !== "string" || typeof to !== "string" || from === to) return [];
      return [{ kind: record.kind, row: record.own, language: present(language), from, to }];
    }),
  );
}

/** Gives records the redirects that they need and do not have. @param source the language that redirects need not name. */
export function withRedirects(given: TargetView, redirects: readonly Redirect[], source: Lang): TargetView {
  if (redirects.length === 0) return given;
  const catalogue = given.branch();
  for (const { kind, row, language, from } of redirects) {
    const table = given.table(kind);
    if (table.kind.entries?.["redirects"] === undefined || row >= table.size) continue;
    const entries = catalogue.table(`${kind}.redirects`);
    const lang = language === source ? undefined : language;
    const isThere = [...entries.childrenOf(row)].some(
      (entry) => entries.text("from", entry) === from && (entries.text("language", entry) ?? undefined) === lang,
    );
    if (isThere) continue;
    const entry = entries.append(table.sheet(row), table.line(row), row);
    entries.setText("from", entry, from);
    if (lang !== undefined) entries.setText("language", entry, lang);
  }
  return asTargetView(catalogue);
}
