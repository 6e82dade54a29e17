/**
 * What has to hold among the records of a platform, whatever its files: nothing lies below itself or is a part of itself, keys and codes
 * are of one record, what a parent contains has one value on each of its axes, and no two of them are alike.
 */

import { nameField } from "../../field-name.js";
import { fieldOf, type KindSpec } from "../../kind.js";
import type { Kinds } from "../../kinds.js";
import { firstField, recordsIn, textIn, type HeldRecord } from "./held-record.js";
import type { PlatformStore } from "./store.js";
import { pushAll } from "../../lists.js";

/** How a record is looked at. */
interface LookedAt {
  /** Whether what contains it is not looked at for itself. */
  readonly isAlone: boolean;
  /** Records that stand on the row of what contains them, as what is sold by itself does. */
  readonly besideParents: ReadonlySet<HeldRecord>;
  /** The language whose names make axes and values. */
  readonly axisLanguage: string | undefined;
}

const none: readonly string[] = [];

/** Why a record cannot be there as it is, in words. */
export function problemsOf(record: HeldRecord, store: PlatformStore, kinds: Kinds, how: LookedAt): string[] {
  if (!record.isThere) return [];
  const { hasAxes, hasValues, parts } = constrained(kinds.get(record.kind), kinds);
  // Asked of every record; most have none.
  const problems: string[] = [];
  if (isBelowItself(record)) problems.push("it lies below itself");
  if (isPartOfItself(record, record.kind, parts)) problems.push("it is a part of itself");
  if (isKeyTaken(record, store)) problems.push(`there is a ${record.kind} "${textIn(record.fields, "key")}" already`);
  if (isCodeTaken(record, store, kinds)) problems.push("the code is taken");
  if (hasAxes) pushAll(problems, parentProblems(record, store, how));
  if (how.isAlone && hasValues) pushAll(problems, childProblems(record, store, how));
  return problems;
}

function isBelowItself(record: HeldRecord): boolean {
  const above = recordsIn(record.fields, "parent")[0];
  if (!above) return false;
  const seen = new Set<HeldRecord>();
  for (let at: HeldRecord | undefined = above; at && !seen.has(at); at = recordsIn(at.fields, "parent")[0]) {
    if (at === record) return true;
    seen.add(at);
  }
  return false;
}

/** By the entries that cannot be without what they lead to: the components of a bundle. */
function isPartOfItself(record: HeldRecord, name: string, parts: readonly PartList[]): boolean {
  for (const { list, fields } of parts) {
    if (!record.entries.has(list)) continue;
    const open = [record];
    const seen = new Set<HeldRecord>();
    for (let at = open.pop(); at; at = open.pop())
      for (const entry of at.entries.get(list) ?? [])
        for (const led of fields.flatMap((field) => recordsIn(entry, field))) {
          const whole = led.kind === name ? led : led.container;
          if (whole === record) return true;
          if (!whole || seen.has(whole)) continue;
          seen.add(whole);
          open.push(whole);
        }
  }
  return false;
}

/** A list of entries, and the fields of these that lead to parts. */
interface PartList {
  readonly list: string;
  readonly fields: readonly string[];
}

/** What is asked of the records of a kind. */
interface Constrained {
  readonly hasAxes: boolean;
  readonly hasValues: boolean;
  readonly parts: readonly PartList[];
}

const ofKinds = new WeakMap<KindSpec, Constrained>();

/** Worked out once for each kind: it is asked of every record. */
function constrained(kind: KindSpec, kinds: Kinds): Constrained {
  let known = ofKinds.get(kind);
  if (!known) {
    const has = (field: string): boolean => fieldOf(kind, field) !== undefined;
    ofKinds.set(kind, (known = { hasAxes: has("axes"), hasValues: has("values"), parts: partsOf(kind, kinds) }));
  }
  return known;
}

function partsOf({ name, entries = {} }: KindSpec, kinds: Kinds): PartList[] {
  return Object.entries(entries).flatMap(([list, embedded]) => {
    const fields = kinds.get(embedded).fields.flatMap(({ name: field, reference }) => {
      const isPart =
        reference?.dependency === "required" && (reference.to === name || kinds.get(reference.to).of === name);
      return isPart ? [field] : [];
    });
    return fields.length > 0 ? [{ list, fields }] : [];
  });
}

const codedKinds = new WeakMap<Kinds, readonly string[]>();

/** The kinds whose records have codes. */
export function kindsWithCode(kinds: Kinds): readonly string[] {
  let known = codedKinds.get(kinds);
  if (!known)
    codedKinds.set(kinds, (known = kinds.roots.filter((kind) => fieldOf(kind, "code")).map(({ name }) => name)));
  return known;
}

function isKeyTaken(record: HeldRecord, store: PlatformStore): boolean {
  const key = textIn(record.fields, "key");
  return key !== undefined && store.findWhere(record.kind, "key", key, (other) => other !== record) !== undefined;
}

function isCodeTaken(record: HeldRecord, store: PlatformStore, kinds: Kinds): boolean {
  const code = textIn(record.fields, "code");
  if (code === undefined) return false;
  const isOther = (other: HeldRecord): boolean => other !== record;
  return kindsWithCode(kinds).some((kind) => store.findWhere(kind, "code", code, isOther) !== undefined);
}

/** A code of its own, or what it contains; each of these with one value on each axis, and no two of them alike. */
function parentProblems(record: HeldRecord, store: PlatformStore, how: LookedAt): readonly string[] {
  const children = store.childrenOf(record);
  if (children.length === 0) return none;
  const problems = new Set<string>();
  const hasCode = textIn(record.fields, "code") !== undefined;
  const isBeside = children.length > 1 && children.some((child) => how.besideParents.has(child));
  if (hasCode || isBeside) problems.add("a code, and variants");
  const seen = new Set<string>();
  for (const child of children) {
    // What had its axes taken off gets its values row by row.
    if (store.isWithoutAxes(record) && recordsIn(child.fields, "values").length === 0) continue;
    if (!fitsAxes(child, record)) problems.add("the values do not fit the axes");
    const own = combination(child, how.axisLanguage);
    if (seen.has(own)) problems.add("two variants are alike");
    seen.add(own);
  }
  return [...problems];
}

function childProblems(record: HeldRecord, store: PlatformStore, how: LookedAt): readonly string[] {
  const parent = record.container;
  return parent?.isThere ? parentProblems(parent, store, how) : none;
}

function fitsAxes(child: HeldRecord, parent: HeldRecord): boolean {
  const axes = recordsIn(parent.fields, "axes");
  const values = recordsIn(child.fields, "values");
  return values.length === axes.length && axes.every((axis) => values.some(({ container }) => container === axis));
}

/** What tells a child apart: its values; those that it has by name alone count by their names. */
function combination(record: HeldRecord, lang: string | undefined): string {
  const words = recordsIn(record.fields, "values").map((value) =>
    value.owner ? `${value.container?.number} ${mainName(value, lang)}` : String(value.number),
  );
  const isSorted = words.every((word, at) => at === 0 || words[at - 1]! <= word);
  return (isSorted ? words : words.sort()).join("\u0000");
}

/** The name that it was made by: in the language of axes, else the one that it has. */
const mainName = ({ fields }: HeldRecord, lang: string | undefined): string =>
  textIn(fields, nameField(lang)) ??
  textIn(fields, firstField(fields, (field) => field.startsWith("name@")) ?? "") ??
  "";
