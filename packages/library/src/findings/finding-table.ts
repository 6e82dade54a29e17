/**
 * Every finding that there is, with its severity, its English sentence and its remedy. docs/findings.md is made from this.
 *
 * A new finding: one entry in the file of its stage under en/, and its text in the same file under de/. Both are checked by type.
 */

import { build } from "./en/build.js";
import { cell } from "./en/cell.js";
import { check } from "./en/check.js";
import { compare } from "./en/compare.js";
import { given } from "./en/given.js";
import { read } from "./en/read.js";
import { resolve } from "./en/resolve.js";
import { target } from "./en/target.js";

/** Of each code its severity, its English sentence and its remedy. */
export const findingTable = {
  ...given,
  ...read,
  ...cell,
  ...resolve,
  ...check,
  ...target,
  ...build,
  ...compare,
};
