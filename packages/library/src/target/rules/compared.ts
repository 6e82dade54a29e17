/** `above`, `not below`, `as many as` and `together with`: rules that look at another column of the row. */

import { compareDecimals } from "../../decimal.js";
import { finding, type Finding } from "../../findings/finding.js";
import { phrase, type Phrase } from "../../phrases/phrase.js";
import type { RuleKind, RowCheck, RulePlace, RowView } from "./rule-kind.js";

const notFitting = ({ header: column, target }: RulePlace, row: RowView, because: Phrase): Finding =>
  finding("target/not-fitting", {
    column,
    target,
    text: row.text(column) || String(row.stored(column) ?? ""),
    because,
  });

/** The numbers that a platform has of two cells of a row; undefined where one of them is none. */
function numbers(row: RowView, one: string, other: string): readonly [string, string] | undefined {
  const [own, than] = [row.stored(one), row.stored(other)];
  return typeof own === "string" && typeof than === "string" && own !== "" && than !== "" ? [own, than] : undefined;
}

function against(other: string, place: RulePlace, isRight: (order: number) => boolean, because: Phrase): RowCheck {
  return (row) => {
    const both = numbers(row, place.header, other);
    return !both || isRight(compareDecimals(...both)) ? undefined : notFitting(place, row, because);
  };
}

export const aboveRule: RuleKind = {
  row: ({ above }, place) =>
    above === undefined
      ? undefined
      : against(above, place, (order) => order > 0, phrase('it has to be above "{0}"', above)),
};

export const notBelowRule: RuleKind = {
  row(rule, place) {
    const other = rule["not below"];
    if (other === undefined) return undefined;
    return against(other, place, (order) => order >= 0, phrase('it must not be below "{0}"', other));
  },
};

export const asManyRule: RuleKind = {
  row(rule, place) {
    const other = rule["as many as"];
    if (other === undefined) return undefined;
    return (row) => {
      if (row.text(place.header) === "") return undefined;
      const count = (header: string): number => {
        const list = row.text(header) === "" ? undefined : row.value(header);
        return Array.isArray(list) ? list.length : 0;
      };
      const because = phrase('it needs as many entries as "{0}"', other);
      return count(place.header) === count(other) ? undefined : notFitting(place, row, because);
    };
  },
};

export const togetherRule: RuleKind = {
  row(rule, { header: column, target }) {
    const partner = rule["together with"];
    if (partner === undefined) return undefined;
    return (row) =>
      row.text(column) === "" || row.text(partner) !== ""
        ? undefined
        : finding("target/half", { column, partner, target });
  },
};
