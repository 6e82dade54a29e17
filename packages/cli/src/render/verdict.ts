/** A verdict for people, and for programs: what the platform would make of the upload, and what differs from what is meant. */

import { formatPlace, type Hidden, type PlacedDifference, type Verdict } from "zest-tier";
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
  return `${parts.filter((part) => part !== "").join("\n")}\n`;
}

function refusedRows(verdict: Verdict, colours: Colours): string[] {
  const byProduct = new Map<string, { name: string; lines: number[]; reasons: readonly string[]; product: string }>();
  for (const file of verdict.files) {
    for (const row of file.rows) {
      if (row.outcome !== "refused") continue;
      const key = `${file.name} ${row.reasons.join()}`;
      const known = byProduct.get(key);
      if (known && known.product === (row.parent || known.product)) known.lines.push(row.line);
      else
        byProduct.set(`${key} ${row.line}`, {
          name: file.name,
          lines: [row.line],
          reasons: row.reasons,
          product: row.parent,
        });
    }
  }
  const all = [...byProduct.values()];
  const lines = all
    .slice(0, shown)
    .map(({ name, lines: own, reasons, product }) => [
      `${name}:${own[0]}`,
      product,
      colours.red(cut(reasons.join("; "), 90)),
    ]);
  return all.length === 0 ? [] : ["", colours.bold("Refused"), columns(lines).trimEnd(), ...more(all.length)];
}

function notes(verdict: Verdict): string[] {
  const counts = new Map<string, number>();
  for (const file of verdict.files)
    for (const row of file.rows) for (const note of row.notes) counts.set(note, (counts.get(note) ?? 0) + 1);
  return counts.size === 0 ? [] : ["", ...[...counts].map(([note, count]) => `  ${counted(count, "row")}: ${note}`)];
}

export function renderDifferences(differences: readonly PlacedDifference[], colours: Colours): string {
  if (differences.length === 0) return "";
  const show = (value: PlacedDifference["meant"]): string =>
    cut(value === undefined ? "nothing" : typeof value === "string" ? value : JSON.stringify(value), 40);
  const rows = differences
    .slice(0, shown)
    .map(({ kind, key, field, meant, found, at }) => [
      `${kind} ${key}`,
      field ?? "",
      `${colours.green(show(meant))} ${colours.dim("meant,")} ${colours.red(show(found))} ${colours.dim("there")}`,
      at ? colours.dim(formatPlace(at)) : "",
    ]);
  return [
    "",
    `${colours.bold("Differences")} (${differences.length})`,
    columns(rows).trimEnd(),
    ...more(differences.length),
  ].join("\n");
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
