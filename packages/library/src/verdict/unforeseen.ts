/**
 * What a rehearsal finds and nothing before it has: rows and files that the platform would refuse, and values that it would have
 * otherwise. Each is an error at its cell in the source.
 */

import type { ResolvedCatalogue } from "../catalogue/catalogue.js";
import { isHeldBack } from "../build/hold-back.js";
import type { Prepared } from "../build/prepare.js";
import { entryOf } from "../checked.js";
import { finding, type Finding, type FindingCode, type ReadonlyFindings } from "../findings/finding.js";
import { kindOfFeed } from "../layout/bindings/feed-kinds.js";
import type { Location, RecordName } from "../location.js";
import { stepsNow } from "../plan/plan.js";
import type { Target, TargetFile } from "../target/target.js";
import type { RehearsedFile, RehearsedRow } from "../rehearse/outcome.js";
import type { LocatedDifference } from "./compare-held.js";
import type { Verdict } from "./rehearse.js";

/** @param found what is known already: a record with an error, or with one of the warnings below, is not told of again. */
export function unforeseen(
  verdict: Verdict,
  catalogue: ResolvedCatalogue,
  target: Target,
  { plan, heldBack }: Prepared,
  found: ReadonlyFindings,
): Finding[] {
  const known = new KnownRecords(catalogue, found, isHeldBack(heldBack));
  const files = new Map(
    stepsNow(plan).flatMap((step) =>
      step.is === "upload" ? step.files.map(({ name }) => [name, entryOf(target.files, step.slot.file)] as const) : [],
    ),
  );
  const isRefused = verdict.files.some(({ refused, rows }) => refused !== undefined || rows.some(isRefusedRow));
  if (isRefused) return verdict.files.flatMap((file) => refusals(file, files.get(file.name), target.name, known));
  return verdict.differences.flatMap((one) => (known.isToldOf(one) ? [] : [differing(one, target.name)]));
}

const isRefusedRow = ({ outcome, reasons }: RehearsedRow): boolean => outcome === "refused" && reasons.length > 0;

function refusals(
  { name, refused, rows }: RehearsedFile,
  file: TargetFile | undefined,
  target: string,
  known: KnownRecords,
): Finding[] {
  const own = rows.filter(isRefusedRow);
  if (refused !== undefined && own.length === 0)
    return [finding("rehearse/file-refused", { target, reason: refused }, { file: name })];
  // Where rows are refused together, each has the reasons of all of them: the first says them.
  const isSame = (row: RehearsedRow, above: RehearsedRow | undefined): boolean =>
    above !== undefined &&
    above.reasons.join() === row.reasons.join() &&
    (row.parent === "" || row.parent === above.parent || above.parent === "");
  const first = own.filter((row, at) => !isSame(row, own[at - 1]));
  return first.flatMap((row): Finding[] => {
    if (known.hasError(row)) return [];
    const { line, reasons } = row;
    const at = known.locationOf(row, file) ?? { file: name, line };
    return [finding("rehearse/refused", { target, file: name, line, reasons }, at)];
  });
}

function differing({ kind, key, field = "", intended, actual, at }: LocatedDifference, target: string): Finding {
  const shown = (value: LocatedDifference["intended"]) => (value === undefined ? undefined : String(value));
  const record: RecordName = { kind, key };
  const facts = { target, field, intended: shown(intended), actual: shown(actual) };
  return finding("rehearse/different", facts, at ?? { file: target, record });
}

/** Warnings that something of their record will be otherwise on the platform. */
const warnings: ReadonlySet<string> = new Set([
  "target/cut",
  "target/left-out",
  "check/picture-missing",
  "check/related-to-itself",
] satisfies FindingCode[]);

/** The records that findings have told of. */
class KnownRecords {
  readonly #wrong = new Set<string>();
  readonly #expected = new Set<string>();
  readonly #codes = new Map<string, number>();

  constructor(
    readonly catalogue: ResolvedCatalogue,
    found: ReadonlyFindings,
    readonly isLeftOut: (kind: string, row: number) => boolean,
  ) {
    for (const { code, severity, at, related } of found.list())
      for (const { record } of [at, ...related].flatMap((one) => one ?? [])) {
        if (!record || (severity !== "error" && !warnings.has(code))) continue;
        for (const name of this.#withContainer(record)) {
          this.#expected.add(name);
          if (severity === "error" && !this.#isHeldBack(record)) this.#wrong.add(name);
        }
      }
  }

  /** What is wrong with a record that is not uploaded costs no row of a file. */
  #isHeldBack({ kind, key }: RecordName): boolean {
    const row = this.#isRoot(kind) ? this.catalogue.table(kind).find(key) : undefined;
    return row !== undefined && this.isLeftOut(kind, row);
  }

  #isRoot(kind: string): boolean {
    return this.catalogue.kinds.roots.some(({ name }) => name === kind);
  }

  /** A record, and what contains it: what is wrong with a variant may cost its product. */
  #withContainer({ kind, key }: RecordName): string[] {
    const table = this.#isRoot(kind) ? this.catalogue.table(kind) : undefined;
    const row = table?.find(key);
    const { of } = table?.kind ?? {};
    const above = row === undefined || of === undefined ? -1 : (table?.parent(row) ?? -1);
    return [
      `${kind} ${key}`,
      ...(above < 0 || of === undefined ? [] : [`${of} ${this.catalogue.table(of).key(above)}`]),
    ];
  }

  isToldOf({ kind, key }: LocatedDifference): boolean {
    return this.#withContainer({ kind, key }).some((name) => this.#expected.has(name));
  }

  hasError(row: RehearsedRow): boolean {
    const found = this.#find(row);
    if (!found) return false;
    const key = this.catalogue.table(found.kind).key(found.row);
    return this.#withContainer({ kind: found.kind, key }).some((name) => this.#wrong.has(name));
  }

  /** The cell of the first reason; the record, where that names no column. */
  locationOf(row: RehearsedRow, file: TargetFile | undefined): Location | undefined {
    const found = this.#find(row);
    if (!found) return undefined;
    const table = this.catalogue.table(found.kind);
    const field = file && fieldOf(row, file);
    return this.catalogue.location(table, found.row, field);
  }

  #find({ about }: RehearsedRow): { readonly kind: string; readonly row: number } | undefined {
    if (!about) return undefined;
    const row =
      this.catalogue.table(about.kind).find(about.word) ?? this.#byCode(about.kind).get(`${about.kind} ${about.word}`);
    if (row !== undefined) return { kind: about.kind, row };
    // What is sold by itself has its code itself.
    const { of } = this.catalogue.kinds.get(about.kind);
    const single = of === undefined ? undefined : this.#byCode(of).get(`${of} ${about.word}`);
    return of === undefined || single === undefined ? undefined : { kind: of, row: single };
  }

  #byCode(kind: string): ReadonlyMap<string, number> {
    const table = this.catalogue.table(kind);
    const column = table.textsOf("code");
    if (!this.#codes.has(kind)) {
      this.#codes.set(kind, -1);
      for (let row = 0; row < table.size; row++) {
        const code = column.get(row);
        if (typeof code === "string") this.#codes.set(`${kind} ${code}`, row);
      }
    }
    return this.#codes;
  }
}

/** The field that the column of a row's first reason holds. */
function fieldOf({ reasons }: RehearsedRow, { layouts }: TargetFile): string | undefined {
  const columns = layouts.flatMap(({ columns: own }) => own);
  const named = columns.find(({ header }) => reasons.some((reason) => reason.startsWith(`${header}: `)));
  const feed = named?.bindings[0]?.feed;
  return feed && kindOfFeed(feed).nameOf(feed);
}
