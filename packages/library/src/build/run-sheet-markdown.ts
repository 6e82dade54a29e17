/** A run sheet as Markdown. */

import type { RunSheet, SheetLabels, SheetStep } from "./run-sheet.js";

export function sheetAsMarkdown({ labels, title, summary, warnings, steps, after }: RunSheet): string {
  const lines = [
    `# ${title}`,
    "",
    summary,
    ...warnings.flatMap(({ text, isStrong }) => ["", isStrong ? `**${text}**` : text]),
    ...steps.flatMap((step) => stepLines(step, labels)),
    ...(after ? ["", `## ${labels.after}`, "", after.text, "", ...after.titles.map((one) => `- ${one}`)] : []),
    "",
  ];
  return lines.join("\n");
}

function stepLines({ number, title, why, text, ticks, files }: SheetStep, labels: SheetLabels): string[] {
  return [
    "",
    `## ${number}. ${title}`,
    "",
    ...(text === undefined ? [] : [text, ""]),
    ...ticks.map((tick) => `- [ ] ${tick}`),
    ...(files.length === 0
      ? []
      : [
          `| ${labels.done} | ${labels.file} | ${labels.rows} | ${labels.expect} |`,
          "|---|---|---|---|",
          ...files.map(({ name, rows, expect }) => `| [ ] | \`${name}\` | ${rows} | ${expect} |`),
        ]),
    "",
    `*${labels.why}* ${why}`,
  ];
}
