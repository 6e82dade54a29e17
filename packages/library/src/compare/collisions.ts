/** New records that share with one on the platform what only one record should have: a code, a barcode, an address. */

import type { ResolvedCatalogue } from "../catalogue/catalogue.js";
import type { ReadonlyTable } from "../catalogue/readonly-table.js";
import { splitLanguage } from "../field-name.js";
import { fieldOf } from "../kind.js";
import { none } from "../match/correspondence.js";
import { identityKind, type IdentityName } from "../match/identities.js";
import type { Target } from "../target/target.js";
import type { Unmatched } from "./differences.js";
import { saidDifferent, type Pair, type RepliedPair } from "./pairs.js";
import type { Sides } from "./sides.js";
import { numbersWhere } from "../lists.js";

/** What only one record should have, in the order in which it is asked. */
const identities = ["code", "barcode", "slug"] as const satisfies readonly IdentityName[];
type SharedIdentity = (typeof identities)[number];

/** A record of yours that is new, and a record on the platform that has what only one should have. */
export interface Collision extends Pair {
  readonly by: SharedIdentity;
  readonly value: string;
  /** The rows of both. */
  readonly own: number;
  readonly there: number;
}

/** By each text that tells records apart, the rows that have it; with the text as people read it. */
function rowsByText(
  catalogue: ResolvedCatalogue,
  kind: string,
  by: SharedIdentity,
  rows: Iterable<number>,
): Map<string, { readonly shown: string; readonly rows: number[] }> {
  const table = catalogue.table(kind);
  const found = new Map<string, { readonly shown: string; readonly rows: number[] }>();
  for (const lang of languagesOf(table, by)) {
    const textsOf = identityKind({ is: by, lang }).texts(catalogue, table, lang, []);
    for (const row of rows)
      for (const shown of new Set(textsOf(row))) {
        const text = JSON.stringify([lang, shown]);
        const known = found.get(text);
        if (known) known.rows.push(row);
        else found.set(text, { shown, rows: [row] });
      }
  }
  return found;
}

/** The languages in which a table has a field; none for a field without. */
function languagesOf({ kind, texts }: ReadonlyTable, by: SharedIdentity): (string | undefined)[] {
  if (by !== "slug") return [undefined];
  if (!fieldOf(kind, by)) return [];
  return [...texts.keys()].flatMap((field) => {
    const { name, lang } = splitLanguage(field);
    return name === by ? [lang] : [];
  });
}

/** The rows of records, by their kinds. */
export function rowsByKind(records: readonly Unmatched[]): Map<string, number[]> {
  const kinds = new Map<string, number[]>();
  for (const { kind, row } of records) {
    const known = kinds.get(kind);
    if (known) known.push(row);
    else kinds.set(kind, [row]);
  }
  return kinds;
}

/** What new records are checked for. */
export interface NewRecords {
  readonly sides: Sides;
  readonly pairs: readonly RepliedPair[];
  /** Records of yours that are new. */
  readonly onlyOwn: readonly Unmatched[];
}

/** Collisions with records that are not yours, and that are not settled by an answer. */
export function openCollisions({
  sides,
  target,
  pairs,
  onlyOwn,
  isStranger,
}: NewRecords & {
  readonly target: Target;
  readonly isStranger: (collision: Collision) => boolean;
}): Collision[] {
  const isDifferent = saidDifferent(pairs);
  return (
    [...rowsByKind(onlyOwn)]
      .flatMap(([kind, rows]) => collisions(sides, kind, rows))
      .filter(isStranger)
      // A code by which the platform knows its records is that record's, whatever the answer.
      .filter((one) => !isDifferent(one) || (one.by === "code" && goesByCode(target, sides, one.kind)))
  );
}

/** Whether the platform finds a record by its code, or refuses a second one with it. */
function goesByCode({ files }: Target, { identitiesOf }: Sides, kind: string): boolean {
  if (identitiesOf(kind).some(({ is }) => is === "code")) return true;
  return [...files.values()].some(({ layouts, rules }) =>
    layouts.some(({ columns }) =>
      columns.some(
        ({ header, bindings }) =>
          rules.get(header)?.once === true && bindings.some(({ feed }) => feed.is === "text" && feed.field === "code"),
      ),
    ),
  );
}

/** Records that share with one on the platform what only one record should have. What is yours there is no stranger. */
function collisions({ own, there, matched }: Sides, kind: string, fresh: readonly number[]): Collision[] {
  const strange = numbersWhere(there.table(kind).size, (row) => matched.ownOf(kind, row) === none);
  const found = new Map<number, Collision>();
  for (const by of identities) {
    const platforms = rowsByText(there, kind, by, strange);
    for (const [text, { shown: value, rows }] of rowsByText(own, kind, by, fresh))
      for (const row of rows) {
        const other = platforms.get(text)?.rows[0];
        if (other === undefined || found.has(row)) continue;
        const pair = { kind, yours: own.table(kind).key(row), platforms: there.table(kind).key(other) };
        found.set(row, { ...pair, own: row, there: other, by, value, why: `the same ${by} ${value}` });
      }
  }
  return [...found.values()];
}
