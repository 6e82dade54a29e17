/** `only if` and `needed if`: rules that depend on a field of the product. */

import { finding } from "../../findings/finding.js";
import { phrase } from "../../phrases/phrase.js";
import type { RuleKind } from "./rule-kind.js";

export const onlyIfRule: RuleKind = {
  row(rule, { header: column, target }) {
    const only = rule["only if"];
    if (only === undefined) return undefined;
    const because = phrase('only products with {0} "{1}" have it', only.field, only.is);
    return (row) => {
      const text = row.text(column);
      return text === "" || row.ofProduct(only.field) === only.is
        ? undefined
        : finding("target/not-fitting", { column, target, text, because });
    };
  },
};

export const neededIfRule: RuleKind = {
  row(rule, { header, target }) {
    const needed = rule["needed if"];
    if (needed === undefined) return undefined;
    const columns = [header, ...needed.or];
    return (row) =>
      row.ofProduct(needed.field) !== needed.is || columns.some((column) => row.text(column) !== "")
        ? undefined
        : finding("target/needed", { columns, field: needed.field, is: needed.is, target });
  },
};
