/** Layouts for people: a draft with its reasons, a calibration column by column, the guide of the columns. */

import {
  formatLocation,
  type Calibration,
  type ColumnCalibration,
  type Draft,
  type GuideRow,
  type Layout,
} from "zest-tier";
import type { Colours } from "../io.js";
import { columns, counted, cut } from "./text.js";

export function renderDraft(draft: Draft, showsYaml: boolean, colours: Colours): string {
  const { lines, sample, why } = draft;
  const sure = lines.filter((line) => line.sure === "sure").length;
  const likely = lines.filter((line) => line.sure === "likely").length;
  const left = lines.filter((line) => line.binding === undefined);
  const head = `${colours.bold(sample.sheet === undefined ? "Draft" : `Draft for sheet ${sample.sheet}`)}: ${counted(lines.length, "column")}, ${sure} sure, ${likely} likely, ${left.length} unmapped\n  rows: ${why}\n\n`;
  const marks = { sure: colours.green("sure"), likely: colours.yellow("likely"), "left out": colours.red("unmapped") };
  const table = columns(
    lines.map(({ header, binding, sure: how, why: reason, nearest }) => [
      marks[how],
      cut(header, 26),
      cut(binding === undefined && nearest !== undefined ? `nearest: ${nearest}` : bindingText(binding), 44),
      cut(reason, 60),
    ]),
  );
  return `${head}${table}${showsYaml ? `\n${colours.dim(draft.yaml)}` : ""}`;
}

export function bindingText(binding: Draft["lines"][number]["binding"]): string {
  if (binding === undefined) return "";
  if (typeof binding === "string") return binding;
  const one = (Array.isArray(binding) ? binding[0] : binding) as string | Record<string, unknown>;
  if (typeof one === "string") return one;
  if ("constant" in one) return "(tells rows apart)";
  if (one["axes"] !== undefined) return `axes ${String(one["axes"])}`;
  return String(one["field"] ?? `axis ${String(one["axis"])} ${String(one["holds"])}`);
}

export function renderCalibration(result: Calibration, colours: Colours): string {
  const total = (pick: (column: ColumnCalibration) => number) =>
    result.columns.reduce((sum, column) => sum + pick(column), 0);
  const cells = total((column) => column.cells);
  const forms = total((column) => [...column.forms.values()].reduce((sum, count) => sum + count, 0));
  const different = total((column) => column.differentCount);
  const verdict =
    result.rows !== result.writtenRows
      ? colours.red(`${result.writtenRows} rows came back`)
      : different > 0
        ? colours.red(`${counted(different, "cell")} different`)
        : forms > 0
          ? colours.green("all come back, some written differently")
          : colours.green("all come back unchanged");
  const rows = result.columns.map((column) => [
    column.differentCount > 0 ? colours.red("✗") : column.forms.size > 0 ? colours.yellow("≈") : colours.green("✓"),
    cut(column.header, 30),
    `${column.equal} of ${column.cells}`,
    [...column.forms].map(([form, count]) => `${count} × ${form}`).join(", "),
  ]);
  const shown = result.columns.flatMap((column) =>
    column.different.map(
      ({ line, was, is }) => `    line ${line} [${column.header}]: ${quoted(was)} came back as ${quoted(is)}`,
    ),
  );
  return `${colours.bold("Read and written back")}: ${counted(result.rows, "row")}, ${counted(cells, "bound cell")}; ${verdict}\n\n${columns(rows, [2])}${shown.length > 0 ? `\n${shown.join("\n")}\n` : ""}\n${renderRecords(result.records, colours)}`;
}

/** Record by record: rows may stand otherwise, and say the same. */
function renderRecords({ records, equal, lost, made, different }: Calibration["records"], colours: Colours): string {
  const isSame = equal === records && made.length === 0;
  const verdict = isSame ? colours.green("all come back the same") : colours.red(`${equal} come back the same`);
  const named = (list: readonly { readonly kind: string; readonly key: string }[]) =>
    `${list
      .slice(0, 10)
      .map(({ kind, key }) => `${kind} ${key}`)
      .join(", ")}${list.length > 10 ? ` and ${list.length - 10} more` : ""}`;
  const lines = [
    ...(lost.length > 0 ? [`    lost: ${named(lost)}`] : []),
    ...(made.length > 0 ? [`    only when read again: ${named(made)}`] : []),
    ...different.map(
      ({ record, field, was, is, at }) =>
        `    ${record.kind} ${record.key}, ${field}: ${quoted(was)} came back as ${quoted(is)} (${formatLocation(at)})`,
    ),
  ];
  return `${colours.bold("Record by record")}: ${counted(records, "record")}; ${verdict}\n${lines.map((line) => `${line}\n`).join("")}`;
}

const quoted = (text: string): string => (text === "" ? "nothing" : `"${cut(text, 50)}"`);

export function renderGuide(layout: Layout, rows: readonly GuideRow[], colours: Colours, width: number): string {
  const widest = (texts: readonly string[], most: number) =>
    Math.min(
      most,
      texts.reduce((widest, text) => Math.max(widest, text.length), 0),
    );
  const acceptsOf = ({ choices, accepts }: GuideRow) => (choices.length > 0 ? choices.join(", ") : accepts);
  const names = rows.map(({ column }) => column);
  const examples = rows.map(({ example }) => example);
  // "required", and two spaces before each column.
  const rest = width - widest(names, 24) - widest(examples, 24) - "required".length - 10;
  const accepted = widest(rows.map(acceptsOf), Math.max(30, Math.floor(rest / 2)));
  const meaning = Math.max(30, rest - accepted);
  const table = columns([
    ["column", "meaning", "", "accepts", "example"].map((word) => colours.dim(word)),
    ...rows.map((row) => [
      colours.bold(cut(row.column, 24)),
      cut(row.means, meaning),
      row.required ? colours.yellow("required") : "",
      cut(acceptsOf(row), accepted),
      cut(row.example, 24),
    ]),
  ]);
  return `${colours.bold(layout.name)}: ${counted(rows.length, "column")}\n\n${table}`;
}

/** For JSON, which has no maps. */
export const plainCalibration = (one: Calibration): object => ({
  ...one,
  columns: one.columns.map((column) => ({ ...column, forms: Object.fromEntries(column.forms) })),
});
