/**
 * Every word of a project with its meaning and one example: for docs/reference/project-words.md. A test loads each example.
 *
 * An example is a part of a project. What it leaves out is as in `baseProject`.
 */

import type { ReferenceSection } from "../layout/reference/entry.js";
import { operationSections } from "./reference/operations.js";
import { sourceSections } from "./reference/sources.js";

/** What examples leave out. */
export const baseProject =
  "project: example\nsources: [{ file: range.csv, layout: range.yaml }]\ntargets: [{ target: pennywort }]\n";

/** Every word of a project, with an example, by section. */
export const projectReference: readonly ReferenceSection[] = [...sourceSections, ...operationSections];
