/**
 * Singles as platforms keep them whose rows are of variants: a product, and below it the one variant that it is. So a code is found
 * again, whether it stands alone or among others.
 */

import {
  referenceFields,
  type Catalogue,
  type ResolvedBranch,
  type ResolvedCatalogue,
} from "../catalogue/catalogue.js";
import type { ReadonlyTable } from "../catalogue/readonly-table.js";
import type { Table } from "../catalogue/table.js";
import { fieldOfColumn } from "../field-name.js";
import { fieldOf, type KindSpec } from "../kind.js";
import { byLanguage, levelOf, type Feed } from "../layout/layout.js";
import type { Target } from "../target/target.js";
import { numbersWhere } from "../lists.js";

/** A catalogue without singles. Its records have the rows that they had; the variants that are made of singles stand behind them. */
export interface Unfolded {
  readonly catalogue: ResolvedCatalogue;
  /** Where a row of a table was before: in the table of the single, for what is its variant's now. */
  readonly before: (table: string, row: number) => readonly [table: string, row: number];
}

interface EntryPlace {
  readonly entries: string;
  readonly constants: Readonly<Record<string, string>>;
}

/** What the rows of children show of a single. */
interface ChildPlaces {
  readonly kind: KindSpec;
  readonly child: KindSpec;
  readonly fields: ReadonlySet<string>;
  readonly entries: readonly EntryPlace[];
}

/** Gives each single a variant, where the target's files have rows for it. The code stays at the product too: references go by it. */
export function unfoldSingles(catalogue: ResolvedCatalogue, target: Target): Unfolded {
  const places = childPlaces(target);
  if (places.length === 0) return { catalogue, before: (table, row) => [table, row] };
  const made = catalogue.branch();
  const moved = new Map<string, readonly [string, number]>();
  for (const one of places) new Unfolding(made, one, moved).run();
  return { catalogue: made, before: (table, row) => moved.get(`${table} ${row}`) ?? [table, row] };
}

class Unfolding {
  readonly #singles: Table;
  readonly #children: Table;

  constructor(
    readonly made: Catalogue & ResolvedBranch,
    readonly places: ChildPlaces,
    readonly moved: Map<string, readonly [string, number]>,
  ) {
    this.#singles = made.table(places.kind.name);
    this.#children = made.table(places.child.name);
  }

  run(): void {
    const [singles, children] = [this.#singles, this.#children];
    const alone = numbersWhere(
      singles.size,
      (row) => singles.referencesOf("axes").first(row) < 0 && [...children.childrenOf(row)].length === 0,
    );
    const rows = alone.map((row) => {
      const child = children.append(singles.sheet(row), singles.line(row), row);
      const code = singles.text("code", row);
      children.nameRecord(child, typeof code === "string" && code !== "" ? code : singles.key(row));
      this.moved.set(`${children.name} ${child}`, [singles.name, row]);
      return [row, child] as const;
    });
    for (const [row, child] of rows) this.#fields(row, child);
    for (const { entries } of this.places.entries) this.#entries(entries, new Map(rows));
  }

  #fields(row: number, child: number): void {
    for (const [field, column] of [...this.#singles.texts]) {
      const cell = column.get(row);
      if (cell === undefined || !this.places.fields.has(field)) continue;
      this.#children.setText(field, child, cell);
      const origin = this.#singles.fieldOrigin(field, row);
      if (origin) this.#children.setFieldOrigin(field, child, origin);
      if (field !== "code") this.#singles.setText(field, row, undefined);
    }
    for (const { name } of referenceFields(this.places.child)) {
      if (!this.places.fields.has(name) || !this.#singles.referencesOf(name).isSet(row)) continue;
      this.#children.referenceColumn(name).set(child, [...this.#singles.referencesOf(name).get(row)]);
      this.#singles.referenceColumn(name).set(row, []);
    }
  }

  #entries(list: string, childOf: ReadonlyMap<number, number>): void {
    const [from, to] = [
      this.made.table(`${this.#singles.name}.${list}`),
      this.made.table(`${this.#children.name}.${list}`),
    ];
    const own = this.places.entries.filter(({ entries }) => entries === list);
    for (let entry = 0; entry < from.size; entry++) {
      const child = childOf.get(from.parent(entry));
      if (child === undefined || !own.some(({ constants }) => fits(from, entry, constants))) continue;
      const into = copyRow(from, entry, to, child);
      from.reparent(entry, -1);
      this.moved.set(`${to.name} ${into}`, [from.name, entry]);
    }
  }
}

const fits = (table: ReadonlyTable, entry: number, constants: EntryPlace["constants"]): boolean =>
  Object.entries(constants).every(([field, word]) => table.text(field, entry) === word);

/** A row with all its cells, as one more row. @returns the new row. */
export function copyRow(from: Table, row: number, to: Table, owner: number): number {
  const made = to.append(from.sheet(row), from.line(row), owner);
  for (const [field, column] of from.texts) {
    const cell = column.get(row);
    if (cell !== undefined) to.setText(field, made, cell);
  }
  for (const [field, column] of from.references)
    if (column.isSet(row)) to.referenceColumn(field).set(made, column.get(row));
  return made;
}

/** What columns of children feed, of the kinds whose records may stand alone. */
function childPlaces({ files }: Target): ChildPlaces[] {
  const found = new Map<string, { kind: KindSpec; child: KindSpec; fields: Set<string>; entries: EntryPlace[] }>();
  for (const { layouts } of files.values())
    for (const layout of layouts.flatMap((one) => byLanguage(one).map(([, own]) => own))) {
      const { parent, child } = layout.shape;
      if (!child || layout.link || !parent.single) continue;
      const known = found.get(child.name);
      const one = known ?? { kind: parent, child, fields: new Set<string>(), entries: [] };
      if (!known) found.set(child.name, one);
      for (const { scope, bindings } of layout.columns) {
        if (levelOf(layout, scope) !== "child") continue;
        const lane = scope.is === "lane" ? layout.lanes.find(({ name }) => name === scope.lane) : undefined;
        for (const { feed } of bindings) note(one, feed, lane?.constants, lane?.collection);
      }
    }
  return [...found.values()].map((one) => ({ ...one, fields: ownFields(one) }));
}

function note(
  into: { readonly fields: Set<string>; readonly entries: EntryPlace[] },
  feed: Feed,
  ofLane: EntryPlace["constants"] | undefined,
  collection: string | undefined,
): void {
  if (feed.is === "text") into.fields.add(feed.field);
  else if (feed.is === "reference") into.fields.add(feed.field);
  else if (feed.is === "entry" || feed.is === "entries")
    into.entries.push({ entries: feed.entries, constants: unnamed({ ...feed.constants, ...ofLane }, feed.named) });
  else if (collection !== undefined) into.entries.push({ entries: collection, constants: ofLane ?? {} });
}

/** Without what names a record: an entry has a reference there. */
const unnamed = (
  constants: EntryPlace["constants"],
  named: Readonly<Record<string, unknown>>,
): EntryPlace["constants"] =>
  Object.fromEntries(Object.entries(constants).filter(([field]) => named[field] === undefined));

/** Fields that a single has itself: it has no values. */
const ownFields = ({ kind, fields }: Pick<ChildPlaces, "kind" | "fields">): ReadonlySet<string> =>
  new Set([...fields].filter((field) => fieldOf(kind, fieldOfColumn(field)) !== undefined));
