/**
 * What a target asks of the cells it gets, row by row as they are written.
 *
 * In: a row, the records it shows. Out: findings at the source cells. The rehearsal judges the same rules by itself.
 */

import { driverOf } from "../formats/drivers/drivers.js";
import { firstOf, fitting, present } from "../checked.js";
import type { ResolvedCatalogue } from "../catalogue/catalogue.js";
import { isProblem, type CellValue } from "../codecs/codec.js";
import { compareDecimals, decimalPlaces } from "../decimal.js";
import { finding, type Finding, type Findings } from "../findings/finding.js";
import type { ReadonlyTable } from "../catalogue/readonly-table.js";
import { columnField, kindOfFeed } from "../layout/bindings/feed-kinds.js";
import type { Column, Feed, Layout } from "../layout/layout.js";
import type { WrittenRow } from "../layout/write/context.js";
import { writtenKind } from "../layout/write/rows.js";
import { formatLocation, type Location } from "../location.js";
import { valuesAt } from "./parts.js";
import type { ColumnRule, PartRule } from "./schema.js";
import { playsRecords, type Target, type TargetFile } from "./target.js";
import { phrase, type Text } from "../phrases/phrase.js";
import { shorten } from "../shorten.js";

const rememberedChars = 12;
const rememberedTexts = 5_000;

interface CheckedColumn {
  readonly column: Column;
  readonly rule: ColumnRule;
  readonly judge: (text: string) => Finding | undefined;
}

/** Returns the function that checks one row. @param columns those that are written, in their order. */
export function rowChecker(
  catalogue: ResolvedCatalogue,
  target: Target,
  file: TargetFile,
  layout: Layout,
  columns: readonly string[],
  findings: Findings,
): (row: WrittenRow, isFirst: boolean) => void {
  const { shape, link } = layout;
  const parents = catalogue.table(writtenKind(layout, catalogue));
  const child = parents.kind === shape.parent ? shape.child : shape.parent;
  const children = child && catalogue.table(child.name);
  const checked = columns.map((header) =>
    checkedColumn(
      fitting(layout.columns, (column) => column.header === header),
      target,
      file,
    ),
  );

  // A cell that could not be read is blank here: said already, at its place.
  const saidOf = (isOne: (code: string) => boolean): ReadonlySet<string> =>
    new Set(findings.list().flatMap(({ code, at }) => (isOne(code) && at ? [formatLocation(at)] : [])));
  const unread = saidOf((code) => code.startsWith("cell/"));
  // A number that is wrong on any platform is not said of each.
  const wrong = saidOf((code) => code === "check/negative" || code === "check/zero");

  const { importer } = file;
  const childAt = playsRecords(importer) ? -1 : columns.indexOf(importer["child by"]);
  const parentAt = playsRecords(importer) ? -1 : columns.indexOf(importer["parent by"]);
  const ruled = checked.flatMap((one, at) => {
    if (!one) return [];
    const { rule, column, judge } = one;
    const partner = rule["together with"];
    const partnerAt = partner === undefined ? -1 : columns.indexOf(partner);
    // What names records by ids is filled once these are known: the plan sees to that.
    const isNeeded = rule.required && !namesById(column);
    return [{ at, column, judge, partnerAt, isNeeded, isParents: column.scope.is === "parent" }];
  });
  // Cells of a workbook are written as text: there they are no formulas.
  const isOpenToFormulas = driverOf(layout.format).rows?.isOpenToFormulas ?? false;
  let before: WrittenRow | undefined;
  let nth = 0;
  return (row, isFirst) => {
    const { cells } = row;
    nth = before?.parent === row.parent && before.child === row.child ? nth + 1 : 0;
    before = row;
    if (isOpenToFormulas) for (let at = 0; at < cells.length; at++) if (isFormula(cells[at]!)) reportFormula(at, row);
    const isMore = childAt >= 0 && cells[childAt] === "" && cells[parentAt] === "";
    for (const one of ruled) {
      const text = cells[one.at]!;
      if (text === "") {
        if (one.isNeeded && !isMore && isRowOf(one.isParents, row, isFirst)) reportMissing(one.column, row);
        continue;
      }
      if (one.partnerAt >= 0 && cells[one.partnerAt] === "") {
        const facts = { column: one.column.header, partner: columns[one.partnerAt]!, target: target.name };
        findings.add(finding("target/half", facts, originOf(one.column, row)));
      }
      const found = one.judge(text);
      if (!found) continue;
      const at = originOf(one.column, row);
      if (found.code !== "target/out-of-range" || !wrong.has(formatLocation(at))) findings.add({ ...found, at });
    }
  };

  function reportFormula(at: number, row: WrittenRow): void {
    const column = fitting(layout.columns, ({ header }) => header === columns[at]);
    const text = shorten(row.cells[at]!, 80);
    findings.add(finding("target/formula", { column: column.header, text }, originOf(column, row)));
  }

  /** Whether a row is one on which the cells of parents, or those of children, have to be. */
  function isRowOf(isParents: boolean, row: WrittenRow, isFirst: boolean): boolean {
    if (shape.is !== "own-row") return isFirst || !isParents;
    if (isParents) return row.child < 0;
    return row.child >= 0 || present(children).childrenOf(row.parent).length === 0;
  }

  function reportMissing(column: Column, row: WrittenRow): void {
    const at = placeOf(column, row);
    if (!unread.has(formatLocation(at)))
      findings.add(finding("target/required", { column: column.header, target: target.name }, at));
  }

  function recordOf(column: Column, { parent, child }: WrittenRow): readonly [ReadonlyTable, number] {
    const isChild = ((link && !shape.child) || column.scope.is !== "parent") && child >= 0 && children !== undefined;
    return isChild ? [children, child] : [parents, parent];
  }

  function placeOf(column: Column, row: WrittenRow): Location {
    const [table, of] = recordOf(column, row);
    return catalogue.location(table, of, columnField(column, firstOf(column.bindings).feed));
  }

  /** Where the value of a cell comes from: of an entry its own cell. */
  function originOf(column: Column, row: WrittenRow): Location {
    const { feed } = firstOf(column.bindings);
    if (feed.is !== "entry") return placeOf(column, row);
    const [table, of] = recordOf(column, row);
    const [origin] = kindOfFeed(feed).origins(feed, { catalogue, layout, column, table, row: of, nth });
    return origin?.location ?? placeOf(column, row);
  }
}

/** What spreadsheets take for a formula: not signed numbers and percentages, which they read as such. */
export function isFormula(text: string): boolean {
  const first = text.charCodeAt(0);
  // = + - @, tab, carriage return.
  if (first !== 61 && first !== 43 && first !== 45 && first !== 64 && first !== 9 && first !== 13) return false;
  return !/^[+-]\s?\d[\d.,]*\s?%?$/.test(text);
}

function namesById({ bindings }: Column): boolean {
  return bindings.some(({ feed: target }) => {
    if (target.is === "reference" || target.is === "container") return target.spec.by === "id";
    return target.is === "entry" && target.field.is === "reference" && target.field.spec.by === "id";
  });
}

function checkedColumn(column: Column, target: Target, file: TargetFile): CheckedColumn | undefined {
  const rule = file.rules.get(column.header);
  return rule && { column, rule, judge: remembered(cellJudge(column, rule, target.name)) };
}

/** What is wrong with a text in a column; undefined where nothing is. @param target as findings name it. */
export function cellJudge(column: Column, rule: ColumnRule, target: string): (text: string) => Finding | undefined {
  const only = rule.only === undefined ? undefined : onlyThese(rule.only);
  const facts = { column: column.header, target };
  const { codec, feed } = firstOf(column.bindings);
  const most = rule["characters at most"];
  const range = rangeOf(rule);
  const entriesMost = rule["entries at most"];
  const deepMost = rule["deep at most"];
  const advised = rule["characters recommended"];
  return (text) => {
    if (most !== undefined && text.length > most) {
      const chars = [...text].length;
      if (chars > most)
        return finding(rule.over === "cut" ? "target/cut" : "target/too-long", { ...facts, chars, most });
    }
    if (advised !== undefined && text.length > advised) {
      const chars = [...text].length;
      if (chars > advised) return finding("target/longer-than-recommended", { ...facts, chars, advised });
    }
    if (only && !only.test(text))
      return finding("target/characters", { ...facts, text, allowed: phrase("only {0}", rule.only) });
    if (rule.trimmed && text.trim() !== text)
      return finding("target/characters", { ...facts, text, allowed: phrase("no space at the beginning or the end") });
    const isInParts = rule.parts !== undefined;
    if (range === undefined && entriesMost === undefined && deepMost === undefined && !isInParts) return undefined;
    const value = codec.parse(text);
    if (isProblem(value)) return undefined;
    if (range !== undefined && !isInRange(value as string, rule))
      return finding("target/out-of-range", { ...facts, text, range });
    if (entriesMost !== undefined && value.length > entriesMost)
      return finding("target/too-many-entries", { ...facts, count: value.length, most: entriesMost });
    for (const [path, ofPart] of rule.parts ?? []) {
      const found = partProblem(feed, value, path, ofPart, { ...facts, column: `${column.header}/${path}` });
      if (found) return found;
    }
    const depth = deepMost === undefined ? 0 : Math.max(...(value as readonly CellValue[]).map((path) => path.length));
    return deepMost !== undefined && depth > deepMost
      ? finding("target/too-deep", { ...facts, depth, most: deepMost })
      : undefined;
  };
}

/** Numbers and words come again and again; what is known to be right is not looked at again. */
function remembered(judge: (text: string) => Finding | undefined): (text: string) => Finding | undefined {
  const right = new Set<string>();
  return (text) => {
    if (text.length > rememberedChars) return judge(text);
    if (right.has(text)) return undefined;
    const found = judge(text);
    if (!found && right.size < rememberedTexts) right.add(text);
    return found;
  };
}

/** A test for texts of characters from a class; the class is checked to be no more than that by escaping what could end it. */
export function onlyThese(characters: string): RegExp {
  return new RegExp(`^[${characters.replace(/[\\\]^]/g, "\\$&")}]*$`, "u");
}

function rangeOf(rule: Range): Text | undefined {
  const { from, to } = rule;
  const places = rule["places at most"];
  if (from === undefined && to === undefined && places === undefined) return undefined;
  return phrase("{0}", [
    ...(from === undefined ? [] : [phrase("{0} or more", from)]),
    ...(to === undefined ? [] : [phrase("{0} or less", to)]),
    ...(places === undefined ? [] : [phrase("at most {0} decimals", places)]),
  ]);
}

/** What is wrong with a part of a cell in any of its entries. */
function partProblem(
  feed: Feed,
  value: CellValue,
  path: string,
  rule: PartRule,
  facts: { readonly column: string; readonly target: string },
): Finding | undefined {
  const most = rule["characters at most"];
  const range = rangeOf(rule);
  const only = rule.only === undefined ? undefined : onlyThese(rule.only);
  for (const part of valuesAt(feed, value, path)) {
    if (part.length === 0) {
      if (rule.required) return finding("target/part-missing", facts);
      continue;
    }
    if (typeof part !== "string") continue;
    const chars = [...part].length;
    if (most !== undefined && chars > most) return finding("target/too-long", { ...facts, chars, most });
    if (only && !only.test(part))
      return finding("target/characters", { ...facts, text: part, allowed: phrase("only {0}", rule.only) });
    if (range !== undefined && !isInRange(part, rule))
      return finding("target/out-of-range", { ...facts, text: part, range });
  }
  return undefined;
}

type Range = Pick<ColumnRule, "from" | "to" | "places at most">;

export function isInRange(value: string, rule: Range): boolean {
  if (rule.from !== undefined && compareDecimals(value, rule.from) < 0) return false;
  if (rule.to !== undefined && compareDecimals(value, rule.to) > 0) return false;
  const places = rule["places at most"];
  return places === undefined || decimalPlaces(value) <= places;
}
