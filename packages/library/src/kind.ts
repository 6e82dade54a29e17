/**
 * Kinds: what a record may be, declared as data. Built-in kinds and those a user adds go the same way through every stage.
 *
 * Root kinds have keys of their own; embedded kinds are entries that live in a record.
 */

export type FieldType = "text" | "code" | "barcode" | "decimal" | "integer" | "flag" | "date" | "file";

/** What a reference asks of the platform: `containing` is child of, `required` has to exist first, `linking` may be set later. */
export type Tie = "containing" | "required" | "linking";

/** What to do where a reference names nothing: say so, make the record, or hold the record back. */
export type Missing = "error" | "create" | "hold";

export interface FieldSpec {
  readonly name: string;
  /** Left out for references. */
  readonly type?: FieldType;
  readonly perLanguage?: boolean;
  readonly reference?: { readonly to: string; readonly tie: Tie; readonly list?: boolean; readonly missing: Missing };
}

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

/** The fields of whatever can be sold: a variant, or a product that has none. */
const sellable: readonly FieldSpec[] = [
  { name: "code", type: "code" },
  { name: "barcode", type: "barcode" },
  { name: "weight", type: "decimal" },
];
const sellableEntries = { prices: "price", stock: "stock", pictures: "picture" };

export const builtInKinds: readonly KindSpec[] = [
  {
    name: "category",
    fields: [
      texts("name"),
      texts("description"),
      texts("slug"),
      { name: "position", type: "integer" },
      { name: "parent", reference: { to: "category", tie: "containing", missing: "error" } },
    ],
  },
  { name: "axis", fields: [texts("name"), { name: "position", type: "integer" }] },
  { name: "value", of: "axis", fields: [texts("name"), { name: "position", type: "integer" }] },
  { name: "brand", fields: [texts("name")] },
  { name: "customer-group", fields: [texts("name")] },
  {
    name: "product",
    single: true,
    fields: [
      texts("name"),
      texts("description"),
      texts("slug"),
      { name: "brand", reference: { to: "brand", tie: "linking", missing: "create" } },
      { name: "categories", reference: { to: "category", tie: "linking", list: true, missing: "error" } },
      { name: "axes", reference: { to: "axis", tie: "required", list: true, missing: "create" } },
      { name: "shown", type: "flag" },
      ...sellable,
    ],
    entries: { ...sellableEntries, relations: "relation" },
  },
  {
    name: "variant",
    of: "product",
    fields: [
      { name: "values", reference: { to: "value", tie: "required", list: true, missing: "create" } },
      ...sellable,
    ],
    entries: sellableEntries,
  },
  {
    name: "price",
    entryKey: ["role", "quantityFrom", "customerGroup"],
    fields: [
      text("role"),
      { name: "amount", type: "decimal" },
      { name: "quantityFrom", type: "integer" },
      { name: "customerGroup", reference: { to: "customer-group", tie: "required", missing: "create" } },
    ],
  },
  { name: "stock", entryKey: ["location"], fields: [text("location"), { name: "quantity", type: "integer" }] },
  {
    name: "picture",
    entryKey: ["role", "file"],
    fields: [text("role"), { name: "file", type: "file" }, texts("alternative")],
  },
  {
    name: "relation",
    entryKey: ["name", "to"],
    fields: [text("name"), { name: "to", reference: { to: "product", tie: "linking", missing: "error" } }],
  },
];

export class Kinds {
  readonly #byName: ReadonlyMap<string, KindSpec>;

  constructor(readonly all: readonly KindSpec[] = builtInKinds) {
    this.#byName = new Map(all.map((kind) => [kind.name, kind]));
  }

  find(name: string): KindSpec | undefined {
    return this.#byName.get(name);
  }

  /** @throws Error for a name that is no kind: the caller's bug. */
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
