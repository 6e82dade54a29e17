/**
 * The goal of an upload in the form in which a platform can hold it: without what is held back; what variants show and only their product
 * has is put there; texts as files without line ends hold them. Rows are those of the catalogue that it is made of.
 */

import {
  referenceFields,
  targetsOf,
  type Catalogue,
  type ResolvedBranch,
  type ResolvedCatalogue,
} from "../catalogue/catalogue.js";
import { entryLookup } from "../catalogue/entry-lookup.js";
import { copyRow } from "./unfold.js";
import { fieldOfColumn } from "../field-name.js";
import { fieldOf, type KindSpec } from "../kind.js";
import {
  byLanguage,
  kindOfScope,
  withoutLineEnds,
  type Binding,
  type Column,
  type Feed,
  type Layout,
} from "../layout/layout.js";
import { namedIn } from "../layout/named-constants.js";
import type { Target } from "../target/target.js";

/** Whether a record is not to be on the platform. */
export type IsLeftOut = (kind: string, row: number) => boolean;

type EntryFeed = Extract<Feed, { is: "entry" }>;

/** A column, and the kind of the records whose fields it holds. */
interface Shown {
  readonly kind: KindSpec;
  readonly column: Column;
  readonly binding: Binding;
}

/** @param isLeftOut nothing is, where it is not given. */
export function asHeld(catalogue: ResolvedCatalogue, target: Target, isLeftOut?: IsLeftOut): ResolvedCatalogue {
  const form = new HeldForm(catalogue, target);
  if (isLeftOut) form.leaveOut(isLeftOut);
  form.toOwners();
  form.toChildren();
  form.lineEnds();
  form.sortValues();
  return form.made as ResolvedBranch;
}

export function layoutsOf({ files }: Target): Layout[] {
  return [...files.values()].flatMap(({ layouts }) =>
    layouts.flatMap((layout) => byLanguage(layout).map(([, own]) => own)),
  );
}

class HeldForm {
  readonly made: Catalogue;
  readonly #shown: readonly Shown[];

  constructor(
    readonly catalogue: ResolvedCatalogue,
    target: Target,
  ) {
    this.made = catalogue.branch();
    this.#shown = layoutsOf(target).flatMap((layout) =>
      layout.columns.flatMap((column) =>
        column.bindings.map((binding) => ({ kind: kindOfScope(layout, column.scope), column, binding })),
      ),
    );
  }

  /** References to what is left out are left out with it; so are entries that lead to it. */
  leaveOut(isLeftOut: IsLeftOut): void {
    const { pool } = this.catalogue;
    for (const table of this.catalogue.tables)
      for (const { name, to } of referenceFields(table.kind)) {
        const column = table.references.get(name);
        if (!column) continue;
        const isOut = (number: number) => isLeftOut(to, pool.target.get(number));
        let isAny = false;
        const see = (number: number): void => void (isAny ||= isOut(number));
        for (let row = 0; row < table.size; row++) {
          isAny = false;
          column.each(row, see);
          if (!isAny) continue;
          const left = column.get(row).filter((number) => !isOut(number));
          if (table.kind.entryKey) this.made.table(table.name).reparent(row, -1);
          else this.made.table(table.name).referenceColumn(name).set(row, left);
        }
      }
  }

  /** Where records are named within one, each has its own: what several refer to is as many records on the platform. */
  toOwners(): void {
    for (const { kind, binding } of this.#shown) {
      const { feed } = binding;
      if (feed.is !== "reference" || feed.spec.within === undefined) continue;
      const table = this.made.table(kind.name);
      const { within = "" } = this.catalogue.kinds.get(feed.spec.to);
      const { pool } = this.made;
      for (let row = 0; row < table.size; row++) {
        const numbers = table.references.get(feed.field)?.get(row) ?? [];
        if (numbers.length === 0) continue;
        const own = [...numbers].map((number) => {
          const target = pool.target.get(number);
          const [owner] = targetsOf(this.made as ResolvedBranch, this.made.table(feed.spec.to), within, target);
          return target < 0 || owner === row ? number : this.#copyInto(feed.spec.to, target, kind.name, row);
        });
        table.referenceColumn(feed.field).set(row, own);
      }
    }
  }

  /** A record again, with what it contains, as one that belongs to another. @returns a reference to it. */
  #copyInto(kind: string, row: number, ownerKind: string, owner: number): number {
    const { made } = this;
    const table = made.table(kind);
    const met = { sheet: table.sheet(row), line: table.line(row) };
    const copy = copyRow(table, row, table, -1);
    table.nameRecord(copy, `${made.table(ownerKind).key(owner)}/${table.key(row)}`);
    table.referenceColumn(table.kind.within ?? "").set(copy, [made.pool.toRow(ownerKind, owner, met)]);
    const child = this.catalogue.kinds.childOf(kind);
    const children = child && made.table(child.name);
    for (const inner of children ? [...children.childrenOf(row)] : [])
      children!.nameRecord(copyRow(children!, inner, children!, copy), children!.key(inner));
    return made.pool.toRow(kind, copy, met);
  }

  /** Columns of variants show what their product has where they have nothing themselves. */
  toChildren(): void {
    for (const kind of this.catalogue.kinds.roots) {
      if (kind.of === undefined) continue;
      const above = this.catalogue.kinds.get(kind.of);
      const ofChild = this.#shown.filter((one) => one.kind === kind && one.column.scope.is !== "lane");
      const ofParent = this.#shown.filter((one) => one.kind === above && one.column.scope.is !== "lane");
      this.#texts(kind, above, textFields(ofChild), textFields(ofParent));
      for (const feed of entryFeeds(ofChild)) this.#entries(kind, above, feed, entryFeeds(ofParent).some(isLike(feed)));
    }
  }

  #texts(kind: KindSpec, above: KindSpec, fields: ReadonlySet<string>, ofParent: ReadonlySet<string>): void {
    const [children, parents] = [this.made.table(kind.name), this.made.table(above.name)];
    for (const field of fields) {
      const spec = fieldOf(kind, fieldOfColumn(field));
      if (spec?.own === true || !fieldOf(above, fieldOfColumn(field)) || !parents.texts.has(field)) continue;
      for (let parent = 0; parent < parents.size; parent++) {
        const text = parents.text(field, parent);
        const own = text === undefined ? [] : children.childrenOf(parent);
        for (const child of own) if (children.text(field, child) === undefined) children.setText(field, child, text);
        if (own.length > 0 && !ofParent.has(field)) parents.setText(field, parent, undefined);
      }
    }
  }

  #entries(kind: KindSpec, above: KindSpec, feed: EntryFeed, isOfParent: boolean): void {
    const { entries: list, constants, named, field, parallel } = feed;
    if (kind.entries?.[list] === undefined || above.entries?.[list] === undefined) return;
    const free = [field.name, ...parallel];
    const [own, inherited] = [this.made.table(`${kind.name}.${list}`), this.made.table(`${above.name}.${list}`)];
    if (inherited.size === 0) return;
    const isNamed = namedIn(this.catalogue, constants, named);
    const wanted = entryLookup(inherited, constants, free, isNamed);
    const children = this.made.table(kind.name);
    const moves = Array.from({ length: this.made.table(above.name).size }, (_, parent) => ({
      below: [...children.childrenOf(parent)],
      given: wanted.all(parent),
    }));
    const has = entryLookup(own, constants, free, isNamed);
    const lacking = moves.map(({ below }) => below.filter((child) => has.first(child) < 0));
    moves.forEach(({ below, given }, parent) => {
      for (const child of lacking[parent]!) for (const entry of given) copyRow(inherited, entry, own, child);
      if (below.length > 0 && !isOfParent) for (const entry of given) inherited.reparent(entry, -1);
    });
  }

  lineEnds(): void {
    for (const { kind, binding } of this.#shown) {
      const { feed, lineEnds } = binding;
      if (lineEnds === undefined) continue;
      const [table, field] =
        feed.is === "text"
          ? [kind.name, feed.field]
          : feed.is === "entry"
            ? [`${kind.name}.${feed.entries}`, feed.field.name]
            : [];
      if (table === undefined || field === undefined) continue;
      const made = this.made.table(table);
      for (let row = 0; row < made.size; row++) {
        const text = made.text(field, row);
        if (typeof text === "string") made.setText(field, row, withoutLineEnds(text, lineEnds));
      }
    }
  }

  /** The values of a variant in the order of its product's axes. */
  sortValues(): void {
    const { made } = this;
    const [products, variants, values] = [made.table("product"), made.table("variant"), made.table("value")];
    const column = variants.references.get("values");
    if (!column) return;
    // Variants follow each other as their products do.
    let [product, wanted]: [number, readonly number[]] = [-1, []];
    const placeOf = (number: number) => wanted.indexOf(values.parent(made.pool.target.get(number)));
    let before: number;
    let isSorted: boolean;
    const see = (number: number): void => {
      const place = placeOf(number);
      if (place < before) isSorted = false;
      before = place;
    };
    for (let row = 0; row < variants.size; row++) {
      const parent = variants.parent(row);
      if (parent !== product) {
        product = parent;
        wanted = parent < 0 ? [] : targetsOf(made as ResolvedBranch, products, "axes", parent);
      }
      before = -1;
      isSorted = true;
      column.each(row, see);
      if (isSorted) continue;
      const sorted = [...column.get(row)].sort((a, b) => placeOf(a) - placeOf(b));
      variants.referenceColumn("values").set(row, sorted);
    }
  }
}

const textFields = (shown: readonly Shown[]): ReadonlySet<string> =>
  new Set(shown.flatMap(({ binding: { feed } }) => (feed.is === "text" ? [feed.field] : [])));

const entryFeeds = (shown: readonly Shown[]): EntryFeed[] =>
  shown.flatMap(({ binding: { feed } }) => (feed.is === "entry" ? [feed] : []));

const isLike =
  (feed: EntryFeed) =>
  (other: EntryFeed): boolean =>
    other.entries === feed.entries && JSON.stringify(other.constants) === JSON.stringify(feed.constants);
