/** The form of a project file, as a schema; published as JSON Schema. What each word means stands in docs/projects.md. */

import { capNames, capTable, type CapName } from "../caps.js";
import { z } from "zod";
import { fatesOfGone, policies } from "../compare/policies.js";
import { givenOperation } from "../reshape/schema.js";
import { givenRule, givenTable } from "../derive/schema.js";

const fieldType = z.enum(["text", "code", "barcode", "decimal", "integer", "flag", "date", "file"]);
const fieldName = z.string().regex(/^[a-z][A-Za-z0-9]*$/, "a name of letters and digits, the first one small");

/** Fields that a kind has besides its own, or a kind of the project's own. */
const givenKind = z.strictObject({
  of: z.string().optional(),
  fields: z.record(
    fieldName,
    z.union([
      fieldType,
      z.strictObject({
        type: fieldType.default("text"),
        "per language": z.boolean().default(false),
        among: z.array(z.string().min(1)).min(1).optional(),
      }),
      z.strictObject({
        "refers to": z.string(),
        dependency: z.enum(["containing", "required", "linking"]).default("linking"),
        list: z.boolean().default(false),
        missing: z.enum(["error", "create", "hold"]).default("error"),
      }),
    ]),
  ),
});
export type GivenKind = z.infer<typeof givenKind>;

const capSettings = Object.fromEntries(
  capNames.map((name) => [
    name,
    z
      .int()
      .min(1)
      .max(capTable[name].most * 1_000)
      .optional(),
  ]),
) as Record<CapName, z.ZodOptional<z.ZodInt>>;

/** A project file, as it is written. */
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
  kinds: z
    .record(z.string().regex(/^[a-z][a-z0-9-]*$/, "a name of small letters, digits and -"), givenKind)
    .default({}),
  derive: z.array(givenRule).default([]),
  tables: z.record(z.string().min(1), givenTable).default({}),
  /** Changes to the catalogue after reading, carried out each time. */
  operations: z.array(givenOperation).default([]),
  languages: z.array(z.string().min(2)).min(1).optional(),
  /** Translation lists that came back from translators. */
  translations: z.array(z.strictObject({ file: z.string().min(1), language: z.string().min(2) })).default([]),
  /** By language: what to do about a missing text. */
  gaps: z
    .record(z.string().min(2), z.union([z.enum(["leave blank", "hold back"]), z.strictObject({ copy: z.string() })]))
    .default({}),
  /** Of prices whose source names none, ISO 4217. Shown beside prices; written nowhere. */
  currency: z
    .string()
    .regex(/^[A-Z]{3}$/, "a currency code of three capital letters, as EUR")
    .optional(),
  pictures: z.string().optional(),
  /** Folders besides its own that files of the project may lie in. */
  outside: z.array(z.string().min(1)).default([]),
  /** How much a source may hold, where it is more than usual. */
  caps: z.strictObject(capSettings).prefault({}),
  targets: z
    .array(
      z.strictObject({
        target: z.string().min(1),
        /** The file that records what is on the platform. */
        ledger: z.string().min(1).optional(),
        /** Settings of the account, where they differ from the defaults of the target. */
        settings: z.record(z.string(), z.string()).default({}),
        /** Fields derived for this target only, after all others. */
        derive: z.array(givenRule).default([]),
        /** What is overwritten and what is kept, where the platform already has a value. */
        changes: z
          .strictObject({
            only: z.enum(["create", "update"]).optional(),
            fields: z.record(z.string().min(1), z.enum(policies)).default({}),
            gone: z.enum(fatesOfGone).default("leave"),
          })
          .prefault({}),
        /** By name: one field to set on every record, in a file of two columns. */
        "bulk changes": z
          .record(z.string().min(1), z.strictObject({ field: z.string().min(1), constant: z.string() }))
          .default({}),
        /** By list of the platform: the names that it has. */
        has: z
          .record(
            z.string().min(1),
            z.union([z.array(z.string().min(1)).min(1), z.strictObject({ table: z.string().min(1) })]),
          )
          .default({}),
        "manual steps": z.array(z.strictObject({ before: z.string(), title: z.string().min(1) })).default([]),
      }),
    )
    .min(1),
});
export type GivenProject = z.infer<typeof givenProject>;
