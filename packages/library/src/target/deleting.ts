/** Imports that delete: each row names a record that the platform takes out. */

import { entryOf, firstOf } from "../checked.js";
import { kindOfScope, levelOf } from "../layout/layout.js";
import { phrase, type Text } from "../phrases/phrase.js";
import { identifies } from "./columns-left-out.js";
import type { NamingFile } from "./names.js";
import { rowFormOf } from "./row-form.js";
import type { Slot } from "./slot.js";
import type { Target } from "./target.js";

/** Why a file cannot be imported so that the records of its rows are deleted; undefined where it can. @param written the import's columns; all, if left out. */
export function deletingProblem(
  { layouts }: NamingFile,
  written: readonly string[] | undefined,
  lang: string | undefined,
): Text | undefined {
  const layout = firstOf(layouts);
  const isPlain = rowFormOf(layout) === "flat" && !layout.languages && layout.lanes.length === 0;
  if (layouts.length > 1 || lang !== undefined || !isPlain)
    return phrase('"{0}" is for a file in which each row is a record of one kind', "mode: delete");
  const columns = layout.columns.filter(({ header }) => written?.includes(header) ?? true);
  const isOwn = (column: (typeof columns)[number]) => levelOf(layout, column.scope) === "parent";
  const other = columns.find(
    (column) => !isOwn(column) || column.bindings.some(({ feed }) => feed.is !== "shape" && !identifies(feed)),
  );
  if (other) return phrase('"{0}" does not tell which record is deleted. Leave it out of "columns"', other.header);
  if (columns.every(({ bindings }) => bindings.every(({ feed }) => !identifies(feed))))
    return phrase('"{0}" needs a column that tells which record is deleted', "mode: delete");
  return undefined;
}

/** Whether a file tells which record is deleted by its key alone. */
export function tellsByKey({ layouts }: NamingFile, written: readonly string[] | undefined): boolean {
  const columns = firstOf(layouts).columns.filter(({ header }) => written?.includes(header) ?? true);
  const feeds = columns.flatMap(({ bindings }) => bindings.map(({ feed }) => feed)).filter(identifies);
  return feeds.length > 0 && feeds.every(({ is }) => is === "key");
}

/** Whether a platform learns the keys of a kind's records from a file: by a column of its own, or by names that it creates records for. */
export const givesKeys = ({ layouts }: NamingFile, kind: string): boolean =>
  layouts.some((layout) =>
    layout.columns.some(({ scope, bindings }) =>
      bindings.some(({ feed }) =>
        feed.is === "reference"
          ? feed.spec.to === kind && feed.spec.by === "key"
          : feed.is === "key" && kindOfScope(layout, scope).name === kind,
      ),
    ),
  );

/** The kind of which an import deletes records. */
export const deletedKind = ({ files }: Target, { file }: Slot): string =>
  firstOf(entryOf(files, file).layouts).shape.parent.name;
