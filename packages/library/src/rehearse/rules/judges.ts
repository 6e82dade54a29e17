/**
 * Why a platform refuses a cell, rule by rule: the judges of the rehearsal. They share nothing with the checks that foresee them but the
 * list of words.
 */

import { barcodeProblem } from "../../check/gtin.js";
import type { CellValue } from "../../codecs/codec.js";
import { compareDecimals, decimalPlaces } from "../../decimal.js";
import type { Feed } from "../../layout/layout.js";
import { onlyThese } from "../../target/rules/characters.js";
import { factsOfRow } from "../../target/row-facts.js";
import type { RuleWord } from "../../target/rules/rules.js";
import type { ColumnRule } from "../../target/schema.js";
import { partReason } from "./part-reason.js";

/** A filled cell on its way in. */
export interface JudgedCell {
  readonly text: string;
  readonly value: CellValue;
  readonly feed: Feed;
}

/** A row as it then is on the platform. */
export interface JudgedRow {
  /** Whether the row itself fills a column. */
  isFilled(header: string): boolean;
  /** What is then stored of a column. */
  stored(header: string): CellValue | undefined;
  ofProduct(field: string): CellValue | undefined;
  /** What a cell of the row says. */
  cell(header: string): CellValue | undefined;
}

/** The reason in words; undefined where there is none. */
type CellJudge = { readonly cell: (rule: ColumnRule, cell: JudgedCell) => string | undefined };
type RowJudge = { readonly row: (rule: ColumnRule, row: JudgedRow, header: string) => string | undefined };
/** What the machines do by themselves, with what they hold. */
type Held = "held";

/** Whether a text has more characters than so many. */
export const isLonger = (text: string, most: number): boolean => text.length > most && [...text].length > most;

const count = (value: CellValue | undefined): number => (Array.isArray(value) ? value.length : 0);

const inRange: CellJudge = {
  cell({ from, to, ...rule }, { value }) {
    if (typeof value !== "string") return undefined;
    const places = rule["places at most"];
    const isIn =
      (from === undefined || compareDecimals(value, from) >= 0) &&
      (to === undefined || compareDecimals(value, to) <= 0) &&
      (places === undefined || decimalPlaces(value) <= places);
    return isIn ? undefined : "out of range";
  },
};

const judges = {
  "characters at most": {
    cell(rule, { text }) {
      const most = rule["characters at most"];
      const isOver = most !== undefined && rule.over === "refuse" && isLonger(text, most);
      return isOver ? `longer than ${most} characters` : undefined;
    },
  },
  only: {
    cell: ({ only }, { text }) => (only === undefined || onlyThese(only).test(text) ? undefined : `only ${only}`),
  },
  trimmed: { cell: ({ trimmed }, { text }) => (trimmed && text !== text.trim() ? "a space at an end" : undefined) },
  gtin: {
    cell: ({ gtin }, { text }) => (gtin && barcodeProblem(text) !== undefined ? "not a valid barcode" : undefined),
  },
  from: inRange,
  to: inRange,
  "places at most": inRange,
  parts: { cell: (rule, { feed, value }) => partReason(feed, value, rule) },
  "entries at most": {
    cell(rule, { value }) {
      const most = rule["entries at most"];
      return most !== undefined && count(value) > most ? "too many entries" : undefined;
    },
  },
  once: {
    cell: ({ once }, { value }) =>
      once && Array.isArray(value) && new Set(value.map((one) => JSON.stringify(one))).size < value.length
        ? "an entry comes twice"
        : undefined,
  },
  "deep at most": {
    cell(rule, { value, feed }) {
      const most = rule["deep at most"];
      if (most === undefined || !Array.isArray(value)) return undefined;
      const paths = feed.is === "reference" && feed.shape === "path" ? [value] : value;
      return paths.some((path) => path.length > most) ? "too deep" : undefined;
    },
  },
  above: {
    row({ above }, row, header) {
      const [value, other] = [row.stored(header), above === undefined ? undefined : row.stored(above)];
      const isUnder = typeof value === "string" && typeof other === "string" && compareDecimals(value, other) <= 0;
      return isUnder ? `not above ${above}` : undefined;
    },
  },
  "not below": {
    row(rule, row, header) {
      const than = rule["not below"];
      const [value, other] = [row.stored(header), than === undefined ? undefined : row.stored(than)];
      const isUnder = typeof value === "string" && typeof other === "string" && compareDecimals(value, other) < 0;
      return isUnder ? `below ${than}` : undefined;
    },
  },
  "as many as": {
    row(rule, row, header) {
      const other = rule["as many as"];
      const value = row.stored(header);
      return other !== undefined && value !== undefined && count(value) !== count(row.stored(other))
        ? "not parallel"
        : undefined;
    },
  },
  "together with": {
    row(rule, row, header) {
      const partner = rule["together with"];
      return partner !== undefined && row.isFilled(header) && !row.isFilled(partner)
        ? `not without ${partner}`
        : undefined;
    },
  },
  "only if": {
    row(rule, row, header) {
      const only = rule["only if"];
      return only && row.isFilled(header) && row.ofProduct(only.field) !== only.is ? `only for ${only.is}` : undefined;
    },
  },
  "needed if": {
    row(rule, row, header) {
      const needed = rule["needed if"];
      if (!needed || row.ofProduct(needed.field) !== needed.is) return undefined;
      const isThere = (one: string): boolean => row.stored(one) !== undefined || row.isFilled(one);
      return ![header, ...needed.or].some(isThere) ? `needed for ${needed.is}` : undefined;
    },
  },
  condition: {
    row({ condition, holds }, row) {
      if (!condition || !holds) return undefined;
      const made = holds.expression.evaluate(factsOfRow(holds.columns, (header) => row.cell(header)));
      return made.is === "flag" && !made.flag ? condition.otherwise : undefined;
    },
  },
  holds: "held",
  over: "held",
  "characters recommended": "held",
  required: "held",
  recommended: "held",
  picture: "held",
  "in list": "held",
  "looked up": "held",
  unknown: "held",
  blank: "held",
  "generated from": "held",
  inherits: "held",
  "overwritten by": "held",
  "starts as": "held",
  fixed: "held",
} satisfies Record<RuleWord, CellJudge | RowJudge | Held>;

type Word = keyof typeof judges;
type Judges<J> = readonly J[];

/** The judges that a column's rule calls for: worked out once for each. */
function calledFor<J extends "cell" | "row">(is: J): (rule: ColumnRule) => Judges<JudgesOf[J]> {
  const known = new WeakMap<ColumnRule, Judges<JudgesOf[J]>>();
  return (rule) => {
    const found = known.get(rule);
    if (found) return found;
    const words = (Object.keys(judges) as Word[]).filter((word) => rule[word] !== undefined && rule[word] !== false);
    const called = words.flatMap((word) => {
      const judge: Partial<JudgesOf> | Held = judges[word];
      const own = typeof judge === "object" ? judge[is] : undefined;
      return own ? [own] : [];
    });
    const made = [...new Set(called)];
    known.set(rule, made);
    return made;
  };
}

type JudgesOf = CellJudge & RowJudge;
const ofCells = calledFor("cell");
const ofRows = calledFor("row");

/** The first reason against a cell by itself. */
export function reasonAgainst(rule: ColumnRule, cell: JudgedCell): string | undefined {
  for (const judge of ofCells(rule)) {
    const reason = judge(rule, cell);
    if (reason !== undefined) return reason;
  }
  return undefined;
}

/** Whether a rule is about several cells of a row. */
export const looksAtRow = (rule: ColumnRule): boolean => ofRows(rule).length > 0;

/** @param tell is called with every reason against a row that its columns give together. */
export function judgeRow(
  columns: Iterable<{ readonly header: string; readonly rule: ColumnRule | undefined }>,
  row: JudgedRow,
  tell: (reason: string) => void,
): void {
  for (const { header, rule } of columns)
    if (rule)
      for (const judge of ofRows(rule)) {
        const reason = judge(rule, row, header);
        if (reason !== undefined) tell(`${header}: ${reason}`);
      }
}
