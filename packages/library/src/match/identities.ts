/** By what records are known: a key, a code, a name. A new one is one more entry in the table here. */

import { targetsOf, type ResolvedCatalogue } from "../catalogue/catalogue.js";
import { pathOf } from "../catalogue/path.js";
import type { ReadonlyTable } from "../catalogue/readonly-table.js";
import { inLanguage, splitLanguage } from "../field-name.js";
import type { Lang } from "../nominal.js";

/** By what a record is known, in a language where that has languages. */
export interface Identity {
  readonly is: IdentityName;
  readonly lang: Lang | undefined;
  /** Of names that count together: their languages. */
  readonly langs?: readonly Lang[] | undefined;
}
/** The identities there are. */
export type IdentityName = keyof typeof identities;

interface IdentityKind {
  /** Whether a text stands for a record only within what contains it, or what it belongs to. */
  readonly isWithin: boolean;
  /** The texts that a record is known by. Several are of one record. */
  readonly texts: (
    catalogue: ResolvedCatalogue,
    table: ReadonlyTable,
    lang: Lang | undefined,
    langs: readonly Lang[],
  ) => TextsOf;
}
export type TextsOf = (row: number) => readonly string[];

const one = (text: string | null | undefined): readonly string[] =>
  text === undefined || text === null || text === "" ? [] : [text];

/** A field of the record itself; of a record without one, that of those it contains: a product is known by the codes of its variants. */
function ofItOrChildren(field: string): IdentityKind["texts"] {
  return (catalogue, table) => {
    const own = table.textsOf(field);
    const child = catalogue.kinds.childOf(table.kind.name);
    const children = child && catalogue.table(child.name);
    const ofChildren = children?.textsOf(field);
    return (row) => {
      const text = one(own.get(row));
      if (text.length > 0 || !children) return text;
      return [...children.childrenOf(row)].flatMap((each) => one(ofChildren?.get(each)));
    };
  };
}

const identities = {
  id: { isWithin: false, texts: (_, table) => (row) => one(table.text("id", row)) },
  key: { isWithin: false, texts: (_, table) => (row) => one(table.key(row)) },
  code: { isWithin: false, texts: ofItOrChildren("code") },
  barcode: { isWithin: false, texts: ofItOrChildren("barcode") },
  slug: { isWithin: false, texts: fieldInLanguage("slug") },
  name: { isWithin: true, texts: fieldInLanguage("name") },
  /** Its names in several languages together, for records that have the same name in one of them. */
  names: { isWithin: true, texts: namesTexts },
  path: { isWithin: false, texts: pathTexts },
  /** What it is on each axis, of the records that lie in one. */
  values: { isWithin: true, texts: valuesTexts },
} satisfies Record<string, IdentityKind>;

export const identityKind = (identity: Identity): IdentityKind => identities[identity.is];

function fieldInLanguage(field: string) {
  return (_: ResolvedCatalogue, table: ReadonlyTable, lang: Lang | undefined): TextsOf => {
    const column = table.textsOf(inLanguage(field, lang));
    return (row) => one(column.get(row));
  };
}

function namesTexts(_: ResolvedCatalogue, table: ReadonlyTable, __: Lang | undefined, langs: readonly Lang[]): TextsOf {
  const columns = langs.map((lang) => table.textsOf(inLanguage("name", lang)));
  return (row) => {
    const names = columns.map((column) => column.get(row) ?? "");
    return names.every((name) => name === "") ? [] : [JSON.stringify(names)];
  };
}

/** The names down to a node of a tree; none, where one of the nodes has no name. */
function pathTexts(catalogue: ResolvedCatalogue, table: ReadonlyTable, lang: Lang | undefined): TextsOf {
  return (row) => {
    const path = pathOf(catalogue, table, row, lang);
    return path.includes("") ? [] : [JSON.stringify(path)];
  };
}

/** The names of its values with those of their axes; none, where one of them has no name. */
function valuesTexts(catalogue: ResolvedCatalogue, table: ReadonlyTable, lang: Lang | undefined): TextsOf {
  const [values, axes] = [catalogue.table("value"), catalogue.table("axis")];
  const name = inLanguage("name", lang);
  return (row) => {
    const named = targetsOf(catalogue, table, "values", row).map((value) => [
      axes.text(name, values.parent(value)) ?? "",
      values.text(name, value) ?? "",
    ]);
    const isNamed = named.every((names) => !names.includes(""));
    return isNamed ? [JSON.stringify(named.map((names) => JSON.stringify(names)).sort())] : [];
  };
}

/** `code`, `name@en`. @throws Error for another word: the caller's bug. */
export function identityOf(written: string): Identity {
  const { name, lang } = splitLanguage(written);
  if (!Object.hasOwn(identities, name)) throw new Error(`${written} does not tell records apart`);
  return { is: name as IdentityName, lang };
}
