/** What a condition of a target knows of a row: the fields that its cells are of, `weight`, `name.en`, `prices.price`. */

import type { CellValue } from "../codecs/codec.js";
import { firstOf } from "../checked.js";
import { expressionParser, type Expression, type Facts } from "../derive/expression.js";
import { typedFact } from "../derive/facts.js";
import { splitLanguage } from "../field-name.js";
import { fieldOf } from "../kind.js";
import type { Kinds } from "../kinds.js";
import { kindOfScope, type Column, type Layout } from "../layout/layout.js";
import type { Text } from "../phrases/phrase.js";

/** A column as conditions know it. */
export interface FactColumn {
  readonly header: string;
  /** `name` and `en`; `prices` and `price`; `weight` alone. */
  readonly root: string;
  readonly part: string | undefined;
  readonly type: string | undefined;
}

/** Columns whose cells are not a field of a record have no name in conditions; nor has what is called like another's beginning. */
function factColumns(layout: Layout, kinds: Kinds): FactColumn[] {
  const all = layout.columns.flatMap((column) => factColumn(layout, column, kinds) ?? []);
  const beginnings = new Set(all.flatMap(({ root, part }) => (part === undefined ? [] : [root])));
  return all.filter(({ root, part }) => part !== undefined || !beginnings.has(root));
}

function factColumn(layout: Layout, { header, scope, bindings }: Column, kinds: Kinds): FactColumn | undefined {
  const { feed } = firstOf(bindings);
  const kind = kindOfScope(layout, scope);
  if (feed.is === "key") return { header, root: "key", part: undefined, type: "text" };
  if (feed.is === "text") {
    const { name, lang } = splitLanguage(feed.field);
    return { header, root: name, part: lang, type: fieldOf(kind, name)?.type };
  }
  if (feed.is === "reference") return { header, root: feed.field, part: undefined, type: undefined };
  if (feed.is !== "entry") return undefined;
  const embedded = kind.entries?.[feed.entries];
  const type = embedded === undefined ? undefined : fieldOf(kinds.get(embedded), feed.field.name)?.type;
  if (scope.is === "lane") return { header, root: feed.field.name, part: undefined, type };
  return { header, root: feed.entries, part: Object.values(feed.constants)[0] ?? feed.field.name, type };
}

/** A condition of a column, parsed once for all rows. */
export interface ParsedCondition {
  readonly expression: Expression;
  readonly columns: readonly FactColumn[];
}

/** @returns the problem in words where it cannot be read, or names what the rows do not have. */
export function parseCondition(
  layout: Layout,
  kinds: Kinds,
  text: string,
): { readonly ok: true; readonly condition: ParsedCondition } | { readonly ok: false; readonly problem: Text } {
  const columns = factColumns(layout, kinds);
  const roots = [...new Set(columns.map(({ root }) => root))].filter((root) => /^[A-Za-z_]\w*$/.test(root));
  const parsed = expressionParser(roots)(text);
  return parsed.ok ? { ok: true, condition: { expression: parsed.expression, columns } } : parsed;
}

/** Blank cells are left out: `has(prices.was)` asks for them. */
export function factsOfRow(columns: readonly FactColumn[], valueOf: (header: string) => CellValue | undefined): Facts {
  const facts: Record<string, unknown> = Object.create(null) as Record<string, unknown>;
  for (const { header, root, part, type } of columns) {
    if (part !== undefined) facts[root] ??= Object.create(null);
    const value = valueOf(header);
    if (value === undefined || value.length === 0) continue;
    const fact = typeof value === "string" ? typedFact(type, value) : value;
    if (part === undefined) facts[root] = fact;
    else (facts[root] as Record<string, unknown>)[part] = fact;
  }
  return facts;
}
