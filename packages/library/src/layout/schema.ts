/** The form of a layout file, as a schema; published as JSON Schema. What each word means stands in docs/layouts.md. */

import { z } from "zod";
import { givenFormat } from "../formats/drivers/drivers.js";

const point = z.enum([",", "."]);
const separator = z.string().min(1).max(10);
const escape = z.string().length(1);

export type GivenCodec =
  | "text"
  | "integer"
  | "decimal"
  | {
      decimal: "," | ".";
      sign?: string | undefined;
      places?: number | undefined;
      thousands?: string | undefined;
      plus?: boolean | undefined;
    }
  | { measure: Record<string, string>; decimal?: "," | "." | undefined; bare?: string | undefined }
  | { "code words": Record<string, string | boolean | number> }
  | { date: string | string[] }
  | { markup: "text"; "other elements"?: "refused" | "dropped" | undefined }
  | { between: [string, string]; of?: GivenCodec | undefined }
  | { list: string; escape?: string | undefined; blanks?: boolean | undefined; of?: GivenCodec | undefined }
  | { path: string; escape?: string | undefined; root?: string | undefined; by: string }
  | { parts: string; escape?: string | undefined; holds: GivenPart[] }
  | { quantity: string; side?: "before" | "behind" | undefined; holds: [GivenPart, GivenPart] }
  | { by: string };

/**
 * One part of a cell: a field; or the records contained in the one that the cell names. With `ending`, what the text of the part before
 * ends with: by the ending, the value.
 */
export type GivenPart =
  | string
  | {
      field: string;
      as?: GivenCodec | undefined;
      ending?: Record<string, string | boolean | number> | undefined;
    };

const patterns = z.string().regex(/D/).regex(/M/).regex(/YYYY/);

const givenPart: z.ZodType<GivenPart> = z.lazy(() =>
  z.union([
    z.string(),
    z
      .strictObject({
        field: z.string(),
        as: givenCodec.optional(),
        ending: z.record(z.string().max(40), z.union([z.string(), z.boolean(), z.number()])).optional(),
      })
      .refine((given) => given.as === undefined || given.ending === undefined, {
        path: ["ending"],
        message: 'a part has either "as" or "ending"',
      }),
  ]),
);

export const givenCodec: z.ZodType<GivenCodec> = z.lazy(() =>
  z.union([
    z.enum(["text", "integer", "decimal"]),
    z.strictObject({
      measure: z.record(z.string().min(1), z.string().regex(/^\d+(\.\d+)?$/)),
      decimal: point.optional(),
      bare: z.string().optional(),
    }),
    z
      .strictObject({
        decimal: point,
        sign: z.string().min(1).optional(),
        places: z.int().min(0).max(20).optional(),
        thousands: z.string().length(1).optional(),
        plus: z.boolean().optional(),
      })
      .refine((given) => given.thousands !== given.decimal, {
        path: ["thousands"],
        message: "the sign between thousands cannot be the decimal sign too",
      }),
    z.strictObject({ "code words": z.record(z.string().min(1), z.union([z.string(), z.boolean(), z.number()])) }),
    z.strictObject({ date: z.union([patterns, z.array(patterns).min(1)]) }),
    z.strictObject({ markup: z.literal("text"), "other elements": z.enum(["refused", "dropped"]).optional() }),
    z.strictObject({ between: z.tuple([z.string(), z.string()]), of: givenCodec.optional() }),
    z.strictObject({
      list: separator,
      escape: escape.optional(),
      blanks: z.boolean().optional(),
      of: givenCodec.optional(),
    }),
    z.strictObject({ path: separator, escape: escape.optional(), root: z.string().min(1).optional(), by: z.string() }),
    z.strictObject({ parts: separator, escape: escape.optional(), holds: z.array(givenPart).min(2) }),
    z.strictObject({
      quantity: separator,
      side: z.enum(["before", "behind"]).optional(),
      holds: z.tuple([givenPart, givenPart]),
    }),
    z.strictObject({ by: z.string() }),
  ]),
);

const missing = z.enum(["error", "create", "hold"]);

const givenFix = z.union([
  z.enum(["trim", "spaces", "invisible", "mojibake", "digits", "spreadsheet text"]),
  z.strictObject({ pad: z.int().min(1).max(100) }),
]);

const fieldBinding = z.strictObject({
  field: z.string(),
  as: givenCodec.optional(),
  blank: z.enum(["absent", "emptied"]).optional(),
  missing: missing.optional(),
  within: z.string().optional(),
  fix: z.union([givenFix, z.array(givenFix).min(1)]).optional(),
  "blank means": z.string().min(1).optional(),
  "line ends": z.string().max(10).optional(),
  "other words": z.string().optional(),
  node: z.int().min(1).optional(),
});
const axesBinding = z.strictObject({ axes: z.string(), as: givenCodec });
const axisBinding = z.strictObject({
  axis: z.union([z.int().min(1).max(20), z.literal("{n}"), z.string().min(1)]),
  holds: z.string(),
  as: givenCodec.optional(),
});
const besideBinding = z.strictObject({ beside: z.string(), as: givenCodec });
const constantBinding = z.strictObject({ constant: z.string() });
const oneBinding = z.union([z.string(), fieldBinding, axisBinding, axesBinding, besideBinding, constantBinding]);

export const givenBinding = z.union([oneBinding, z.array(oneBinding).min(1)]);
export type GivenBinding = z.infer<typeof oneBinding>;

const namedBy = z.string().min(1);

export const givenRows = z.strictObject({
  each: z.string(),
  of: z.string().optional(),
  "grouped by": z.string().optional(),
  groups: z.enum(["contiguous", "scattered"]).optional(),
  "shared cells": z.enum(["first row", "every row", "own row"]).optional(),
  marker: z.strictObject({ column: z.string(), parent: z.string(), child: z.string() }).optional(),
  "joined by": z
    .union([z.literal("following"), z.strictObject({ column: z.string(), names: z.enum(["key", "code", "line"]) })])
    .optional(),
  "found by": z
    .strictObject({
      column: z.string(),
      names: namedBy,
      sheet: z.string().optional(),
      otherwise: z.enum(["reported", "ignored"]).default("reported"),
    })
    .optional(),
  expanded: z
    .strictObject({
      code: z.string().optional(),
      excluded: z.strictObject({ column: z.string(), list: separator, parts: separator }).optional(),
    })
    .optional(),
  language: z
    .strictObject({ column: z.string(), "code words": z.record(z.string().min(1), z.string().min(2)) })
    .optional(),
  element: z.string().optional(),
  "child element": z.string().min(1).optional(),
});
/** `rows` of a layout. */
export type GivenRows = z.infer<typeof givenRows>;
export const givenLane = z.strictObject({
  entries: z.string(),
  with: z.record(z.string(), z.string()).default({}),
  "continued when blank": z.array(z.string()).min(1).optional(),
  runs: z.enum(["beside the rows", "on rows of its own"]).default("beside the rows"),
  element: z.string().min(1).optional(),
});

const givenCells = z.union([
  z.strictObject({ split: separator, into: z.array(z.string().min(1)).min(2) }),
  z.strictObject({ join: z.array(z.string().min(1)).min(2), with: separator }),
  z.strictObject({ json: z.record(z.string().regex(/^(\/[^/]*)+$/), z.string().min(1)) }),
]);
export type GivenCells = z.infer<typeof givenCells>;

/** A layout file, as it is written. */
export const givenLayout = z.strictObject({
  layout: z.string().min(1),
  about: z.string().optional(),
  format: givenFormat.default({ csv: {} }),
  language: z.string().default("en"),
  header: z
    .strictObject({ line: z.int().min(1).optional(), notes: z.array(z.string()).optional() })
    .or(z.literal("none"))
    .default({}),
  rows: givenRows,
  lanes: z.record(z.string(), givenLane).default({}),
  cells: z.record(z.string().min(1), givenCells).default({}),
  columns: z.record(z.string().min(1), givenBinding),
  numbered: z.int().min(1).max(20).default(1),
  listed: z.record(z.string().min(1), z.array(z.string().min(1)).min(1)).default({}),
  "filled down": z.array(z.string().min(1)).min(1).optional(),
  "model row": z.strictObject({ column: z.string(), is: z.string().min(1) }).optional(),
  ignore: z.array(z.string()).default([]),
});
/** A layout file that has been checked, with what it leaves out. */
export type GivenLayout = z.infer<typeof givenLayout>;
