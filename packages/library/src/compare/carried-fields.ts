/** Which columns of a target's files carry which fields. */

import type { Kinds } from "../kinds.js";
import { kindOfFeed } from "../layout/bindings/feed-kinds.js";
import type { Feed } from "../layout/layout.js";
import { shownKinds } from "../layout/shown-kinds.js";
import type { Target, TargetFile } from "../target/target.js";
import { layoutsOf } from "./held-form.js";

/** A column, and a field that it carries, as `kind.field`. */
interface CarriedField {
  readonly file: TargetFile;
  readonly header: string;
  readonly field: string;
}

/** Every column of the files, with each field that it carries. @param among what such a column feeds. */
export function* carriedFields(target: Target, kinds: Kinds, among: readonly Feed["is"][]): Generator<CarriedField> {
  for (const file of target.files.values())
    for (const layout of layoutsOf({ ...target, files: new Map([[file.name, file]]) }))
      for (const column of layout.columns)
        for (const { feed } of column.bindings) {
          if (!among.includes(feed.is)) continue;
          for (const { name } of shownKinds(layout, column, kinds))
            for (const field of kindOfFeed(feed).shows(feed, name, kinds)) yield { file, header: column.header, field };
        }
}

/** The fields of which every column is of a sort. */
export function fieldsWhereAll(
  carried: Iterable<CarriedField>,
  isSo: (one: CarriedField) => boolean,
): ReadonlySet<string> {
  const [all, others] = [new Set<string>(), new Set<string>()];
  for (const one of carried) (isSo(one) ? all : others).add(one.field);
  return new Set([...all].filter((field) => !others.has(field)));
}
