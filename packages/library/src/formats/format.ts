/** What a layout states for its file: which format, and how it is written down in it. */

import type { CsvOptions } from "./csv-read.js";
import type { FormulaCells } from "./formulas.js";

export type Format =
  | ({ readonly is: "csv" } & CsvFormat)
  | {
      readonly is: "workbook";
      /** Its name, or its number from 1; the only one if left out. */
      readonly sheet: string | number | undefined;
      readonly kind: "xlsx" | "xls" | "ods";
      readonly skipsHidden: boolean;
      readonly repeatsMerged: boolean;
    }
  | {
      readonly is: "xml";
      readonly encoding: string | undefined;
      /** Prefixes as the layout writes them, to the names of their namespaces. */
      readonly namespaces: Readonly<Record<string, string>>;
    }
  | {
      readonly is: "json";
      readonly lines: boolean;
      /** What stands beside the elements in a document that is written. */
      readonly envelope: Readonly<Record<string, string | number | boolean>>;
    };

export interface CsvFormat extends CsvOptions {
  /** Found out from the bytes if left out. */
  readonly encoding: string | undefined;
  readonly lineEnd: "\r\n" | "\n";
  readonly mark: boolean;
  readonly formulas: FormulaCells;
}
