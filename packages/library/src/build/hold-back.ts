/**
 * Holding back: which records of any kind stay out of a build because something is wrong with them, or with what they depend on.
 *
 * What is left is closed: nothing in it depends on what is held back. A dependency that contains or is required holds back what has it; so
 * does a link to what is not a product or variant (a product in a faulty category). Links to products and variants are left out, and reported.
 */

import { firstOf } from "../checked.js";
import { splitTable } from "../field-name.js";
import { referenceFields, targetsOf, type ResolvedCatalogue } from "../catalogue/catalogue.js";
import { noReference } from "../catalogue/reference-pool.js";
import type { ReadonlyTable } from "../catalogue/readonly-table.js";
import { finding, type Finding, type FindingCode, type Findings } from "../findings/finding.js";
import type { Dependency } from "../kind.js";
import type { RecordName } from "../location.js";
import { kindPhrase, phrase, type Text } from "../phrases/phrase.js";

/** Records that are left out, with everything that depends on them. */
export interface HeldBack {
  /** By kind: the rows of its table that stay out. */
  readonly byKind: ReadonlyMap<string, ReadonlySet<number>>;
  /** Errors whose records are not there to be held back: they stop the build. */
  readonly unanswered: readonly Finding[];
}

/** Where no record is held back. */
export const nothingHeldBack: HeldBack = { byKind: new Map(), unanswered: [] };

const none: ReadonlySet<number> = new Set();

/** Rows of a kind's table that are held back. */
export const heldRows = ({ byKind }: HeldBack, kind: string): ReadonlySet<number> => byKind.get(kind) ?? none;

/** Asks of each record whether it is held back. */
export function isHeldBack({ byKind }: HeldBack): (kind: string, row: number) => boolean {
  return (kind, row) => byKind.get(kind)?.has(row) ?? false;
}

/** How many records of each kind are held back; kinds without any are left out. */
export function heldCounts({ byKind }: HeldBack): readonly { readonly kind: string; readonly count: number }[] {
  return [...byKind].flatMap(([kind, rows]) => (rows.size > 0 ? [{ kind, count: rows.size }] : []));
}

/** Errors about rows: what could not be read of them is left out as it is; records that did come from the row are held back. */
const rowErrors: ReadonlySet<string> = new Set<FindingCode>([
  "read/ragged-row",
  "read/orphan-row",
  "read/open-quote",
  "read/row-without-group",
  "read/row-above-all",
  "read/cell-too-long",
  "read/scattered-group",
  "read/repeated-key",
  "read/no-key",
]);

/** Whether leaving records out answers an error. Errors about whole files and about the target cannot be answered so. */
export function canBeHeldBack(error: Finding): boolean {
  return error.at?.record !== undefined || rowErrors.has(error.code);
}

/** @param causes findings whose records are faulty. Every record held back is reported, once. */
export function holdBack(catalogue: ResolvedCatalogue, causes: readonly Finding[], findings: Findings): HeldBack {
  const faulty = new Faulty();
  const unanswered: Finding[] = [];
  const atLine = recordsByLine(catalogue, causes);
  for (const cause of causes) {
    const found = recordsOf(cause, atLine).flatMap(({ kind, key }) => {
      const row = catalogue.kinds.find(kind)?.entryKey === undefined ? catalogue.table(kind).find(key) : undefined;
      return row === undefined ? [] : [{ kind, row }];
    });
    for (const { kind, row } of found) faulty.mark(kind, row, phrase("it has an error ({0})", cause.code));
    if (found.length === 0 && !rowErrors.has(cause.code)) unanswered.push(cause);
  }
  for (let grown = true; grown;) {
    const before = faulty.size;
    spreadToReferrers(catalogue, faulty);
    spreadInFamilies(catalogue, faulty);
    grown = faulty.size > before;
  }
  const byKind = new Map<string, ReadonlySet<number>>();
  for (const { name } of catalogue.kinds.roots) {
    const rows = faulty.of(name);
    if (rows.size === 0) continue;
    byKind.set(name, new Set(rows.keys()));
    const table = catalogue.table(name);
    for (const [row, because] of rows)
      findings.add(finding("build/held-back", { because }, catalogue.location(table, row)));
  }
  const heldBack = { byKind, unanswered };
  reportLinks(catalogue, heldBack, findings);
  return heldBack;
}

/** Records that stay out, each with the reason that came first. */
class Faulty {
  readonly #rows = new Map<string, Map<number, Text>>();
  size = 0;

  mark(kind: string, row: number, because: Text): void {
    const rows = this.#rows.get(kind) ?? new Map<number, Text>();
    this.#rows.set(kind, rows);
    if (rows.has(row)) return;
    rows.set(row, because);
    this.size++;
  }

  of(kind: string): ReadonlyMap<number, Text> {
    return this.#rows.get(kind) ?? new Map<number, Text>();
  }

  has(kind: string, row: number): boolean {
    return this.#rows.get(kind)?.has(row) ?? false;
  }
}

/** Whether what has such a reference stays out with what it refers to; else only the link does. */
const holds = ({ to, dependency }: { readonly to: string; readonly dependency: Dependency }): boolean =>
  dependency !== "linking" || (to !== "product" && to !== "variant");

/** Links of what is built to what is not: they are left out, and reported. */
function reportLinks(catalogue: ResolvedCatalogue, heldBack: HeldBack, findings: Findings): void {
  const isLeftOut = isHeldBack(heldBack);
  for (const table of catalogue.tables) {
    const links = referenceFields(table.kind).filter((field) => !holds(field));
    for (const { name, to } of links)
      for (let row = 0; row < table.size; row++) {
        const owner = catalogue.ownerOf(table, row);
        if (isLeftOut(owner.table.name, owner.row)) continue;
        for (const target of targetsOf(catalogue, table, name, row)) {
          if (!isLeftOut(to, target)) continue;
          const word = table.kind.entryKey ? (table.text(firstOf(table.kind.entryKey), row) ?? "") : "";
          const collection = splitTable(table.name).collection;
          const field = table.kind.entryKey ? `${collection}(${word}).${name}` : name;
          const facts = { relation: word === "" ? name : word, to: catalogue.table(to).key(target) };
          findings.add(finding("build/link-left-out", facts, catalogue.location(table, row, field)));
        }
      }
  }
}

/** A cycle is the fault of all that are on it; an error about a row, of the records that came from it. */
function recordsOf(cause: Finding, atLine: ReadonlyMap<string, readonly RecordName[]>): readonly RecordName[] {
  if (cause.code === "plan/cycle") return [cause.at, ...cause.related].flatMap((location) => location?.record ?? []);
  if (cause.at?.record) return [cause.at.record];
  return atLine.get(lineKey(cause.at?.file, cause.at?.sheet, cause.at?.line)) ?? [];
}

const lineKey = (file: string | undefined, sheet: string | undefined, line: number | undefined): string =>
  JSON.stringify([file, sheet ?? "", line]);

/** Records by the line they came from, for the lines that causes without a record stand on. */
function recordsByLine(catalogue: ResolvedCatalogue, causes: readonly Finding[]): Map<string, RecordName[]> {
  const wanted = new Map(
    causes.flatMap(({ at }) =>
      at && !at.record ? [[lineKey(at.file, at.sheet, at.line), [] as RecordName[]] as const] : [],
    ),
  );
  if (wanted.size === 0) return wanted;
  for (const { name: kind } of catalogue.kinds.roots) {
    const table = catalogue.table(kind);
    for (let row = 0; row < table.size; row++) {
      const sheet = catalogue.sheets[table.sheet(row)];
      wanted.get(lineKey(sheet?.file, sheet?.sheet, table.line(row)))?.push({ kind, key: table.key(row) });
    }
  }
  return wanted;
}

/** Along the references of records and of their entries. */
function spreadToReferrers(catalogue: ResolvedCatalogue, faulty: Faulty): void {
  for (const table of catalogue.tables) {
    const fields = referenceFields(table.kind).filter((field) => holds(field) && faulty.of(field.to).size > 0);
    if (fields.length === 0) continue;
    // A category below a faulty one comes anywhere in its table: as many passes as the tree is deep.
    const isTree = fields.some(({ to }) => to === table.kind.name);
    for (let again = true; again;) {
      again = false;
      for (let row = 0; row < table.size; row++) {
        const owner = catalogue.ownerOf(table, row);
        if (faulty.has(owner.table.name, owner.row)) continue;
        const bad = fields.find((field) => refersToFaulty(catalogue, table, field.name, row, faulty.of(field.to)));
        if (!bad) continue;
        faulty.mark(owner.table.name, owner.row, phrase("it depends on a held-back record ({0})", kindPhrase(bad.to)));
        again = isTree;
      }
    }
  }
}

/** What is contained goes with what contains it; what contained only what is held back is nothing by itself. */
function spreadInFamilies(catalogue: ResolvedCatalogue, faulty: Faulty): void {
  for (const { name, of } of catalogue.kinds.roots) {
    if (of === undefined) continue;
    const [table, above] = [catalogue.table(name), catalogue.table(of)];
    for (let parent = 0; parent < above.size; parent++) {
      const children = [...table.childrenOf(parent)];
      if (children.length > 0 && children.every((row) => faulty.has(name, row)))
        faulty.mark(of, parent, phrase("all its {0} are held back", kindPhrase(name, 2)));
      if (faulty.has(of, parent))
        for (const row of children) faulty.mark(name, row, phrase("its {0} is held back", kindPhrase(of)));
    }
  }
}

/** A reference that leads nowhere, to a kind with faulty records, is taken to be broken by them: a path through a category in a cycle. */
function refersToFaulty(
  catalogue: ResolvedCatalogue,
  table: ReadonlyTable,
  field: string,
  row: number,
  faulty: ReadonlyMap<number, Text>,
): boolean {
  return (table.references.get(field)?.get(row) ?? []).some((number) => {
    const target = catalogue.pool.target.get(number);
    return target === noReference || faulty.has(target);
  });
}
