/** `entries at most`, `once` and `deep at most`: rules of lists and paths. */

import { finding } from "../../findings/finding.js";
import { phrase } from "../../phrases/phrase.js";
import type { RuleKind } from "./rule-kind.js";
import { greatest } from "../../lists.js";

export const entriesRule: RuleKind = {
  cell(rule, { header: column, target }) {
    const most = rule["entries at most"];
    if (most === undefined) return undefined;
    return ({ value }) => {
      const list = value();
      return Array.isArray(list) && list.length > most
        ? finding("target/too-many-entries", { column, target, count: list.length, most })
        : undefined;
    };
  },
};

export const onceRule: RuleKind = {
  cell: ({ once }, { header: column, target }) =>
    once
      ? ({ text, value }) => {
          const list = value();
          if (!Array.isArray(list)) return undefined;
          const isTwice = new Set(list.map((one) => JSON.stringify(one))).size < list.length;
          const because = phrase("no entry may occur twice");
          return isTwice ? finding("target/not-fitting", { column, target, text, because }) : undefined;
        }
      : undefined,
};

export const depthRule: RuleKind = {
  cell(rule, { header: column, target, feed }) {
    const most = rule["deep at most"];
    if (most === undefined) return undefined;
    // A path is a list of names; several are a list of such.
    const isOne = feed.is === "reference" && feed.shape === "path";
    return ({ value }) => {
      const paths = value();
      if (!Array.isArray(paths)) return undefined;
      const depth = isOne ? paths.length : greatest(paths.map((path) => path.length));
      return depth > most ? finding("target/too-deep", { column, target, depth, most }) : undefined;
    };
  },
};
