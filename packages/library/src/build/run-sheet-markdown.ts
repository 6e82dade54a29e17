/** A run sheet as Markdown. */

import type { RunSheet, SheetStep } from "./run-sheet.js";

export function sheetAsMarkdown({ title, summary, warnings, steps, after }: RunSheet): string {
  const lines = [
    `# ${title}`,
    "",
    summary,
    ...warnings.flatMap((warning) => ["", warning.startsWith("Held back") ? `**${warning}**` : warning]),
    ...steps.flatMap(stepLines),
    ...(after ? ["", "## Then", "", after.text, "", ...after.titles.map((one) => `- ${one}`)] : []),
    "",
  ];
  return lines.join("\n");
}

function stepLines({ number, title, why, text, ticks, files }: SheetStep): string[] {
  return [
    "",
    `## ${number}. ${title}`,
    "",
    ...(text === undefined ? [] : [text, ""]),
    ...ticks.map((tick) => `- [ ] ${tick}`),
    ...(files.length === 0
      ? []
      : [
          "| done | file | rows | expect |",
          "|---|---|---|---|",
          ...files.map(({ name, rows, expect }) => `| [ ] | \`${name}\` | ${rows} | ${expect} |`),
        ]),
    "",
    `*Why:* ${why}`,
  ];
}
