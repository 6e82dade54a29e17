/** The form of a layout file, as a schema; published as JSON Schema. What each word means stands in docs/layouts.md. */

import { z } from "zod";

const point = z.enum([",", "."]);
const separator = z.string().min(1).max(10);
const escape = z.string().length(1);

export type GivenCodec =
  | "text"
  | "integer"
  | "decimal"
  | { decimal: "," | "."; sign?: string | undefined; places?: number | undefined; thousands?: string | undefined }
  | { words: Record<string, string | boolean | number> }
  | { date: string }
  | { between: [string, string]; of?: GivenCodec | undefined }
  | { list: string; escape?: string | undefined; of?: GivenCodec | undefined }
  | { path: string; escape?: string | undefined; root?: string | undefined; by: string }
  | { by: string };

export const givenCodec: z.ZodType<GivenCodec> = z.lazy(() =>
  z.union([
    z.enum(["text", "integer", "decimal"]),
    z.strictObject({
      decimal: point,
      sign: z.string().min(1).optional(),
      places: z.int().min(0).max(20).optional(),
      thousands: z.string().length(1).optional(),
    }),
    z.strictObject({ words: z.record(z.string().min(1), z.union([z.string(), z.boolean(), z.number()])) }),
    z.strictObject({ date: z.string().regex(/DD/).regex(/MM/).regex(/YYYY/) }),
    z.strictObject({ between: z.tuple([z.string(), z.string()]), of: givenCodec.optional() }),
    z.strictObject({ list: separator, escape: escape.optional(), of: givenCodec.optional() }),
    z.strictObject({ path: separator, escape: escape.optional(), root: z.string().min(1).optional(), by: z.string() }),
    z.strictObject({ by: z.string() }),
  ]),
);

const missing = z.enum(["error", "create", "hold"]);

const fieldBinding = z.strictObject({
  field: z.string(),
  as: givenCodec.optional(),
  blank: z.enum(["absent", "emptied"]).optional(),
  missing: missing.optional(),
});
const axisBinding = z.strictObject({
  axis: z.union([z.int().min(1).max(20), z.literal("{n}"), z.string().min(1)]),
  holds: z.string(),
});
const besideBinding = z.strictObject({ beside: z.string(), as: givenCodec });
const oneBinding = z.union([z.string(), fieldBinding, axisBinding, besideBinding]);

export const givenBinding = z.union([oneBinding, z.array(oneBinding).min(1)]);
export type GivenBinding = z.infer<typeof oneBinding>;

export const csvFormat = z.strictObject({
  csv: z
    .strictObject({
      delimiter: z.string().length(1).optional(),
      quote: z.string().length(1).optional(),
      encoding: z.string().optional(),
      "line end": z.enum(["lf", "crlf"]).optional(),
      mark: z.boolean().optional(),
    })
    .default({}),
});

export const givenRows = z.strictObject({
  each: z.string(),
  of: z.string().optional(),
  "grouped by": z.string().optional(),
  groups: z.enum(["contiguous", "scattered"]).default("contiguous"),
  "shared cells": z.enum(["first row", "every row", "own row"]).default("first row"),
  marker: z.strictObject({ column: z.string(), parent: z.string(), child: z.string() }).optional(),
  "joined by": z
    .union([z.literal("following"), z.strictObject({ column: z.string(), names: z.enum(["key", "code", "line"]) })])
    .optional(),
});

export const givenLane = z.strictObject({
  entries: z.string(),
  with: z.record(z.string(), z.string()).default({}),
  "continued when blank": z.array(z.string()).min(1),
});

export const givenLayout = z.strictObject({
  layout: z.string().min(1),
  about: z.string().optional(),
  format: csvFormat.default({ csv: {} }),
  language: z.string().default("en"),
  rows: givenRows,
  lanes: z.record(z.string(), givenLane).default({}),
  columns: z.record(z.string().min(1), givenBinding),
  numbered: z.int().min(1).max(20).default(1),
  ignore: z.array(z.string()).default([]),
});
export type GivenLayout = z.infer<typeof givenLayout>;
