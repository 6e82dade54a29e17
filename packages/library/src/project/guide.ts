/**
 * The column guide of a layout: for each column what it means, whether it has to be filled, what is accepted, an example. And the
 * empty sheet to send to somebody who fills it.
 */

import { inMarkdown, inMarkdownCell } from "../markdown.js";
import { kindOfFeed } from "../layout/bindings/feed-kinds.js";
import { firstOf, fitting } from "../checked.js";
import type { SheetToWrite } from "../formats/workbook-write.js";
import type { Kinds } from "../kinds.js";
import { columnsIn, sheetCells } from "../layout/cells.js";
import { kindOfScope, type Column, type Layout } from "../layout/layout.js";
import { tellingColumns } from "../layout/shapes/layers.js";
import { allRules } from "../target/rules/rules.js";
import type { TargetFile } from "../target/target.js";
import { exampleFor, inLanguageOf } from "./guide-example.js";

/** What one column takes. */
export interface GuideRow {
  readonly column: string;
  readonly means: string;
  readonly required: boolean;
  readonly accepts: string;
  readonly example: string;
  /** The words to choose from, where there are only these. */
  readonly choices: readonly string[];
}

/** What each column of a layout takes. @param file of a target: then its rules say more of what is accepted and required. */
export function columnGuide(layout: Layout, kinds: Kinds, file?: TargetFile): readonly GuideRow[] {
  return inSheet(layout, columnRows(layout, kinds, file));
}

/** The rows of columns as the sheet has them: what one of its cells holds together is one row. */
function inSheet({ cells }: Layout, rows: readonly GuideRow[]): readonly GuideRow[] {
  const { headers, fold } = sheetCells(
    cells,
    rows.map(({ column }) => column),
  );
  if (cells.length === 0) return rows;
  const examples = fold(
    rows.map(({ example }) => example),
    () => undefined,
  );
  return headers.map((header, at): GuideRow => {
    const own = columnsIn(cells, header).map((column) => fitting(rows, (row) => row.column === column));
    const [first] = own;
    if (first?.column === header) return first;
    const all = (word: "means" | "accepts") => own.map((row) => `${row.column}: ${row[word]}`).join("; ");
    const required = own.some((row) => row.required);
    return {
      column: header,
      means: all("means"),
      required,
      accepts: all("accepts"),
      example: examples[at]!,
      choices: [],
    };
  });
}

function columnRows(layout: Layout, kinds: Kinds, file: TargetFile | undefined): readonly GuideRow[] {
  const seen = new Set<string>();
  return layout.columns.flatMap((column): GuideRow[] => {
    if (seen.has(column.header)) return [];
    seen.add(column.header);
    const binding = firstOf(column.bindings);
    const { feed } = binding;
    const kind = kindOfScope(layout, column.scope);
    const { example, ...described } = kindOfFeed(feed).describe(feed, kind, kinds);
    const { link } = layout;
    const means =
      link?.column === column.header && feed.is === "shape"
        ? `the ${link.names} of a ${kind.name} that another file gives`
        : described.means;
    const rule = file?.rules.get(column.header);
    const accepts = [
      binding.feed.is === "shape" ? "" : binding.codec.takes,
      ...(rule ? allRules.flatMap((one) => one.describe?.(rule) ?? []) : []).map(String),
      column.blankMeans === undefined ? "" : `blank is ${column.blankMeans}`,
    ];
    return [
      {
        column: column.header,
        means,
        required: rule?.required ?? isNeeded(layout, column),
        accepts: accepts.filter((one) => one !== "").join("; "),
        example: exampleFor(column, binding.codec, inLanguageOf(feed, example), rule),
        choices: binding.codec.choices ?? shapeTexts(layout, column),
      },
    ];
  });
}

/** Columns without which a row is of no record. */
function isNeeded(layout: Layout, { header, bindings }: Column): boolean {
  if (tellingColumns(layout).some((one) => one.isNeeded && one.header === header)) return true;
  return bindings.some(({ feed: target }) => target.is === "key");
}

function shapeTexts(layout: Layout, { header }: Column): readonly string[] {
  return tellingColumns(layout).find((one) => one.header === header)?.words ?? [];
}

/** The guide as Markdown. */
export function guideMarkdown(layout: Layout, rows: readonly GuideRow[]): string {
  const lines = rows.map(
    ({ column, means, required, accepts, example, choices }) =>
      `| ${inMarkdownCell(column)} | ${inMarkdownCell(means)} | ${required ? "yes" : ""} | ${inMarkdownCell(choices.length > 0 ? choices.join(", ") : accepts)} | ${inMarkdownCell(example)} |`,
  );
  return `# ${inMarkdown(layout.name)}: the columns\n\n| column | what it means | needed | what is accepted | example |\n|---|---|---|---|---|\n${lines.join("\n")}\n`;
}

/** The sheets of the workbook to send: one to fill, with drop-downs, and the guide beside it. */
export function emptyWorkbook(layout: Layout, rows: readonly GuideRow[]): readonly SheetToWrite[] {
  const headerAt = layout.headerLine ?? 1;
  const above = Array.from({ length: headerAt - 1 }, (_, at) => [layout.notes[at] ?? ""]);
  const format =
    layout.format.is === "workbook" && typeof layout.format.sheet === "string" ? layout.format.sheet : "To fill";
  return [
    {
      name: format.slice(0, 31),
      rows: [...above, rows.map(({ column }) => column)],
      widths: rows.map(({ column, example }) => Math.min(40, Math.max(10, column.length + 2, example.length + 2))),
      frozenRows: headerAt,
      choices: new Map(rows.flatMap(({ choices }, at) => (choices.length > 0 ? [[at, choices] as const] : []))),
    },
    {
      name: "Columns",
      rows: [
        ["Column", "What it means", "Needed", "What is accepted", "Example"],
        ...rows.map(({ column, means, required, accepts, example, choices }) => [
          column,
          means,
          required ? "yes" : "",
          choices.length > 0 ? choices.join(", ") : accepts,
          example,
        ]),
      ],
      widths: [24, 48, 8, 48, 36],
      frozenRows: 1,
    },
  ];
}
