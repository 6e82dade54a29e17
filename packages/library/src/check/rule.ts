/** What every check of the catalogue itself gets. A new check is a file beside this one, listed in `rules.ts`. */

import type { Lang } from "../nominal.js";
import type { ResolvedCatalogue } from "../catalogue/catalogue.js";
import type { Findings } from "../findings/finding.js";
import type { CodeIndex } from "../catalogue/code-index.js";

export interface CheckContext {
  readonly catalogue: ResolvedCatalogue;
  readonly codes: CodeIndex;
  /** Names of the picture files that are there; undefined when no picture folder was given. */
  readonly pictures: ReadonlySet<string> | undefined;
  /** The targets that refuse a row for a missing picture, by the table of the use: `product.pictures`. */
  readonly picturesRefused?: ((table: string) => readonly string[]) | undefined;
  /** The targets that refuse a product that is related to itself. */
  readonly relationsRefused?: readonly string[] | undefined;
  /** Whether a platform takes codes; true where none is known. */
  readonly takesCodes?: boolean | undefined;
  /** The languages that texts are wanted in, the source language first; none if the project does not say. */
  readonly languages: readonly Lang[];
  /** Of prices whose source names none, ISO 4217; undefined if the project does not say. */
  readonly currency?: string | undefined;
  readonly findings: Findings;
}

export type Check = (context: CheckContext) => void;
