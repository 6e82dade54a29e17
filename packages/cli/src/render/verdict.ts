/** A verdict for people, and for programs: what the platform would make of the upload, and what differs from what is meant. */

import { formatLocation, type Hidden, type LocatedDifference, type Verdict } from "zest-tier";
import type { Colours } from "../io.js";
import { columns, counted, cut } from "./text.js";

const shown = 12;

export function renderVerdict(verdict: Verdict, colours: Colours): string {
  const { counts } = verdict;
  const head = verdict.rebuilt
    ? colours.green(colours.bold("Rebuilt as meant."))
    : colours.red(colours.bold("Not rebuilt as meant."));
  const rows = `${counted(counts.created, "row")} created, ${counts.updated} updated, ${counts.unchanged} unchanged, ${counts.refused > 0 ? colours.red(`${counts.refused} refused`) : "none refused"}.`;
  const refusedFiles = verdict.files.flatMap((file) =>
    file.refused === undefined ? [] : [`  ${colours.red(file.name)} would be refused: ${file.refused}`],
  );
  const parts = [
    `${head} ${rows}`,
    ...refusedFiles,
    ...refusedRows(verdict, colours),
    ...notes(verdict),
    renderDifferences(verdict.differences, colours),
    renderHidden(verdict.hidden, colours),
  ];
  return `${parts
    .join("\n")
    .replace(/\n{3,}/g, "\n\n")
    .trimEnd()}\n`;
}

/** A line for each product whose rows are refused, with the lines they stand on. */
function refusedRows(verdict: Verdict, colours: Colours): string[] {
  const runs: { file: string; first: number; last: number; product: string; reasons: readonly string[] }[] = [];
  for (const file of verdict.files) {
    for (const row of file.rows) {
      if (row.outcome !== "refused") continue;
      const above = runs[runs.length - 1];
      if (above && above.file === file.name && (row.parent === "" || row.parent === above.product))
        above.last = row.line;
      else runs.push({ file: file.name, first: row.line, last: row.line, product: row.parent, reasons: row.reasons });
    }
  }
  const lines = runs
    .slice(0, shown)
    .map(({ file, first, last, product, reasons }) => [
      `${file}:${first}${last > first ? `–${last}` : ""}`,
      product,
      colours.red(cut(reasons.join("; "), 90)),
    ]);
  return runs.length === 0
    ? []
    : [
        "",
        colours.bold(`Refused (${counted(runs.length, "product")})`),
        columns(lines).trimEnd(),
        ...more(runs.length),
      ];
}

function notes(verdict: Verdict): string[] {
  const counts = new Map<string, number>();
  for (const file of verdict.files)
    for (const row of file.rows) for (const note of row.notes) counts.set(note, (counts.get(note) ?? 0) + 1);
  return counts.size === 0 ? [] : ["", ...[...counts].map(([note, count]) => `  ${counted(count, "row")}: ${note}`)];
}

export function renderDifferences(differences: readonly LocatedDifference[], colours: Colours): string {
  if (differences.length === 0) return "";
  const show = (value: LocatedDifference["meant"]): string => cut(value === undefined ? "nothing" : plainly(value), 40);
  const rows = differences
    .slice(0, shown)
    .map(apart)
    .map(({ kind, key, field, meant, found, at }) => [
      `${kind} ${key}`,
      field ?? "",
      `${colours.green(show(meant))} ${colours.dim("meant,")} ${colours.red(show(found))} ${colours.dim("there")}`,
      at ? colours.dim(formatLocation(at)) : "",
    ]);
  return [
    "",
    `${colours.bold("Differences")} (${differences.length})`,
    columns(rows).trimEnd(),
    ...more(differences.length),
  ].join("\n");
}

/** Long texts that begin alike are shown from where they part. */
function apart(difference: LocatedDifference): LocatedDifference {
  const { meant, found } = difference;
  if (typeof meant !== "string" || typeof found !== "string") return difference;
  let same = 0;
  while (same < meant.length && meant[same] === found[same]) same++;
  if (same < 25) return difference;
  const from = (text: string) => `…${text.slice(same - 10)}`;
  return { ...difference, meant: from(meant), found: from(found) };
}

/** Lists as a person would write them: paths with /, entries with ;. */
function plainly(value: NonNullable<LocatedDifference["meant"]>): string {
  if (typeof value === "string") return value;
  return value.map((entry) => (typeof entry === "string" ? entry : entry.join(" / "))).join("; ");
}

function renderHidden(hidden: readonly Hidden[], colours: Colours): string {
  if (hidden.length === 0) return "A shopper would see every product.";
  const rows = hidden.slice(0, shown).map(({ product, because }) => [product, because.join("; ")]);
  return [
    "",
    `${colours.yellow(counted(hidden.length, "product"))} a shopper would not see`,
    columns(rows).trimEnd(),
    ...more(hidden.length),
  ].join("\n");
}

const more = (count: number): string[] =>
  count > shown ? [`  … and ${count - shown} more: --format json lists them`] : [];

export function verdictToJson(verdict: Verdict): object {
  const { rebuilt, counts, differences, hidden } = verdict;
  const files = verdict.files.map(({ name, refused, rows }) => ({
    name,
    refused: refused ?? null,
    rows: rows.map((row) => ({ ...row, notes: [...row.notes].sort() })),
  }));
  return { rebuilt, counts, differences, hidden, files };
}
