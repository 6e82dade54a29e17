/** A run sheet as one HTML page, to print and tick off: no script, nothing fetched. */

import { escaped, page } from "../html.js";
import type { RunSheet, SheetLabels, SheetStep } from "./run-sheet.js";

export function sheetAsHtml({ language, labels, title, summary, warnings, steps, after }: RunSheet): string {
  const body = [
    `<h1>${escaped(title)}</h1>`,
    `<p>${marked(summary)}</p>`,
    ...warnings.map(({ text }) => `<p class="warn">${marked(text)}</p>`),
    ...steps.map((step) => stepOf(step, labels)),
    ...(after
      ? [
          `<section aria-labelledby="then"><h2 id="then">${escaped(labels.after)}</h2><p>${marked(after.text)}</p><ol>${after.titles.map((one) => `<li>${escaped(one)}</li>`).join("")}</ol></section>`,
        ]
      : []),
  ];
  return page(title, body, language);
}

function stepOf({ number, title, why, text, ticks, files, mapping }: SheetStep, labels: SheetLabels): string {
  const id = `step-${number}`;
  const tick = (label: string, location: string) =>
    `<input type="checkbox" id="${id}-${location}" aria-label="${escaped(label.replaceAll("`", ""))}">`;
  const parts = [
    `<h2 id="${id}">${number}. ${escaped(title)}</h2>`,
    `<p class="why">${escaped(why)}</p>`,
    ...(text === undefined ? [] : [`<p>${marked(text)}</p>`]),
    ...(ticks.length === 0
      ? []
      : [
          `<ul class="ticks">${ticks.map((one, at) => `<li>${tick(one, String(at))}<span>${marked(one)}</span></li>`).join("")}</ul>`,
        ]),
    ...(files.length === 0
      ? []
      : [
          `<div class="scroll"><table><thead><tr><th>${labels.done}</th><th>${labels.file}</th><th class="number">${labels.rows}</th><th>${labels.expect}</th></tr></thead><tbody>${files
            .map(
              ({ name, rows, expect }, at) =>
                `<tr><td>${tick(labels.isUploaded(name), `file-${at}`)}</td><td><code>${escaped(name)}</code></td><td class="number">${rows}</td><td>${escaped(expect)}</td></tr>`,
            )
            .join("")}</tbody></table></div>`,
        ]),
    ...(mapping.length === 0
      ? []
      : [
          `<details><summary>${escaped(labels.columns(mapping.length))}</summary><div class="scroll"><table><thead><tr><th>${labels.column}</th><th>${labels.field}</th></tr></thead><tbody>${mapping
            .map(({ column, holds }) => `<tr><td><code>${escaped(column)}</code></td><td>${escaped(holds)}</td></tr>`)
            .join("")}</tbody></table></div></details>`,
        ]),
  ];
  return `<section aria-labelledby="${id}">\n${parts.join("\n")}\n</section>`;
}

/** Names between backquotes. */
const marked = (text: string): string => escaped(text).replace(/`([^`]*)`/g, "<code>$1</code>");
