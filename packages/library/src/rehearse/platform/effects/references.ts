/** References of a record: one, a list, paths, in parts; names of nodes in other languages; fields of what is referred to. */

import { nameField } from "../../../field-name.js";
import { present } from "../../../checked.js";
import { eachOnce } from "../../../lists.js";
import type { CellValue } from "../../../codecs/codec.js";
import { fieldOf } from "../../../kind.js";
import type { PartsPlan } from "../../../layout/layout.js";
import type { ReferenceSpec } from "../../../catalogue/reference-pool.js";
import type { Use, UseOf } from "../columns.js";
import { otherwiseOf, type Named } from "../names.js";
import { recordsIn, textIn, type HeldRecord } from "../held-record.js";
import type { PlatformStore } from "../store.js";
import { renameValues } from "./axes.js";
import { isName } from "./axis-names.js";
import { each, type Act, type LookUpNow, type RecordPlace } from "./effect.js";

/** The record that a word names; undefined, and told, where it is not there. */
export function namedRecord(
  { names, record, store }: RecordPlace,
  use: Use,
  named: Named,
  word: string,
  now: LookUpNow,
): HeldRecord | undefined {
  if (use.list && !store.isListed(use.list.name, word)) {
    now.refuse(`${use.header}: "${word}" is not in the list ${use.list.name}`);
    return undefined;
  }
  const { spec } = named;
  const found =
    spec.within === undefined
      ? names.find(named, word, now.before)
      : store.owned(record, spec.to, fieldNaming(spec), word);
  if (found && found !== record) return found;
  if (use.unknown === "create" && !found)
    return spec.within === undefined ? names.make(spec, word) : makeOwned(record, store, spec, word);
  if (use.unknown === "leave out") now.note("a link leads nowhere and is left out");
  else now.refuse(`${use.header}: ${found ? "itself" : `there is no ${spec.to} "${word}"`}`);
  return undefined;
}

const fieldNaming = ({ by, lang }: ReferenceSpec): string => (by === "name" ? nameField(lang) : by);

export const referenceEffects = each<UseOf<"reference">>((use, kind) => {
  const { field, shape, spec, parts } = use.feed;
  const own = fieldOf(kind, field)?.reference;
  if (!own) return undefined;
  const named: Named = { spec, otherwise: otherwiseOf(kind, field) };
  return (place, actOf) => {
    const act = actOf(use);
    if (act.is === "leave") return;
    if (act.is !== "say") return setLinks(place, use, field, []);
    const isList = shape === "list" || shape === "paths";
    const values = isList ? (act.value as readonly CellValue[]) : [act.value];
    if (parts) return place.lookUp(use, (now) => setParts(place, use, parts, values, now));
    place.lookUp(use, (now) => {
      const all = values.map((value) =>
        typeof value === "string" ? namedRecord(place, use, named, value, now) : nodeOf(place, use, value, now),
      );
      place.leftOut.note(field, all);
      setLinks(place, use, field, distinct(all), now);
    });
  };
});

/** The records that were found, each once. */
const distinct = (found: readonly (HeldRecord | undefined)[]): readonly HeldRecord[] =>
  eachOnce(found.filter((one) => one !== undefined));

/** Records of the other kind that a field may lead to are kept in the field for them. */
function setLinks(
  { store, record, kind, isNew, refuse, importing }: RecordPlace,
  { header, rule }: Use,
  field: string,
  found: readonly HeldRecord[],
  now?: LookUpNow,
): void {
  const reference = fieldOf(kind, field)?.reference;
  const before = recordsIn(record.fields, field);
  if (rule?.fixed && !isNew && before.length > 0 && (before.length !== found.length || before[0] !== found[0]))
    (now?.refuse ?? refuse)(`${header}: never changes`);
  const isAdding = importing.lists === "add" && reference?.list === true && now !== undefined;
  const own = found.filter((one) => one.kind === reference?.to);
  store.set(record, field, isAdding ? eachOnce([...before, ...own]) : own);
  if (reference?.otherwise !== undefined)
    store.set(
      record,
      reference.otherwise,
      found.filter((one) => one.kind !== reference.to),
    );
}

function nodeOf(
  { names, store }: RecordPlace,
  use: UseOf<"reference">,
  path: CellValue,
  now: LookUpNow,
): HeldRecord | undefined {
  const nodes = path as readonly string[];
  const { spec } = use.feed;
  if (use.list && !store.isListed(use.list.name, nodes.join(use.list.joint))) {
    now.refuse(`${use.header}: "${nodes.join(use.list.joint)}" is not in the list ${use.list.name}`);
    return undefined;
  }
  // The root word alone stands for none.
  if (nodes.length === 0) return undefined;
  const found = names.node({ spec }, nodes, now.before);
  if (found) return found;
  if (use.unknown === "create") return names.makePath(spec, nodes);
  if (use.unknown === "leave out") now.note("a link leads nowhere and is left out");
  else now.refuse(`${use.header}: there is no ${spec.to} "${nodes.join(" / ")}"`);
  return undefined;
}

/** What cells say in parts of the records that they name, and of those that these contain. */
function setParts(
  place: RecordPlace,
  use: UseOf<"reference">,
  parts: PartsPlan,
  values: readonly CellValue[],
  now: LookUpNow,
): void {
  const { store, record } = place;
  const { field, spec } = use.feed;
  const before = recordsIn(record.fields, field);
  const said: HeldRecord[] = [];
  for (const value of values) {
    const tuple = typeof value === "string" ? [value] : value;
    const word = wordOf(parts, tuple);
    const known = namedRecord(place, use, { spec }, word, now);
    if (!known) continue;
    sayParts(place, known, parts, tuple);
    said.push(known);
  }
  if (new Set(said).size < said.length) now.refuse(`${use.header}: an entry comes twice`);
  store.set(record, field, said);
  for (const one of before) if (one.owner === record && !said.includes(one)) store.remove(one);
}

const wordOf = (parts: PartsPlan, tuple: readonly CellValue[]): string =>
  (tuple[parts.findIndex(({ is }) => is === "name")] as string | undefined) ?? "";

/** A record of a name that belongs to the one that names it. */
function makeOwned(owner: HeldRecord, store: PlatformStore, spec: ReferenceSpec, word: string): HeldRecord {
  const made = store.create(spec.to, { owner });
  store.set(made, fieldNaming(spec), word);
  return made;
}

function sayParts(place: RecordPlace, record: HeldRecord, parts: PartsPlan, tuple: readonly CellValue[]): void {
  const { store } = place;
  parts.forEach((part, at) => {
    const value = tuple[at] ?? "";
    if (part.is === "text") store.set(record, part.field, value as string);
    if (part.is !== "children") return;
    const tuples = part.list ? (value as readonly CellValue[]) : value.length === 0 ? [] : [value];
    const before = store.childrenOf(record);
    const said = tuples.map((one) => {
      const inner = typeof one === "string" ? [one] : one;
      const plan: PartsPlan = part.parts ?? [{ is: "name" }];
      const word = wordOf(plan, inner);
      const field = fieldNaming(part.spec);
      let child = before.find((other) => textIn(other.fields, field) === word);
      if (!child) {
        child = store.create(part.spec.to, { container: record, owner: record.owner });
        store.set(child, field, word);
      }
      sayParts(place, child, plan, inner);
      return child;
    });
    for (const child of before) if (!said.includes(child)) store.remove(child);
  });
}

/** Names, in another language, of the nodes that the column beside leads to. */
export const namingEffects = each<UseOf<"naming">>((use, _, layout) => {
  const beside = layout.columns[use.feed.beside]?.bindings[0]?.feed;
  if (beside?.is !== "reference") return undefined;
  const { lang, list } = use.feed;
  return (place, actOf) => {
    const act = actOf(use);
    if (act.is !== "say") return;
    const all = (list ? act.value : [act.value]) as readonly (readonly string[])[];
    place.lookUp(use, (now) => {
      const { store, record } = place;
      const paths = withoutThose(all, place.leftOut.get(beside.field));
      const nodes = recordsIn(record.fields, beside.field).map(pathTo);
      if (nodes.length !== paths.length || nodes.some((path, at) => path.length !== paths[at]!.length))
        return now.refuse(`${use.header}: not parallel`);
      nodes.forEach((path, at) => path.forEach((node, deep) => store.set(node, nameField(lang), paths[at]![deep])));
    });
  };
}, "after references");

/** The same on a row that names one node: @param named the columns by which the row names it. */
export function nameOfRow(
  place: RecordPlace,
  use: UseOf<"naming">,
  named: readonly UseOf<"reference">[],
  actOf: (use: Use) => Act,
): void {
  const [beside] = named;
  const act = actOf(use);
  const says = beside && actOf(beside);
  if (!beside || act.is !== "say" || says?.is !== "say") return;
  const path = says.value as readonly string[];
  const names = act.value as readonly string[];
  // Looked up as the names that it stands beside.
  place.lookUp(beside, (now) => {
    const node = place.names.node(beside.feed, path, now.before);
    if (!node) return;
    const nodes = pathTo(node);
    if (nodes.length !== names.length) return now.refuse(`${use.header}: not parallel`);
    nodes.forEach((one, deep) => place.store.set(one, nameField(use.feed.lang), names[deep]));
  });
}

/** A node with those above it, the root first. */
export function pathTo(node: HeldRecord): HeldRecord[] {
  const path: HeldRecord[] = [];
  for (let at: HeldRecord | undefined = node; at && !path.includes(at); at = recordsIn(at.fields, "parent")[0])
    path.unshift(at);
  return path;
}

/** A field of the records that a reference of the row leads to, or of an entry of theirs. */
export const referredEffects = each<UseOf<"referred">>((use) => {
  const { via, node, field, list, entry } = use.feed;
  return (place, actOf) => {
    const act = actOf(use);
    if (act.is === "leave") return;
    const all = act.is === "say" ? (list ? (act.value as readonly string[]) : [act.value as string]) : [];
    place.lookUp(use, (now) => {
      const { store, record } = place;
      const values = withoutThose(all, place.leftOut.get(via));
      // A single text is of the first that the row names.
      if (!list && values.length < all.length) return;
      const named = recordsIn(record.fields, via).slice(0, list ? undefined : 1);
      const led = named.flatMap((one) => (node === undefined ? [one] : (pathTo(one)[node - 1] ?? [])));
      if (act.is === "say" && led.length !== values.length) return now.refuse(`${use.header}: not parallel`);
      const textOf = (at: number) => (act.is === "begin" ? act.text : values[at]);
      if (via === "values" && !entry && isName(field))
        return renameValues(place, field, new Map(led.map((one, at) => [one, textOf(at)])));
      led.forEach((one, at) => {
        const text = textOf(at);
        if (!entry) return store.set(one, field, text);
        const constants = Object.entries(entry.constants);
        const others = one.entries.get(entry.entries) ?? [];
        const found = others.find((other) => constants.every(([name, value]) => textIn(other, name) === value));
        const said = found?.copy() ?? store.newEntry(present(place.kinds.get(one.kind).entries?.[entry.entries]));
        for (const [name, value] of constants) said.set(name, value);
        said.set(field, text === "" ? undefined : text);
        store.setEntries(one, entry.entries, others.filter((other) => other !== found).concat(said));
      });
    });
  };
}, "after references");

/** A list beside names without what is beside those that are left out. */
const withoutThose = <T>(list: readonly T[], leftOut: ReadonlySet<number> | undefined): readonly T[] =>
  list.filter((_, at) => !leftOut?.has(at));
