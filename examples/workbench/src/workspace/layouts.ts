/** The layout of a source, column by column, with confidence its draft was and what reading by it has found. */

import { bindableFields, layoutLines, type Project } from "zest-tier";
import type { FindingIndex } from "./finding-index.js";
import { noFindings } from "./finding-index.js";
import type { FindingView, FindingCounts, LayoutColumn, LayoutView } from "./views.js";

interface Asked {
  readonly source: number;
  readonly headers: readonly string[];
  readonly languages: readonly string[];
}

/**
 * @param asked with the headers of the sheet, which may have columns that the layout says nothing of.
 * @param mistakes findings in the layout itself.
 */
export function layoutView(
  given: { readonly file: string; readonly isShipped: boolean; readonly text: string },
  project: Project | undefined,
  asked: Asked,
  found: FindingIndex | undefined,
  mistakes: readonly FindingView[],
): LayoutView {
  const { source, headers, languages } = asked;
  const lines = new Map(layoutLines(given.text).map((line) => [line.header, line]));
  const marks = found?.marks(source) ?? [];
  const byColumn = new Map<string, { error: number; warning: number; note: number }>();
  for (const { column, severity } of marks) {
    if (column === undefined) continue;
    const counts = byColumn.get(column) ?? { ...noFindings };
    counts[severity]++;
    byColumn.set(column, counts);
  }
  const foundIn = (header: string): FindingCounts => byColumn.get(header) ?? noFindings;
  const layout = project?.sources[source]?.layout;
  // Numbered and listed columns stand once in the layout, and several times in the sheet.
  const bound = new Map(
    (layout?.columns ?? []).map((column) => [column.header, column.bindings.map(({ name }) => name).join(", ")]),
  );
  const all = [...new Set([...headers.filter((header) => header !== ""), ...lines.keys()])];
  const columns = all
    .filter((header) => headers.includes(header) || !/\{\w+\}/.test(header))
    .map((header): LayoutColumn => {
      const line = lines.get(header);
      const [sure = "", ...why] = line?.comment?.split(": ") ?? [];
      const isDrafted = sure === "sure" || sure === "likely";
      return {
        header,
        binding: line?.binding ?? bound.get(header),
        isIgnored: line !== undefined && line.binding === undefined,
        sure: isDrafted ? sure : "by hand",
        why: isDrafted ? why.join(": ") : (line?.comment ?? ""),
        found: foundIn(header),
      };
    });
  const choices =
    layout && project ? bindableFields(layout.shape, languages.length === 0 ? [layout.language] : languages) : [];
  return { ...given, columns, choices, mistakes };
}
