/** A verdict for people, and for programs: what the platform would make of the upload, and what differs from what is intended. */

import {
  formatLocation,
  heldBackText,
  type FindingCode,
  type HeldBack,
  type Hidden,
  type LocatedDifference,
  type OpenedTarget,
  type ReadonlyFindings,
  type Verdict,
  valueText,
} from "zest-tier";
import type { Colours } from "../io.js";
import { columns, counted, cut, grouped } from "./text.js";

const shown = 12;

/** What a verdict is not about: what the target has no place for, and what is held back. */
export interface VerdictScope {
  readonly target: string;
  readonly fields: number;
  readonly kinds: number;
  readonly heldBack: string;
  /** How many products are intended. */
  readonly products: number;
  /** Of amounts that name none. */
  readonly currency: string | undefined;
}

export function scopeOf(
  { project, target, catalogue }: OpenedTarget,
  findings: ReadonlyFindings,
  heldBack?: HeldBack,
): VerdictScope {
  const count = (code: FindingCode) => findings.list().filter((one) => one.code === code).length;
  return {
    target: target.name,
    fields: count("target/uncarried"),
    kinds: count("target/uncarried-kind"),
    heldBack: heldBack ? String(heldBackText(heldBack)) : "",
    products: catalogue.table("product").size,
    currency: project.currency,
  };
}

/** "41 fields and 6 kinds have no place on it"; nothing where all have. */
export function noPlaceText({ target, fields, kinds }: VerdictScope): string {
  const parts = [...(fields > 0 ? [counted(fields, "field")] : []), ...(kinds > 0 ? [counted(kinds, "kind")] : [])];
  return parts.length === 0
    ? ""
    : `${parts.join(" and ")} ${fields + kinds === 1 ? "has" : "have"} no place on it: zest-tier plan --for ${target} --left-out lists them.`;
}

/** Few platforms delete by a file: others need no word of it. */
const deletedText = ({ deleted }: Verdict["counts"]): string => (deleted > 0 ? `${deleted} deleted, ` : "");

export function renderVerdict(verdict: Verdict, colours: Colours, scope: VerdictScope): string {
  const { counts } = verdict;
  const head = verdict.rebuilt
    ? colours.green(colours.bold("Rebuilt as intended:")) + ` everything that ${scope.target} can store would arrive.`
    : colours.red(colours.bold(isNothing(verdict) ? "Nothing is uploaded." : "Not rebuilt as intended."));
  const rows = `Expected: ${counted(counts.created, "row")} created, ${counts.updated} updated, ${counts.unchanged} unchanged, ${deletedText(counts)}${counts.refused > 0 ? colours.red(`${counts.refused} refused`) : "none refused"}.`;
  const refusedFiles = verdict.files.flatMap((file) =>
    file.refused === undefined ? [] : [`  ${colours.red(file.name)} would be refused: ${file.refused}`],
  );
  const parts = [
    head,
    rows,
    cellsText(verdict, colours),
    noPlaceText(scope),
    scope.heldBack === "" ? "" : `Held back and not in the upload: ${scope.heldBack}.`,
    ...refusedFiles,
    ...refusedRows(verdict, colours),
    ...notes(verdict),
    renderDifferences(verdict.differences, colours, scope.currency),
    renderHidden(verdict.hidden, scope.products, colours),
  ];
  return `${parts
    .join("\n")
    .replace(/\n{3,}/g, "\n\n")
    .trimEnd()}\n`;
}

/** What becomes of an upload that is set back. */
export function renderRollback(verdict: Verdict, colours: Colours, { target, currency }: VerdictScope): string {
  const { counts } = verdict;
  const head = verdict.rebuilt
    ? `${colours.green(colours.bold("Set back:"))} ${target} would have what it had before the upload.`
    : colours.red(colours.bold("Not set back to what was there."));
  const rows = `Upload and rollback together: ${counted(counts.created, "row")} created, ${counts.updated} updated, ${counts.unchanged} unchanged, ${deletedText(counts)}${counts.refused > 0 ? colours.red(`${counts.refused} refused`) : "none refused"}.`;
  const parts = [
    head,
    rows,
    ...refusedRows(verdict, colours),
    renderDifferences(verdict.differences, colours, currency),
  ];
  return `${parts.join("\n").trimEnd()}\n`;
}

const isNothing = ({ files }: Verdict): boolean => files.every(({ rows }) => rows.length === 0);

/** Where every filled cell of the sources is in the end; the numbers add up. */
function cellsText({ cells }: Verdict, colours: Colours): string {
  if (!cells) return "";
  const { filled, arrived, noPlace, heldBack, different } = cells;
  const parts = [
    ...(different > 0 ? [colours.red(`${grouped(different)} ${different === 1 ? "differs" : "differ"}`)] : []),
    `${grouped(arrived)} ${arrived === 1 ? "arrives" : "arrive"}`,
    `${grouped(noPlace)} ${noPlace === 1 ? "has" : "have"} no place there`,
    `${grouped(heldBack)} ${heldBack === 1 ? "is" : "are"} held back`,
  ];
  return `Of ${counted(filled, "filled cell")}, ${parts.slice(0, -1).join(", ")} and ${parts[parts.length - 1]}.`;
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

export function renderDifferences(
  differences: readonly LocatedDifference[],
  colours: Colours,
  currency: string | undefined,
): string {
  if (differences.length === 0) return "";
  const show = (value: LocatedDifference["intended"], field: string): string =>
    cut(value === undefined ? "empty" : valueText(value, field, currency), 32);
  const told = ({ field, intended, actual }: LocatedDifference): string => {
    if (field === undefined) return colours.red(actual === undefined ? "missing" : "not intended");
    return `${colours.green(show(intended, field))} ${colours.dim("intended,")} ${colours.red(show(actual, field))} ${colours.dim("instead")}`;
  };
  const rows = differences
    .slice(0, shown)
    .map(apart)
    .map((one) => [
      cut(`${one.kind} ${one.key}`, 36),
      one.field ?? "",
      told(one),
      one.at ? colours.dim(formatLocation(one.at)) : "",
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
  const { intended, actual } = difference;
  if (typeof intended !== "string" || typeof actual !== "string") return difference;
  let same = 0;
  while (same < intended.length && intended[same] === actual[same]) same++;
  if (same < 25) return difference;
  const from = (text: string) => `…${text.slice(same - 10)}`;
  return { ...difference, intended: from(intended), actual: from(actual) };
}

function renderHidden(hidden: readonly Hidden[], products: number, colours: Colours): string {
  if (products === 0) return "";
  if (hidden.length === 0) return "A shopper would see every product.";
  const rows = hidden.slice(0, shown).map(({ product, because }) => [product, because.join("; ")]);
  return [
    "",
    `${colours.yellow(counted(hidden.length, "product"))} that a shopper would not see`,
    columns(rows).trimEnd(),
    ...more(hidden.length),
  ].join("\n");
}

const more = (count: number): string[] =>
  count > shown ? [`  and ${count - shown} more: --format json lists them`] : [];

export function verdictToJson(verdict: Verdict): object {
  const { rebuilt, counts, cells, differences, hidden } = verdict;
  const files = verdict.files.map(({ name, refused, rows }) => ({
    name,
    refused: refused ?? null,
    rows: rows.map((row) => ({ ...row, notes: [...row.notes].sort() })),
  }));
  return { rebuilt, counts, cells: cells ?? null, differences, hidden, files };
}
