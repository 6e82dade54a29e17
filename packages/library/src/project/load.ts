/** Loading a project file, with the layouts and targets that it names. Its sources are read later. */

import { capsWith } from "../caps.js";
import type { Lang } from "../nominal.js";
import { failure, isMissingFile, resultOf } from "../findings/result.js";
import { finding, Findings, type Result } from "../findings/finding.js";
import { changeProblems } from "./change-problems.js";
import { entryOf } from "../checked.js";
import { compileRules } from "../derive/compile.js";
import { decodeText } from "../formats/decode.js";
import { maxGivenChars, parseGiven, type Given } from "../given/yaml.js";
import { splitTable } from "../field-name.js";
import { fieldValueProblem } from "../field-value.js";
import type { Kinds } from "../kinds.js";
import { compileLayout } from "../layout/compile/compile.js";
import type { Layout } from "../layout/layout.js";
import { givenLayout } from "../layout/schema.js";
import type { FilesPort } from "../ports.js";
import { nearestSpelling } from "../spelling.js";
import { parseTarget } from "../target/parse.js";
import type { Target } from "../target/target.js";
import { namedKinds } from "../target/records-there.js";
import { listedColumns, listNamed } from "../target/listed-names.js";
import { kindsOf } from "./kinds.js";
import { checkLinks, checkPaths } from "./outside.js";
import { fieldAsNamed } from "../reshape/operation.js";
import { operationProblems } from "../reshape/schema.js";
import { givenProject, type GivenProject } from "./schema.js";
import type { Source } from "./sources.js";
import type { GapPolicy } from "./translations.js";
import { phrase, type Text } from "../phrases/phrase.js";
import type { BulkChange, Project, TargetWishes } from "./project.js";

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
  ports: FilesPort,
  shippedTarget: (name: string) => Promise<string | undefined>,
  shippedLayout: (name: string) => Promise<string | undefined>,
  findings: Findings,
): Promise<Project | undefined> {
  const text = await readText(path, ports, findings);
  const given = text === undefined ? undefined : findings.took(parseGiven(text, path, givenProject));
  if (!given) return undefined;
  const { outside } = given.value;
  checkPaths(given, findings);
  if (findings.hasErrors) return undefined;
  const files = ports.within?.(outside) ?? ports;
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
    for (const [number, rule] of overlay.entries())
      if (rule.isBefore) {
        const problem = phrase(
          '{0} is the same for all targets. Move the rule to "derive" of the project',
          rule.given.field,
        );
        findings.add(finding("project/mistake", { problem, nearest: undefined }, inTarget("derive", number, "field")));
      }
    for (const [number, { before }] of wanted["manual steps"].entries())
      if (!parsed.slots.some((slot) => slot.name === before)) {
        const names = parsed.slots.map((slot) => slot.name);
        const facts = {
          problem: phrase('{0} has no upload "{1}"', parsed.name, before),
          nearest: nearestSpelling(before, names),
        };
        findings.add(finding("project/mistake", facts, inTarget("manual steps", number, "before")));
      }
    const lists = [...new Set([...listedColumns(parsed)].map(({ rule }) => listNamed(rule))), ...namedKinds(parsed)];
    for (const [list, names] of Object.entries(wanted.has)) {
      const mistake = (problem: Text, nearest: string | undefined): void =>
        void findings.add(finding("project/mistake", { problem, nearest }, inTarget("has", list)));
      if (!lists.includes(list))
        mistake(
          phrase('{0} has neither a list nor names records of "{1}"', parsed.name, list),
          nearestSpelling(list, lists),
        );
      if ("table" in names && !tableNames.has(names.table))
        mistake(phrase('there is no table "{0}"', names.table), nearestSpelling(names.table, tableNames));
    }
    for (const [name, one] of Object.entries(wanted["bulk changes"])) {
      const wrong = bulkChangeProblem(one, kinds);
      if (wrong) findings.add(finding("project/mistake", wrong.facts, inTarget("bulk changes", name, wrong.word)));
    }
    for (const { path, problem, nearest } of changeProblems(changes, parsed, kinds))
      findings.add(finding("project/mistake", { problem, nearest }, inTarget("changes", ...path)));
    targets.push(parsed);
    wishes.set(parsed.name, {
      rules: overlay,
      ledger: ledger ?? `ledger-${parsed.name}.jsonl`,
      manualSteps: wanted["manual steps"],
      has: wanted.has,
      changes,
      bulkChanges: wanted["bulk changes"],
    });
  }
  const ledgers = targets.map(({ name }) => entryOf(wishes, name).ledger);
  await checkLinks(given, ledgers, files, findings);
  if (findings.hasErrors) return undefined;
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
  await checkOperations(given, kinds, findings);
  if (findings.hasErrors) return undefined;
  if (languages.length === 0 && (translations.length > 0 || gaps.size > 0)) {
    const problem = phrase('translations and gaps need "languages", with the source language first');
    findings.add(finding("project/mistake", { problem, nearest: undefined }, given.at()));
    return undefined;
  }
  const texts = { languages, translations, gaps };
  return { name, currency, kinds, sources, outside, pictures, rules, tables, ...texts, targets, wishes, operations };
}

/** Reports each word of an operation that cannot be honoured whatever the sources say. */
async function checkOperations({ value, at }: Given<GivenProject>, kinds: Kinds, findings: Findings): Promise<void> {
  for (const [place, operation] of value.operations.entries())
    for (const { path: words, problem, nearest } of await operationProblems(operation, kinds))
      findings.add(finding("project/mistake", { problem, nearest }, at("operations", place, ...words)));
}

/** What of a bulk change cannot be honoured on any platform. */
function bulkChangeProblem(
  { field: written, constant }: BulkChange,
  kinds: Kinds,
): { readonly word: string; readonly facts: { problem: Text; nearest: string | undefined } } | undefined {
  const { kind, collection: field = "" } = splitTable(written);
  const spec = kinds.find(kind);
  if (!spec || spec.entryKey || field === "")
    return {
      word: "field",
      facts: { problem: phrase('"{0}" is not a field. Write it like product.name@en', written), nearest: undefined },
    };
  const named = fieldAsNamed(kind, field, kinds);
  if ("problem" in named) return { word: "field", facts: named };
  const problem = named.field.reference ? undefined : fieldValueProblem(named.field, constant);
  return problem === undefined ? undefined : { word: "constant", facts: { problem, nearest: undefined } };
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
  findings.addAll(own);
  return own.hasErrors ? undefined : text;
}
