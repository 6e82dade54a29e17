/** What each upload of a target makes, and what it adds to records that are there: from the columns of its file. */

import { firstOf } from "../checked.js";
import { expressionParser } from "../derive/expression.js";
import { rootsOf } from "../derive/facts.js";
import type { Kinds } from "../kinds.js";
import { kindOfFeed } from "../layout/bindings/feed-kinds.js";
import { splitLanguage } from "../field-name.js";
import type { Feed, Layout } from "../layout/layout.js";
import { shownKinds } from "../layout/shown-kinds.js";
import type { GivenImport } from "./schema.js";
import { phrase, type Text } from "../phrases/phrase.js";
import { rowFormOf } from "./row-form.js";
import { namesIn, type NamingFile } from "./names.js";
import type { RecordCondition, Slot } from "./slot.js";
import type { Target } from "./target.js";

/** An import of one file, its name said. */
export type NamedImport = GivenImport & { readonly name: string };

/** What an import has to know of its target. */
export interface SlotContext {
  /** Whether another import makes records of a kind from rows: a name makes less of them. */
  readonly hasRowsElsewhere: (kind: string) => boolean;
  /** The main language. */
  readonly main: string;
}

/** @param lang of a file that says the words of one language. */
export function slotOf(
  given: NamedImport,
  file: NamingFile,
  lang: string | undefined,
  kinds: Kinds,
  condition: RecordCondition | undefined,
  { hasRowsElsewhere, main }: SlotContext,
): Slot {
  const { name, file: of, mode, endpoint, columns, why } = given;
  return {
    name,
    file: of,
    mode: mode === "mirror" ? "replace" : mode,
    endpoint,
    creates: mode === "create" ? createdBy(file, hasRowsElsewhere, kinds) : [],
    updates: mode === "update" ? updatedBy(file, columns, { lang, main }, kinds) : [],
    columns,
    why,
    condition,
  };
}

/** The kinds that a file's rows are of, and those that come to be because its columns name them or the platform's lists have them. */
function createdBy(
  { layouts, rules, usual }: NamingFile,
  hasRowsElsewhere: (kind: string) => boolean,
  kinds: Kinds,
): string[] {
  const created = new Set<string>();
  for (const { shape, link, columns } of layouts) {
    if (!link) for (const kind of [shape.parent, shape.child]) if (kind) created.add(kind.name);
    for (const { header, bindings } of columns) {
      const rule = rules.get(header);
      const isMade = namesIn(rule, usual).unknown === "create" || rule?.["in list"] !== undefined;
      for (const { feed } of bindings)
        for (const kind of namedBy(feed, isMade, kinds)) if (!hasRowsElsewhere(kind)) created.add(kind);
    }
  }
  return [...created];
}

function namedBy(feed: Feed, isMade: boolean, kinds: Kinds): string[] {
  if (feed.is === "axis" || feed.is === "axes" || feed.is === "named-axis") return ["axis", "value"];
  if (!isMade) return [];
  if (feed.is === "entry" && feed.field.is === "reference") return [feed.field.spec.to];
  if (feed.is === "entries") return feed.parts.flatMap((part) => (part.is === "reference" ? [part.spec.to] : []));
  if (feed.is !== "reference") return [];
  const inner = feed.parts?.flatMap((part) => (part.is === "children" ? [part.spec.to] : [])) ?? [];
  return [feed.spec.to, ...inner].filter((kind) => kinds.find(kind) !== undefined);
}

/**
 * `product.relations`, `category.description`; where a file says the words of one language, all of them: `product@de`. Names of axes and
 * values, and texts in other languages than the main one, are added language by language: `product.axes@de`.
 */
function updatedBy(
  { layouts }: NamingFile,
  written: readonly string[] | undefined,
  { lang, main }: { readonly lang: string | undefined; readonly main: string },
  kinds: Kinds,
): string[] {
  const updated = new Set<string>();
  for (const layout of layouts) {
    const fields = layout.columns
      .filter(({ header }) => written?.includes(header) ?? true)
      .flatMap((column) =>
        shownKinds(layout, column, kinds).flatMap((kind) =>
          column.bindings.flatMap(({ feed }) =>
            addedBy(feed).map((field) => ({ kind: kind.name, ...splitLanguage(field) })),
          ),
        ),
      );
    const isWords = lang !== undefined && fields.every((one) => one.lang === lang);
    for (const { kind, name, lang: own } of fields)
      if (own !== undefined && (name === "axes" || name === "values")) updated.add(`${kind}.${name}@${own}`);
      else if (isWords) updated.add(`${kind}@${lang}`);
      else updated.add(own === undefined || own === main ? `${kind}.${name}` : `${kind}.${name}@${own}`);
    for (const [, own] of layout.languages?.layouts ?? [])
      for (const added of updatedBy(
        { layouts: [own], rules: new Map(), usual: usually },
        written,
        { lang: undefined, main: own.language },
        kinds,
      ))
        updated.add(added);
  }
  return [...updated];
}

const usually = { "refusal costs": "row", "looked up": "as rows arrive", "unknown names": "refuse" } as const;

/** The fields, or lists of entries, of the row's record that a column adds to; not those that identify it. */
function addedBy(feed: Feed): string[] {
  if (feed.is === "entry" || feed.is === "entries") return [feed.entries];
  if (feed.is === "text" && feed.field !== "id" && feed.field !== "code")
    return [feed.field, ...(feed.otherwise === undefined ? [] : [feed.otherwise])];
  if (feed.is === "axis" || feed.is === "axes" || feed.is === "named-axis")
    return [`${feed.holds === "name" || feed.holds === "names" ? "axes" : "values"}@${feed.lang}`];
  return feed.is === "reference" ? [kindOfFeed(feed).nameOf(feed)] : [];
}

/** The imports of a target, by what they are for. */
export const importsOf = (imports: readonly Slot[]): Pick<Target, "slots" | "replacing" | "deleting"> => ({
  slots: imports.filter(({ mode }) => mode === "create" || mode === "update"),
  replacing: imports.find(({ mode }) => mode === "replace"),
  deleting: imports.filter(({ mode }) => mode === "delete"),
});

/** Whether all rows of a file say more of records that are there. */
export const onlyAdds = (layouts: readonly Layout[]): boolean =>
  layouts.every(({ link, shape }) => link !== undefined && shape.is === "flat");

/** The condition of an import, parsed; or why there cannot be one. @param all the imports of the target. */
export function conditionOfImport(
  given: NamedImport,
  layouts: readonly Layout[],
  lang: string | undefined,
  all: readonly GivenImport[],
  kinds: Kinds,
): { readonly ok: true; readonly condition: RecordCondition } | { readonly ok: false; readonly problem: Text } {
  const layout = firstOf(layouts);
  const { parent } = layout.shape;
  const form = rowFormOf(layout);
  if (given.mode !== "create" || form === "grouped" || form === "linked" || layouts.length > 1 || lang !== undefined)
    return { ok: false, problem: phrase('"{0}" cannot be rehearsed yet for such an import', "for") };
  if (all.filter(({ file }) => file === given.file).length > 1)
    return { ok: false, problem: phrase('"{0}" is for files with one import', "for") };
  const text = given.for ?? "";
  const parsed = expressionParser(rootsOf(parent, kinds))(text);
  return parsed.ok ? { ok: true, condition: { text, expression: parsed.expression } } : parsed;
}

/** An import without a condition before others of its kind, where these have conditions: it would take all records. */
export const greedyImport = (slots: readonly Slot[], kindOf: (slot: Slot) => string | undefined): Slot | undefined =>
  slots.find((slot) => {
    const sharing = slots.filter((one) => one.mode === "create" && kindOf(one) === kindOf(slot));
    const isShared = slot.mode === "create" && sharing.some(({ condition }) => condition !== undefined);
    return isShared && slot.condition === undefined && slot !== sharing[sharing.length - 1];
  });
