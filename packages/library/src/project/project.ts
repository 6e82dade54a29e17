/**
 * A project: the sources with their layouts, the pictures, the targets. Here the stages are put together.
 *
 *   files ─▸ rows ─layout▸ records ─resolve▸ catalogue ─check▸ findings ─▸ plan ─▸ upload
 */

import { capsWith } from "../caps.js";
import type { Lang } from "../nominal.js";
import { failure, isMissingFile, resultOf } from "../findings/result.js";
import { finding, Findings, type Result } from "../findings/finding.js";
import { entryOf } from "../checked.js";
import { CodeIndex } from "../catalogue/code-index.js";
import { picturesAlike } from "./picture-contents.js";
import { reshape, type Reshaped } from "../reshape/reshape.js";
import type { Operation } from "../reshape/schema.js";
import type { ChangeWishes } from "../change/policy.js";
import { asTargetView, Catalogue, type ResolvedCatalogue, type TargetView } from "../catalogue/catalogue.js";
import { checkCatalogue } from "../check/rules.js";
import { membersByRule } from "../derive/assortments.js";
import { compileRules, type DeriveRule } from "../derive/compile.js";
import { deriveAfter, deriveBefore } from "../derive/derive.js";
import { loadSlugs } from "../derive/slug.js";
import { decodeText } from "../formats/decode.js";
import { maxGivenChars, parseGiven } from "../given/yaml.js";
import type { Kinds } from "../kind.js";
import { compileLayout } from "../layout/compile/compile.js";
import type { Layout } from "../layout/layout.js";
import type { ReadCounts } from "../layout/read/counts.js";
import { givenLayout } from "../layout/schema.js";
import type { Location, RecordName } from "../location.js";
import type { ManualStep } from "../plan/plan.js";
import type { FilesPort } from "../ports.js";
import { resolveReferences } from "../resolve/resolve.js";
import { nearestSpelling } from "../spelling.js";
import { parseTarget, type Target } from "../target/target.js";
import { kindsOf } from "./kinds.js";
import { givenProject } from "./schema.js";
import { readSources, type Progress, type Source } from "./sources.js";
import { readTables, type TableFile } from "./tables.js";
import { fillGaps, readTranslations, type GapPolicy, type TranslationFile } from "./translations.js";
import { phrase } from "../phrases/phrase.js";

/** A project file, loaded. */
export interface Project {
  readonly name: string;
  readonly kinds: Kinds;
  readonly sources: readonly Source[];
  /** Of prices whose source names none, ISO 4217. */
  readonly currency: string | undefined;
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
}

/** An operation that was carried out, with what it changed. */
export interface AppliedOperation extends Omit<Reshaped, "catalogue"> {
  readonly operation: Operation;
}

const targetFile = /\.ya?ml$|\.json$/;

/**
 * Loads a project file with the layouts and targets that it names; fails where anything in these files is wrong.
 *
 * @param shippedTarget the text of a target that comes with Zest Tier, by its name; undefined if there is none.
 * @param shippedLayout the same for layouts.
 */
export async function loadProject(
  path: string,
  files: FilesPort,
  shippedTarget: (name: string) => Promise<string | undefined>,
  shippedLayout: (name: string) => Promise<string | undefined> = () => Promise.resolve(undefined),
): Promise<Result<Project>> {
  if (isMissingFile(await files.read(path))) return failure(finding("project/missing", {}, { file: path }));
  const findings = new Findings();
  return resultOf(await load(path, files, shippedTarget, shippedLayout, findings), findings);
}

async function load(
  path: string,
  files: FilesPort,
  shippedTarget: (name: string) => Promise<string | undefined>,
  shippedLayout: (name: string) => Promise<string | undefined>,
  findings: Findings,
): Promise<Project | undefined> {
  const text = await readText(path, files, findings);
  const given = text === undefined ? undefined : findings.took(parseGiven(text, path, givenProject));
  if (!given) return undefined;
  const kinds = kindsOf(given.value.kinds, given.at, findings);
  if (!kinds) return undefined;
  const sources: Source[] = [];
  const caps = capsWith(given.value.caps);
  for (const { file, layout, language, within, precedence } of given.value.sources) {
    const shipped = targetFile.test(layout) ? undefined : await shippedLayout(layout);
    const compiled = await loadLayout(layout, shipped, language, kinds, files, findings);
    if (compiled)
      sources.push({ file, layout: compiled, within, precedence, translates: language !== undefined, caps });
  }
  const targets: Target[] = [];
  const wishes = new Map<string, TargetWishes>();
  const tableNames = new Set(Object.keys(given.value.tables));
  for (const [at, wanted] of given.value.targets.entries()) {
    const { target, derive, ledger, settings, changes } = wanted;
    const isFile = targetFile.test(target);
    const targetText = isFile ? await readText(target, files, findings) : await shippedTarget(target);
    if (targetText === undefined) {
      if (!isFile)
        findings.add(
          finding(
            "project/mistake",
            { problem: phrase('there is no target "{0}"', target), nearest: undefined },
            given.at("targets", at, "target"),
          ),
        );
      continue;
    }
    const account = { settings, at: given.at("targets", at, "settings") };
    const parsed = findings.took(parseTarget(targetText, isFile ? target : `${target} (shipped)`, kinds, account));
    const inTarget = (...path: (string | number)[]) => given.at("targets", at, ...path);
    const overlay = findings.took(await compileRules(derive, tableNames, inTarget, kinds));
    if (!parsed || !overlay) continue;
    for (const [number, { before }] of wanted["manual steps"].entries())
      if (!parsed.slots.some((slot) => slot.name === before)) {
        const names = parsed.slots.map((slot) => slot.name);
        const facts = {
          problem: phrase('{0} has no upload "{1}"', parsed.name, before),
          nearest: nearestSpelling(before, names),
        };
        findings.add(finding("project/mistake", facts, inTarget("manual steps", number, "before")));
      }
    targets.push(parsed);
    wishes.set(parsed.name, {
      rules: overlay,
      ledger: ledger ?? `ledger-${parsed.name}.jsonl`,
      manualSteps: wanted["manual steps"],
      changes,
      bulkChanges: wanted["bulk changes"],
    });
  }
  const tables = new Map(Object.entries(given.value.tables));
  const rules = findings.took(await compileRules(given.value.derive, new Set(tables.keys()), given.at, kinds));
  if (!rules) return undefined;
  if (sources.length < given.value.sources.length || targets.length < given.value.targets.length) return undefined;
  const { project: name, currency, pictures, languages = [] } = given.value;
  const { translations } = given.value;
  const gaps = new Map(
    Object.entries(given.value.gaps).map(([lang, gap]): [string, GapPolicy] => [
      lang,
      typeof gap === "string" ? { is: gap } : { is: "copy", mark: gap.copy },
    ]),
  );
  const operations = given.value.operations.map((operation, at) => ({ operation, at: given.at("operations", at) }));
  if (languages.length === 0 && (translations.length > 0 || gaps.size > 0)) {
    const problem = phrase('translations and gaps need "languages", with the source language first');
    findings.add(finding("project/mistake", { problem, nearest: undefined }, given.at()));
    return undefined;
  }
  const texts = { languages, translations, gaps };
  return { name, currency, kinds, sources, pictures, rules, tables, ...texts, targets, wishes, operations };
}

async function loadLayout(
  path: string,
  shipped: string | undefined,
  language: Lang | undefined,
  kinds: Kinds,
  files: FilesPort,
  findings: Findings,
): Promise<Layout | undefined> {
  const text = shipped ?? (await readText(path, files, findings));
  const name = shipped === undefined ? path : `${path} (shipped)`;
  const given = text === undefined ? undefined : findings.took(parseGiven(text, name, givenLayout));
  if (!given) return undefined;
  const value = language === undefined ? given.value : { ...given.value, language };
  return findings.took(compileLayout(value, given.at, kinds));
}

async function readText(path: string, files: FilesPort, findings: Findings): Promise<string | undefined> {
  const bytes = findings.took(await files.read(path));
  if (!bytes) return undefined;
  const own = new Findings();
  let text = "";
  for await (const chunk of decodeText(bytes, path, "utf-8", own)) {
    text += chunk;
    // The rest of a file that is too large is not read; that it is will be said.
    if (text.length > maxGivenChars) break;
  }
  findings.add(...own.list());
  return own.hasErrors ? undefined : text;
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
  const unresolved = new Catalogue(project.kinds);
  const counts = await readSources(project.sources, unresolved, files, findings, progress);
  const pictureNames =
    project.pictures === undefined ? undefined : new Set((await files.list(project.pictures)).map((file) => file.name));
  const { rules } = project;
  const tables = await readTables(project.tables, files, findings);
  const needsSlugs = rules.some((rule) => rule.way === "slug") || project.operations.length > 0;
  const toSlug = needsSlugs ? await loadSlugs() : undefined;
  const derive = { rules, tables, findings, toSlug };
  const resolution = resolveReferences(deriveBefore(unresolved, derive), findings);
  const { created } = resolution;
  let { catalogue, codes } = resolution;
  const [source = "en"] = project.languages;
  catalogue = await readTranslations(catalogue, project.translations, source, files, findings);
  catalogue = deriveAfter(catalogue, derive);
  const reshaped: AppliedOperation[] = [];
  const combines = project.pictures !== undefined && project.operations.some(({ operation }) => "combine" in operation);
  const contentOf = combines ? await picturesAlike(project.pictures, files) : undefined;
  const ports = { source, toSlug: toSlug ?? ((text: string) => text), contentOf };
  for (const { operation, at } of project.operations) {
    const result = findings.took(await reshape(catalogue, operation, ports, at));
    // What comes behind one that is refused would stand on nothing.
    if (!result) break;
    catalogue = result.catalogue;
    reshaped.push({ ...result, operation });
  }
  if (reshaped.length > 0) codes = new CodeIndex(catalogue);
  catalogue = fillGaps(catalogue, project.gaps, source, findings);
  checkCatalogue({
    catalogue,
    codes,
    pictures: pictureNames,
    languages: project.languages,
    currency: project.currency,
    findings,
  });
  const members = await membersByRule(catalogue, findings);
  return { catalogue, created, counts, pictureNames, membersByRule: members, reshaped };
}
