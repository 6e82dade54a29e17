/** What every rule of the catalogue itself gets. A new rule is a file beside this one, listed in `rules.ts`. */

import type { ResolvedCatalogue } from "../catalogue/catalogue.js";
import type { Findings } from "../finding.js";
import type { CodeIndex } from "../catalogue/code-index.js";

export interface CheckContext {
  readonly catalogue: ResolvedCatalogue;
  readonly codes: CodeIndex;
  /** Names of the picture files that are there; undefined when no picture folder was given. */
  readonly pictures: ReadonlySet<string> | undefined;
  /** The languages that texts are wanted in, the source language first; none if the project does not say. */
  readonly languages: readonly string[];
  readonly findings: Findings;
}

export type Rule = (context: CheckContext) => void;
