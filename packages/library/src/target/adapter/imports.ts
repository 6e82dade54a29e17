/** What each upload of a target makes, and what it adds to records that are there: from the columns of its file. */

import type { Kinds } from "../../kinds.js";
import { kindOfFeed } from "../../layout/bindings/feed-kinds.js";
import { splitLanguage } from "../../field-name.js";
import type { Feed, Layout } from "../../layout/layout.js";
import { shownKinds } from "../../layout/shown-kinds.js";
import type { GivenImport } from "../schema.js";
import { namesIn, type NamingFile } from "./references.js";
import type { Slot } from "./played.js";

/** An import of one file, its name said. */
export type NamedImport = GivenImport & { readonly name: string };

/** @param lang of a file that says the words of one language. */
export function slotOf(given: NamedImport, file: NamingFile, lang: string | undefined, kinds: Kinds): Slot {
  const { name, file: of, mode, endpoint, columns, why } = given;
  return {
    name,
    file: of,
    mode: mode === "mirror" ? "replace" : mode,
    endpoint,
    creates: mode === "create" ? createdBy(file, kinds) : [],
    updates: mode === "update" ? updatedBy(file, columns, lang, kinds) : [],
    columns,
    why,
  };
}

/** The kinds that a file's rows are of, and those that come to be because its columns name them or the platform's lists have them. */
function createdBy({ layouts, rules, usual }: NamingFile, kinds: Kinds): string[] {
  const created = new Set<string>();
  for (const { shape, link, columns } of layouts) {
    if (!link) for (const kind of [shape.parent, shape.child]) if (kind) created.add(kind.name);
    for (const { header, bindings } of columns) {
      const rule = rules.get(header);
      const isMade = namesIn(rule, usual).unknown === "create" || rule?.["in list"] !== undefined;
      for (const { feed } of bindings) for (const kind of namedBy(feed, isMade, kinds)) created.add(kind);
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

/** `product.relations`, `category.description`; where a file says the words of one language, all of them: `product@de`. */
function updatedBy(
  { layouts }: NamingFile,
  written: readonly string[] | undefined,
  lang: string | undefined,
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
    for (const { kind, name } of fields) updated.add(isWords ? `${kind}@${lang}` : `${kind}.${name}`);
    for (const [, own] of layout.languages?.layouts ?? [])
      for (const added of updatedBy({ layouts: [own], rules: new Map(), usual: usually }, written, undefined, kinds))
        updated.add(added);
  }
  return [...updated];
}

const usually = { "refusal costs": "row", "looked up": "as rows arrive", "unknown names": "refuse" } as const;

/** The fields, or lists of entries, of the row's record that a column adds to; not those that identify it. */
function addedBy(feed: Feed): string[] {
  if (feed.is === "entry" || feed.is === "entries") return [feed.entries];
  if (feed.is === "text" && feed.field !== "id" && feed.field !== "code") return [feed.field];
  return feed.is === "reference" ? [kindOfFeed(feed).nameOf(feed)] : [];
}

/** Whether all rows of a file say more of records that are there. */
export const onlyAdds = (layouts: readonly Layout[]): boolean =>
  layouts.every(({ link, shape }) => link !== undefined && shape.is === "flat");
