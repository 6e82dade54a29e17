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
  /** The field with the one record that a record may belong to: its name is then a name within that record only. */
  readonly within?: string;
  /** A record without children is complete: it is sold by itself, and what its children would say is its own. */
  readonly single?: boolean;
  /** Entries that records of this kind hold: name of the collection to name of the embedded kind. */
  readonly entries?: Readonly<Record<string, string>>;
  /** For embedded kinds: which fields tell the entries of a record apart; the first is the one written in parentheses. */
  readonly entryKey?: readonly string[];
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

/** The kind of the records that those of a kind may belong to; undefined where they belong to none. */
export function withinOf(kind: KindSpec): string | undefined {
  return kind.within === undefined ? undefined : referenceOf(fieldNamed(kind, kind.within)).to;
}

/** The fields that tell entries of one record apart. @throws Error for a kind whose records stand by themselves: a bug of the caller. */
export function entryKeyOf({ name, entryKey }: KindSpec): readonly string[] {
  if (!entryKey) throw new Error(`${name} has no entries`);
  return entryKey;
}
