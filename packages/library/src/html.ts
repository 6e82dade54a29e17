/** Pages that we write, to be read and printed: one file, no script, nothing fetched. */

import { visibleText } from "./safe-text.js";

const style = `
:root { color-scheme: light; }
body { font: 15px/1.5 system-ui, "Noto Sans", sans-serif; color: #1d2321; background: #fff; max-width: 60rem; margin: 2rem auto; padding: 0 1.25rem; }
h1 { font-size: 1.6rem; line-height: 1.25; margin: 0 0 .5rem; }
h2 { font-size: 1.15rem; margin: 0; }
section { border-top: 1px solid #c9d1cd; padding: 1rem 0; break-inside: avoid; }
.why { color: #4a5551; margin: .35rem 0 0; }
.count { color: #4a5551; font-weight: normal; }
.warn { border-left: .3rem solid #9a5b00; padding: .25rem .75rem; background: #fff6e5; margin: .5rem 0; }
ul.ticks { list-style: none; padding: 0; margin: .5rem 0; }
ul.ticks li { display: grid; grid-template-columns: 1.6rem 1fr; margin: .25rem 0; }
nav ul { list-style: none; display: flex; flex-wrap: wrap; gap: .25rem 1.25rem; padding: 0; }
a { color: #1f5a44; }
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

/** @param body elements, in their order. */
export function page(title: string, body: readonly string[], language = "en"): string {
  return `<!doctype html>
<html lang="${language}">
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

/** Text for HTML and SVG; characters that could make it look like another are shown by their numbers. */
export const escaped = (text: string): string =>
  visibleText(text).replace(/[&<>"]/g, (char) => ({ "&": "&amp;", "<": "&lt;", ">": "&gt;", '"': "&quot;" })[char]!);
