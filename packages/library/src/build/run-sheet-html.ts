/** A run sheet as one HTML page, to print and tick off: no script, nothing fetched. */

import type { RunSheet, SheetStep } from "./run-sheet.js";

const style = `
:root { color-scheme: light; }
body { font: 15px/1.5 system-ui, "Noto Sans", sans-serif; color: #1d2321; background: #fff; max-width: 60rem; margin: 2rem auto; padding: 0 1.25rem; }
h1 { font-size: 1.6rem; line-height: 1.25; margin: 0 0 .5rem; }
h2 { font-size: 1.15rem; margin: 0; }
section { border-top: 1px solid #c9d1cd; padding: 1rem 0; break-inside: avoid; }
.why { color: #4a5551; margin: .35rem 0 0; }
.warn { border-left: .3rem solid #9a5b00; padding: .25rem .75rem; background: #fff6e5; margin: .5rem 0; }
ul.ticks { list-style: none; padding: 0; margin: .5rem 0; }
ul.ticks li { display: grid; grid-template-columns: 1.6rem 1fr; margin: .25rem 0; }
input[type=checkbox] { width: 1rem; height: 1rem; margin: .25rem 0 0; accent-color: #1f6b4f; }
table { border-collapse: collapse; width: 100%; margin: .5rem 0; }
th, td { text-align: left; padding: .3rem .6rem .3rem 0; border-bottom: 1px solid #e3e8e5; vertical-align: top; }
td.number, th.number { text-align: right; padding-right: 1.2rem; font-variant-numeric: tabular-nums; }
code { font: .92em ui-monospace, "DejaVu Sans Mono", monospace; background: #eef2f0; padding: .05rem .25rem; border-radius: .2rem; overflow-wrap: anywhere; }
details { margin: .5rem 0; }
summary { cursor: pointer; color: #1f5a44; }
.scroll { overflow-x: auto; }
@media print { body { margin: 0; max-width: none; font-size: 11pt; } details:not([open]) { display: none; } a { color: inherit; } }
`;

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
  return `<!doctype html>
<html lang="en">
<head>
<meta charset="utf-8">
<meta name="viewport" content="width=device-width, initial-scale=1">
<link rel="icon" href="data:,">
<title>${escaped(title)}</title>
<style>${style}</style>
</head>
<body>
<main>
${body.join("\n")}
</main>
</body>
</html>
`;
}

function stepOf({ number, title, why, text, ticks, files, mapping }: SheetStep): string {
  const id = `step-${number}`;
  const tick = (label: string, place: string) =>
    `<input type="checkbox" id="${id}-${place}" aria-label="${escaped(label.replaceAll("`", ""))}">`;
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

const escaped = (text: string): string =>
  text.replace(/[&<>"]/g, (char) => ({ "&": "&amp;", "<": "&lt;", ">": "&gt;", '"': "&quot;" })[char]!);

/** Names between backquotes. */
const marked = (text: string): string => escaped(text).replace(/`([^`]*)`/g, "<code>$1</code>");
