/**
 * The forms of the files that people write, as zod schemas: to check a file before it is loaded, or to make an editor's schema of them.
 * The same as JSON Schema: `zest-tier/schemas/layout.schema.json`, `project.schema.json`, `target.schema.json`.
 */

export { givenLayout, type GivenLayout } from "./layout/schema.js";
export { givenProject } from "./project/schema.js";
export { givenTarget } from "./target/schema.js";
export { givenRule, type GivenRule } from "./derive/schema.js";
export { givenOperation } from "./reshape/schema.js";
