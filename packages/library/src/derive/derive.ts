/**
 * Deriving: fields made of others by the project's rules, one rule after the other over all records of its kind.
 *
 * Before references are resolved: keys, codes and references. After: everything else; it sees the resolved catalogue, and writes no
 * references. What a rule makes comes from the rule's own line in the project file.
 */

import { entryOf } from "../checked.js";
import type { Catalogue, ResolvedCatalogue } from "../catalogue/catalogue.js";
import { finding, type Findings } from "../findings/finding.js";
import type { DeriveRule } from "./compile.js";
import { RuleRun, type DeriveInput, type RuleCounts } from "./rule-run.js";

const noCounts = (): RuleCounts => ({ made: 0, kept: 0, unfit: 0, lacking: 0, failed: 0 });

/** Runs the rules that make keys, codes and references, in the order in which the project has them. @returns a branch with what they make. */
export function deriveBefore(given: Catalogue, input: DeriveInput): Catalogue {
  const rules = input.rules.filter((rule) => rule.isBefore);
  if (rules.length === 0) return given;
  const catalogue = given.branch();
  runRules(rules, input, catalogue, undefined);
  return catalogue;
}

/** Rules that are run while sources are read, over each record once, however many times they are run. */
export class EarlyRules {
  readonly #counts: ReadonlyMap<DeriveRule, RuleCounts>;
  /** By kind: how many of its records are done. */
  readonly #done = new Map<string, number>();

  constructor(
    readonly rules: readonly DeriveRule[],
    readonly input: Omit<DeriveInput, "rules">,
  ) {
    this.#counts = new Map(rules.map((rule) => [rule, noCounts()]));
  }

  /** Over the records that have come since the last time. @returns a branch with what they make. */
  run(given: Catalogue): Catalogue {
    if (this.rules.length === 0) return given;
    const catalogue = given.branch();
    const early = { countsOf: (rule: DeriveRule) => entryOf(this.#counts, rule), from: this.#done };
    runRules(this.rules, { ...this.input, rules: this.rules }, catalogue, undefined, early);
    for (const { field } of this.rules) this.#done.set(field.kind.name, catalogue.table(field.kind.name).size);
    return catalogue;
  }

  /** Reports what they made of all records. */
  report(): void {
    for (const [rule, counts] of this.#counts) reportRule(rule, counts, this.input.findings);
  }
}

interface Early {
  readonly countsOf: (rule: DeriveRule) => RuleCounts;
  /** By kind: the first of its records that the rules are run over. */
  readonly from: ReadonlyMap<string, number>;
}

/** How many values a rule made. One that makes none does not do what it is there for. */
function reportRule({ at, given, way }: DeriveRule, counts: RuleCounts, findings: Findings): void {
  const { made: count, failed, ...without } = counts;
  const facts = { field: given.field, method: way };
  if (count > 0) findings.add(finding("derive/made", { ...facts, count }, at));
  else if (failed === 0) findings.add(finding("derive/made-nothing", { ...facts, ...without }, at));
}

/** Runs all other rules, in the order in which the project has them. @returns a branch with what they make. */
export function deriveAfter(given: ResolvedCatalogue, input: DeriveInput): ResolvedCatalogue {
  const rules = input.rules.filter((rule) => !rule.isBefore);
  if (rules.length === 0) return given;
  const catalogue = given.branch();
  runRules(rules, input, catalogue, catalogue);
  return catalogue;
}

function runRules(
  rules: readonly DeriveRule[],
  input: DeriveInput,
  catalogue: Catalogue,
  resolved: ResolvedCatalogue | undefined,
  early?: Early,
): void {
  const sheets = new Map<string, number>();
  for (const rule of rules) {
    const { file } = rule.at;
    let sheet = sheets.get(file);
    if (sheet === undefined)
      sheets.set(file, (sheet = catalogue.sheets.push({ file, headers: new Map(), precedence: 0 }) - 1));
    const counts = early?.countsOf(rule) ?? noCounts();
    new RuleRun(input, catalogue, resolved, rule, sheet, counts).run(early?.from.get(rule.field.kind.name) ?? 0);
    if (!early) reportRule(rule, counts, input.findings);
  }
}
