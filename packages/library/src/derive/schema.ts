/** The form of rules that derive fields, as a schema; part of the project file's. What each word means stands in docs/deriving.md. */

import { z } from "zod";
import { givenCodec } from "../layout/schema.js";

const decimal = z.string().regex(/^-?\d{1,12}(\.\d{1,12})?$/, 'a decimal with a point, in quotes: "0.95"');
const text = z.string().min(1);
const cel = text.max(2_000);

/** The words by which a rule says how a value is made: exactly one of them stands in a rule. */
const methods = ["constant", "template", "expression", "slug", "copy", "model", "tax", "look up", "selection"] as const;
export type Method = (typeof methods)[number];

/** A rule that makes a field of others, as a project writes it. */
export const givenRule = z
  .strictObject({
    field: text,
    where: cel.optional(),
    overwrite: z.boolean().default(false),
    constant: z.string().optional(),
    template: text.optional(),
    expression: cel.optional(),
    slug: text.optional(),
    copy: text.optional(),
    selection: cel.optional(),
    model: text.optional(),
    tax: z.strictObject({ of: text, rate: decimal, does: z.enum(["added", "taken out"]) }).optional(),
    "look up": z.strictObject({ in: text, by: text, column: text }).optional(),
    mark: z.string().optional(),
    places: z.int().min(0).max(10).optional(),
    ending: z.strictObject({ to: decimal, goes: z.enum(["up", "down", "nearest"]).default("up") }).optional(),
    as: givenCodec.optional(),
  })
  .refine((rule) => methodOf(rule) !== undefined, {
    error: `a rule makes a value in exactly one way: ${methods.join(", ")}`,
  });
/** A rule that has been checked. */
export type GivenRule = z.infer<typeof givenRule>;

/** @returns undefined where a rule has no way, or more than one. */
export function methodOf(rule: object): Method | undefined {
  const given = methods.filter((way) => Object.hasOwn(rule, way));
  return given.length === 1 ? given[0] : undefined;
}

export const givenTable = z.strictObject({
  file: text,
  key: text,
  sheet: z.union([text, z.int().min(1)]).optional(),
  delimiter: z.string().length(1).optional(),
  encoding: z.string().optional(),
});
