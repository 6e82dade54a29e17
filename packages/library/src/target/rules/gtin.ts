/** `gtin`: a barcode with its check digit. */

import { barcodeProblem } from "../../check/gtin.js";
import { finding } from "../../findings/finding.js";
import type { RuleKind } from "./rule-kind.js";

export const gtinRule: RuleKind = {
  cell({ gtin }, { header: column, target, feed }) {
    // The barcodes of products and variants are checked for any platform.
    if (!gtin || (feed.is === "text" && feed.field === "barcode")) return undefined;
    return ({ text }) => {
      const because = barcodeProblem(text);
      return because === undefined ? undefined : finding("target/not-fitting", { column, target, text, because });
    };
  },
};
