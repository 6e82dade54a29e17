/** Which words of a column mean something in it, and which of them the rehearsal carries: by what the column feeds. Others are refused. */

import { formsOf } from "../catalogue/reference-pool.js";
import { firstOf } from "../checked.js";
import { splitLanguage } from "../field-name.js";
import { fieldValueProblem } from "../field-value.js";
import { fieldOf, type FieldSpec, type KindSpec } from "../kind.js";
import type { Kinds } from "../kinds.js";
import { kindOfScope, levelOf, type Column, type Feed, type Layout, type Scope } from "../layout/layout.js";
import { specsNamed } from "../layout/specs-named.js";
import { phrase, type Text } from "../phrases/phrase.js";
import { namesIn, type NamesUsually } from "./names.js";
import type { ColumnRule, GivenColumnRule } from "./schema.js";
import { refusesItsStart } from "./starts.js";

/** A word of a column that no stage would carry; without a word, the column itself. */
export interface RefusedWord {
  readonly word: keyof GivenColumnRule | undefined;
  readonly problem: Text;
}

type Blank = ColumnRule["blank"];
type HeldWord = "starts as" | "fixed" | "in list" | "picture";
interface Carried {
  readonly blank: readonly Blank[];
  readonly words: readonly HeldWord[];
}

const anyBlank = ["clear", "leave", "refuse", "generate", "inherit"] as const;
const usualBlank = ["clear", "leave", "refuse"] as const;
/** What tells rows apart is never blank: there it makes no difference. */
const ofWord: Carried = { blank: anyBlank, words: [] };
const ofNames: Carried = { blank: usualBlank, words: [] };

const carried = {
  key: ofWord,
  shape: ofWord,
  text: { blank: anyBlank, words: ["starts as", "fixed", "in list", "picture"] },
  reference: { blank: usualBlank, words: ["fixed", "in list"] },
  container: { blank: usualBlank, words: ["fixed", "in list"] },
  referred: { blank: usualBlank, words: ["starts as"] },
  entry: { blank: anyBlank, words: ["starts as", "in list", "picture"] },
  entries: { blank: usualBlank, words: ["in list"] },
  axis: ofNames,
  axes: ofNames,
  "named-axis": ofNames,
  naming: { blank: ["leave"], words: [] },
} satisfies Record<Feed["is"], Carried>;

const heldSettings = ["starts as", "fixed", "in list", "picture"] as const;

/** What of a column's rule means nothing in it, or is not carried. */
export function* refusedSettings(
  layout: Layout,
  column: Column,
  rule: ColumnRule,
  kinds: Kinds,
): Generator<RefusedWord> {
  const { header, scope, bindings } = column;
  const { feed } = firstOf(bindings);
  const isLane = scope.is === "lane" && !layout.link;
  const isWord = layout.link?.column === header;
  const { blank, words }: Carried = isWord ? ofWord : carried[feed.is];
  // A row of a lane is a whole entry: what is blank in it is not there.
  const blanks = isLane ? blank.filter((one) => one === "clear") : blank;
  const no = (word: keyof GivenColumnRule, says: string): RefusedWord => ({
    word,
    problem: phrase('{0}: "{1}" cannot be rehearsed yet in such a column', header, says),
  });
  if (!blanks.includes(rule.blank)) yield no("blank", `blank: ${rule.blank}`);
  for (const word of heldSettings)
    if (rule[word] !== undefined && rule[word] !== false && !words.includes(word)) yield no(word, word);
  for (const [word, other, isThere] of dependent(rule))
    if (rule[word] !== undefined && !isThere && (word !== "over" || rule.over === "cut"))
      yield { word, problem: phrase('{0}: "{1}" means nothing without "{2}"', header, word, other) };
  const start = rule["starts as"];
  const started = start === undefined ? undefined : valueField(layout, column, kinds);
  const problem = start === undefined || !started ? undefined : fieldValueProblem(started, start);
  if (problem !== undefined)
    yield {
      word: rule.inherits === undefined ? "starts as" : "inherits",
      problem: phrase("{0}: {1}", header, problem),
    };
  else if (start !== undefined && rule.blank === "refuse" && refusesItsStart(column, rule))
    yield { word: "starts as", problem: phrase('{0}: the column refuses "{1}", and blank cells too', header, start) };
  if (rule.blank === "inherit" && rule.inherits === undefined)
    yield {
      word: "blank",
      problem: phrase('{0}: "{1}" means nothing without "{2}"', header, "blank: inherit", "inherits"),
    };
  for (const [words, isFor] of [
    [ofNumbers, isNumber(layout, column, kinds)],
    [ofLists, isList(column)],
    [["as many as"], isStoredList(column)],
    [ofPaths, firstOf(column.bindings).feed.is === "naming" || isTree(column)],
  ] as const)
    for (const word of isFor ? [] : words)
      if (rule[word] !== undefined && rule[word] !== false)
        yield { word, problem: phrase('{0}: "{1}" is not for such a column', header, word) };
  for (const word of ["above", "not below", "as many as"] as const) {
    const other = layout.columns.find((one) => one.header === rule[word]);
    const isOther = other && isAlike(scope, other.scope) && (word !== "as many as" || isStoredList(other));
    if (other && !isOther)
      yield { word, problem: phrase('{0}: "{1}" is not for a column like {2}', header, word, other.header) };
  }
  for (const word of ["only if", "needed if"] as const) {
    const field = rule[word]?.field;
    if (field !== undefined && !isTextOf(kinds.get("product"), field))
      yield { word, problem: phrase('a product has no text field "{0}"', field) };
  }
}

const ofNumbers = ["from", "to", "places at most", "above", "not below"] as const;
const ofLists = ["entries at most", "once", "as many as"] as const;
const ofPaths = ["deep at most"] as const;

const dependent = (rule: ColumnRule) =>
  [
    ["over", "characters at most", rule["characters at most"] !== undefined],
    ["generated from", "blank: generate", rule.blank === "generate"],
    ["inherits", "blank: inherit", rule.blank === "inherit"],
  ] as const;

/** Whether columns are of the same rows. */
const isAlike = (one: Scope, other: Scope): boolean =>
  one.is === other.is && (one.is !== "lane" || other.is !== "lane" || one.lane === other.lane);

/** Lists of what the record itself holds. */
const isStoredList = (column: Column): boolean => isList(column) && firstOf(column.bindings).feed.is !== "naming";

function isNumber(layout: Layout, column: Column, kinds: Kinds): boolean {
  const type = valueField(layout, column, kinds)?.type;
  return type === "decimal" || type === "integer";
}

/** The field whose value a column holds, of the record or of an entry; undefined where it names records. */
function valueField(layout: Layout, { scope, bindings }: Column, kinds: Kinds): FieldSpec | undefined {
  const { feed } = firstOf(bindings);
  const kind = kindOfScope(layout, scope);
  if (feed.is === "text") return fieldOf(kind, splitLanguage(feed.field).name);
  const embedded = feed.is === "entry" ? kind.entries?.[feed.entries] : undefined;
  const field =
    embedded === undefined || feed.is !== "entry" ? undefined : fieldOf(kinds.get(embedded), feed.field.name);
  return field?.reference ? undefined : field;
}

function isList({ bindings }: Column): boolean {
  const { feed } = firstOf(bindings);
  if (feed.is === "reference") return feed.shape === "list" || feed.shape === "paths";
  if (feed.is === "entry") return feed.field.list;
  return feed.is === "entries" || feed.is === "naming" ? feed.list : feed.is === "axes";
}

const isTree = ({ bindings }: Column): boolean =>
  bindings.some(({ feed }) => feed.is === "reference" && feed.spec.inTree);

const isTextOf = ({ fields }: KindSpec, field: string): boolean =>
  fields.some(({ name, reference, perLanguage }) => name === field && !reference && !perLanguage);

/** What of a column's names means nothing, or cannot be looked up. */
export function refusedNames(
  name: string,
  layout: Layout,
  { header, scope, bindings }: Column,
  rule: ColumnRule | undefined,
  usual: NamesUsually,
): RefusedWord | undefined {
  const { unknown, lookedUp } = namesIn(rule, usual);
  const specs = bindings.flatMap(({ feed }) => specsNamed(feed));
  if (specs.length === 0) {
    const word = (["looked up", "unknown"] as const).find((one) => rule?.[one] !== undefined);
    return word && { word, problem: phrase('{0}: "{1}" is for columns that name records', header, word) };
  }
  const isListed = rule?.["in list"] !== undefined;
  if (rule?.["looked up"] !== undefined && (isListed || unknown === "create"))
    return {
      word: "looked up",
      problem: phrase("{0}: names that are created, or in a list, are not looked up", header),
    };
  if (isListed && rule.unknown !== undefined && rule.unknown !== "refuse")
    return { word: "unknown", problem: phrase("{0}: what is not in the list {1} is refused", header, listName(rule)) };
  const isLate = lookedUp === "at the end of the file" || lookedUp === "after the import";
  const isEntry = bindings.some(({ feed }) => feed.is === "entry");
  // A row that is an entry is put into its record as it arrives.
  if (scope.is === "lane" && isEntry && isLate && !isListed && unknown !== "create")
    return {
      word: rule?.["looked up"] === undefined ? undefined : "looked up",
      problem: phrase('{0}: "{1}" cannot be rehearsed yet in such a column', header, `looked up: ${lookedUp}`),
    };
  // What stands in one block cannot be in two files.
  const { shape, link } = layout;
  const isOfBlock = !link && shape.child !== undefined && levelOf(layout, scope) === "child";
  const isInside = isOfBlock && specs.some(({ to }) => to === shape.child?.name || to === shape.parent.name);
  if (isInside && lookedUp === "before the file" && unknown !== "create" && !isListed)
    return {
      word: rule?.["looked up"] === undefined ? undefined : "looked up",
      problem: phrase('{0}: "{1}" cannot be rehearsed yet in such a column', header, `looked up: ${lookedUp}`),
    };
  for (const spec of specs) {
    const [first] = formsOf(spec);
    // What a list of the platform has is there as soon as it is named.
    if ((unknown === "create" || isListed) && first !== "name" && first !== "key")
      return {
        word: isListed ? "in list" : rule?.unknown === undefined ? undefined : "unknown",
        problem: phrase("{0}: a record cannot be created by its {1}", name, first),
      };
  }
  return undefined;
}

const listName = ({ "in list": list }: ColumnRule): string => (typeof list === "string" ? list : (list?.name ?? ""));
