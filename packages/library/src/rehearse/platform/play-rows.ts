/** The rows of one block on their way into the platform: which records they are about, and what their cells do to them. */

import { fitting, present } from "../../checked.js";
import { entryKeyOf, fieldOf } from "../../kind.js";
import type { Lane } from "../../layout/layout.js";
import { isOf, type Use } from "./columns.js";
import type { Act, RecordPlace } from "./effects/effect.js";
import { laneEntry, putLane, sameKey } from "./effects/entries.js";
import { nameOfRow } from "./effects/references.js";
import type { FilePlan, PlayedLane, PlayedLayout, PlayedScope } from "./file-plan.js";
import { identify, type Identified, type WordOf } from "./identify.js";
import type { PlayedRow } from "./played.js";
import { cellOf, type RowReader } from "./row-reader.js";
import { alone } from "./store.js";
import { storedIn } from "./stored.js";
import { textIn, valueIn, type HeldEntry, type HeldRecord } from "./held-record.js";

/** The entries that the rows of a lane have said of a record so far. */
interface OpenLane {
  readonly lane: Lane;
  readonly owner: HeldRecord;
  /** The row that the owner is on. */
  readonly from: PlayedRow;
  readonly said: { readonly played: PlayedRow; readonly entry: HeldEntry }[];
}

const noLanes: readonly OpenLane[] = [];

export class BlockPlayer {
  #parent: HeldRecord | undefined;
  #child: HeldRecord | undefined;
  #lanes: readonly OpenLane[] = noLanes;
  /** The records that its rows are about, where that counts. */
  readonly named: HeldRecord[] = [];
  /** The first row of each language. */
  readonly #firsts: PlayedRow[] = [];
  /** Lanes of references that linked rows have begun anew. */
  #begunLists: Set<string> | undefined;
  readonly #reader: RowReader;
  readonly plan: FilePlan;

  constructor(
    reader: RowReader,
    /** Codes, keys and words of children that rows of the file have named, each with the language of its row. */
    readonly childrenNamed: Set<string>,
  ) {
    this.#reader = reader;
    this.plan = reader.plan;
  }

  get parent(): HeldRecord | undefined {
    return this.#parent;
  }

  /** Takes a row; what is wrong with it is told to it. */
  play(played: PlayedRow): void {
    const { row } = played;
    if (row.problem !== undefined) return void played.refuse(row.problem);
    const isFirst = this.#firsts.length === 0;
    if (!this.#firstIn(row.language)) this.#firsts.push(played);
    if (row.is === "linked") return this.#linked(played);
    const layout = this.plan.layoutIn(row.language, undefined);
    if (!layout) return void played.refuse("no layout is of such a row");
    this.plan.store.watch();
    if (this.plan.isDelete) return this.#deleted(played, layout);
    if (row.is === "own" || row.is === "both") this.#own(played, layout);
    if (row.is === "child") this.#childOf(played, layout, isFirst);
    if (row.is === "both" && layout.child) this.#besideParent(played, layout, layout.child);
    if (row.is === "more") this.#more(played, layout);
    else this.#openLanes(layout, played);
    for (const open of this.#lanes) this.#lane(played, layout, open);
    this.#settle(played);
  }

  #name(record: HeldRecord): void {
    if (this.plan.isNamedKept) this.named.push(record);
  }

  #firstIn(language: string): PlayedRow | undefined {
    return this.#firsts.find(({ row }) => row.language === language);
  }

  /** A row that takes out the record that it names, with all that this contains. */
  #deleted(played: PlayedRow, { parent: { identifier, kind } }: PlayedLayout): void {
    const { store, file } = this.plan;
    const how = { isUpdate: true, unknownId: file.importing["unknown id"], within: undefined };
    const found = identify(identifier, store, cellOf(played), how);
    played.parent = found.word;
    played.about = (found.is === "known" ? calledIn(found.record) : undefined) ?? { kind: kind.name, word: found.word };
    if (found.is !== "known")
      return void played.refuse(found.is === "refused" ? found.reason : `there is no ${kind.name} "${found.word}"`);
    const { container } = found.record;
    store.remove(found.record);
    if (container) this.plan.left.add(container);
    played.outcome = "deleted";
  }

  #settle(played: PlayedRow): void {
    const { store } = this.plan;
    const [first] = played.records;
    if (!first) return;
    const isChanged = played.records.some((record) => store.isChanged(record));
    played.outcome = store.isMade(first) ? "created" : isChanged ? "updated" : "unchanged";
  }

  #isFilled(played: PlayedRow, uses: readonly Use[]): boolean {
    const cell = cellOf(played);
    return uses.some(({ header, feed }) => feed.is !== "shape" && cell(header) !== "");
  }

  /** A record's own row. */
  #own(played: PlayedRow, layout: PlayedLayout): void {
    const record = this.#identified(played, layout.parent, undefined, (word) => (played.parent = word));
    this.#parent = record;
    this.#child = undefined;
    this.#lanes = noLanes;
    if (!record) return;
    this.#name(record);
    // Rows below may name it by its line.
    this.plan.noteLine(played.row.line, record);
  }

  /** What a row that is about the record says of one that it contains: it has a code there, or nothing at all. */
  #besideParent(played: PlayedRow, layout: PlayedLayout, child: PlayedScope): void {
    const cell = cellOf(played);
    const isNamed = child.identifier.words.some(({ header }) => cell(header) !== "");
    if (isNamed || child.identifier.words.length === 0) return this.#version(played, child);
    if (this.#isFilled(played, layout.ofChild)) played.refuse("cells of a code, and no code");
  }

  /** A row of what the record contains. */
  #childOf(played: PlayedRow, layout: PlayedLayout, isFirst: boolean): void {
    const child = present(layout.child);
    const { row } = played;
    played.parent = row.word;
    if (isFirst || layout.isByWord) this.#parent = row.word === "" ? this.#parent : this.#found(layout, row.word);
    this.#child = undefined;
    // Entries of the record go on beside the rows of what it contains.
    if (this.#lanes.length > 0)
      this.#lanes = this.#lanes.filter(({ lane, owner }) => lane.of === "parent" && owner === this.#parent);
    if (!this.#parent?.isThere) return void played.refuse(`there is no ${layout.parent.kind.name} "${row.word}"`);
    this.#sharedCells(played, layout);
    const cell = cellOf(played);
    const { words } = child.identifier;
    if (words.length > 0 && words.every(({ header }) => cell(header) === ""))
      return void played.refuse(
        layout.layout.shape.is === "grouped" ? "a further row has no code" : "a variant without a code",
      );
    this.#version(played, child);
  }

  /** The parent that a child's row names. */
  #found({ parent, layout }: PlayedLayout, word: string): HeldRecord | undefined {
    const { shape } = layout;
    const by = shape.is === "own-row" && shape.joined.by === "reference" ? shape.joined.names : "key";
    if (by === "line") return this.plan.atLine(word);
    if (by === "key") return this.plan.store.find(parent.kind.name, parent.identifier.ways[0]?.field ?? "key", word)[0];
    return this.plan.names.find(
      { spec: { to: parent.kind.name, by, lang: undefined, missing: "error", inTree: false } },
      word,
    );
  }

  /** Cells of the record on rows below its own. */
  #sharedCells(played: PlayedRow, { shared, layout }: PlayedLayout): void {
    const cell = cellOf(played);
    const filled = shared.filter(({ header }) => cell(header) !== "");
    if (filled.length === 0) return;
    const { shape } = layout;
    const isRepeated = shape.is === "grouped" && shape.everyRow;
    const first = this.#firstIn(played.row.language);
    const isSame = ({ header }: Use) => first && cellOf(first)(header) === cellOf(played)(header);
    if (isRepeated && filled.every(isSame)) return;
    if (this.plan.file.importing["shared cells below the first row"] === "refuse")
      played.refuse(
        shape.is === "own-row"
          ? "a product's cell is filled on a variant's row"
          : "a product's cell is filled below its first row",
      );
  }

  #version(played: PlayedRow, child: PlayedScope): void {
    const parent = this.#parent;
    if (!parent) return;
    const record = this.#identified(played, child, parent, (word) => (played.child = word));
    this.#child = record;
    if (!record) return;
    this.#name(record);
    if (played.row.is === "both" && this.plan.hasOwnRows) this.plan.besideParents.add(record);
    // Where a code may move to another product, the last row that names it counts.
    const mayMove = this.plan.file.importing["child of another parent"] === "moves";
    const { language } = played.row;
    const named = language === "" ? played.child : `${language}\u0000${played.child}`;
    if (!mayMove && played.child !== "" && this.childrenNamed.has(named))
      played.refuse("the code comes twice in the file");
    this.childrenNamed.add(named);
  }

  /** The record of a scope, known or made, with what the row's cells say of it. */
  #identified(
    played: PlayedRow,
    scope: PlayedScope,
    parent: HeldRecord | undefined,
    tell: (word: string) => void,
  ): HeldRecord | undefined {
    const { store, isUpdate, file } = this.plan;
    const { importing } = file;
    const how = { isUpdate, unknownId: importing["unknown id"], within: parent };
    const found = identify(scope.identifier, store, cellOf(played), how);
    tell(found.word);
    played.about ??= (found.is === "known" ? calledIn(found.record) : undefined) ?? {
      kind: scope.kind.name,
      word: found.word,
    };
    if (found.is === "refused") return void played.refuse(found.reason);
    const known = this.#taken(played, scope, parent, found);
    if (known === "refused") return undefined;
    if (found.is === "known" && importing["known record"] === "skip") {
      played.note("it is there already, and passed over");
      return found.record;
    }
    const record = found.is === "known" ? found.record : this.#make(played, scope, found.words, parent);
    if (played.records.length === 0) played.records = alone(record);
    else if (played.row.is !== "child" && parent) played.records = [...played.records, record];
    else played.records = [record, ...played.records];
    this.say(played, scope, record, found.is === "new");
    return record;
  }

  /** A new record, with what it is told apart by. */
  #make(
    played: PlayedRow,
    { kind }: PlayedScope,
    words: readonly WordOf[],
    container: HeldRecord | undefined,
  ): HeldRecord {
    const { store } = this.plan;
    const record = store.create(kind.name, { container, key: words.findLast(([field]) => field === "key")?.[1] });
    for (const [field, word] of words) store.set(record, field, word);
    played.made = played.made.length === 0 ? alone(record) : [...played.made, record];
    return record;
  }

  /** Whether a record that is known may be said more of, here. */
  #taken(
    played: PlayedRow,
    { kind }: PlayedScope,
    parent: HeldRecord | undefined,
    found: Identified,
  ): "fine" | "refused" {
    if (found.is !== "known") return "fine";
    const { store, file, isWhole } = this.plan;
    const { importing } = file;
    const { record, word } = found;
    if (importing["known record"] === "refuse") {
      played.refuse(`there is a ${kind.name} "${word}" already`);
      return "refused";
    }
    const from = record.container;
    if (!parent || from === parent) return "fine";
    if (from && importing["child of another parent"] === "refuse" && !isWhole) {
      played.refuse("the code is another product's");
      return "refused";
    }
    if (from) {
      played.note("the code was another product's");
      this.plan.left.add(from);
    }
    store.contain(record, parent);
    store.set(record, "values", undefined);
    return "fine";
  }

  /** What the cells of a row say of a record. */
  say(played: PlayedRow, { uses, effects, kind }: PlayedScope, record: HeldRecord, isNew: boolean): void {
    const acts = this.#reader.acts(played, isNew);
    const place = this.#reader.place(played, kind, record, isNew);
    for (const use of uses) acts(use);
    for (const { apply } of effects) apply(place, acts);
    this.#reader.judge(played, uses, record, (use) => storedIn(record, use.feed));
  }

  /** A row that goes on with the one above it. */
  #more(played: PlayedRow, layout: PlayedLayout): void {
    const owner = this.#child ?? this.#parent;
    if (!owner)
      return void played.refuse(
        this.#parent ? "a continuation row has no code above it" : "a row does not say its product",
      );
    if (this.#isFilled(played, layout.besideLanes)) played.refuse("a continuation row fills more than its own cells");
    played.about = calledIn(owner);
    for (const one of [this.#child, this.#parent]) if (one) played.records = played.records.concat(one);
  }

  #openLanes(layout: PlayedLayout, played: PlayedRow): void {
    const { cells } = played.row;
    const before = this.#lanes;
    if (layout.lanes.length === 0 && before.length === 0) return;
    const lanes = layout.lanes.map(({ lane, uses }): OpenLane | undefined => {
      const open = before.length === 0 ? undefined : before.find((one) => one.lane === lane);
      if (open) return open;
      const owner = lane.of === "parent" ? this.#parent : (this.#child ?? (layout.child ? undefined : this.#parent));
      const isThere = uses.some(({ header }) => cells?.has(header));
      return owner && isThere ? { lane, owner, from: played, said: [] } : undefined;
    });
    this.#lanes = lanes.filter((one) => one !== undefined);
  }

  #lane(played: PlayedRow, layout: PlayedLayout, { lane, owner, said }: OpenLane): void {
    const { uses, entryUses: own } = laneIn(layout, lane);
    const cell = cellOf(played);
    if (lane.holds !== "references" && own.every(({ header }) => cell(header) === "")) return;
    const kind = this.plan.kinds.get(owner.kind);
    const place = this.#reader.place(played, kind, owner, true);
    const acts = this.#reader.acts(played, true);
    if (lane.holds === "references")
      return this.#reference(place, uses, acts, cell, said.length > 0, () =>
        said.push({ played, entry: place.store.newEntry(kind.name) }),
      );
    const entry = laneEntry(place, own, acts, undefined);
    if (!entry) return;
    const isSame = sameKey(this.plan.kinds.get(present(kind.entries)[lane.collection]!));
    if (said.some((other) => isSame(other.entry, entry))) played.refuse(`${lane.name}: an entry comes twice`);
    this.#reader.judge(played, own, owner, (use) =>
      use.feed.is === "entry" ? textOf(entry, use.feed.field.name) : undefined,
    );
    said.push({ played, entry });
  }

  /** A row comes: what it ends is put into the records. */
  before({ row }: PlayedRow): void {
    if (row.is === "more") return;
    this.closeLanes(({ lane }) => row.is !== "child" || lane.of === "child");
  }

  /** What the rows of lanes have said is put into the records that they are of, once all of them are there. */
  closeLanes(isEnding: (lane: OpenLane) => boolean = () => true): void {
    if (!this.#lanes.some(isEnding)) return;
    const { store } = this.plan;
    const ending = this.#lanes.filter(isEnding);
    this.#lanes = this.#lanes.filter((lane) => !ending.includes(lane));
    for (const { lane, owner, from, said } of ending) {
      if (!owner.isThere || lane.holds === "references") continue;
      const layout = present(this.plan.layoutIn(from.row.language, undefined));
      const entries = said.flatMap(({ played, entry }) => (!played.isRefused ? [entry] : []));
      store.watch();
      const place = this.#reader.place(from, this.plan.kinds.get(owner.kind), owner, true);
      putLane(place, laneIn(layout, lane).entryUses, entries, layout.layout);
      if (from.outcome === "unchanged" && store.isChanged(owner)) from.outcome = "updated";
    }
  }

  /** A row that adds to a list of references: the first of them begins it anew, where the importer replaces lists. */
  #reference(
    place: RecordPlace,
    uses: readonly Use[],
    acts: (use: Use) => Act,
    cell: ReturnType<typeof cellOf>,
    isFurther: boolean,
    done: () => void,
  ): void {
    const lists = isFurther ? "add" : place.importing.lists;
    // A row that names nothing says no more than that the list begins.
    const isNamed = uses.some(({ header }) => cell(header) !== "");
    if (!isNamed && lists === "add") return;
    const act = isNamed ? acts : (): Act => ({ is: "clear" });
    for (const use of uses.filter(isOf("reference"))) {
      for (const { apply } of this.plan.effectsOf(use, place.kind))
        apply(place.otherwise({ importing: { ...place.importing, lists } }), act);
      done();
    }
    if (!isNamed) return;
    for (const use of uses.filter(isOf("naming"))) nameOfRow(place, use, uses.filter(isOf("reference")), acts);
  }

  /** More of a record that is there, or one entry of it. */
  #linked(played: PlayedRow): void {
    const { row } = played;
    played.parent = row.word;
    this.plan.store.watch();
    const found = this.plan.linked(row.word);
    const layout = found && this.plan.layoutIn(row.language, found.kind);
    if (!found || !layout) return void played.refuse(`no record has the ${this.plan.linkName} ${row.word}`);
    this.#parent = found;
    played.records = alone(found);
    played.about = calledIn(found) ?? { kind: found.kind, word: row.word };
    this.#name(found);
    const { lanes } = layout;
    const hasOwn = layout.parent.uses.some(({ header, feed }) => !layout.telling.has(header) && feed.is !== "key");
    // Beside lanes, the cells of the record itself stand on its first row.
    const isFirst = this.#firstIn(row.language) === played;
    if (hasOwn && (isFirst || lanes.length === 0)) {
      const before = this.#said(layout, found);
      this.say(played, layout.parent, found, false);
      this.#settle(played);
      // What a record says in a language is new where it said nothing in it.
      if (!before && played.outcome === "updated") played.outcome = "created";
    } else if (hasOwn) this.#sharedCells(played, layout);
    for (const one of lanes)
      if (one.lane.holds === "references") this.#listed(played, layout, found, one);
      else if (!played.isRefused) this.#entryOf(played, layout, found, one);
  }

  /** A row that is one of a list of references. */
  #listed(played: PlayedRow, { parent: { kind } }: PlayedLayout, record: HeldRecord, { lane, uses }: PlayedLane): void {
    // A file without the columns of a list says nothing of it.
    if (!uses.some(({ header }) => played.row.cells?.has(header))) return;
    const place = this.#reader.place(played, kind, record, true);
    const acts = this.#reader.acts(played, true);
    this.#reference(place, uses, acts, cellOf(played), this.#begunLists?.has(lane.name) ?? false, () =>
      (this.#begunLists ??= new Set()).add(lane.name),
    );
    this.#settle(played);
  }

  #said({ parent }: PlayedLayout, { fields }: HeldRecord): boolean {
    const texts = parent.uses.flatMap(({ feed }) =>
      feed.is === "text" && feed.field.includes("@") ? [feed.field] : [],
    );
    return texts.length === 0 || texts.some((field) => fields.has(field));
  }

  /** A row that is an entry: another one where the record has none with this key. */
  #entryOf(played: PlayedRow, layout: PlayedLayout, record: HeldRecord, { lane, entryUses: own }: PlayedLane): void {
    const cell = cellOf(played);
    const isNeeded = layout.lanes.length === 1 && own.some(({ rule }) => rule?.required);
    if (!isNeeded && own.every(({ header }) => cell(header) === "")) return;
    const { store, file, kinds } = this.plan;
    const { kind } = layout.parent;
    const all = record.entries.get(lane.collection) ?? [];
    const place = this.#reader.place(played, kind, record, true);
    const embedded = kinds.get(present(kind.entries)[lane.collection]!);
    const isKey = ({ header, feed: { field } }: (typeof own)[number]) =>
      file.entryKey.length > 0 ? file.entryKey.includes(header) : entryKeyOf(embedded).includes(field.name);
    const keys = own.filter(isKey);
    // Entries of another role or place are others, whatever the row's columns say.
    const constants = own.flatMap(({ feed }) => [...Object.keys(feed.constants), ...Object.keys(feed.named)]);
    const telling =
      file.entryKey.length > 0 ? [...keys.map(({ feed }) => feed.field.name), ...constants] : entryKeyOf(embedded);
    const fields = [...new Set(telling)].flatMap((field) => [
      field,
      fieldOf(embedded, field)?.reference?.otherwise ?? field,
    ]);
    const told = laneEntry(place, keys, this.#reader.acts(played, true), undefined) ?? store.newEntry(embedded.name);
    if (played.isRefused) return;
    const old = all.find((entry) => sameKey(embedded, fields)(entry, told));
    const acts = this.#reader.acts(played, old === undefined);
    for (const { header, rule } of own)
      if (rule?.required && played.row.cells?.get(header) === "") played.refuse(`${header}: needed`);
    const said = laneEntry(place, own, acts, old ?? told);
    if (!said) return;
    this.#reader.judge(played, own, record, (use) =>
      use.feed.is === "entry" ? textOf(said, use.feed.field.name) : undefined,
    );
    store.setEntries(
      record,
      lane.collection,
      old ? all.map((entry) => (entry === old ? said : entry)) : all.concat(said),
    );
    if (played.outcome === "created") return;
    played.outcome = !old ? "created" : store.isChanged(record) ? "updated" : "unchanged";
  }
}

/** What a record is called by in the catalogue, however the row names it. */
function calledIn({ kind, fields }: HeldRecord): PlayedRow["about"] {
  const word = textIn(fields, "key") ?? textIn(fields, "code");
  return word === undefined ? undefined : { kind, word };
}

const laneIn = ({ lanes }: PlayedLayout, lane: Lane): PlayedLane => fitting(lanes, (one) => one.lane === lane);

const textOf = (entry: HeldEntry, field: string): string | undefined => {
  const value = valueIn(entry, field);
  return typeof value === "string" ? value : value && value.length > 0 ? String(value[0]!.number) : undefined;
};
