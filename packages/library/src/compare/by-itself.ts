/** What a platform has in a field by itself, where rows say nothing of it: what a blank cell leaves, what it begins with, what it makes. */

import type { Kinds } from "../kinds.js";
import { byLanguage, type Column, type Layout } from "../layout/layout.js";
import { shownKinds } from "../layout/shown-kinds.js";
import type { ColumnRule } from "../target/schema.js";
import type { Target } from "../target/target.js";
import { staysWhereBlank } from "./unnamed-entries.js";
import { added } from "../lists.js";

interface OwnValue {
  readonly constants: Readonly<Record<string, string>>;
  /** What it begins with; undefined where it may be anything. */
  readonly startsAs: string | undefined;
}

/** @param table a kind, or `kind.entries`. @param textOf a field of the entry. @param there what the platform has. */
export type HasByItself = (
  table: string,
  field: string,
  textOf: (field: string) => string | undefined,
  there: string | undefined,
) => boolean;

export function hasByItself({ files }: Target, kinds: Kinds): HasByItself {
  const values = new Map<string, OwnValue[]>();
  for (const { layouts, rules } of files.values())
    for (const layout of layouts.flatMap((one) => byLanguage(one).map(([, own]) => own)))
      for (const column of layout.columns) {
        const own = ofRule(rules.get(column.header));
        if (!own) continue;
        for (const [name, constants] of fieldsOf(layout, column, kinds))
          values.set(name, added(values.get(name), { ...own, constants }));
      }
  return (table, field, textOf, there) =>
    (values.get(`${table}.${field}`) ?? []).some(
      ({ constants, startsAs }) =>
        (startsAs === undefined || startsAs === there) &&
        Object.entries(constants).every(([one, word]) => textOf(one) === word),
    );
}

function ofRule(rule: ColumnRule | undefined): Pick<OwnValue, "startsAs"> | undefined {
  if (rule && staysWhereBlank.has(rule.blank)) return { startsAs: undefined };
  return rule?.["starts as"] === undefined ? undefined : { startsAs: rule["starts as"] };
}

/** The fields that a column shows, by `table.field`, with what tells their entries apart. */
function* fieldsOf(
  layout: Layout,
  column: Column,
  kinds: Kinds,
): Generator<readonly [name: string, constants: Readonly<Record<string, string>>]> {
  const { scope } = column;
  const lane = scope.is === "lane" ? layout.lanes.find(({ name }) => name === scope.lane) : undefined;
  for (const { feed } of column.bindings)
    for (const { name } of shownKinds(layout, column, kinds)) {
      if (feed.is === "text" || feed.is === "reference") yield [`${name}.${feed.field}`, {}];
      if (feed.is === "entry")
        yield [`${name}.${feed.entries}.${feed.field.name}`, { ...lane?.constants, ...feed.constants }];
    }
}
