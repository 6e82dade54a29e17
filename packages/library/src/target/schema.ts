/** The form of a target file, as a schema; published as JSON Schema. What each word means stands in docs/targets.md. */

import { z } from "zod";
import { givenLayout } from "../layout/schema.js";

const decimal = z.string().regex(/^-?\d+(\.\d+)?$/);

export const columnRule = z.strictObject({
  /** Needed when the record is new. */
  required: z.boolean().default(false),
  blank: z.enum(["clear", "leave", "refuse"]).default("clear"),
  "starts as": z.string().optional(),
  "characters at most": z.int().min(1).optional(),
  "characters advised": z.int().min(1).optional(),
  over: z.enum(["refuse", "cut"]).default("refuse"),
  /** The inside of a character class: single characters and ranges. */
  only: z.string().min(1).max(200).optional(),
  trimmed: z.boolean().default(false),
  from: decimal.optional(),
  to: decimal.optional(),
  "places at most": z.int().min(0).optional(),
  above: z.string().optional(),
  gtin: z.boolean().default(false),
  "entries at most": z.int().min(1).optional(),
  "deep at most": z.int().min(1).optional(),
  picture: z.boolean().default(false),
  /** A column that has to be filled where this one is. */
  "together with": z.string().optional(),
});
export type ColumnRule = z.infer<typeof columnRule>;

/**
 * How an importer works through a file of grouped rows. What is not said here is the same for all that the rehearsal plays: a refusal
 * costs the product, lists are replaced, links are looked up at the end of the file and left out where they lead nowhere.
 */
export const importerRules = z.strictObject({
  "parent by": z.string(),
  "child by": z.string(),
  "shared cells below the first row": z.enum(["refuse", "ignore"]),
  "code of another product": z.enum(["moves", "refuse"]),
  "product without codes": z.enum(["deleted", "stays"]),
  "axes of a known product": z.enum(["must match", "replace"]),
  "missing pictures": z.enum(["left out", "refuse"]),
});
export type ImporterRules = z.infer<typeof importerRules>;

export const demand = z.enum(["anywhere", "same file", "earlier row", "earlier file", "earlier step"]);
export type Demand = z.infer<typeof demand>;

export const givenSlot = z.strictObject({
  name: z.string().min(1),
  file: z.string(),
  mode: z.enum(["create", "update"]),
  creates: z.array(z.string()).default([]),
  updates: z.array(z.string()).default([]),
  columns: z.array(z.string()).optional(),
});
export type Slot = z.infer<typeof givenSlot>;

const otherwise = z.string();
export const visibleRule = z.union([
  z.strictObject({ field: z.string(), is: z.string(), otherwise }),
  z.strictObject({ field: z.string(), filled: z.literal(true), otherwise }),
  z.strictObject({ "variant field": z.string(), above: decimal, otherwise }),
]);
export type VisibleRule = z.infer<typeof visibleRule>;

const pointers = z.record(z.string(), z.string());
const worded = z.strictObject({ each: z.string(), languages: pointers });
export const readbackRules = z.strictObject({
  products: z.strictObject({ each: z.string(), key: z.string() }),
  fields: pointers,
  axes: worded,
  variants: z.strictObject({ each: z.string(), key: z.string() }),
  "variant fields": pointers,
  values: worded,
  lanes: z.record(z.string(), z.strictObject({ each: z.string(), fields: pointers })).default({}),
  categories: z.strictObject({ each: z.string(), path: z.string(), fields: pointers }),
});
export type ReadbackRules = z.infer<typeof readbackRules>;

export const givenFile = z.strictObject({
  layout: givenLayout,
  rules: z.record(z.string(), columnRule).default({}),
  limits: z
    .strictObject({
      products: z.int().min(1).optional(),
      bytes: z.int().min(1).optional(),
      "axes advised": z.int().min(1).optional(),
    })
    .default({}),
  importer: importerRules,
});

export const givenTarget = z.strictObject({
  target: z.string().regex(/^[a-z][a-z0-9-]*$/, "a name of small letters, digits and -"),
  version: z.int().min(1),
  about: z.string().optional(),
  languages: z.array(z.string()).min(1),
  endpoints: z.strictObject({ pictures: z.string(), upload: z.string(), catalogue: z.string() }),
  files: z.record(z.string().regex(/^[a-z][a-z0-9-]*$/, "a name of small letters, digits and -"), givenFile),
  slots: z.array(givenSlot).min(1).max(8),
  demands: z.record(z.string(), demand).default({}),
  visible: z.array(visibleRule).default([]),
  readback: readbackRules,
});
export type GivenTarget = z.infer<typeof givenTarget>;
