/**
 * What a target asks of the cells it gets, row by row as they are written.
 *
 * In: a row, the records it shows. Out: findings at the source cells. The rehearsal judges the same rules by itself.
 */

import { driverOf } from "../formats/drivers/drivers.js";
import { isFormula } from "../formats/formulas.js";
import { firstOf, fitting, present } from "../checked.js";
import type { ResolvedCatalogue } from "../catalogue/catalogue.js";
import { isProblem, type CellValue } from "../codecs/codec.js";
import { finding, type Finding, type Findings } from "../findings/finding.js";
import type { ReadonlyTable } from "../catalogue/readonly-table.js";
import { cellJudge, remembered } from "./cell-judge.js";
import { columnField, kindOfFeed } from "../layout/bindings/feed-kinds.js";
import { byLanguage, type Column, type Layout } from "../layout/layout.js";
import type { WrittenRow } from "../layout/write/context.js";
import { writtenKind } from "../layout/write/rows.js";
import { formatLocation, type Location } from "../location.js";
import type { Header } from "../nominal.js";
import { entryRepeats, namesById } from "./entry-key.js";
import { allRules } from "./rules/rules.js";
import type { RowCheck, RowView, RulePlace } from "./rules/rule-kind.js";
import type { ColumnRule } from "./schema.js";
import type { Target, TargetFile } from "./target.js";
import { shorten } from "../shorten.js";

/** What is wrong with a number on any platform. */
const wrongAnywhere: ReadonlySet<string> = new Set([
  "check/negative",
  "check/zero",
  "check/was-not-above",
  "check/no-hire-price",
  "check/hire-price",
]);

interface RuledColumn {
  readonly column: Column;
  readonly together: readonly RowCheck[];
  /** Whether it is compared with the number of another column. */
  readonly isCompared: boolean;
}

interface CheckedColumn {
  readonly column: Column;
  readonly rule: ColumnRule;
  readonly judge: (text: string) => Finding | undefined;
}

/** Places of which something has been said already: it is not said again of a cell that is blank, or out of range, because of that. */
interface SaidPlaces {
  /** Cells that could not be read are blank here. */
  readonly unread: ReadonlySet<string>;
  /** Numbers that are wrong on any platform. */
  readonly wrong: ReadonlySet<string>;
  readonly repeated: ReadonlySet<string>;
}

function saidPlaces(findings: Findings): SaidPlaces {
  const unread = new Set<string>();
  const wrong = new Set<string>();
  const repeated = new Set<string>();
  for (const { code, at } of findings.list()) {
    if (!at) continue;
    if (code.startsWith("cell/")) unread.add(formatLocation(at));
    else if (wrongAnywhere.has(code)) wrong.add(formatLocation(at));
    else if (code.startsWith("check/repeated")) repeated.add(formatLocation(at));
  }
  return { unread, wrong, repeated };
}

/** Returns the function that checks one row, by the layouts of a file. @param columnsOf those that are written, in their order. */
export function rowCheckers(
  catalogue: ResolvedCatalogue,
  target: Target,
  file: TargetFile,
  columnsOf: (layout: Layout) => readonly string[],
  findings: Findings,
): ((row: WrittenRow, isFirst: boolean) => void)[] {
  const said = saidPlaces(findings);
  return file.layouts.map((layout) =>
    rowChecker(catalogue, target, file, { layout, columns: columnsOf(layout) }, findings, said),
  );
}

function rowChecker(
  catalogue: ResolvedCatalogue,
  target: Target,
  file: TargetFile,
  { layout, columns }: { readonly layout: Layout; readonly columns: readonly string[] },
  findings: Findings,
  { unread, wrong, repeated }: SaidPlaces,
): (row: WrittenRow, isFirst: boolean) => void {
  const { shape, link, languages } = layout;
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

  const { grouped } = file;
  const childAt = grouped ? columns.indexOf(grouped.child) : -1;
  const parentAt = grouped ? columns.indexOf(grouped.parent) : -1;
  const ruled = checked.flatMap((one, at) => {
    if (!one) return [];
    const { rule, column, judge } = one;
    const place: RulePlace = { header: column.header, feed: firstOf(column.bindings).feed, target: target.name };
    const together = allRules.flatMap((kind) => kind.row?.(rule, place) ?? []);
    const isCompared = rule.above !== undefined || rule["not below"] !== undefined;
    const isNeverBlank = rule.blank === "refuse";
    const isNeeded = rule.required || isNeverBlank;
    const isInLanguage = languages !== undefined && isTranslated(layout, column.header);
    const isParents = column.scope.is === "parent";
    const ofLane = link ? undefined : placesOfLane(column);
    return [{ at, column, judge, together, isCompared, isNeeded, isNeverBlank, isInLanguage, isParents, ofLane }];
  });
  const languageAt = languages ? columns.indexOf(languages.column) : -1;
  const mainWord = firstOf(byLanguage(layout))[0];
  const isOpenToFormulas = driverOf(layout.format).rows?.isOpenToFormulas(layout.format) ?? false;
  const placeOfHeader = new Map(columns.map((header, at) => [header, at]));
  const codecs = new Map(layout.columns.map(({ header, bindings }) => [header, firstOf(bindings).codec]));
  const repeats = entryRepeats(layout, file, columns);
  let before: WrittenRow | undefined;
  let nth = 0;
  const viewed: { row: WrittenRow } = { row: { cells: [], parent: -1, child: -1 } };
  const view = viewOf(viewed);
  return (row, isFirstRow) => {
    const { cells } = row;
    const language = languageAt < 0 ? "" : cells[languageAt];
    // In each language a record begins anew.
    const isFirst = isFirstRow || (languageAt >= 0 && language !== before?.cells[languageAt]);
    const isTranslation = languageAt >= 0 && language !== mainWord;
    nth = before?.parent === row.parent && before.child === row.child ? nth + 1 : 0;
    before = row;
    if (repeats) reportRepeated(row, repeats(row, nth === 0));
    if (isOpenToFormulas) for (let at = 0; at < cells.length; at++) if (isFormula(cells[at]!)) reportFormula(at, row);
    const isMore = childAt >= 0 && cells[childAt] === "" && cells[parentAt] === "";
    viewed.row = row;
    for (const one of ruled) {
      const text = cells[one.at]!;
      const isTogether = one.together.length > 0;
      if (text !== "") {
        if (isTogether) reportTogether(one, view, row);
      } else {
        const isNeeded = isTranslation ? one.isNeverBlank && one.isInLanguage : one.isNeeded;
        if (!isNeeded && !isTogether) continue;
        const isOwn = one.ofLane
          ? one.ofLane.some((at) => cells[at] !== "")
          : !isMore && isRowOf(one.isParents, row, isFirst);
        if (!isOwn) continue;
        if (isTogether) reportTogether(one, view, row);
        const isLeft = row.leftBlank?.has(one.column.header) ?? false;
        if (isNeeded && !isLeft && !isStillToCome(one.column, row)) reportMissing(one.column, row);
        continue;
      }
      const found = one.judge(text);
      if (!found) continue;
      const at = originOf(one.column, row);
      if (found.code !== "target/out-of-range" || !wrong.has(formatLocation(at))) findings.add({ ...found, at });
    }
  };

  /** Where the cells of an entry stand that has a row of its own. */
  function placesOfLane({ scope }: Column): readonly number[] | undefined {
    if (scope.is !== "lane") return undefined;
    const own = layout.columns.filter((one) => one.scope.is === "lane" && one.scope.lane === scope.lane);
    return own.flatMap(({ header }) => (columns.includes(header) ? [columns.indexOf(header)] : []));
  }

  function reportRepeated(row: WrittenRow, told: readonly Header[] | undefined): void {
    if (!told) return;
    const at = originOf(
      fitting(layout.columns, ({ header }) => header === told[0]),
      row,
    );
    // What is the same on any platform is not said of each.
    if (!repeated.has(formatLocation(at)))
      findings.add(finding("target/repeated-entry", { columns: told, target: target.name }, at));
  }

  /** @param seen holds the row that is looked at: one view for all of them. */
  function viewOf(seen: { readonly row: WrittenRow }): RowView {
    const text = (header: string): string => seen.row.cells[placeOfHeader.get(header) ?? -1] ?? "";
    const value = (header: string): CellValue | undefined => {
      const parsed = codecs.get(header)?.parse(text(header));
      return parsed === undefined || isProblem(parsed) ? undefined : parsed;
    };
    return {
      text,
      value,
      stored: (header) => (text(header) === "" ? file.rules.get(header)?.["starts as"] : value(header)),
      ofProduct: (field) => ofProduct(field, seen.row),
    };
  }

  /** What a product has in a field, or what it starts as on the platform. */
  function ofProduct(field: string, { parent, child: of }: WrittenRow): string | undefined {
    const products = catalogue.table("product");
    const isOfVariants = parents.kind.of === "product";
    const product = parents === products ? parent : isOfVariants ? parents.parent(parent) : of;
    const own = product < 0 ? undefined : products.text(field, product);
    return own ?? startOf(target, field);
  }

  function reportTogether({ column, together, isCompared }: RuledColumn, view: RowView, row: WrittenRow): void {
    for (const check of together) {
      const found = check(view);
      if (!found) continue;
      const at = originOf(column, row);
      // Of a price that is wrong anywhere it is not said once more.
      if (!isCompared || !wrong.has(formatLocation(at))) findings.add({ ...found, at });
    }
  }

  function reportFormula(at: number, row: WrittenRow): void {
    const column = fitting(layout.columns, ({ header }) => header === columns[at]);
    const text = shorten(row.cells[at]!, 80);
    findings.add(finding("target/formula", { column: column.header, text }, originOf(column, row)));
  }

  /** Whether a row is one on which the cells of parents, or those of children, have to be. */
  function isRowOf(isParents: boolean, row: WrittenRow, isFirst: boolean): boolean {
    if (shape.is === "nested" && shape.child) return isParents === row.child < 0;
    if (shape.is !== "own-row") return isFirst || !isParents;
    if (isParents) return row.child < 0;
    return row.child >= 0 || present(children).countChildren(row.parent) === 0;
  }

  /** What names records by ids is filled once these are known: the plan sees to that. */
  function isStillToCome(column: Column, row: WrittenRow): boolean {
    if (!namesById(column)) return false;
    const { feed } = firstOf(column.bindings);
    const [table, of] = recordOf(column, row);
    return kindOfFeed(feed).isFilled(feed, catalogue, table, of);
  }

  function reportMissing(column: Column, row: WrittenRow): void {
    if (unread.size > 0 && unread.has(formatLocation(placeOf(column, row)))) return;
    findings.addOf("target/required", () =>
      finding("target/required", { column: column.header, target: target.name }, placeOf(column, row)),
    );
  }

  function recordOf(column: Column, { parent, child, isSingles }: WrittenRow): readonly [ReadonlyTable, number] {
    if (isSingles) return [parents, parent];
    const isChild = ((link && !shape.child) || column.scope.is !== "parent") && child >= 0 && children !== undefined;
    return isChild ? [children, child] : [parents, parent];
  }

  function placeOf(column: Column, row: WrittenRow): Location {
    const [table, of] = recordOf(column, row);
    return catalogue.location(table, of, columnField(column, firstOf(column.bindings).feed));
  }

  /** Where the value of a cell comes from: of an entry, or of a record that the row names, its own cell. */
  function originOf(column: Column, row: WrittenRow): Location {
    const { feed } = firstOf(column.bindings);
    if (feed.is !== "entry" && feed.is !== "referred") return placeOf(column, row);
    const [table, of] = recordOf(column, row);
    const [origin] = kindOfFeed(feed).origins(feed, { catalogue, layout, column, table, row: of, nth });
    return origin?.location ?? placeOf(column, row);
  }
}

/** What a new product has in a field whose cell is blank. */
function startOf({ files }: Target, field: string): string | undefined {
  for (const { layouts, rules } of files.values())
    for (const { columns } of layouts)
      for (const { header, bindings } of columns)
        if (bindings.some(({ feed }) => feed.is === "text" && feed.field === field)) {
          const start = rules.get(header)?.["starts as"];
          if (start !== undefined) return start;
        }
  return undefined;
}

/** Whether what a column holds is in the language of the row. */
function isTranslated(layout: Layout, header: string): boolean {
  const names = byLanguage(layout).map(([, { columns }]) => {
    const own = columns.find((column) => column.header === header);
    return own && columnField(own, firstOf(own.bindings).feed);
  });
  return new Set(names).size > 1;
}

function checkedColumn(column: Column, target: Target, file: TargetFile): CheckedColumn | undefined {
  const rule = file.rules.get(column.header);
  return rule && { column, rule, judge: remembered(cellJudge(column, rule, target.name)) };
}
