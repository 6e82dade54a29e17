/** A comparison for people, the most dangerous first, and for programs. */

import { changedByTexts, formatLocation, recordStates, stateTexts, valueText, type Comparison } from "zest-tier";
import type { Colours } from "../io.js";
import { columns, counted, cut } from "./text.js";

const shownOfEach = 6;
const shownFields = 4;

/** @param pairs the file in which pairs wait for a reply. */
export function renderComparison(
  { records, unchanged }: Comparison,
  colours: Colours,
  tellAll: boolean,
  pairs: string | undefined,
  currency: string | undefined,
): string {
  const dangerous = new Set(["would overwrite", "both changed", "changed on the platform", "deleted on the platform"]);
  const parts = recordStates.flatMap((state) => {
    const own = records.filter((record) => record.state === state);
    if (own.length === 0) return [];
    const { title, means } = stateTexts[state];
    const paint = dangerous.has(state) ? colours.yellow : colours.cyan;
    const shown = tellAll ? own : own.slice(0, shownOfEach);
    const rows = shown.flatMap(({ kind, key, fields, became = [] }) => {
      const who = [kind, colours.bold(cut(key, 32))];
      if (fields.length === 0) return [[...who, became.length > 0 ? `→ ${cut(became.join(", "), 60)}` : "", "", ""]];
      const some = tellAll ? fields : fields.slice(0, shownFields);
      const lines = some.map(({ field, intended, onPlatform, by }, at) => [
        ...(at === 0 ? who : ["", ""]),
        field,
        `${cut(valueText(onPlatform, field, currency), 34)} → ${cut(valueText(intended, field, currency), 34)}`,
        colours.dim(changedByTexts[by]),
      ]);
      return some.length < fields.length
        ? [...lines, ["", "", colours.dim(`and ${fields.length - some.length} more: --all lists them`), "", ""]]
        : lines;
    });
    const more =
      own.length > shown.length ? colours.dim(`  and ${own.length - shown.length} more: --all lists them\n`) : "";
    return [`${paint(colours.bold(`${title}: ${own.length}`))}  ${colours.dim(means)}\n${columns(rows)}${more}`];
  });
  const asked =
    pairs === undefined
      ? ""
      : `\n  Possible pairs are listed in ${colours.bold(pairs)}. Reply with same or different.\n`;
  const head = parts.length > 0 ? `${colours.dim("  on the platform → in your sources, and who changed it")}\n\n` : "";
  return `${head}${parts.join("\n")}${parts.length > 0 ? "\n" : ""}${colours.green(counted(unchanged, "record"))} the same on both sides.\n${asked}`;
}

export function comparisonToJson({ records, unchanged, suggestions }: Comparison): object {
  const shown = records.map(({ kind, key, state, fields, at, became }) => ({
    kind,
    key,
    state,
    ...(became && { became }),
    at: at ? formatLocation(at) : null,
    fields: fields.map(({ field, intended = null, onPlatform = null, by }) => ({ field, onPlatform, intended, by })),
  }));
  return { unchanged, records: shown, suggestions };
}
