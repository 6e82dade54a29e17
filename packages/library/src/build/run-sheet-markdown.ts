/** A run sheet as Markdown. */

import { inMarkdown, inMarkdownCell } from "../markdown.js";
import type { RunSheet, SheetLabels, SheetStep } from "./run-sheet.js";

export function sheetAsMarkdown({ labels, title, summary, warnings, steps, after }: RunSheet): string {
  const lines = [
    `# ${inMarkdown(title)}`,
    "",
    inMarkdown(summary),
    ...warnings.flatMap(({ text, isStrong }) => ["", isStrong ? `**${inMarkdown(text)}**` : inMarkdown(text)]),
    ...steps.flatMap((step) => stepLines(step, labels)),
    ...(after
      ? ["", `## ${labels.after}`, "", inMarkdown(after.text), "", ...after.titles.map((one) => `- ${inMarkdown(one)}`)]
      : []),
    "",
  ];
  return lines.join("\n");
}

function stepLines({ number, title, why, text, ticks, files }: SheetStep, labels: SheetLabels): string[] {
  return [
    "",
    `## ${number}. ${inMarkdown(title)}`,
    "",
    ...(text === undefined ? [] : [inMarkdown(text), ""]),
    ...ticks.map((tick) => `- [ ] ${inMarkdown(tick)}`),
    ...(files.length === 0
      ? []
      : [
          `| ${labels.done} | ${labels.file} | ${labels.rows} | ${labels.expect} |`,
          "|---|---|---|---|",
          ...files.map(
            ({ name, rows, expect }) => `| [ ] | \`${inMarkdownCell(name)}\` | ${rows} | ${inMarkdownCell(expect)} |`,
          ),
        ]),
    "",
    `*${labels.why}* ${inMarkdown(why)}`,
  ];
}
