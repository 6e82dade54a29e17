/**
 * What has to be placed: the creation of each kind's records, level by level where a level has to be there before the next, and what
 * later slots add to records that are there.
 *
 * In: the resolved catalogue, the target, what the platform has already. Out: placements with the records of each.
 */

import { splitAddition } from "../field-name.js";
import { entryOf } from "../checked.js";
import type { ResolvedCatalogue } from "../catalogue/catalogue.js";
import { RowSet } from "../catalogue/row-set.js";
import type { Demand, Slot } from "../target/slot.js";
import { isForAll, recordsOfImports, sharesOf, type IsFor } from "../target/import-records.js";
import type { Target } from "../target/target.js";
import { hasAddition } from "./additions.js";
import { carriedReferences, demandOf, type CarriedReference } from "./carried.js";
import { levelsOf } from "./levels.js";
import { madeRecords } from "./named.js";
import { eachReference, referenceFieldsOf, type PlannedReference } from "./references.js";
import type { Placement } from "./sequence.js";

export interface NamedPlacement extends Placement {
  readonly kind: string;
  /** Rows of the kind's table. */
  readonly records: readonly number[];
  /** For what is added later: the updates, as slots name them. */
  readonly updates: readonly string[];
}

/** What the platform has already, for a plan that leaves it out. */
export interface AlreadyThere {
  /** Whether the platform has the record. */
  readonly isThere: (kind: string, row: number) => boolean;
  /** Whether the platform has what a slot adds to a record. */
  readonly isAdded: (update: string, kind: string, row: number) => boolean;
  /** Whether the platform has the picture. */
  readonly hasPicture?: ((name: string) => boolean) | undefined;
  /** Whether a part of the import is through: what comes before all of it is done. */
  readonly isBegun?: boolean | undefined;
  /** Whether what comes before the first upload and after the last is put around them later. */
  readonly isFramed?: boolean | undefined;
}

type LeftOut = (kind: string, row: number) => boolean;

const waits: ReadonlySet<Demand> = new Set(["earlier file", "earlier step"]);

export class PlacementFinder {
  readonly #placed: NamedPlacement[] = [];
  readonly #carried: readonly (readonly CarriedReference[])[];
  readonly #fields: readonly PlannedReference[];
  readonly #isFor: IsFor;
  readonly #isMade: ReturnType<typeof madeRecords>;
  /** For each kind, the placement that creates each of its rows; -1 for what is there, or is left out. */
  readonly #creates = new Map<string, Int32Array>();

  constructor(
    readonly catalogue: ResolvedCatalogue,
    readonly target: Target,
    readonly there: AlreadyThere,
    readonly isLeftOut: LeftOut,
  ) {
    this.#carried = target.slots.map((slot) => carriedReferences(target, slot, catalogue.kinds));
    this.#fields = referenceFieldsOf(catalogue);
    this.#isFor = recordsOfImports(catalogue, target);
    this.#isMade = madeRecords(catalogue, target, isLeftOut);
  }

  find(): readonly NamedPlacement[] {
    for (const kind of this.catalogue.kinds.roots) this.#addCreations(kind.name);
    this.target.slots.forEach((slot, at) => {
      if (slot.mode === "update") this.#addUpdates(slot, at);
    });
    return this.#placed.map((one) => ({ ...one, needs: this.#needsOf(one) }));
  }

  #slotsWhere(test: (slot: Slot) => boolean): number[] {
    return this.target.slots.flatMap((slot, at) => (test(slot) ? [at] : []));
  }

  #addCreations(kind: string): void {
    const table = this.catalogue.table(kind);
    const creates = new Int32Array(table.size).fill(-1);
    this.#creates.set(kind, creates);
    const rows: number[] = [];
    for (let row = 0; row < table.size; row++)
      if (!this.isLeftOut(kind, row) && !this.there.isThere(kind, row) && this.#isMade(kind, row)) rows.push(row);
    if (rows.length === 0) return;
    const making = this.#slotsWhere((slot) => slot.creates.includes(kind));
    for (const { rows: own, slots, name } of sharesOf(this.target, this.#isFor, kind, rows, making))
      this.#addShare(kind, own, slots, name, creates);
  }

  #addShare(
    kind: string,
    rows: readonly number[],
    slots: readonly number[],
    called: string,
    creates: Int32Array,
  ): void {
    if (rows.length === 0) return;
    // What the target knows nothing of stays behind; not what everything is about, nor what rows name by an id.
    const isNamed = this.#carried.some((all) => all.some((one) => one.to === kind && one.by === "id"));
    if (slots.length === 0 && kind !== "product" && kind !== "variant" && !isNamed) return;
    const levels = this.#levels(kind, rows, slots);
    levels.forEach((records, at) => {
      for (const row of records) creates[row] = this.#placed.length;
      const name = levels.length > 1 ? `${called}, level ${at + 1}` : called;
      this.#placed.push({ name, kind, records, updates: [], slots, postponedIn: [], needs: [] });
    });
  }

  /** Records of a tree whose parents have to be there in an earlier file, by how deep they lie. */
  #levels(kind: string, rows: readonly number[], slots: readonly number[]): readonly (readonly number[])[] {
    const own = slots.flatMap((slot) =>
      this.#carried[slot]!.filter(
        (one) =>
          one.kind === kind && one.to === kind && one.dependency !== "linking" && waits.has(demandOf(this.target, one)),
      ),
    );
    if (own.length === 0) return [rows];
    return levelsOf(
      this.catalogue,
      rows,
      this.#fields.filter((one) => own.some(({ name }) => name === one.name)),
    );
  }

  /** What a slot adds: fields that a creating slot can carry too are placed by themselves, all else of the slot together. */
  #addUpdates(slot: Slot, at: number): void {
    const together: { readonly update: string; readonly kind: string; readonly records: readonly number[] }[] = [];
    for (const update of slot.updates) {
      const { kind } = splitAddition(update);
      const records = this.#recordsWith(update, kind);
      if (records.length === 0) continue;
      const known = this.#placed.find((one) => one.updates.length === 1 && one.updates[0] === update);
      if (known) {
        this.#placed[this.#placed.indexOf(known)] = {
          ...known,
          slots: [...known.slots, at],
          postponedIn: [...known.postponedIn, at],
        };
        continue;
      }
      const early = this.#slotsWhere(
        (one) =>
          one.mode === "create" &&
          one.creates.includes(kind) &&
          this.#carries(one, update) &&
          // What some of its records only can have in their own rows is added to all of them afterwards.
          isForAll(this.target, one.file),
      );
      if (early.length === 0) {
        together.push({ update, kind, records });
        continue;
      }
      // What is there already can only be updated.
      const isThere = (row: number) => this.there.isThere(kind, row);
      const common = { kind, updates: [update], needs: [] };
      const fresh = records.filter((row) => !isThere(row));
      const old = records.filter(isThere);
      if (fresh.length > 0)
        this.#placed.push({ ...common, name: update, records: fresh, slots: [...early, at], postponedIn: [at] });
      if (old.length > 0)
        this.#placed.push({
          ...common,
          name: `${update} of what is there`,
          records: old,
          slots: [at],
          postponedIn: [],
        });
    }
    for (const { update, kind, records } of together)
      this.#placed.push({
        name: together.length > 1 ? `${slot.name} (${update})` : slot.name,
        kind,
        records,
        updates: [update],
        slots: [at],
        postponedIn: [],
        needs: [],
      });
  }

  #carries(slot: Slot, update: string): boolean {
    return this.#carried[this.target.slots.indexOf(slot)]!.some((one) => one.name === update);
  }

  /** The rows of a kind that have what an update adds, and to which it is not added yet. */
  #recordsWith(update: string, kind: string): number[] {
    const { catalogue } = this;
    const table = catalogue.table(kind);
    const has = hasAddition(catalogue, update, kind);
    const rows: number[] = [];
    for (let row = 0; row < table.size; row++)
      if (!this.isLeftOut(kind, row) && has(row) && !this.there.isAdded(update, kind, row)) rows.push(row);
    return rows;
  }

  #needsOf(placed: NamedPlacement): Placement["needs"] {
    const needs = new Map<string, Placement["needs"][number]>();
    const add = (placement: number, demand: Demand | "same upload", slot: number) => {
      if (placement < 0) return;
      const key = `${placement} ${demand} ${slot}`;
      needs.set(key, { placement, demand, in: [slot] });
    };
    const isUpdate = placed.updates.length > 0;
    const rows = RowSet.of(placed.records, this.catalogue.table(placed.kind).size);
    for (const slot of placed.slots) {
      if (isUpdate)
        for (const creation of this.#creationsOf(placed.kind, placed.records)) add(creation, this.#foundBy(slot), slot);
      for (const field of this.#referencesIn(placed, slot)) {
        const demand = demandOf(this.target, field);
        const targets = entryOf(this.#creates, field.to);
        // Which level of its target a reference leads to matters only where a level may be another file.
        const seen = new Set<number>();
        for (const own of this.#fields)
          if (own.name === field.name && own.to === field.to)
            eachReference(this.catalogue, own, (from, to) => {
              if (rows.has(from) && (own.kind !== own.to || from !== to)) seen.add(targets[to]!);
            });
        for (const creation of seen) if (this.#placed[creation] !== placed || isUpdate) add(creation, demand, slot);
      }
    }
    return [...needs.values()];
  }

  /** How an updating slot knows its records asks for them to be there: by id, after these were collected. */
  #foundBy(slot: number): Demand | "same upload" {
    const { mode, file, columns } = this.target.slots[slot]!;
    // What a creating slot adds stands in the rows that create.
    if (mode === "create") return "same upload";
    const byId = entryOf(this.target.files, file).layouts.some(({ link, columns: all }) => {
      if (link) return link.names === "id";
      return all.some(
        ({ header, bindings }) =>
          (columns?.includes(header) ?? true) &&
          bindings.some(({ feed: target }) => target.is === "text" && target.field === "id"),
      );
    });
    return byId ? "earlier step" : "anywhere";
  }

  #creationsOf(kind: string, rows: readonly number[]): Set<number> {
    const creates = entryOf(this.#creates, kind);
    const found = new Set<number>();
    for (const row of rows) found.add(creates[row]!);
    return found;
  }

  /** The references that a placement brings along in a slot. */
  #referencesIn(
    { kind, updates, name }: NamedPlacement,
    slot: number,
  ): readonly (Pick<CarriedReference, "name" | "to" | "dependency"> & { readonly by?: CarriedReference["by"] })[] {
    const { file, updates: later } = this.target.slots[slot]!;
    const carried = this.#carried[slot]!;
    if (updates.length > 0) return carried.filter((one) => updates.includes(one.name));
    const apart = new Set(
      this.#placed.filter((one) => one.updates.length > 0 && one.name !== name).flatMap((one) => one.updates),
    );
    const { layouts } = entryOf(this.target.files, file);
    const isRowKind = layouts.some(({ shape }) => shape.parent.name === kind || shape.child?.name === kind);
    if (isRowKind) {
      const own = carried.filter((one) => one.kind === kind && !apart.has(one.name) && !later.includes(one.name));
      const container = this.#fields.find(
        (one) => one.kind === kind && one.dependency === "containing" && one.to !== kind,
      );
      const isNested = container && !own.some((one) => one.name === container.name);
      return isNested ? [...own, { ...container, dependency: "linking" as const }] : own;
    }
    // Records that are made because rows name them: what they refer to is named beside them.
    return this.#fields.filter((one) => one.kind === kind && !apart.has(one.name));
  }
}
