/** The German of every finding: the same codes, each made of the same facts. */

import type { Translated } from "./definition.js";
import { build } from "./de/build.js";
import { cell } from "./de/cell.js";
import { check } from "./de/check.js";
import { compare } from "./de/compare.js";
import { given } from "./de/given.js";
import { read } from "./de/read.js";
import { resolve } from "./de/resolve.js";
import { target } from "./de/target.js";
import type { findingTable } from "./finding-table.js";

export const germanFindings: Translated<typeof findingTable> = {
  ...given,
  ...read,
  ...cell,
  ...resolve,
  ...check,
  ...target,
  ...build,
  ...compare,
};
