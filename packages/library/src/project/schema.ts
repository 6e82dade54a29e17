/** The form of a project file, as a schema; published as JSON Schema. What each word means stands in docs/projects.md. */

import { z } from "zod";
import { givenRule, givenTable } from "../derive/schema.js";

export const givenProject = z.strictObject({
  project: z.string().min(1),
  about: z.string().optional(),
  sources: z
    .array(
      z.strictObject({
        file: z.string().min(1),
        within: z.string().min(1).optional(),
        layout: z.string().min(1),
        language: z.string().min(2).optional(),
        precedence: z.int().min(0).max(1000).optional(),
      }),
    )
    .min(1),
  derive: z.array(givenRule).default([]),
  tables: z.record(z.string().min(1), givenTable).default({}),
  languages: z.array(z.string().min(2)).min(1).optional(),
  pictures: z.string().optional(),
  targets: z.array(z.strictObject({ target: z.string().min(1) })).min(1),
});
