/** From the rules of a project to rules that can be run. Every mistake is a finding at its place in the project file. */

import { firstOf, present } from "../checked.js";
import { resultOf, success } from "../findings/result.js";
import { finding, Findings, type Result } from "../findings/finding.js";
import { inLanguage, parseWritten } from "../field-name.js";
import { parsePattern, type Pattern } from "../codecs/pattern.js";
import type { Given } from "../given/yaml.js";
import { entryKeyOf, fieldOf, type FieldSpec, type KindSpec } from "../kind.js";
import type { Kinds } from "../kinds.js";
import { codecOf, type CodecChoice } from "../layout/compile/codec-of.js";
import type { GivenCodec } from "../layout/schema.js";
import type { Location } from "../location.js";
import { nearestSpelling } from "../spelling.js";
import type { Expression, ParsedExpression } from "./expression.js";
import { rootsOf } from "./facts.js";
import { methodOf, type GivenRule, type Method } from "./schema.js";
import { phrase, type Text } from "../phrases/phrase.js";

/** A field as rules name it: of a record, or of the one plain entry with a constant. */
export interface FieldName {
  readonly kind: KindSpec;
  readonly field: FieldSpec;
  /** With its language: `name@de`. */
  readonly name: string;
  readonly entry:
    | {
        readonly entries: string;
        readonly embedded: KindSpec;
        /** Undefined for every entry there is. */
        readonly constant: string | undefined;
      }
    | undefined;
}

/** A rule that makes a field of others, compiled. */
export interface DeriveRule {
  readonly at: Location;
  readonly field: FieldName;
  readonly way: Method;
  readonly given: GivenRule;
  readonly where: Expression | undefined;
  readonly expression: Expression | undefined;
  readonly pattern: Pattern | undefined;
  /** What a copy, a slug or a tax is made of. */
  readonly from: FieldName | undefined;
  readonly reference: CodecChoice | undefined;
  /** Before references are resolved: codes, and references themselves. */
  readonly isBefore: boolean;
}

type At = Given<unknown>["at"];

/** Compiles the rules of a project; fails where there are mistakes, each at its place. */
export async function compileRules(
  rules: readonly GivenRule[],
  tables: ReadonlySet<string>,
  at: At,
  kinds: Kinds,
): Promise<Result<readonly DeriveRule[]>> {
  if (rules.length === 0) return success([]);
  const findings = new Findings();
  // Loaded only for projects that have rules.
  const { expressionParser } = await import("./expression.js");
  const compiled = rules.map((rule, index) =>
    compileRule(rule, index, { tables, at, kinds, findings, expressionParser }),
  );
  return resultOf(compiled.every((rule) => rule !== undefined) ? compiled : undefined, findings);
}

interface Context {
  readonly tables: ReadonlySet<string>;
  readonly at: At;
  readonly kinds: Kinds;
  readonly findings: Findings;
  readonly expressionParser: (roots: readonly string[]) => (text: string) => ParsedExpression;
}

function compileRule(given: GivenRule, index: number, context: Context): DeriveRule | undefined {
  const { tables, at, kinds, findings, expressionParser } = context;
  let hasMistake = false;
  const mistake = (problem: Text, nearest: string | undefined, ...path: string[]): undefined => {
    hasMistake = true;
    findings.add(finding("project/mistake", { problem, nearest }, at("derive", index, ...path)));
    return undefined;
  };
  const target = parseField(given.field, kinds, (problem, nearest) => mistake(problem, nearest, "field"));
  if (!target) return undefined;
  const isOfEach = target.entry !== undefined && target.entry.constant === undefined;
  const isReference = target.field.reference !== undefined;
  if (isOfEach && isReference)
    mistake(phrase("{0} names records, and a rule cannot set that for each entry", given.field), undefined, "field");
  const roots = [...rootsOf(target.kind, kinds), ...(isOfEach ? ["entry"] : [])];
  const parse = expressionParser(roots);
  const expressionAt = (text: string | undefined, word: string): Expression | undefined => {
    if (text === undefined) return undefined;
    const parsed = parse(text);
    return parsed.ok ? parsed.expression : mistake(parsed.problem, undefined, word);
  };
  const way = present(methodOf(given));
  const template = given.template ?? given["look up"]?.by;
  const pattern = template === undefined ? undefined : parsePattern(template);
  if (pattern && !pattern.ok) mistake(pattern.problem, undefined, way);
  for (const name of pattern?.ok ? pattern.pattern.names : []) {
    const root = firstOf(name.split("."));
    if (!roots.includes(root))
      mistake(phrase('{0} has no field "{1}"', target.kind.name, root), nearestSpelling(root, roots), way);
  }
  const named = given.slug ?? given.copy ?? given.tax?.of;
  const from =
    named === undefined ? undefined : parseField(named, kinds, (problem, nearest) => mistake(problem, nearest, way));
  if (from && from.kind !== target.kind)
    mistake(phrase("{0} is not a field of the same record as {1}", named, given.field), undefined, way);
  const table = given["look up"]?.in;
  if (table !== undefined && !tables.has(table))
    mistake(phrase('there is no table "{0}"', table), nearestSpelling(table, tables), "look up", "in");
  const selectionOf = (text: string, kind: string): Expression | undefined => {
    const parsed = expressionParser(rootsOf(kinds.get(kind), kinds))(text);
    return parsed.ok ? parsed.expression : mistake(parsed.problem, undefined, "selection");
  };
  const where = expressionAt(given.where, "where");
  const expression = expressionAt(given.expression, "expression");
  const { reference } = target.field;
  if (given.selection !== undefined && !reference)
    mistake(phrase("{0} does not refer to records", given.field), undefined, "selection");
  const isNumber = target.field.type === "decimal" || target.field.type === "integer";
  for (const [word, fits] of [
    ["as", isReference && given.selection === undefined],
    ["places", isNumber],
    ["ending", isNumber],
  ] as const)
    if (given[word] !== undefined && !fits)
      mistake(phrase('"{0}" has no effect on {1}', word, given.field), undefined, word);
  if (target.field === keyField && !given.overwrite)
    mistake(phrase("each record has a key. A rule gives it another with {0}", "overwrite: true"), undefined, "field");
  const chosen = given.selection === undefined || !reference ? undefined : selectionOf(given.selection, reference.to);
  if (hasMistake) return undefined;
  return {
    at: at("derive", index),
    field: target,
    way,
    given,
    where,
    expression: expression ?? chosen,
    pattern: pattern?.ok ? pattern.pattern : undefined,
    from,
    reference: isReference ? codecOf(chosen ? selected : (given.as ?? { by: "name" }), undefined) : undefined,
    isBefore: isReference || target.field === keyField || target.field.type === "code",
  };
}

/** What records are known by. Each has it, so a rule for it takes the place of what the source says. */
export const keyField: FieldSpec = { name: "key", type: "text" };

/** Between the keys of a selection: no key holds it. */
export const betweenKeys = "\u001f";
const selected: GivenCodec = { list: betweenKeys, of: { by: "key" } };

function parseField(
  written: string,
  kinds: Kinds,
  mistake: (problem: Text, nearest: string | undefined) => undefined,
): FieldName | undefined {
  const parsed = parseWritten(written);
  if (!parsed || parsed.entry || (parsed.constants !== undefined && parsed.inner === undefined))
    return mistake(phrase('"{0}" is not a field. Write it like product.name@en', written), undefined);
  const { kind: word, field: first, constants: constant, inner, lang } = parsed;
  const kind = kinds.find(word);
  if (!kind || kind.entryKey)
    return mistake(
      phrase('"{0}" is not a kind of record', word),
      nearestSpelling(
        word,
        kinds.roots.map((root) => root.name),
      ),
    );
  const embedded = inner === undefined ? undefined : kind.entries?.[first];
  if (inner !== undefined && embedded === undefined)
    return mistake(
      phrase('{0} has no entries "{1}"', kind.name, first),
      nearestSpelling(first, Object.keys(kind.entries ?? {})),
    );
  if (embedded !== undefined && constant !== undefined && isNamedByRecord(kinds.get(embedded)))
    return mistake(phrase("a rule cannot tell entries of {0} apart by the record that they name", first), undefined);
  const owner = embedded === undefined ? kind : kinds.get(embedded);
  const name = embedded === undefined ? first : present(inner);
  const field = embedded === undefined && name === "key" ? keyField : fieldOf(owner, name);
  if (!field)
    return mistake(
      phrase('{0} has no field "{1}"', owner.name, name),
      nearestSpelling(
        name,
        owner.fields.map((one) => one.name),
      ),
    );
  if (field.perLanguage !== (lang !== undefined) && (field.perLanguage || lang !== undefined))
    return mistake(
      field.perLanguage
        ? phrase("{0} needs a language, such as {1}@en", written, written)
        : phrase("{0} does not depend on the language", name),
      undefined,
    );
  return {
    kind,
    field,
    name: inLanguage(name, lang),
    entry: embedded === undefined ? undefined : { entries: first, embedded: owner, constant },
  };
}

/** Whether entries are told apart by a record that they name: properties, supplies. */
const isNamedByRecord = (embedded: KindSpec): boolean =>
  fieldOf(embedded, firstOf(entryKeyOf(embedded)))?.reference !== undefined;
