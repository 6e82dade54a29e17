/** Records that a platform has to have already, where a project says which of a kind it has: brands that no file of it can create. */

import type { ResolvedCatalogue } from "../catalogue/catalogue.js";
import { pathOf } from "../catalogue/path.js";
import type { ReadonlyTable } from "../catalogue/readonly-table.js";
import { present } from "../checked.js";
import { splitLanguage } from "../field-name.js";
import type { Lang } from "../nominal.js";
import { finding, type Findings } from "../findings/finding.js";
import { kindOfFeed } from "../layout/bindings/feed-kinds.js";
import { byLanguage, kindOfScope } from "../layout/layout.js";
import { Spellings } from "../spelling.js";
import type { Target } from "./target.js";

/** Between the names of a path, in `has`. */
const joint = " / ";

/** The kinds whose records a target's columns name, and that have no rows of their own in its files. */
export function namedKinds({ files }: Target): ReadonlySet<string> {
  const layouts = [...files.values()].flatMap((file) => file.layouts.flatMap(byLanguage).map(([, layout]) => layout));
  const named = layouts.flatMap((layout) =>
    layout.columns.flatMap(({ scope, bindings }) =>
      bindings.flatMap(({ feed }) =>
        kindOfFeed(feed)
          .references(feed, kindOfScope(layout, scope).name)
          .map(({ spec }) => spec.to),
      ),
    ),
  );
  const withRows = new Set(layouts.flatMap(({ shape }) => [shape.parent.name, shape.child?.name ?? shape.parent.name]));
  return new Set(named.filter((kind) => !withRows.has(kind)));
}

/** Each record of such a kind that the platform does not have, with the names that come nearest. */
export function reportNotThere(catalogue: ResolvedCatalogue, target: Target, findings: Findings): void {
  const spellings = new Map<Iterable<string>, Spellings>();
  for (const { table, row, names, isThere, given } of recordsOfLists(catalogue, target)) {
    if (isThere) continue;
    const name = names[0] ?? table.key(row);
    findings.addOf("target/not-there", () => {
      let known = spellings.get(given);
      if (!known) spellings.set(given, (known = new Spellings(given)));
      const facts = { kind: table.name, name, target: target.name, nearest: known.nearest(name) };
      return finding("target/not-there", facts, catalogue.location(table, row));
    });
  }
}

/** The records that the platform has by what the project says, as `kind row`. */
export const recordsThere = (catalogue: ResolvedCatalogue, target: Target): ReadonlySet<string> =>
  new Set(
    [...recordsOfLists(catalogue, target)].flatMap(({ table, row, isThere }) =>
      isThere ? [`${table.name} ${row}`] : [],
    ),
  );

interface ListedRecord {
  readonly table: ReadonlyTable;
  readonly row: number;
  /** In each language, with those above it. */
  readonly names: readonly string[];
  readonly isThere: boolean;
  readonly given: ReadonlySet<string>;
}

/** All records of kinds of which the project says which there are. */
function* recordsOfLists(catalogue: ResolvedCatalogue, target: Target): Generator<ListedRecord> {
  for (const kind of namedKinds(target)) {
    const given = target.has.get(kind);
    if (!given) continue;
    const has = withOuter(given);
    const table = catalogue.table(kind);
    const langs = [...table.texts.keys()].flatMap((field) =>
      field.startsWith("name@") ? present(splitLanguage(field).lang) : [],
    );
    for (let row = 0; row < table.size; row++) {
      const names = langs.flatMap((lang) => pathIn(catalogue, table, row, lang) ?? []);
      const words = [...names, table.key(row), table.text("id", row)];
      const isThere = words.some((word) => typeof word === "string" && has.has(word));
      yield { table, row, names, isThere, given };
    }
  }
}

/** What lies above a record that is there is there too. */
function withOuter(paths: ReadonlySet<string>): ReadonlySet<string> {
  const all = new Set(paths);
  for (const path of paths) {
    const nodes = path.split(joint);
    for (let to = 1; to < nodes.length; to++) all.add(nodes.slice(0, to).join(joint));
  }
  return all;
}

/** The names down to a record: of the nodes above it, or of what contains it; undefined where one has no name in the language. */
function pathIn(catalogue: ResolvedCatalogue, table: ReadonlyTable, row: number, lang: Lang): string | undefined {
  const { of } = table.kind;
  const above = of === undefined ? [] : pathOf(catalogue, catalogue.table(of), table.parent(row), lang);
  const path = [...above, ...pathOf(catalogue, table, row, lang)];
  return path.includes("") ? undefined : path.join(joint);
}
