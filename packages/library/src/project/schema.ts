/** The form of a project file, as a schema; published as JSON Schema. What each word means stands in docs/projects.md. */

import { z } from "zod";

export const givenProject = z.strictObject({
  project: z.string().min(1),
  about: z.string().optional(),
  sources: z.array(z.strictObject({ file: z.string().min(1), layout: z.string().min(1) })).min(1),
  pictures: z.string().optional(),
  targets: z.array(z.strictObject({ target: z.string().min(1) })).min(1),
});
