/** One column of a layout, from how it is written to what it feeds: `product.name@de`, an axis, a field of a referenced record. */

import type { Header, Lang } from "../nominal.js";
import { firstOf, fitting, present } from "../checked.js";
import { fieldOfColumn, inLanguage, parseWritten, splitLanguage, splitTable } from "../field-name.js";
import { fixOf, type GivenFix } from "../codecs/fixes.js";
import { textCodec } from "../codecs/scalars.js";
import type { By, ReferenceSpec } from "../catalogue/reference-pool.js";
import { renamedField } from "../given/old-words.js";
import { fieldBySynonym } from "./meanings.js";
import { nearestSpelling } from "../spelling.js";
import {
  entryKeyOf,
  referenceOf,
  fieldOf,
  type FieldSpec,
  type FieldType,
  type Kinds,
  type KindSpec,
  type Missing,
} from "../kind.js";
import { codecOf, type CodecChoice, type PartChoice } from "./codec-of.js";
import type { Binding, Constants, EntryField, Lane, PartPlan, PartsPlan, Scope, Shape, Feed } from "./layout.js";
import type { GivenBinding, GivenCodec, GivenLayout } from "./schema.js";
import { phrase, type Text } from "../phrases/phrase.js";

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

export interface BindContext {
  readonly given: GivenLayout;
  readonly kinds: Kinds;
  readonly shape: Shape;
  readonly lanes: readonly Lane[];
  readonly headers: readonly Header[];
  /** Which language leads, by axis and what its columns hold. */
  readonly axisLeads: Map<string, string>;
}

export interface Bound {
  readonly scope: Scope;
  readonly binding: Binding;
}

interface GivenField {
  readonly field: string;
  readonly as?: GivenCodec | undefined;
  readonly blank?: "absent" | "emptied" | undefined;
  readonly missing?: Missing | undefined;
  readonly node?: number | undefined;
  readonly "line ends"?: string | undefined;
}

/**
 * @param number which of a numbered column's headers this is.
 * @throws Mistake with what is wrong; Consequence where that is reported elsewhere.
 */
export function bindOne(given: GivenBinding, number: number, context: BindContext): Bound {
  if (typeof given === "string") return bindField({ field: given }, context);
  if ("axis" in given) return bindAxis(given, number, context);
  if ("beside" in given) return bindBeside(given, context);
  if ("constant" in given) {
    const target: Feed = { is: "shape", constant: given.constant };
    return {
      scope: { is: "parent" },
      binding: { feed: target, codec: textCodec, blankEmpties: false, name: "constant" },
    };
  }
  return bindField(given, context);
}

export function fixesOf(given: GivenBinding): { readonly name: string; readonly fix: (text: string) => string }[] {
  const list = typeof given === "object" && "fix" in given ? [given.fix ?? []].flat() : [];
  return list.map((one: GivenFix) => ({
    name: typeof one === "string" ? one : `pad ${one.pad}`,
    fix: fixOf(one),
  }));
}

function bindAxis(
  given: { axis: number | string; holds: string; as?: GivenCodec | undefined },
  number: number,
  context: BindContext,
): Bound {
  const { shape, axisLeads } = context;
  if (shape.parent.name !== "product" || !shape.child)
    throw new Mistake(phrase("axes need rows that are variants of a product"));
  const names = shape.is === "expanded" ? ["name", "values"] : ["name", "value"];
  const { name: holds, lang = context.given.language } = splitLanguage(given.holds);
  if (!names.includes(holds))
    throw new Mistake(phrase('"{0}" is not {1}', given.holds, names.join(" or ")), nearestSpelling(holds, names));
  const choice = codecOf(given.as, "text");
  if (choice.list !== (holds === "values"))
    throw new Mistake(
      holds === "values" ? phrase("values need a list") : phrase("{0} is a single text, not a list", holds),
    );
  const scope: Scope = { is: holds === "value" ? "child" : "parent" };
  const as = { codec: choice.codec, blankEmpties: false };
  if (typeof given.axis === "string" && given.axis !== "{n}") {
    if (holds === "name") throw new Mistake(phrase("an axis that the layout names needs no column for its name"));
    const target: Feed = { is: "named-axis", axis: given.axis, holds: holds as "value" | "values", lang };
    return { scope, binding: { ...as, feed: target, name: `axis ${given.axis}` } };
  }
  const which = typeof given.axis === "number" ? given.axis : number;
  const lead = axisLeads.get(`${which} ${holds}`) ?? lang;
  axisLeads.set(`${which} ${holds}`, lead);
  const target: Feed = {
    is: "axis",
    number: which,
    holds: holds as "name" | "value" | "values",
    lang,
    leads: lead === lang,
  };
  return { scope, binding: { ...as, feed: target, name: `axis ${which} ${holds}@${lang}` } };
}

function bindBeside(given: { beside: string; as: GivenCodec }, context: BindContext): Bound {
  const beside = context.headers.indexOf(given.beside);
  if (beside < 0)
    throw new Mistake(phrase('there is no column "{0}"', given.beside), nearestSpelling(given.beside, context.headers));
  const choice = codecOf(given.as, "text");
  const { name: by, lang } = splitLanguage(choice.by ?? "");
  if (!choice.path || by !== "name" || lang === undefined)
    throw new Mistake(phrase('"beside" takes paths by a name in another language'));
  const leader = context.given.columns[given.beside];
  const field = typeof leader === "string" ? leader : ((leader as { field?: string } | undefined)?.field ?? "");
  const target: Feed = { is: "naming", beside, lang, list: choice.list };
  return {
    scope: scopeOf(splitTable(field).kind, context),
    binding: { feed: target, codec: choice.codec, blankEmpties: false, name: `names of ${given.beside}@${lang}` },
  };
}

function scopeOf(word: string, { given, shape, lanes }: BindContext): Scope {
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

function bindField(given: GivenField, context: BindContext): Bound {
  const parsed = parseWritten(given.field);
  if (!parsed) throw new Mistake(phrase('"{0}" is not a field. Write it like product.name@en', given.field));
  const { kind: word, field: first, constants: constant, inner, lang } = parsed;
  const scope = scopeOf(word, context);
  const bound = (target: Feed, { codec }: CodecChoice): Bound => ({
    scope,
    binding: {
      feed: target,
      codec,
      blankEmpties: given.blank === "emptied",
      name: given.field,
      ...(given["line ends"] === undefined ? {} : { lineEnds: given["line ends"] }),
    },
  });
  if (scope.is === "lane") {
    const lane = fitting(context.lanes, (one) => one.name === scope.lane);
    return bindLane(given, lane, first, lang, context, bound);
  }
  const kind = scope.is === "parent" ? context.shape.parent : present(context.shape.child);
  if (first === "key") return bound({ is: "key" }, codecOf(given.as, "text"));
  if (first === kind.of && context.shape.is === "flat") {
    const choice = codecOf(given.as, undefined);
    const reference = { name: first, reference: { to: first, dependency: "containing", missing: "error" } } as const;
    return bound({ is: "container", spec: referenceSpec(reference, choice, "error", context) }, choice);
  }
  const entryKind = kind.entries?.[first];
  if (entryKind !== undefined) {
    const embedded = context.kinds.get(entryKind);
    const constants = constantsOf(embedded, constant);
    if (inner === undefined) return bindEntries(given, first, embedded, constants, context, bound);
    const { field, choice } = entryField(embedded, inner, lang, given, context);
    const parallel = choice.list ? [field.name] : [];
    return bound({ is: "entry", entries: first, constants, field, parallel }, choice);
  }
  const field = fieldSpec(kind, first);
  if (field.reference) return bindReference(given, field, inner, lang, context, bound);
  const choice = codecOf(given.as, field.type);
  if (choice.list || choice.path || choice.parts)
    throw new Mistake(phrase("{0} takes a single text, not a list", given.field));
  return bound({ is: "text", field: fieldInLanguage(field, lang, context) }, choice);
}

/** `prices(price)`, or with more of the entry's key: `prices(price, hire: day)`. */
function constantsOf(embedded: KindSpec, written: string | undefined): Constants {
  if (written === undefined) return {};
  const [first = "", ...others] = written.split(/,\s*/);
  const pairs = others.map((one): [string, string] => {
    const [name = "", value] = one.split(/:\s*/);
    const field = fieldOf(embedded, name);
    if (!field?.type || !entryKeyOf(embedded).includes(name) || value === undefined)
      throw new Mistake(
        phrase('"{0}" does not distinguish entries of {1}', one, embedded.name),
        nearestSpelling(name, entryKeyOf(embedded)),
      );
    return [name, value];
  });
  return { [firstOf(entryKeyOf(embedded))]: first, ...Object.fromEntries(pairs) };
}

type MakeBound = (target: Feed, choice: CodecChoice) => Bound;

function bindLane(
  given: GivenField,
  lane: Lane,
  first: string,
  lang: Lang | undefined,
  context: BindContext,
  bound: MakeBound,
): Bound {
  const owner = lane.of === "parent" ? context.shape.parent : present(context.shape.child);
  if (lane.holds === "references") {
    const spec = fieldSpec(owner, lane.collection);
    const choice = codecOf(given.as, spec.type);
    if (first !== "each" || choice.list)
      throw new Mistake(phrase("a row has one entry of {0}", lane.collection), `${lane.name}.each`);
    const reference = referenceSpec(spec, choice, given.missing, context);
    const shape = choice.path ? "path" : "one";
    return bound({ is: "reference", field: lane.collection, shape, spec: reference, parts: undefined }, choice);
  }
  const embedded = context.kinds.get(present(owner.entries)[lane.collection]!);
  const { field, choice } = entryField(embedded, first, lang, given, context);
  if (choice.list) throw new Mistake(phrase("a row of {0} has one entry, not a list", lane.name));
  return bound({ is: "entry", entries: lane.collection, constants: lane.constants, field, parallel: [] }, choice);
}

function bindEntries(
  given: GivenField,
  entries: string,
  embedded: KindSpec,
  constants: Constants,
  context: BindContext,
  bound: MakeBound,
): Bound {
  const choice = codecOf(given.as, "text", typesOf(embedded));
  if (!choice.parts) {
    const field = fitting(embedded.fields, (one) => one.name !== entryKeyOf(embedded)[0]).name;
    throw new Mistake(
      phrase("{0} needs a field of its entries, or their parts", given.field),
      `${given.field}.${field}`,
    );
  }
  const parts = choice.parts.map((part): PartPlan => {
    const { name, lang } = splitLanguage(part.field);
    const field = fieldSpec(embedded, name);
    if (!field.reference) return { is: "text", field: fieldInLanguage(field, lang, context) };
    return { is: "reference", field: name, spec: referenceSpec(field, part, given.missing, context) };
  });
  return bound({ is: "entries", entries, constants, list: choice.list, parts }, choice);
}

function bindReference(
  given: GivenField,
  field: FieldSpec,
  inner: string | undefined,
  lang: Lang | undefined,
  context: BindContext,
  bound: MakeBound,
): Bound {
  const to = context.kinds.get(referenceOf(field).to);
  if (inner !== undefined) {
    const referred = fieldSpec(to, inner);
    if (referred.reference)
      throw new Mistake(
        phrase("{0} of {1} is a reference. Bind it in a layout whose rows are {2} records", inner, to.name, to.name),
      );
    const choice = codecOf(given.as, referred.type);
    const name = fieldInLanguage(referred, lang, context);
    return bound({ is: "referred", via: field.name, node: given.node, field: name, list: choice.list }, choice);
  }
  const choice = codecOf(given.as, field.type, typesOf(to));
  if (choice.list && !referenceOf(field).list)
    throw new Mistake(phrase("{0} takes one {1}, not a list", given.field, to.name));
  const shape = choice.path ? (choice.list ? "paths" : "path") : choice.list ? "list" : "one";
  const plan = choice.parts && referenceParts(choice.parts, field, context);
  const spec = referenceSpec(field, plan ? { ...choice, by: plan.by } : choice, given.missing, context);
  return bound({ is: "reference", field: field.name, shape, spec, parts: plan?.parts }, choice);
}

/** The parts of a cell that names records: their name, their other fields, and what they contain. */
function referenceParts(
  choices: readonly PartChoice[],
  field: FieldSpec,
  context: BindContext,
): { readonly by: string; readonly parts: PartsPlan } {
  const { kinds } = context;
  const to = kinds.get(referenceOf(field).to);
  let by: string | undefined;
  const parts = choices.map((part): PartPlan => {
    const { name, lang } = splitLanguage(part.field);
    if (by === undefined && ["name", "key", "code", "id"].includes(name)) {
      by = part.field;
      return { is: "name" };
    }
    const child = kinds.childOf(to.name);
    if (child && child.name === name) {
      const reference = { name, reference: { to: name, dependency: "linking", missing: "create" } } as const;
      const inner = part.parts && referenceParts(part.parts, reference, context);
      const spec = referenceSpec(reference, inner ? { ...part, by: inner.by } : part, "create", context);
      return { is: "children", spec, list: part.list, parts: inner?.parts };
    }
    const own = fieldSpec(to, name);
    if (own.reference)
      throw new Mistake(
        phrase("{0} of {1} is a reference. Bind it in a layout whose rows are {2} records", name, to.name, to.name),
      );
    return { is: "text", field: fieldInLanguage(own, lang, context) };
  });
  if (by === undefined)
    throw new Mistake(phrase("one of the parts has to name the {0}", to.name), `name@${context.given.language}`);
  return { by, parts };
}

function typesOf(kind: KindSpec): (field: string) => FieldType | undefined {
  return (field) => fieldOf(kind, fieldOfColumn(field))?.type;
}

function fieldSpec(kind: KindSpec, name: string): FieldSpec {
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

function fieldInLanguage(field: FieldSpec, lang: Lang | undefined, { given }: BindContext): string {
  if (lang !== undefined && !field.perLanguage)
    throw new Mistake(phrase("{0} does not depend on the language", field.name));
  return inLanguage(field.name, field.perLanguage ? (lang ?? given.language) : undefined);
}

function entryField(
  kind: KindSpec,
  name: string,
  lang: Lang | undefined,
  given: GivenField,
  context: BindContext,
): { field: EntryField; choice: CodecChoice } {
  const field = fieldSpec(kind, name);
  const choice = codecOf(given.as, field.type);
  if (choice.parts) throw new Mistake(phrase("{0} is a single field, but parts feed whole entries", given.field));
  if (!field.reference)
    return { field: { is: "text", name: fieldInLanguage(field, lang, context), list: choice.list }, choice };
  return {
    field: { is: "reference", name, list: choice.list, spec: referenceSpec(field, choice, given.missing, context) },
    choice,
  };
}

function referenceSpec(
  field: FieldSpec,
  choice: Pick<CodecChoice, "by" | "path">,
  missing: Missing | undefined,
  { given, kinds }: BindContext,
): ReferenceSpec {
  const reference = referenceOf(field);
  // What has no name of its own is known by its code.
  const usual = fieldOf(kinds.get(reference.to), "name") ? `name@${given.language}` : "code";
  const [first, ...others] = (choice.by ?? usual).split(" or ");
  const { name: by, lang } = splitLanguage(present(first));
  if (by !== "key" && by !== "code" && by !== "name" && by !== "id")
    throw new Mistake(
      phrase('"{0}" does not name a record', choice.by),
      nearestSpelling(by, ["key", "code", "id", `name@${given.language}`]),
    );
  const isIdentity = (form: string) => form === "key" || form === "code" || form === "id";
  if (others.length > 0 && ![by, ...others].every(isIdentity))
    throw new Mistake(phrase('each part of "{0}" has to be key, code or id', choice.by), "code or key");
  return {
    to: reference.to,
    by,
    ...(others.length > 0 && { or: others as By[] }),
    lang: by === "name" ? (lang ?? given.language) : undefined,
    missing: missing ?? reference.missing,
    inTree: choice.path,
  };
}
