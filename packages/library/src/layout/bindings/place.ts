/** A column of a layout as it is written, before it is known which kind of binding it is. */

import type { ReferenceSpec, By } from "../../catalogue/reference-pool.js";
import { fieldOfColumn, inLanguage, splitLanguage, type WrittenField } from "../../field-name.js";
import { renamedField } from "../../given/old-words.js";
import {
  fieldOf,
  referenceOf,
  withinOf,
  type FieldSpec,
  type FieldType,
  type KindSpec,
  type Missing,
} from "../../kind.js";
import type { Kinds } from "../../kinds.js";
import type { Header, Lang } from "../../nominal.js";
import { phrase, type Text } from "../../phrases/phrase.js";
import { nearestSpelling } from "../../spelling.js";
import type { CodecChoice } from "../compile/codec-of.js";
import type { Binding, Feed, Lane, Scope, Shape } from "../layout.js";
import { fieldBySynonym } from "../meanings.js";
import type { GivenCodec, GivenLayout } from "../schema.js";

export class Mistake extends Error {
  constructor(
    readonly problem: Text,
    readonly nearest?: string,
  ) {
    super(String(problem));
  }
}

/** Follows from a mistake that is reported where it was made. */
export class Consequence extends Error {}

/** What the layout's own names of records are by: those of axes and properties that it names itself. */
export interface NamingContext {
  readonly kinds: Kinds;
  /** The layout's language; where rows have languages of their own, still the layout's. */
  readonly language: Lang;
}

export interface BindContext extends NamingContext {
  readonly given: GivenLayout;
  readonly shape: Shape;
  readonly lanes: readonly Lane[];
  readonly headers: readonly Header[];
}

export interface Bound {
  readonly scope: Scope;
  readonly binding: Binding;
}

export interface GivenField {
  readonly field: string;
  readonly as?: GivenCodec | undefined;
  readonly blank?: "absent" | "emptied" | undefined;
  readonly missing?: Missing | undefined;
  readonly within?: string | undefined;
  readonly node?: number | undefined;
  readonly "line ends"?: string | undefined;
  readonly "blank means"?: string | undefined;
  readonly "other words"?: string | undefined;
}

/** `variant.prices(price).amount`, taken apart: of which record, and of which of its rows. */
export interface FieldPlace {
  readonly is: "field";
  readonly context: BindContext;
  readonly given: GivenField;
  readonly scope: Scope;
  /** The lane that the field is of. */
  readonly lane: Lane | undefined;
  /** The kind of record that the field is of; of a lane, that which holds its entries. */
  readonly owner: KindSpec;
  readonly first: string;
  readonly constants: string | undefined;
  readonly inner: string | undefined;
  readonly entry: WrittenField["entry"];
  readonly lang: Lang | undefined;
  readonly bound: (feed: Feed, choice: CodecChoice) => Bound;
}

export interface AxisPlace {
  readonly is: "axis";
  readonly context: BindContext;
  readonly given: { readonly axis: number | string; readonly holds: string; readonly as?: GivenCodec | undefined };
  /** Which of a numbered column's headers this is. */
  readonly number: number;
}

/** All axes of a product in one cell. */
export interface AxesPlace {
  readonly is: "axes";
  readonly context: BindContext;
  readonly given: { readonly axes: string; readonly as: GivenCodec };
}

export interface BesidePlace {
  readonly is: "beside";
  readonly context: BindContext;
  readonly given: { readonly beside: string; readonly as: GivenCodec };
}

export interface ConstantPlace {
  readonly is: "constant";
  readonly constant: string;
}

export type BindPlace = FieldPlace | AxisPlace | AxesPlace | BesidePlace | ConstantPlace;

/** The records that a word stands for: the rows', their children, a lane. @throws Mistake */
export function scopeOf(word: string, { given, shape, lanes }: BindContext): Scope {
  if (lanes.some((lane) => lane.name === word)) return { is: "lane", lane: word };
  if (Object.hasOwn(given.lanes, word)) throw new Consequence();
  if (word === shape.parent.name) return { is: "parent" };
  if (word === shape.child?.name) return { is: "child" };
  const names = [shape.parent.name, ...(shape.child ? [shape.child.name] : [])];
  throw new Mistake(
    phrase('these rows have no "{0}"', word),
    nearestSpelling(word, [...names, ...lanes.map((lane) => lane.name)]),
  );
}

/** The types of the fields of a kind, by their names. */
export function typesOf(kind: KindSpec): (field: string) => FieldType | undefined {
  return (field) => fieldOf(kind, fieldOfColumn(field))?.type;
}

/** @throws Mistake where the kind has no such field. */
export function fieldSpec(kind: KindSpec, name: string): FieldSpec {
  const field = fieldOf(kind, name);
  if (field) return field;
  const renamed = renamedField(name);
  if (renamed !== undefined && fieldOf(kind, renamed))
    throw new Mistake(phrase('"{0}" is now called "{1}"', name, renamed));
  const all = ["key", ...kind.fields.map((one) => one.name), ...Object.keys(kind.entries ?? {})];
  throw new Mistake(
    phrase('{0} has no field "{1}" (its fields are in docs/reference/kinds.md#{2})', kind.name, name, kind.name),
    fieldBySynonym(name, all) ?? nearestSpelling(name, all),
  );
}

/** @throws Mistake for a language where the field has none. */
export function fieldInLanguage(field: FieldSpec, lang: Lang | undefined, { given }: BindContext): string {
  if (lang !== undefined && !field.perLanguage)
    throw new Mistake(phrase("{0} does not depend on the language", field.name));
  return inLanguage(field.name, field.perLanguage ? (lang ?? given.language) : undefined);
}

/**
 * How a column names the records that a field refers to.
 *
 * @param owner the kind of the record that the column is of; left out for what the layout itself puts the record in.
 * @throws Mistake
 */
export function referenceSpec(
  field: FieldSpec,
  choice: Pick<CodecChoice, "by" | "path">,
  { missing, within }: Pick<GivenField, "missing" | "within">,
  { given, kinds }: BindContext,
  owner?: KindSpec,
): ReferenceSpec {
  const reference = referenceOf(field);
  // What has no name of its own is known by its code.
  const usual = fieldOf(kinds.get(reference.to), "name") ? `name@${given.language}` : "code";
  const forms = (choice.by ?? usual).split(" or ").map((form) => {
    const { name: by, lang } = splitLanguage(form);
    if (by !== "key" && by !== "code" && by !== "name" && by !== "id")
      throw new Mistake(
        phrase('"{0}" does not name a record', choice.by),
        nearestSpelling(by, ["key", "code", "id", `name@${given.language}`]),
      );
    return { by, lang };
  });
  const [first, ...others] = forms.map(({ by }) => by) as [By, ...By[]];
  if (new Set([first, ...others]).size < forms.length || (choice.path && others.length > 0))
    throw new Mistake(phrase('"{0}" names a record twice in one way', choice.by), "name or id");
  const named = forms.find(({ by }) => by === "name");
  const canCreate = named !== undefined || first === "key";
  if (missing === "create" && !canCreate)
    throw new Mistake(phrase("a record cannot be created by its {0}", first), "key");
  if (within !== undefined) checkWithin(within, kinds.get(reference.to), first, owner);
  return {
    to: reference.to,
    by: first,
    ...(others.length > 0 && { or: others }),
    lang: named && (named.lang ?? given.language),
    // A key makes a record only where the layout says so.
    missing: missing ?? (reference.missing === "create" && !named ? "error" : reference.missing),
    inTree: choice.path,
    ...(within !== undefined && { within }),
  };
}

/** @throws Mistake where records of a kind do not belong to one of the kind `within`, or the rows are not of such records. */
function checkWithin(within: string, to: KindSpec, by: By, owner: KindSpec | undefined): void {
  const kind = withinOf(to);
  if (kind === undefined) throw new Mistake(phrase("{0} records belong to no other record", to.name));
  if (kind !== within) throw new Mistake(phrase("{0} records belong to a {1}", to.name, kind), kind);
  if (owner?.name !== within) throw new Mistake(phrase('"{0}" is for columns of the {1}', "within", within));
  if (by !== "name") throw new Mistake(phrase("within a {0}, records are named by their names", within), "name");
}
