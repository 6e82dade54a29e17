/** Saying of each reference that names nothing, or too much, where it stands and what comes nearest. */

import type { Lang } from "../nominal.js";
import { locationIn, targetsOf, type Description, type ResolvedCatalogue } from "../catalogue/catalogue.js";
import { noReference, type ReferenceSpec } from "../catalogue/reference-pool.js";
import type { ReadonlyTable } from "../catalogue/readonly-table.js";
import { finding, type Findings } from "../findings/finding.js";
import { Spellings } from "../spelling.js";
import { added } from "../lists.js";
import type { Location } from "../location.js";

const maxShown = 10;

/** What is known once references have been looked up. */
interface LookedUp {
  readonly codes: { codes(): Iterable<string> };
  /** By reference: the records that it may mean. */
  readonly ambiguous: ReadonlyMap<number, readonly number[]>;
  names(spec: ReferenceSpec, isWithin: boolean): { names(container: number): Iterable<string> };
}

export function reportDangling(catalogue: ResolvedCatalogue, resolver: LookedUp, findings: Findings): void {
  const { pool } = catalogue;
  let open = false;
  for (let number = 0; number < pool.size && !open; number++) open = pool.target.get(number) === noReference;
  if (!open) return;
  const nearest = new Map<number, string[]>();
  const candidates = new Map<string, Spellings>();
  const looped = loopedCategories(catalogue);
  let others: Map<string, Set<string>> | undefined;
  for (const table of catalogue.tables)
    for (const [field, column] of table.references)
      for (let row = 0; row < table.size; row++)
        for (const number of column.get(row))
          if (pool.target.get(number) === noReference) report(table, field, row, number);

  function report(table: ReadonlyTable, field: string, row: number, number: number): void {
    // The outermost open reference is the cause; what lies within it is a consequence.
    let cause = number;
    for (let at = number; at !== noReference; at = pool.within(at)) if (pool.target.get(at) === noReference) cause = at;
    const spec = pool.spec(cause);
    const location = catalogue.location(table, row, field);
    const text = pool.texts(number).join(" / ");
    const rows = resolver.ambiguous.get(cause)?.slice(0, maxShown);
    if (rows) {
      const to = catalogue.table(spec.to);
      const candidates = rows.map((candidate) => to.key(candidate));
      findings.add(
        finding(
          "resolve/ambiguous",
          { to: spec.to, by: byText(spec), text, candidates },
          location,
          rows.map((candidate) => catalogue.location(to, candidate)),
        ),
      );
      return;
    }
    if (spec.inTree && looped.has(pool.text(cause))) return;
    const code = spec.missing === "hold" ? "resolve/held-back" : "resolve/dangling";
    findings.addOf(code, () => {
      const unknown = pool.text(cause);
      const elsewhere = kindsWith(unknown, spec.to);
      const facts = { to: spec.to, by: byText(spec), text, unknown, nearest: nearestTo(cause), elsewhere };
      return finding(code, facts, location);
    });
  }

  function nearestTo(cause: number): readonly string[] {
    let near = nearest.get(cause);
    if (!near) nearest.set(cause, (near = spellingsFor(cause).nearest(pool.text(cause))));
    return near;
  }

  /** The kinds that have a record of that key, code or name, though not the one that is wanted. */
  function kindsWith(text: string, wanted: string): readonly string[] {
    if (!others) {
      others = new Map();
      for (const { name } of catalogue.kinds.roots) {
        const table = catalogue.table(name);
        const words = [...table.texts].filter(([field]) => field === "code" || field.startsWith("name@"));
        for (let row = 0; row < table.size; row++)
          for (const word of [table.key(row), ...words.map(([, column]) => column.get(row))])
            if (typeof word === "string") others.set(word, (others.get(word) ?? new Set()).add(name));
      }
    }
    return [...(others.get(text) ?? [])].filter((kind) => kind !== wanted);
  }

  /** What a reference is held against: the same for all that look among the same records. */
  function spellingsFor(number: number): Spellings {
    const spec = pool.spec(number);
    const within = pool.within(number);
    const container = within === noReference ? (spec.inTree ? noReference : -2) : pool.target.get(within);
    const isWithin = within !== noReference;
    const among = JSON.stringify([spec.to, spec.by, spec.lang, spec.within, spec.inTree, isWithin, container]);
    let known = candidates.get(among);
    if (!known) candidates.set(among, (known = new Spellings(candidatesFor(spec, isWithin, container))));
    return known;
  }

  function candidatesFor(spec: ReferenceSpec, isWithin: boolean, container: number): Iterable<string> {
    if (spec.by === "code") return resolver.codes.codes();
    if (spec.by === "key") return catalogue.table(spec.to).keys();
    if (spec.by === "id") return [];
    return resolver.names(spec, isWithin).names(container);
  }
}

/**
 * Records that cells tell of with all that is contained in them (an option group with its choices), where another cell, or a sheet of its own,
 * tells of the same record otherwise: its content in one product would be that of all.
 */
export function reportDescriptions(catalogue: ResolvedCatalogue, findings: Findings): void {
  const { pool } = catalogue;
  const ofRecord = new Map<string, Description[]>();
  for (const description of catalogue.descriptions) {
    const row = pool.target.get(description.reference);
    if (row === noReference) continue;
    const name = `${pool.spec(description.reference).to} ${row}`;
    ofRecord.set(name, added(ofRecord.get(name), description));
  }
  for (const all of ofRecord.values()) {
    const [first, ...others] = all as [Description, ...Description[]];
    for (const other of others) report(other, placeOf(first));
    const more = others.length === 0 ? moreThanTold(first) : undefined;
    if (more) report(first, more);
  }

  function report(description: Description, related: Location): void {
    const { to } = pool.spec(description.reference);
    const key = catalogue.table(to).key(pool.target.get(description.reference));
    const location = { ...placeOf(description), record: { kind: to, key } };
    findings.add(finding("resolve/contents-differ", { kind: to, key }, location, [related]));
  }

  function placeOf({ met, column }: Description): Location {
    return locationIn(catalogue.sheets[met.sheet]!, met.line, column);
  }

  /** Where something stands that the record contains and the cell does not tell of. */
  function moreThanTold({ reference, contained }: Description): Location | undefined {
    const child = catalogue.kinds.childOf(pool.spec(reference).to);
    if (!child) return undefined;
    const table = catalogue.table(child.name);
    const told = new Set(contained.map((one) => pool.target.get(one)));
    const more = [...table.childrenOf(pool.target.get(reference))].find((row) => !told.has(row));
    return more === undefined ? undefined : catalogue.location(table, more);
  }
}

/** Names of categories that lie below themselves: that is reported once, and no path leads to them. */
function loopedCategories(catalogue: ResolvedCatalogue): ReadonlySet<string> {
  const categories = catalogue.table("category");
  const fields = [...categories.texts.keys()].filter((field) => field.startsWith("name@"));
  const names = new Set<string>();
  const isClear = new Set<number>();
  for (let start = 0; start < categories.size; start++) {
    const chain = new Set<number>();
    let at: number | undefined = start;
    while (at !== undefined && !isClear.has(at) && !chain.has(at)) {
      chain.add(at);
      at = targetsOf(catalogue, categories, "parent", at)[0];
    }
    if (at === undefined || isClear.has(at)) for (const row of chain) isClear.add(row);
    else for (const row of chain) for (const field of fields) names.add(categories.text(field, row) ?? "");
  }
  return names;
}

const byText = (spec: { readonly by: string; readonly lang: Lang | undefined }): string =>
  spec.lang === undefined ? spec.by : `${spec.by}@${spec.lang}`;
