/** A comparison as one HTML page, for someone without a command line: no script, nothing fetched. The most dangerous comes first. */

import type { CellValue } from "../codecs/codec.js";
import { escaped, page } from "../html.js";
import { formatLocation } from "../location.js";
import { recordStates, type ChangedBy, type Comparison, type ComparedRecord, type RecordState } from "./compare.js";

/** What each standing is called, and what it means. */
export const stateTexts: Readonly<Record<RecordState, { readonly title: string; readonly means: string }>> = {
  "would overwrite": {
    title: "Would overwrite",
    means: "Meant as new, but the platform has something of theirs under the same code, barcode or address.",
  },
  "both changed": { title: "Changed on both sides", means: "Changed here and there since it was last delivered." },
  "changed there": { title: "Changed there", means: "Changed by someone else on the platform; it is left as it is." },
  "gone there": {
    title: "Gone there",
    means: "Delivered earlier, and no longer on the platform. It will be made again.",
  },
  "gone from ours": {
    title: "Gone from ours",
    means: "Delivered earlier, and no longer in the sources. Nothing is deleted by itself.",
  },
  update: { title: "To be updated", means: "Differs from what the platform holds." },
  create: { title: "To be created", means: "Not on the platform yet." },
  theirs: { title: "Only there", means: "On the platform, and never ours. It is left alone." },
};

export const changedByTexts: Readonly<Record<ChangedBy, string>> = {
  us: "by us",
  them: "by them",
  both: "by both",
  "not known": "not known",
};

const mostRecords = 2_000;

export function comparisonAsHtml({ records, unchanged, suggestions }: Comparison, title: string): string {
  const groups = recordStates.flatMap((standing) => {
    const own = records.filter((record) => record.standing === standing);
    return own.length === 0 ? [] : [{ standing, own }];
  });
  const summary = [
    ...groups.map(({ standing, own }) => `${own.length} ${stateTexts[standing].title.toLowerCase()}`),
    `${unchanged} unchanged`,
  ];
  const body = [
    `<h1>${escaped(title)}</h1>`,
    `<p>${escaped(summary.join(", "))}.</p>`,
    ...(groups.length > 1
      ? [
          `<nav aria-label="Parts"><ul>${groups.map(({ standing, own }) => `<li><a href="#${slug(standing)}">${stateTexts[standing].title}</a> ${own.length}</li>`).join("")}</ul></nav>`,
        ]
      : []),
    ...groups.map(({ standing, own }) => groupOf(standing, own)),
    ...(suggestions.length === 0
      ? []
      : [
          `<section aria-labelledby="pairs"><h2 id="pairs">Perhaps the same</h2><p class="why">Answer in the pairs file: same, or different.</p>${table(
            "Pairs",
            ["of", "ours", "theirs", "why"],
            suggestions.map(({ kind, ours, theirs, why }) => [kind, code(ours), code(theirs), escaped(why)]),
          )}</section>`,
        ]),
  ];
  return page(title, body);
}

function groupOf(standing: RecordState, records: readonly ComparedRecord[]): string {
  const { title, means } = stateTexts[standing];
  const hasFields = records.some(({ fields }) => fields.length > 0);
  const rows = records.slice(0, mostRecords).flatMap(({ kind, key, fields, at }) => {
    const who = [escaped(kind), code(key)];
    const from = at ? escaped(formatLocation(at)) : "";
    if (fields.length === 0) return [hasFields ? [...who, "", "", "", "", from] : [...who, from]];
    return fields.map(({ field, meant, held, by }, location) => [
      ...(location === 0 ? who : ["", ""]),
      code(field),
      escaped(valueText(held)),
      escaped(valueText(meant)),
      changedByTexts[by],
      location === 0 ? from : "",
    ]);
  });
  const more = records.length > mostRecords ? `<p>… and ${records.length - mostRecords} more.</p>` : "";
  return `<section aria-labelledby="${slug(standing)}"><h2 id="${slug(standing)}">${title} <span class="count">${records.length}</span></h2><p class="why">${escaped(means)}</p>${table(
    title,
    hasFields ? ["of", "key", "field", "there", "ours", "changed", "from"] : ["of", "key", "from"],
    rows,
  )}${more}</section>`;
}

function table(label: string, head: readonly string[], rows: readonly (readonly string[])[]): string {
  const cells = (row: readonly string[]) => row.map((cell) => `<td>${cell}</td>`).join("");
  return `<div class="scroll" tabindex="0" role="region" aria-label="${label}"><table><thead><tr>${head.map((one) => `<th scope="col">${one}</th>`).join("")}</tr></thead><tbody>${rows.map((row) => `<tr>${cells(row)}</tr>`).join("")}</tbody></table></div>`;
}

const slug = (standing: RecordState): string => standing.replaceAll(" ", "-");
const code = (text: string): string => `<code>${escaped(text)}</code>`;

const mostChars = 200;

/** A value as people read it: lists one behind the other. */
export function valueText(value: CellValue | undefined): string {
  if (value === undefined) return "—";
  const text =
    typeof value === "string"
      ? value
      : value.map((one) => (typeof one === "string" ? one : `[${valueText(one)}]`)).join(", ");
  return text.length > mostChars ? `${text.slice(0, mostChars - 1)}…` : text;
}
