/**
 * Kinds: what a record may be, declared as data. Built-in kinds and those a user adds go the same way through every stage.
 *
 * Root kinds have keys of their own; embedded kinds are entries that live in a record.
 */

export type FieldType = "text" | "code" | "barcode" | "decimal" | "integer" | "flag" | "date" | "file";

/** What a reference asks of the platform: `containing` is child of, `required` has to exist first, `linking` may be set later. */
export type Dependency = "containing" | "required" | "linking";

/** What to do where a reference names nothing: say so, make the record, or hold the record back. */
export type Missing = "error" | "create" | "hold";

export interface ReferenceField {
  readonly to: string;
  readonly dependency: Dependency;
  readonly list?: boolean;
  readonly missing: Missing;
  /** The field that takes what names no record of `to`, but one of its own kind: a component may be a variant or a product. */
  readonly otherwise?: string;
}

/** A field of a kind: what its cells hold, or what they refer to. */
export interface FieldSpec {
  readonly name: string;
  /** Left out for references. */
  readonly type?: FieldType;
  readonly perLanguage?: boolean;
  /** Never taken over from what contains the record: what tells it apart. */
  readonly own?: boolean;
  /** The words that the field takes; any, if left out. */
  readonly among?: readonly string[];
  /** The reference list of the platform that the text is an entry of, where entries are no more than names. */
  readonly listed?: string;
  readonly reference?: ReferenceField;
}

/** A kind of record, or of entries that records hold. */
export interface KindSpec {
  readonly name: string;
  readonly fields: readonly FieldSpec[];
  /** The root kind this one is contained in, each record in exactly one: a variant's product, a value's axis. */
  readonly of?: string;
  /** A record without children is complete: it is sold by itself, and what its children would say is its own. */
  readonly single?: boolean;
  /** Entries that records of this kind hold: name of the collection to name of the embedded kind. */
  readonly entries?: Readonly<Record<string, string>>;
  /** For embedded kinds: which fields tell the entries of a record apart; the first is the one written in parentheses. */
  readonly entryKey?: readonly string[];
}

const text = (name: string): FieldSpec => ({ name, type: "text" });
const texts = (name: string): FieldSpec => ({ name, type: "text", perLanguage: true });
const oneOf = (name: string, ...among: string[]): FieldSpec => ({ name, type: "text", among });
const decimal = (name: string): FieldSpec => ({ name, type: "decimal" });
const integer = (name: string): FieldSpec => ({ name, type: "integer" });
const flag = (name: string): FieldSpec => ({ name, type: "flag" });
const date = (name: string): FieldSpec => ({ name, type: "date" });
const linksTo = (name: string, to: string, missing: Missing = "error"): FieldSpec => ({
  name,
  reference: { to, dependency: "linking", missing },
});
const listOf = (name: string, to: string, dependency: Dependency, missing: Missing): FieldSpec => ({
  name,
  reference: { to, dependency, list: true, missing },
});

/** Page texts for search engines. */
const searchTexts: readonly FieldSpec[] = [texts("searchTitle"), texts("searchText")];

/** The fields of whatever can be sold: a variant, or a product that has none. */
const sellable: readonly FieldSpec[] = [
  { name: "code", type: "code", own: true },
  { name: "barcode", type: "barcode", own: true },
  decimal("weight"),
  decimal("length"),
  decimal("width"),
  decimal("height"),
  oneOf("status", "selling", "paused", "ended"),
  oneOf("backorder", "refused", "allowed", "announced"),
  integer("quantityLeast"),
  integer("quantityMost"),
  integer("quantityStep"),
  { name: "unit", type: "text", listed: "unit" },
  { name: "tax", type: "text", listed: "tax" },
];
/** A sellable with components is a bundle. */
const sellableEntries = {
  prices: "price",
  stock: "stock",
  pictures: "picture",
  identifiers: "identifier",
  supplies: "supply",
  components: "component",
};

/** The platform's own id of a record, where a sheet tells it: an export, a report. Never a key. */
const id: FieldSpec = { name: "id", type: "text", own: true };
const position: FieldSpec = { name: "position", type: "integer", own: true };
const named: readonly FieldSpec[] = [{ ...texts("name"), own: true }, position, id];

/** The kinds that every project has; a project may add its own. */
export const builtInKinds: readonly KindSpec[] = [
  {
    name: "category",
    fields: [
      ...named,
      texts("description"),
      texts("slug"),
      ...searchTexts,
      flag("shown"),
      { name: "parent", reference: { to: "category", dependency: "containing", missing: "error" } },
      listOf("visibleTo", "customer-group", "linking", "create"),
    ],
    entries: { pictures: "picture", redirects: "redirect" },
  },
  { name: "axis", fields: named },
  { name: "value", of: "axis", fields: named },
  { name: "brand", fields: named },
  { name: "supplier", fields: named },
  { name: "customer-group", fields: named },
  { name: "option-group", fields: [...named, texts("description"), flag("required")] },
  {
    name: "choice",
    of: "option-group",
    fields: [
      ...named,
      decimal("surcharge"),
      oneOf("surchargeIs", "amount", "percent"),
      { name: "variant", reference: { to: "variant", dependency: "linking", missing: "error", otherwise: "product" } },
      linksTo("product", "product"),
    ],
  },
  { name: "property-group", fields: named },
  {
    name: "property",
    fields: [
      ...named,
      oneOf("type", "text", "number", "flag", "date"),
      text("unit"),
      linksTo("group", "property-group", "create"),
    ],
  },
  {
    name: "product",
    single: true,
    fields: [
      texts("name"),
      id,
      texts("description"),
      texts("slug"),
      ...searchTexts,
      oneOf("sort", "goods", "service", "file", "hire", "sold elsewhere"),
      { name: "brand", reference: { to: "brand", dependency: "linking", missing: "create" } },
      listOf("categories", "category", "linking", "error"),
      listOf("axes", "axis", "required", "create"),
      listOf("optionGroups", "option-group", "required", "error"),
      flag("shown"),
      listOf("visibleTo", "customer-group", "linking", "create"),
      position,
      ...sellable,
    ],
    entries: { ...sellableEntries, relations: "relation", properties: "property-value", redirects: "redirect" },
  },
  {
    name: "variant",
    of: "product",
    fields: [listOf("values", "value", "required", "create"), id, position, ...sellable],
    entries: sellableEntries,
  },
  {
    name: "assortment",
    fields: [...named, listOf("members", "product", "linking", "error"), text("rule")],
  },
  {
    name: "price",
    entryKey: ["role", "quantityFrom", "customerGroup", "currency", "from", "until", "hire"],
    fields: [
      text("role"),
      decimal("amount"),
      { name: "currency", type: "text" },
      flag("taxIncluded"),
      integer("quantityFrom"),
      integer("quantityTo"),
      { name: "customerGroup", reference: { to: "customer-group", dependency: "required", missing: "create" } },
      date("from"),
      date("until"),
      text("hire"),
    ],
  },
  {
    name: "stock",
    entryKey: ["location"],
    fields: [
      { name: "location", type: "text", listed: "location" },
      integer("quantity"),
      integer("reorderAt"),
      integer("reorderTo"),
    ],
  },
  {
    name: "picture",
    entryKey: ["role", "file"],
    fields: [text("role"), { name: "file", type: "file" }, texts("alternative"), integer("position"), flag("hidden")],
  },
  { name: "identifier", entryKey: ["type"], fields: [text("type"), text("value")] },
  {
    name: "supply",
    entryKey: ["supplier"],
    fields: [
      { name: "supplier", reference: { to: "supplier", dependency: "required", missing: "create" } },
      text("code"),
      decimal("cost"),
      integer("days"),
    ],
  },
  {
    name: "component",
    entryKey: ["variant", "product"],
    fields: [
      { name: "variant", reference: { to: "variant", dependency: "required", missing: "error", otherwise: "product" } },
      { name: "product", reference: { to: "product", dependency: "required", missing: "error" } },
      integer("quantity"),
    ],
  },
  {
    name: "relation",
    entryKey: ["name", "to", "language"],
    fields: [
      text("name"),
      { name: "to", reference: { to: "product", dependency: "linking", missing: "error" } },
      text("language"),
    ],
  },
  /** An old address, a slug, that leads to the record now. */
  { name: "redirect", entryKey: ["language", "from"], fields: [text("language"), text("from")] },
  {
    name: "property-value",
    entryKey: ["property"],
    fields: [
      { name: "property", reference: { to: "property", dependency: "required", missing: "create" } },
      text("value"),
      texts("text"),
    ],
  },
];

/** The kinds of records that a project has: those that come with Zest Tier, and its own. */
export class Kinds {
  readonly #byName: ReadonlyMap<string, KindSpec>;

  constructor(readonly all: readonly KindSpec[] = builtInKinds) {
    this.#byName = new Map(all.map((kind) => [kind.name, kind]));
  }

  find(name: string): KindSpec | undefined {
    return this.#byName.get(name);
  }

  /** @throws Error for a name that is not a kind: the caller's bug. */
  get(name: string): KindSpec {
    const kind = this.#byName.get(name);
    if (!kind) throw new Error(`no kind ${name}`);
    return kind;
  }

  /** Kinds whose records have keys, parents before the kinds they contain. */
  get roots(): readonly KindSpec[] {
    return this.all.filter((kind) => !kind.entryKey);
  }

  /** The kind contained in `name`, if there is one: variant for product. */
  childOf(name: string): KindSpec | undefined {
    return this.all.find((kind) => kind.of === name);
  }
}

export function fieldOf(kind: KindSpec, name: string): FieldSpec | undefined {
  return kind.fields.find((field) => field.name === name);
}

/** A field that the kind has. @throws Error for another name: a bug of the caller. */
export function fieldNamed(kind: KindSpec, name: string): FieldSpec {
  const field = fieldOf(kind, name);
  if (!field) throw new Error(`${kind.name} has no field ${name}`);
  return field;
}

/** What a field refers to. @throws Error where it does not refer: a bug of the caller. */
export function referenceOf({ name, reference }: FieldSpec): ReferenceField {
  if (!reference) throw new Error(`${name} does not refer to records`);
  return reference;
}

/** The fields that tell entries of one record apart. @throws Error for a kind whose records stand by themselves: a bug of the caller. */
export function entryKeyOf({ name, entryKey }: KindSpec): readonly string[] {
  if (!entryKey) throw new Error(`${name} has no entries`);
  return entryKey;
}
