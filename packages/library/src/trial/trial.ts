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

/** Rows of kinds, as one number each. */
type Closure = ReadonlySet<number>;

/** Chooses the few products that show every feature of a catalogue. */
export function chooseTrial(catalogue: ResolvedCatalogue): Trial {
  const features = featuresOf(catalogue);
  const closures = closuresOf(catalogue);
  // A product shows what those show that come along with it.
  const shown = closures.map((closure) => new Set([...closure].flatMap((row) => [...features[row]!])));
  const all = new Set(features.flatMap((own) => [...own]));
  const holders = new Map<string, number[]>();
  shown.forEach((own, row) => own.forEach((feature) => holders.set(feature, [...(holders.get(feature) ?? []), row])));

  const chosen = new Set<number>();
  const take = (row: number) => closures[row]!.forEach((one) => chosen.add(one));
  for (const [feature, rows] of holders) {
    // Where only one shows it, that one comes: itself, if what refers to it need not.
    const own = rows.filter((row) => features[row]!.has(feature));
    if (own.length === 1) take(firstOf(own));
  }
  const open = () => [...all].filter((feature) => ![...chosen].some((row) => features[row]!.has(feature)));
  const left = open();
  const candidates = undominated(left, shown, closures, chosen);
  const isExact = candidates.length <= exactUpTo;
  const forced = chosen.size;
  const picked = isExact
    ? exactCover(left, candidates, shown, closures, chosen)
    : greedyCover(left, candidates, shown, closures, chosen);
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
  return { products, features: all.size, least, isExact };
}

/** By product: itself and the products that it refers to, however far. */
function closuresOf(catalogue: ResolvedCatalogue): Closure[] {
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
  return next.map((_, row) => {
    const seen = new Set([row]);
    const todo = [row];
    while (todo.length > 0)
      for (const one of next[present(todo.pop())]!)
        if (!seen.has(one)) {
          seen.add(one);
          todo.push(one);
        }
    return seen;
  });
}

type Shown = readonly ReadonlySet<string>[];

const costOf = (closure: Closure, chosen: ReadonlySet<number>): number =>
  [...closure].filter((row) => !chosen.has(row)).length;

/** Products in question: none of which another shows as much at no higher cost. */
function undominated(
  left: readonly string[],
  shown: Shown,
  closures: readonly Closure[],
  chosen: ReadonlySet<number>,
): number[] {
  const open = new Set(left);
  const byShow = new Map<string, number>();
  shown.forEach((own, row) => {
    const shows = [...own].filter((feature) => open.has(feature)).sort();
    if (shows.length === 0) return;
    const name = shows.join("\u0000");
    const known = byShow.get(name);
    if (known === undefined || costOf(closures[row]!, chosen) < costOf(closures[known]!, chosen)) byShow.set(name, row);
  });
  const rows = [...byShow.values()];
  const showsOf = new Map(rows.map((row) => [row, [...shown[row]!].filter((feature) => open.has(feature))]));
  return rows.filter(
    (row) =>
      !rows.some((other) => {
        if (other === row) return false;
        const [own, others] = [entryOf(showsOf, row), entryOf(showsOf, other)];
        if (others.length < own.length || !own.every((feature) => shown[other]!.has(feature))) return false;
        const [cost, otherCost] = [costOf(closures[row]!, chosen), costOf(closures[other]!, chosen)];
        return otherCost < cost || (otherCost === cost && (others.length > own.length || other < row));
      }),
  );
}

/** The cheapest choice, by trying feature after feature all that show it; branches that cannot win are left. */
function exactCover(
  left: readonly string[],
  candidates: readonly number[],
  shown: Shown,
  closures: readonly Closure[],
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
    for (const row of [...fewest].sort((a, b) => costOf(closures[a]!, taken) - costOf(closures[b]!, taken)))
      go(
        open.filter((feature) => !shown[row]!.has(feature)),
        [...picked, row],
        new Set([...taken, ...closures[row]!]),
      );
  };
  go(left, [], chosen);
  return best ?? [];
}

function greedyCover(
  left: readonly string[],
  candidates: readonly number[],
  shown: Shown,
  closures: readonly Closure[],
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
      const value = gains / Math.max(1, costOf(closures[row]!, taken));
      if (value > score) [best, score] = [row, value];
    }
    if (best < 0) break;
    picked.push(best);
    closures[best]!.forEach((row) => taken.add(row));
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
