/** The rehearsal as the pages show it. */

import {
  leftOut,
  kindPhrase,
  say,
  valueText,
  type Language,
  type Outcome,
  type RehearsedFile,
  type OpenedTarget,
} from "zest-tier";
import type { FindingIndex } from "./finding-index.js";
import type { Played } from "./job.js";
import type { PlayedView } from "./views.js";

const mostListed = 500;

export function playedView(
  { verdict, steps }: Played,
  opened: OpenedTarget,
  found: FindingIndex,
  language: Language,
): PlayedView {
  return {
    steps: steps.map(({ round, step, title, files, held }) => ({
      round,
      step,
      title: say(title, language),
      counts: outcomesOf(files),
      refused: files.flatMap(({ name, refused }) => (refused === undefined ? [] : [{ file: name, reason: refused }])),
      held: [...held]
        .filter(([, count]) => count > 0)
        .map(([kind, count]) => [say(kindPhrase(kind, 1), language), count] as const),
    })),
    rebuilt: verdict.rebuilt,
    counts: verdict.counts,
    differences: verdict.differences.slice(0, mostListed).map(({ kind, key, field, intended, actual, at }) => ({
      kind,
      key,
      field,
      intended: valueText(intended, field, opened.project.currency),
      actual: valueText(actual, field, opened.project.currency),
      at,
      source: found.sourceOf(at),
    })),
    differenceCount: verdict.differences.length,
    refusedRows: verdict.files
      .flatMap(({ name, rows }) =>
        rows
          .filter((row) => row.outcome === "refused")
          .map(({ line, parent, child, reasons }) => ({ file: name, line, record: child || parent, reasons })),
      )
      .slice(0, mostListed),
    hidden: verdict.hidden.map(({ product, because }) => ({ key: product, reasons: because })),
    uncarried: leftOut(opened).map(({ lost, records, instead }) => ({
      lost,
      count: records.length,
      examples: [...new Set(records)].slice(0, 5),
      instead: instead && say(instead, language),
    })),
  };
}

function outcomesOf(files: readonly RehearsedFile[]): Record<Outcome, number> {
  const counts: Record<Outcome, number> = { created: 0, updated: 0, unchanged: 0, deleted: 0, refused: 0 };
  for (const { rows } of files) for (const { outcome } of rows) counts[outcome]++;
  return counts;
}
