/** `entry key`: what tells rows apart that are entries of a record that is there. Of two that a platform does not tell apart it keeps the last. */

import { fitting } from "../checked.js";
import { kindOfScope, lanesOfEntries, type Column, type Layout } from "../layout/layout.js";
import type { WrittenRow } from "../layout/write/context.js";
import type { Header } from "../nominal.js";
import { entryKeyOf } from "../kind.js";
import type { Kinds } from "../kinds.js";
import { phrase, type Text } from "../phrases/phrase.js";
import type { TargetFile } from "./target.js";

/** What of an entry key means nothing, with its position; with none where it is the key as a whole. */
export function* wrongEntryKey(
  key: readonly string[],
  layouts: readonly Layout[],
  kinds: Kinds,
): Generator<{ readonly problem: Text; readonly at: readonly number[] }> {
  const lanes = layouts.flatMap((layout) => (layout.link ? lanesOfEntries(layout) : []));
  if (key.length === 0) return;
  if (lanes.length === 0) return yield { problem: phrase('"{0}" is not for these rows', "entry key"), at: [] };
  for (const [at, header] of key.entries())
    if (!lanes.some(({ headers }) => headers.includes(header)))
      yield { problem: phrase('"{0}" is not a column of entries', header), at: [at] };
  for (const layout of layouts)
    for (const [at, header] of key.entries()) {
      const field = layout.link ? unlikeKey(layout, header, kinds) : undefined;
      if (field === undefined) continue;
      const problem = phrase(
        '"{0}" is of "{1}", which does not tell entries apart. Its change would add an entry',
        header,
        field,
      );
      yield { problem, at: [at] };
    }
  for (const { name, headers } of lanes)
    if (!headers.some((header) => key.includes(header)))
      yield { problem: phrase('no column of "{0}" is in the entry key', name), at: [] };
}

/** The field of a column of entries, where it is none of those that tell entries apart. */
function unlikeKey(layout: Layout, header: Header, kinds: Kinds): string | undefined {
  for (const { scope, bindings } of layout.columns.filter((column) => column.header === header)) {
    const lane = scope.is === "lane" ? layout.lanes.find(({ name }) => name === scope.lane) : undefined;
    if (lane?.holds !== "entries") continue;
    const of = kindOfScope(layout, { is: lane.of }).entries?.[lane.collection];
    const key = of === undefined ? [] : entryKeyOf(kinds.get(of));
    for (const { feed } of bindings) if (feed.is === "entry" && !key.includes(feed.field.name)) return feed.field.name;
  }
  return undefined;
}

/** Whether a column names records by the platform's ids. */
export function namesById({ bindings }: Column): boolean {
  return bindings.some(({ feed: target }) => {
    if (target.is === "reference" || target.is === "container") return target.spec.by === "id";
    return target.is === "entry" && target.field.is === "reference" && target.field.spec.by === "id";
  });
}

/** @param columns that are written. @returns by row, the columns by which its entry is the same as one above of its record. */
export function entryRepeats(
  layout: Layout,
  { entryKey }: TargetFile,
  columns: readonly Header[],
): ((row: WrittenRow, isFirst: boolean) => readonly Header[] | undefined) | undefined {
  const lanes = (layout.link ? lanesOfEntries(layout) : []).flatMap(({ headers }) => {
    const written = headers.filter((header) => columns.includes(header));
    const told = written.filter((header) => entryKey.includes(header));
    const byId = told.filter((header) => namesById(fitting(layout.columns, (column) => column.header === header)));
    return told.length === 0 ? [] : [{ written, told, byId, seen: new Set<string>() }];
  });
  if (lanes.length === 0) return undefined;
  const places = new Map(columns.map((header, at) => [header, at]));
  return ({ cells }, isFirst) => {
    const cell = (header: Header): string => cells[places.get(header) ?? -1] ?? "";
    let found: readonly Header[] | undefined;
    for (const { written, told, byId, seen } of lanes) {
      if (isFirst) seen.clear();
      // Ids that the platform has not given yet tell nothing apart.
      if (written.every((header) => cell(header) === "") || byId.some((header) => cell(header) === "")) continue;
      const key = JSON.stringify(told.map(cell));
      if (seen.has(key)) found = told;
      seen.add(key);
    }
    return found;
  };
}
