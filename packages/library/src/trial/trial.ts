/**
 * The trial: the fewest products that show everything that the catalogue uses, with all that they refer to. For a first import
 * before the whole.
 *
 * Exact where up to twenty products are in question, once those that nothing can stand in for are taken; beyond that near, with what
 * no choice can be smaller than.
 */

import { firstOf, entryOf, present } from "../checked.js";
import { targetsOf, type ResolvedCatalogue } from "../catalogue/catalogue.js";
import { withoutRecords } from "../catalogue/rebuild.js";
import { added } from "../lists.js";
import { featuresOf } from "./features.js";

/** A product of a trial, and what it shows. */
export interface TrialProduct {
  readonly row: number;
  /** What it is taken for; none for one that is there because another refers to it. */
  readonly shows: readonly string[];
}

/** The fewest products that use every feature. */
export interface Trial {
  readonly products: readonly TrialProduct[];
  readonly features: number;
  /** No choice has fewer products; the same as the number of products where the choice is exact. */
  readonly least: number;
  readonly isExact: boolean;
}

/** So many products in question are searched through for the fewest; of more, enough are taken. */
export const exactUpTo = 20;

/** Products with those that they refer to, however far. */
class Companions {
  readonly #needing: readonly (readonly number[])[];

  /** @param next by product those that it refers to itself. */
  constructor(readonly next: readonly ReadonlySet<number>[]) {
    const needing = next.map((): number[] => []);
    next.forEach((all, row) => all.forEach((one) => needing[one]!.push(row)));
    this.#needing = needing;
  }

  /** A product and all that come along with it. */
  of(row: number): ReadonlySet<number> {
    return reached([row], (one) => this.next[one]!);
  }

  /** The products that one of some comes along with, those themselves too; in their order. */
  bringing(rows: readonly number[]): readonly number[] {
    return [...reached(rows, (one) => this.#needing[one]!)].sort((a, b) => a - b);
  }

  /**
   * How many products come that are not chosen yet. @param chosen with all that come along with them. @param most more than so many
   * are not counted.
   */
  cost(row: number, chosen: ReadonlySet<number>, most = Infinity): number {
    const isNew = (one: number): boolean => !chosen.has(one);
    return isNew(row) ? reached([row], (one) => [...this.next[one]!].filter(isNew), most).size : 0;
  }
}

/** What steps lead to, what they begin with included. @param most where more is reached, it goes no further. */
function reached(from: readonly number[], next: (one: number) => Iterable<number>, most = Infinity): Set<number> {
  const seen = new Set(from);
  // A set that grows while it is gone through is gone through to its end.
  for (const one of seen) {
    if (seen.size > most) break;
    for (const other of next(one)) seen.add(other);
  }
  return seen;
}

/** Chooses the few products that show every feature of a catalogue. */
export function chooseTrial(catalogue: ResolvedCatalogue): Trial {
  const features = featuresOf(catalogue);
  const companions = companionsIn(catalogue);
  const holders = new Map<string, number[]>();
  features.forEach((own, row) => own.forEach((feature) => holders.set(feature, added(holders.get(feature), row))));

  const chosen = new Set<number>();
  const take = (row: number) => companions.of(row).forEach((one) => chosen.add(one));
  // Where only one shows it, that one comes.
  for (const rows of holders.values()) if (rows.length === 1) take(firstOf(rows));
  const left = [...holders].flatMap(([feature, rows]) => (rows.some((row) => chosen.has(row)) ? [] : [feature]));
  // A product shows what those show that come along with it.
  const shown = features.map(() => new Set<string>());
  for (const feature of left)
    for (const row of companions.bringing(entryOf(holders, feature))) shown[row]!.add(feature);
  const candidates = undominated(shown, companions, chosen);
  const isExact = candidates.length <= exactUpTo;
  const forced = chosen.size;
  const picked = isExact
    ? exactCover(left, candidates, shown, companions, chosen)
    : greedyCover(left, candidates, shown, companions, chosen);
  for (const row of picked) take(row);
  const least = isExact ? chosen.size : forced + apart(left, candidates, shown);

  const told = new Set<string>();
  const products = [...chosen]
    .sort((a, b) => [...features[b]!].length - [...features[a]!].length || a - b)
    .map((row): TrialProduct => {
      const shows = [...features[row]!].filter((feature) => !told.has(feature));
      for (const feature of shows) told.add(feature);
      return { row, shows };
    });
  return { products, features: holders.size, least, isExact };
}

function companionsIn(catalogue: ResolvedCatalogue): Companions {
  const products = catalogue.table("product");
  const variants = catalogue.table("variant");
  const next = Array.from({ length: products.size }, () => new Set<number>());
  const note = (from: number, kind: string, row: number) => {
    if (from < 0) return;
    if (kind === "product") next[from]!.add(row);
    if (kind === "variant") next[from]!.add(variants.parent(row));
  };
  for (const table of catalogue.tables)
    for (const { name, reference } of table.kind.fields) {
      if (!reference || (reference.to !== "product" && reference.to !== "variant")) continue;
      for (let row = 0; row < table.size; row++) {
        const owner = catalogue.ownerOf(table, row);
        const from =
          owner.table === products ? [owner.row] : owner.table === variants ? [variants.parent(owner.row)] : [];
        for (const to of targetsOf(catalogue, table, name, row)) for (const one of from) note(one, reference.to, to);
      }
    }
  // What a product can be had with: choices that are products themselves.
  const choices = catalogue.table("choice");
  for (let row = 0; row < products.size; row++)
    for (const group of targetsOf(catalogue, products, "optionGroups", row))
      for (const choice of choices.childrenOf(group)) {
        for (const to of targetsOf(catalogue, choices, "variant", choice)) note(row, "variant", to);
        for (const to of targetsOf(catalogue, choices, "product", choice)) note(row, "product", to);
      }
  return new Companions(next);
}

/** By product the features that are in question and come with it. */
type Shown = readonly ReadonlySet<string>[];

/** Products in question: none of which another shows as much at no higher cost. */
function undominated(shown: Shown, companions: Companions, chosen: ReadonlySet<number>): number[] {
  const byShow = new Map<string, { readonly row: number; readonly cost: number }>();
  shown.forEach((own, row) => {
    if (own.size === 0) return;
    const name = [...own].sort().join("\u0000");
    const known = byShow.get(name);
    const cost = companions.cost(row, chosen, known?.cost);
    if (!known || cost < known.cost) byShow.set(name, { row, cost });
  });
  const all = [...byShow.values()];
  const isLess = ({ row, cost }: (typeof all)[number]): boolean => {
    const own = shown[row]!;
    return all.some((other) => {
      const others = shown[other.row]!;
      if (other.row === row || others.size < own.size || other.cost > cost) return false;
      if (other.cost === cost && others.size === own.size && other.row > row) return false;
      return [...own].every((feature) => others.has(feature));
    });
  };
  return all.flatMap((one) => (isLess(one) ? [] : [one.row]));
}

/** The cheapest choice, by trying feature after feature all that show it; branches that cannot win are left. */
function exactCover(
  left: readonly string[],
  candidates: readonly number[],
  shown: Shown,
  companions: Companions,
  chosen: ReadonlySet<number>,
): number[] {
  let best: number[] | undefined;
  let bestCost = Infinity;
  const go = (open: readonly string[], picked: readonly number[], taken: ReadonlySet<number>) => {
    const cost = taken.size;
    if (cost >= bestCost) return;
    if (open.length === 0) {
      best = [...picked];
      bestCost = cost;
      return;
    }
    // The feature that the fewest show leaves the fewest ways.
    const options = open.map((feature) => candidates.filter((row) => shown[row]!.has(feature)));
    const fewest = options.reduce((a, b) => (b.length < a.length ? b : a));
    for (const row of [...fewest].sort((a, b) => companions.cost(a, taken) - companions.cost(b, taken)))
      go(
        open.filter((feature) => !shown[row]!.has(feature)),
        [...picked, row],
        new Set([...taken, ...companions.of(row)]),
      );
  };
  go(left, [], chosen);
  return best ?? [];
}

function greedyCover(
  left: readonly string[],
  candidates: readonly number[],
  shown: Shown,
  companions: Companions,
  chosen: ReadonlySet<number>,
): number[] {
  const picked: number[] = [];
  const taken = new Set(chosen);
  let open = new Set(left);
  while (open.size > 0) {
    let best = -1;
    let score = 0;
    for (const row of candidates) {
      const gains = [...shown[row]!].filter((feature) => open.has(feature)).length;
      const value = gains / Math.max(1, companions.cost(row, taken));
      if (value > score) [best, score] = [row, value];
    }
    if (best < 0) break;
    picked.push(best);
    companions.of(best).forEach((row) => taken.add(row));
    open = new Set([...open].filter((feature) => !shown[best]!.has(feature)));
  }
  return picked;
}

/** Features of which no product shows two: each needs one of its own. */
function apart(left: readonly string[], candidates: readonly number[], shown: Shown): number {
  const used = new Set<number>();
  let count = 0;
  const options = left
    .map((feature) => candidates.filter((row) => shown[row]!.has(feature)))
    .sort((a, b) => a.length - b.length);
  for (const rows of options) {
    if (rows.some((row) => used.has(row))) continue;
    rows.forEach((row) => used.add(row));
    count++;
  }
  return count;
}

/** The catalogue with nothing but the products of a trial, and what these refer to. */
export function trialCatalogue(catalogue: ResolvedCatalogue, { products }: Trial): ResolvedCatalogue {
  const kept = new Map<string, Set<number>>(catalogue.kinds.roots.map(({ name }) => [name, new Set<number>()]));
  const todo: [kind: string, row: number][] = [];
  const keep = (kind: string, row: number) => {
    const rows = entryOf(kept, kind);
    if (rows.has(row)) return;
    rows.add(row);
    todo.push([kind, row]);
  };
  for (const { row } of products) keep("product", row);
  while (todo.length > 0) {
    const [kind, row] = present(todo.pop());
    const table = catalogue.table(kind);
    const child = catalogue.kinds.childOf(kind);
    // Variants and choices come with what contains them; of values, only those that are used.
    if (child && child.name !== "value")
      for (const one of catalogue.table(child.name).childrenOf(row)) keep(child.name, one);
    if (table.kind.of !== undefined && table.parent(row) >= 0) keep(table.kind.of, table.parent(row));
    follow(kind, row);
    for (const collection of Object.keys(table.kind.entries ?? {}))
      for (const entry of catalogue.table(`${kind}.${collection}`).childrenOf(row))
        follow(`${kind}.${collection}`, entry);
  }
  const assortments = catalogue.table("assortment");
  const chosen = entryOf(kept, "product");
  for (let row = 0; row < assortments.size; row++)
    if (targetsOf(catalogue, assortments, "members", row).some((member) => chosen.has(member)))
      entryOf(kept, "assortment").add(row);
  return withoutRecords(catalogue, (kind, row) => !entryOf(kept, kind).has(row));

  function follow(name: string, row: number): void {
    const table = catalogue.table(name);
    for (const { name: field, reference } of table.kind.fields)
      if (reference) for (const to of targetsOf(catalogue, table, field, row)) keep(reference.to, to);
  }
}
