/**
 * Entries of a record: one of several columns together, lists that run beside each other, whole entries in parts, and rows that are an
 * entry each.
 */

import type { CellValue } from "../../../codecs/codec.js";
import { entryKeyOf, fieldOf, type KindSpec } from "../../../kind.js";
import type { Layout } from "../../../layout/layout.js";
import { added } from "../../../lists.js";
import type { Use } from "../columns.js";
import { otherwiseOf, type Named } from "../names.js";
import {
  heldCell,
  sameEntry,
  sameValue,
  valueIn,
  type EntryCells,
  type HeldEntry,
  type HeldValue,
} from "../held-record.js";
import type { Act, Effect, EffectsOf, LookUpNow, RecordPlace } from "./effect.js";
import {
  selectionOf,
  selectionOnce,
  selects,
  type EntriesUse,
  type EntrySelection,
  type EntryUse,
} from "./entry-selection.js";
import { namedRecord } from "./references.js";
import { SharedEntries } from "./shared-entries.js";

export const entryEffects: EffectsOf<EntryUse> = (uses, kind) => {
  const groups = new Map<string, { readonly parallel: readonly string[]; readonly uses: EntryUse[] }[]>();
  for (const use of uses) {
    const { entries, constants, field, parallel } = use.feed;
    if (!kind.entries?.[entries]) continue;
    const key = JSON.stringify([entries, constants, field.list]);
    const known = groups.get(key) ?? [];
    groups.set(key, known);
    const group = known.find((one) => one.parallel === parallel);
    if (group) group.uses.push(use);
    else known.push({ parallel, uses: [use] });
  }
  return [...groups.values()].flat().map((group): Effect => ({
    when: "first",
    apply: group.uses[0]!.feed.field.list ? applyLists(group.uses) : applyOne(group.uses),
  }));
};

/** What the columns of a group ask for, of those entries that they are about. */
interface GroupActs {
  /** Those of them that ask for anything. */
  readonly asking: readonly EntryUse[];
  readonly actOf: (use: EntryUse) => Act;
  readonly first: EntryUse;
  readonly selection: EntrySelection;
  readonly now: LookUpNow;
}

/** Columns that make entries together: looked up once, and left alone where none of them asks for anything. */
const together = (
  uses: readonly EntryUse[],
  apply: (place: RecordPlace, group: GroupActs) => void,
): Effect["apply"] => {
  const first = uses[0]!;
  const select = selectionOnce(first, first.feed.parallel);
  const isNaming = uses.some(({ feed: { field, named } }) => field.is === "reference" || Object.keys(named).length > 0);
  return (place, actOf) => {
    let left = 0;
    let clear = 0;
    for (const use of uses) {
      const { is } = actOf(use);
      if (is === "leave") left++;
      else if (is === "clear") clear++;
    }
    if (left === uses.length) return;
    // Most cells are blank, and most records have nothing that they could take out.
    if (left + clear === uses.length && entriesOf(place, first.feed.entries).length === 0) return;
    const asking = left === 0 ? uses : uses.filter((use) => actOf(use).is !== "leave");
    const selection = select(place);
    // Most entries name nothing.
    if (isNaming) applyOnLookUp(place, { asking, actOf, first, selection }, apply);
    else apply(place, { asking, actOf, first, selection, now: atOnce(place) });
  };
};

function applyOnLookUp(
  place: RecordPlace,
  group: Omit<GroupActs, "now">,
  apply: (place: RecordPlace, group: GroupActs) => void,
): void {
  lookUpAll(place, group.asking, group.actOf, (now) => apply(place, { ...group, now }));
}

/** The columns of one entry. */
function applyOne(uses: readonly EntryUse[]): Effect["apply"] {
  const shared = SharedEntries.isFor(uses) ? new SharedEntries(uses) : undefined;
  return together(uses, (place, { asking, actOf, first, selection, now }) => {
    const all = entriesOf(place, selection.list);
    const alike = asking === uses ? shared?.of(place, selection, actOf) : undefined;
    if (alike && !all.some(alike.isSelected)) {
      if (alike.entries.length > 0)
        place.store.setEntries(
          place.record,
          selection.list,
          all.length > 0 ? all.concat(alike.entries) : alike.entries,
        );
      return;
    }
    const constants = constantCells(place, first, selection, now, saysAny(asking, actOf));
    const { size } = constants;
    const at = all.length === 0 ? -1 : all.findIndex(selects(selection, constants));
    // A new entry goes on from its constants.
    const said = at < 0 ? constants : all[at]!.copy();
    let isWhole = true;
    for (const use of asking) isWhole = sayField(place, use, selection.kind, said, actOf(use), now) && isWhole;
    const own = isWhole && said.size > size ? [said] : [];
    const after = at < 0 ? all.concat(own) : all.toSpliced(at, 1, ...own);
    place.store.setEntries(place.record, selection.list, after);
  });
}

/** Whether a cell says something of an entry. */
const saysAny = (uses: readonly EntryUse[], actOf: (use: EntryUse) => Act): boolean =>
  uses.some((use) => actOf(use).is === "say");

/** Lists beside each other: an entry for each place. */
const applyLists = (uses: readonly EntryUse[]): Effect["apply"] =>
  together(uses, (place, { asking, actOf, first, selection, now }) => {
    const constants = constantCells(place, first, selection, now, saysAny(asking, actOf));
    const lists = asking.flatMap((use) => {
      const act = actOf(use);
      return act.is === "say" ? [[use, act.value as readonly CellValue[]] as const] : [];
    });
    const count = lists[0]?.[1].length ?? 0;
    const uneven = lists.find(([, list]) => list.length !== count);
    if (uneven) return now.refuse(`${uneven[0].header}: not parallel`);
    const made = Array.from({ length: count }, (_, at) => at).flatMap((at): EntryCells[] => {
      const said = constants.copy();
      const isWhole = lists.map(([use, list]) =>
        sayField(place, use, selection.kind, said, { is: "say", value: list[at]! }, now),
      );
      return isWhole.includes(false) ? [] : [said];
    });
    const keyOf = keyText(selection.kind);
    const seen = new Set<string>();
    // What a list names twice counts once.
    const distinct = made.filter((one) => {
      const { size } = seen;
      return seen.add(keyOf(one)).size > size && one.size > constants.size;
    });
    putEntries(place, now, selection, constants, distinct);
  });

export const wholeEntriesEffects: EffectsOf<EntriesUse> = (uses, kind, layout) =>
  uses
    .filter(({ feed }) => kind.entries?.[feed.entries])
    .map((use): Effect => {
      const { list, parts } = use.feed;
      const fields = parts.flatMap((part) => ("field" in part ? [part.field] : []));
      const isBeside = hasOwnColumn(layout, use.feed);
      const [select, selectPlain] = [selectionOnce(use, fields), selectionOnce(use, [])];
      const apply: Effect["apply"] = (place, actOf) => {
        const act = actOf(use);
        if (act.is === "leave") return;
        if (act.is === "clear" && entriesOf(place, use.feed.entries).length === 0) return;
        const values = act.is === "say" ? (list ? (act.value as readonly CellValue[]) : [act.value]) : [];
        const set = (now: LookUpNow): void => {
          const selection = select(place);
          const own = constantCells(place, use, selection, now, values.length > 0);
          const made = values.flatMap((value): EntryCells[] => {
            const said = own.copy();
            const isWhole = parts.map((part, at) => {
              const text = (value as readonly string[])[at] ?? "";
              if (text !== "" && part.is === "text") said.set(part.field, text);
              if (text === "" || part.is !== "reference") return true;
              return sayReference(place, use, selection.kind, said, part.field, part, text, now);
            });
            return isWhole.includes(false) ? [] : [said];
          });
          // Entries that have no more to their key than the constants may have columns of their own.
          const plain = isBeside ? selects(selectPlain(place), own) : () => false;
          putEntries(place, now, selection, own, made, plain);
        };
        // What is emptied waits for nothing: a later file may fill it before the import is through.
        if (values.length > 0) place.lookUp(use, set);
        else set(atOnce(place));
      };
      return { when: "first", apply };
    });

/** Puts entries in the place of those that are selected, or adds them to those. @param isOther entries that are not selected after all. @param inOrder whether their order counts. */
function putEntries(
  place: RecordPlace,
  now: LookUpNow,
  selection: EntrySelection,
  constants: EntryCells,
  made: readonly HeldEntry[],
  isOther: (entry: HeldEntry) => boolean = () => false,
  inOrder = true,
): void {
  const all = entriesOf(place, selection.list);
  const before = all.length === 0 ? noEntries : selectedOf(all, selects(selection, constants), isOther);
  if (inOrder && made.length > 1 && hasTwice(made, selection.kind))
    now.refuse(`${selection.list}: an entry comes twice`);
  if (before.length > 0) putInPlace(place, selection, all, before, made, inOrder);
  else if (made.length > 0) place.store.setEntries(place.record, selection.list, all.concat(made));
}

/** Most often none is: then no list is made. */
function selectedOf(
  all: readonly HeldEntry[],
  isSelected: (entry: HeldEntry) => boolean,
  isOther: (entry: HeldEntry) => boolean,
): readonly HeldEntry[] {
  let selected: HeldEntry[] | undefined;
  for (const entry of all) if (isSelected(entry) && !isOther(entry)) selected = added(selected, entry);
  return selected ?? noEntries;
}

function hasTwice(entries: readonly HeldEntry[], kind: KindSpec): boolean {
  return new Set(entries.map(keyText(kind))).size < entries.length;
}

/** @param before those of all in whose place others come. */
function putInPlace(
  { store, record, importing }: RecordPlace,
  selection: EntrySelection,
  all: readonly HeldEntry[],
  before: readonly HeldEntry[],
  made: readonly HeldEntry[],
  inOrder: boolean,
): void {
  const after = importing.lists === "add" ? [...withoutThose(before, made, selection.kind), ...made] : made;
  const isSameSet =
    !inOrder && after.length === before.length && after.every((one) => before.some((other) => sameEntry(one, other)));
  if (isSameSet) return;
  // They stand where the first of those stood that they come for.
  const first = all.indexOf(before[0]!);
  const gone = new Set(before);
  const others = (from: number, to: number) => all.slice(from, to).filter((entry) => !gone.has(entry));
  store.setEntries(record, selection.list, others(0, first).concat(after, others(first, all.length)));
}

/** Entries but for those that others come for. */
function withoutThose(entries: readonly HeldEntry[], others: readonly HeldEntry[], kind: KindSpec): HeldEntry[] {
  const keyOf = keyText(kind);
  const gone = new Set(others.map(keyOf));
  return entries.filter((one) => !gone.has(keyOf(one)));
}

/** Whether two entries of a record are the same one. @param fields that tell them apart; those of the kind, if left out. */
export const sameKey =
  (kind: KindSpec, fields: readonly string[] = entryKeyOf(kind)) =>
  (a: HeldEntry, b: HeldEntry): boolean =>
    fields.every((field) => sameValue(valueIn(a, field), valueIn(b, field)));

/** What tells an entry apart, as a text: entries have the same where `sameKey` has them be the same one. */
function keyText(kind: KindSpec): (entry: HeldEntry) => string {
  const fields = entryKeyOf(kind);
  const textOf = (value: HeldValue | undefined): string => {
    if (value === undefined) return ";";
    // With its length, a text that looks like the end of another is none.
    if (typeof value === "string") return `${value.length}:${value};`;
    return `${value.map(({ number }) => number).join()};`;
  };
  return (entry) => fields.map((field) => textOf(valueIn(entry, field))).join("");
}

const entriesOf = ({ record }: RecordPlace, list: string): readonly HeldEntry[] =>
  record.entries.get(list) ?? noEntries;

const noEntries: readonly HeldEntry[] = [];

/** The constants of a column, those looked up that name records. @param isSaid whether a cell says something of the entry. */
function constantCells(
  place: RecordPlace,
  use: EntryUse | EntriesUse,
  { constants, named, kind }: EntrySelection,
  now: LookUpNow,
  isSaid = true,
): EntryCells {
  const cells = place.store.newEntry(kind.name);
  for (const [field, word] of constants) {
    const spec = named[field];
    if (!spec) {
      cells.set(field, word);
      const isListed = use.feed.is === "entry" && use.feed.field.is === "text";
      if (isSaid && isListed && use.list && !place.store.isListed(use.list.name, word))
        now.refuse(`${use.header}: "${word}" is not in the list ${use.list.name}`);
    }
    // What is not there has no entries that could be taken out.
    else if (isSaid || place.names.find({ spec }, word, now.before))
      sayReference(place, use, kind, cells, field, { spec }, word, now);
    else cells.set(field, []);
  }
  return cells;
}

/** What a column says of an entry. @returns false where the entry is left out with a name, or a picture, by which it is told apart. */
function sayField(
  place: RecordPlace,
  use: EntryUse,
  kind: KindSpec,
  said: EntryCells,
  act: Act,
  now: LookUpNow,
): boolean {
  const { field } = use.feed;
  if (act.is === "leave") return true;
  if (act.is === "begin") {
    said.set(field.name, heldCell(act.text, true));
    return true;
  }
  const text = act.is === "say" ? (act.value as string) : "";
  if (field.is === "reference") return sayReference(place, use, kind, said, field.name, field, text, now);
  said.set(field.name, text === "" ? undefined : text);
  // The other cells of a missing picture go with it.
  return !(use.rule?.picture && act.is === "say" && text === "");
}

/** @returns false where the name leads nowhere, and nothing else tells the entry apart. */
function sayReference(
  place: RecordPlace,
  use: Use,
  kind: KindSpec,
  said: EntryCells,
  field: string,
  { spec }: Named,
  word: string,
  now: LookUpNow,
): boolean {
  const other = fieldOf(kind, field)?.reference?.otherwise;
  said.set(field, undefined);
  if (other !== undefined) said.set(other, undefined);
  if (word === "") return true;
  const found = namedRecord(place, use, { spec, otherwise: otherwiseOf(kind, field) }, word, now);
  if (found) said.set(found.kind === spec.to || other === undefined ? field : other, [found]);
  return found !== undefined || !entryKeyOf(kind).includes(field);
}

/** Looks up once for columns that make entries together: when the first that names something is. What is emptied waits for nothing. */
function lookUpAll(
  place: RecordPlace,
  asking: readonly EntryUse[],
  actOf: (use: EntryUse) => Act,
  run: (now: LookUpNow) => void,
): void {
  const isSaid = asking.some((use) => actOf(use).is === "say" || actOf(use).is === "begin");
  const naming = asking.find((use) => {
    const { field, named } = use.feed;
    return field.is === "reference" ? actOf(use).is === "say" : isSaid && Object.keys(named).length > 0;
  });
  if (naming) place.lookUp(naming, run);
  else run(atOnce(place));
}

const atOnce = ({ refuse, note }: RecordPlace): LookUpNow => ({ before: Infinity, refuse, note });

/** By the columns of a lane: the same for every row. */
const ofLanes = new WeakMap<readonly EntryUse[], Readonly<Record<"plain" | "shown", EntrySelection>>>();

/** The entries of a lane: those that have no more to their key than the constants, and those with what the columns show, too. */
function selectionsOf(
  place: RecordPlace,
  uses: readonly EntryUse[],
): Readonly<Record<"plain" | "shown", EntrySelection>> {
  let known = ofLanes.get(uses);
  if (!known) {
    const fields = uses.map(({ feed }) => feed.field.name);
    known = { plain: selectionOf(place, uses[0]!, []), shown: selectionOf(place, uses[0]!, fields) };
    ofLanes.set(uses, known);
  }
  return known;
}

/** What a row of its own says of an entry; undefined for a row that says nothing of it. */
export function laneEntry(
  place: RecordPlace,
  uses: readonly EntryUse[],
  actOf: (use: Use) => Act,
  old: HeldEntry | undefined,
): HeldEntry | undefined {
  if (!old && uses.every((use) => actOf(use).is === "leave" || actOf(use).is === "clear")) return undefined;
  const first = uses[0]!;
  const { plain: selection } = selectionsOf(place, uses);
  let made: HeldEntry | undefined;
  lookUpAll(place, uses, actOf, (now) => {
    const said = old?.copy() ?? constantCells(place, first, selection, now);
    let isWhole = true;
    for (const use of uses) isWhole = sayField(place, use, selection.kind, said, actOf(use), now) && isWhole;
    made = isWhole ? said : undefined;
  });
  return made;
}

/** Puts the entries that the rows of a lane say into a record. @param layout that the lane is of. */
export function putLane(
  place: RecordPlace,
  uses: readonly EntryUse[],
  made: readonly HeldEntry[],
  layout: Layout,
): void {
  const first = uses[0]!;
  const { shown: selection, plain: without } = selectionsOf(place, uses);
  const now: LookUpNow = { before: Infinity, refuse: place.refuse, note: place.note };
  const constants = constantCells(place, first, selection, now, made.length > 0);
  const plain = hasOwnColumn(layout, first.feed) ? selects(without, constants) : () => false;
  putEntries(place, now, selection, constants, made, plain, false);
}

/** By layout and feed; the same for every row. */
const ownColumns = new WeakMap<Layout, WeakMap<object, boolean>>();

/** Whether entries that have no more to their key than the constants have columns of their own. */
function hasOwnColumn(layout: Layout, feed: EntryUse["feed"] | EntriesUse["feed"]): boolean {
  let known = ownColumns.get(layout);
  if (!known) ownColumns.set(layout, (known = new WeakMap()));
  let has = known.get(feed);
  if (has === undefined) {
    const constants = JSON.stringify(feed.constants);
    has = layout.columns.some(
      ({ scope, bindings }) =>
        scope.is !== "lane" &&
        bindings.some(
          ({ feed: own }) =>
            own.is === "entry" && own.entries === feed.entries && JSON.stringify(own.constants) === constants,
        ),
    );
    known.set(feed, has);
  }
  return has;
}
