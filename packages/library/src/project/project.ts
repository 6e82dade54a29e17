/**
 * A project: the sources with their layouts, the pictures, the targets. Here the stages are put together.
 *
 *   files ─▸ rows ─layout▸ records ─resolve▸ catalogue ─check▸ findings ─▸ plan ─▸ upload
 */

import { takesCodes } from "../target/codes-taken.js";
import { relationsRefused } from "../target/own-relations.js";
import { picturesRefused } from "../target/pictures.js";
import type { Lang } from "../nominal.js";
import { Findings } from "../findings/finding.js";
import { entryOf } from "../checked.js";
import { CodeIndex } from "../catalogue/code-index.js";
import { picturesAlike } from "./picture-contents.js";
import { formerRecords, type FormerRecords } from "../reshape/former.js";
import { resultOf } from "../findings/result.js";
import { reshapeByAll, type OperationDone } from "../reshape/reshape.js";
import type { Operation } from "../reshape/schema.js";
import type { ChangeWishes } from "../compare/policies.js";
import { asTargetView, Catalogue, type ResolvedCatalogue, type TargetView } from "../catalogue/catalogue.js";
import { checkCatalogue } from "../check/rules.js";
import { membersByRule } from "../derive/assortments.js";
import { type DeriveRule } from "../derive/compile.js";
import { deriveAfter, deriveBefore, EarlyRules } from "../derive/derive.js";
import { loadSlugs } from "../derive/slug.js";
import type { Kinds } from "../kinds.js";
import type { ReadCounts } from "../layout/read/counts.js";
import type { Location, RecordName } from "../location.js";
import type { ManualStep } from "../plan/plan.js";
import type { FilesPort } from "../ports.js";
import { resolveReferences } from "../resolve/resolve.js";
import { type Target } from "../target/target.js";
import { readSources, type Progress, type Source } from "./sources.js";
import { readTables, type TableFile } from "./tables.js";
import { fillGaps, readTranslations, takeLater, type GapPolicy, type TranslationFile } from "./translations.js";

/** A project file, loaded. */
export interface Project {
  readonly name: string;
  readonly kinds: Kinds;
  readonly sources: readonly Source[];
  /** Of prices whose source names none, ISO 4217. */
  readonly currency: string | undefined;
  /** Folders besides its own that its files may lie in. */
  readonly outside: readonly string[];
  /** The folder of the pictures, as the project names it. */
  readonly pictures: string | undefined;
  /** Those that texts are wanted in, the source language first. */
  readonly languages: readonly Lang[];
  /** How fields are made of others. */
  readonly rules: readonly DeriveRule[];
  /** Sheets that rules look things up in. */
  readonly tables: ReadonlyMap<string, TableFile>;
  /** Translation lists that came back from translators. */
  readonly translations: readonly TranslationFile[];
  /** By language: what to do about a missing text. */
  readonly gaps: ReadonlyMap<string, GapPolicy>;
  readonly targets: readonly Target[];
  /** By the name of the target: what the project wants of it. */
  readonly wishes: ReadonlyMap<string, TargetWishes>;
  readonly operations: readonly { readonly operation: Operation; readonly at: Location }[];
}

/** What a project wants of one target. */
export interface TargetWishes {
  /** Fields made for this target only. */
  readonly rules: readonly DeriveRule[];
  readonly ledger: string;
  readonly manualSteps: readonly ManualStep[];
  /** By list of the platform: the names in it, or the table whose keys they are. */
  readonly has: Readonly<Record<string, readonly string[] | { readonly table: string }>>;
  readonly changes: ChangeWishes;
  readonly bulkChanges: Readonly<Record<string, BulkChange>>;
}

/** One field to be set on every record that has it. */
export interface BulkChange {
  /** `product.shown`. */
  readonly field: string;
  readonly constant: string;
}

/** What the sources of a project say. */
export interface ReadProject {
  readonly catalogue: ResolvedCatalogue;
  readonly created: readonly RecordName[];
  /** By source, in their order: what became of its rows. */
  readonly counts: readonly ReadCounts[];
  readonly pictureNames: ReadonlySet<string> | undefined;
  /** The products of assortments that have a rule, by the assortments' rows. */
  readonly membersByRule: ReadonlyMap<number, readonly number[]>;
  /** The operations that were carried out, in their order. */
  readonly reshaped: readonly AppliedOperation[];
  /** What records were before them; undefined where there are none. */
  readonly former: FormerRecords | undefined;
}

/** An operation that was carried out, with what it changed. */
export interface AppliedOperation extends OperationDone {
  readonly operation: Operation;
}

/** The catalogue with the fields that a project wants for one of its targets only. */
export async function viewForTarget(
  project: Project,
  catalogue: ResolvedCatalogue,
  target: Target,
  files: FilesPort,
  findings: Findings,
): Promise<TargetView> {
  const { rules } = entryOf(project.wishes, target.name);
  if (rules.length === 0) return asTargetView(catalogue);
  const tables = await readTables(project.tables, files, findings);
  const toSlug = rules.some((rule) => rule.way === "slug") ? await loadSlugs() : undefined;
  return asTargetView(deriveAfter(catalogue, { rules, tables, findings, toSlug }));
}

/** Reads all sources into one catalogue, resolves and checks it. Whatever is wrong is in `findings`. */
export async function readProject(
  project: Project,
  files: FilesPort,
  findings: Findings,
  progress: Progress = () => undefined,
): Promise<ReadProject> {
  let unresolved = new Catalogue(project.kinds);
  const pictureNames =
    project.pictures === undefined ? undefined : new Set((await files.list(project.pictures)).map((file) => file.name));
  const { rules } = project;
  const tables = await readTables(project.tables, files, findings);
  const needsSlugs = rules.some((rule) => rule.way === "slug") || project.operations.length > 0;
  const toSlug = needsSlugs ? await loadSlugs() : undefined;
  const derive = { rules, tables, findings, toSlug };
  // Keys and codes that rules make are there before other sources find their records by them.
  const early = new EarlyRules(
    rules.filter(({ isBefore, field }) => isBefore && field.field.reference === undefined),
    derive,
  );
  const withKeys = (read: Catalogue) => (unresolved = early.run(read));
  const counts = await readSources(project.sources, unresolved, files, findings, progress, withKeys);
  unresolved = early.run(unresolved);
  early.report();
  const others = rules.filter((rule) => !early.rules.includes(rule));
  const resolution = resolveReferences(deriveBefore(unresolved, { ...derive, rules: others }), findings);
  const { created } = resolution;
  let { catalogue, codes } = resolution;
  const [source = "en"] = project.languages;
  const translated = await readTranslations(catalogue, project.translations, source, files, findings);
  catalogue = translated.catalogue;
  catalogue = deriveAfter(catalogue, derive);
  const reshaped: AppliedOperation[] = [];
  const combines = project.pictures !== undefined && project.operations.some(({ operation }) => "combine" in operation);
  const contentOf = combines ? await picturesAlike(project.pictures, files) : undefined;
  const ports = { source, toSlug: toSlug ?? ((text: string) => text), contentOf };
  const asInSources = catalogue;
  if (project.operations.length > 0) {
    const made = await reshapeByAll(catalogue, project.operations, ports);
    findings.took(resultOf({}, made.findings));
    catalogue = made.catalogue;
    made.done.forEach((one, at) => reshaped.push({ ...one, operation: project.operations[at]!.operation }));
  }
  catalogue = takeLater(catalogue, translated.later, source, findings);
  if (reshaped.length > 0) codes = new CodeIndex(catalogue);
  catalogue = fillGaps(catalogue, project.gaps, source, findings);
  checkCatalogue({
    catalogue,
    codes,
    pictures: pictureNames,
    picturesRefused: picturesRefused(project.targets, project.kinds),
    relationsRefused: relationsRefused(project.targets),
    takesCodes: project.targets.length === 0 || takesCodes(project.targets),
    languages: project.languages,
    currency: project.currency,
    findings,
  });
  const members = await membersByRule(catalogue, findings);
  const former = reshaped.length === 0 ? undefined : formerRecords(asInSources, reshaped);
  return { catalogue, created, counts, pictureNames, membersByRule: members, reshaped, former };
}
