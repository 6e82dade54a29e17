/** A comparison as one HTML page, for someone without a command line: no script, nothing fetched. The most dangerous comes first. */

import type { CellValue } from "../codecs/codec.js";
import { money } from "../money.js";
import { escaped, page } from "../html.js";
import { formatLocation } from "../location.js";
import { recordStates, type Comparison, type ComparedRecord, type RecordState } from "./comparison.js";
import type { ChangedBy } from "./delivered-fields.js";

/** What each state is called, and what it means. */
export const stateTexts: Readonly<Record<RecordState, { readonly title: string; readonly means: string }>> = {
  "would overwrite": {
    title: "Would overwrite",
    means: "New in your sources, but the platform has another record with the same code, barcode or address.",
  },
  "both changed": {
    title: "Changed on both sides",
    means: "Changed in your sources and on the platform since the last delivery.",
  },
  "changed on the platform": {
    title: "Changed on the platform",
    means: "Changed by someone else. The platform's value is kept.",
  },
  "deleted on the platform": {
    title: "Deleted on the platform",
    means: "Delivered earlier and no longer on the platform. It will be created again.",
  },
  "no longer in your sources": {
    title: "No longer in your sources",
    means: "They were yours. Nothing is deleted automatically.",
  },
  changed: { title: "Changed", means: "Your sources differ from what is on the platform." },
  new: { title: "New", means: "Not on the platform yet." },
  "only on the platform": { title: "Only on the platform", means: "Never delivered from here. It is not touched." },
};

/** Who has changed a field, as people say it. */
export const changedByTexts: Readonly<Record<ChangedBy, string>> = {
  you: "by you",
  platform: "on the platform",
  both: "on both sides",
  "not known": "not known",
};

const mostRecords = 2_000;

/** A comparison as an HTML page that needs nothing else. @param currency of prices that name none, ISO 4217. */
export function comparisonAsHtml(
  { records, unchanged, suggestions }: Comparison,
  title: string,
  currency?: string,
): string {
  const groups = recordStates.flatMap((state) => {
    const own = records.filter((record) => record.state === state);
    return own.length === 0 ? [] : [{ state, own }];
  });
  const summary = [
    ...groups.map(({ state, own }) => `${own.length} ${stateTexts[state].title.toLowerCase()}`),
    `${unchanged} unchanged`,
  ];
  const body = [
    `<h1>${escaped(title)}</h1>`,
    `<p>${escaped(summary.join(", "))}.</p>`,
    ...(groups.length > 1
      ? [
          `<nav aria-label="Contents"><ul>${groups.map(({ state, own }) => `<li><a href="#${slug(state)}">${stateTexts[state].title}</a> ${own.length}</li>`).join("")}</ul></nav>`,
        ]
      : []),
    ...groups.map(({ state, own }) => groupOf(state, own, currency)),
    ...(suggestions.length === 0
      ? []
      : [
          `<section aria-labelledby="pairs"><h2 id="pairs">Possibly the same records</h2><p class="why">Reply in the pairs file: same, or different.</p>${table(
            "Pairs",
            ["kind", "yours", "on the platform", "reason"],
            suggestions.map(({ kind, yours, platforms, why }) => [kind, code(yours), code(platforms), escaped(why)]),
          )}</section>`,
        ]),
  ];
  return page(title, body);
}

function groupOf(state: RecordState, records: readonly ComparedRecord[], currency: string | undefined): string {
  const { title, means } = stateTexts[state];
  const hasFields = records.some(({ fields }) => fields.length > 0);
  const rows = records.slice(0, mostRecords).flatMap(({ kind, key, fields, at, became = [] }) => {
    const now = became.length > 0 ? ` → ${became.map(code).join(", ")}` : "";
    const who = [escaped(kind), code(key) + now];
    const from = at ? escaped(formatLocation(at)) : "";
    if (fields.length === 0) return [hasFields ? [...who, "", "", "", "", from] : [...who, from]];
    return fields.map(({ field, intended, onPlatform, by }, location) => [
      ...(location === 0 ? who : ["", ""]),
      code(field),
      escaped(valueText(onPlatform, field, currency)),
      escaped(valueText(intended, field, currency)),
      changedByTexts[by],
      location === 0 ? from : "",
    ]);
  });
  const more =
    records.length > mostRecords
      ? `<p>${records.length - mostRecords} more are not shown here: zest-tier compare --all lists them.</p>`
      : "";
  return `<section aria-labelledby="${slug(state)}"><h2 id="${slug(state)}">${title} <span class="count">${records.length}</span></h2><p class="why">${escaped(means)}</p>${table(
    title,
    hasFields
      ? ["kind", "key", "field", "on the platform", "yours", "changed", "location"]
      : ["kind", "key", "location"],
    rows,
  )}${more}</section>`;
}

function table(label: string, head: readonly string[], rows: readonly (readonly string[])[]): string {
  const cells = (row: readonly string[]) => row.map((cell) => `<td>${cell}</td>`).join("");
  return `<div class="scroll" tabindex="0" role="region" aria-label="${label}"><table><thead><tr>${head.map((one) => `<th scope="col">${one}</th>`).join("")}</tr></thead><tbody>${rows.map((row) => `<tr>${cells(row)}</tr>`).join("")}</tbody></table></div>`;
}

const slug = (state: RecordState): string => state.replaceAll(" ", "-");
const code = (text: string): string => `<code>${escaped(text)}</code>`;

const mostChars = 200;

/**
 * A value as people read it: elements separated by ";", the parts of an element by "/".
 *
 * @param field whose value it is: the last part of a price is an amount. @param currency of amounts that name none.
 */
export function valueText(value: CellValue | undefined, field = "", currency?: string): string {
  if (value === undefined) return "—";
  const priced = (parts: readonly string[]): string => {
    const isAmount = /^prices\b[^.]*(\.amount)?$/.test(field) && !/\b[A-Z]{3}\b/.test(field);
    const isPrice = isAmount && !parts.some((part) => /^[A-Z]{3}$/.test(part));
    return isPrice ? money(parts.join(" / "), currency) : parts.join(" / ");
  };
  const elementText = (one: CellValue): string =>
    typeof one === "string" ? one : priced(one.map((part) => valueText(part)).filter((part) => part !== ""));
  const text = typeof value === "string" ? priced([value]) : value.map(elementText).join("; ");
  return text.length > mostChars ? `${text.slice(0, mostChars - 1)}…` : text;
}
