/** A run sheet as one HTML page, to print and tick off: no script, nothing fetched. */

import { escaped, page } from "../html.js";
import type { RunSheet, SheetStep } from "./run-sheet.js";

export function sheetAsHtml({ title, summary, warnings, steps, after }: RunSheet): string {
  const body = [
    `<h1>${escaped(title)}</h1>`,
    `<p>${marked(summary)}</p>`,
    ...warnings.map((warning) => `<p class="warn">${marked(warning)}</p>`),
    ...steps.map(stepOf),
    ...(after
      ? [
          `<section aria-labelledby="then"><h2 id="then">Then</h2><p>${marked(after.text)}</p><ol>${after.titles.map((one) => `<li>${escaped(one)}</li>`).join("")}</ol></section>`,
        ]
      : []),
  ];
  return page(title, body);
}

function stepOf({ number, title, why, text, ticks, files, mapping }: SheetStep): string {
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
          `<div class="scroll"><table><thead><tr><th>done</th><th>file</th><th class="number">rows</th><th>expect</th></tr></thead><tbody>${files
            .map(
              ({ name, rows, expect }, at) =>
                `<tr><td>${tick(`${name} is uploaded`, `file-${at}`)}</td><td><code>${escaped(name)}</code></td><td class="number">${rows}</td><td>${escaped(expect)}</td></tr>`,
            )
            .join("")}</tbody></table></div>`,
        ]),
    ...(mapping.length === 0
      ? []
      : [
          `<details><summary>What each of the ${mapping.length} columns holds</summary><div class="scroll"><table><thead><tr><th>column</th><th>holds</th></tr></thead><tbody>${mapping
            .map(({ column, holds }) => `<tr><td><code>${escaped(column)}</code></td><td>${escaped(holds)}</td></tr>`)
            .join("")}</tbody></table></div></details>`,
        ]),
  ];
  return `<section aria-labelledby="${id}">\n${parts.join("\n")}\n</section>`;
}

/** Names between backquotes. */
const marked = (text: string): string => escaped(text).replace(/`([^`]*)`/g, "<code>$1</code>");
