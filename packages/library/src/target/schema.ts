/** The form of a target file, as a schema; published as JSON Schema. What each word means stands in docs/targets.md. */

import { z } from "zod";
import { givenLayout } from "../layout/schema.js";

const decimal = z.string().regex(/^-?\d+(\.\d+)?$/);

export const columnRule = z.strictObject({
  /** Needed when the record is new. */
  required: z.boolean().default(false),
  /** Better filled, though not needed. */
  advised: z.boolean().default(false),
  /**
   * What a blank cell does to a known record. For a new one it is nothing, or what "starts as" says; `generate`: the platform makes an
   * address of the cell named in "generated from", and leaves what a known record has; `inherit`: it comes to the account's setting.
   */
  blank: z.enum(["clear", "leave", "refuse", "generate", "inherit"]).default("clear"),
  "generated from": z.string().optional(),
  /** A setting of the account. */
  inherits: z.string().optional(),
  /** A system connected to the platform that overwrites what is uploaded. */
  "overwritten by": z.string().optional(),
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
  /** Of an entry in parts, so many have to be filled; of parts that lie within it, all. */
  "parts at least": z.int().min(1).optional(),
  /** The first part of each entry is a number, and not below this. */
  "each from": decimal.optional(),
  picture: z.boolean().default(false),
  /** A column that has to be filled where this one is. */
  "together with": z.string().optional(),
  /** Not below the number in another column of the row. */
  "not below": z.string().optional(),
  /** Takes something only where a field of the product has the value. */
  "only if": z.strictObject({ field: z.string(), is: z.string() }).optional(),
  /** Has to be filled, or one of the others, where a field of the product has the value. */
  "needed if": z.strictObject({ field: z.string(), is: z.string(), or: z.array(z.string()).default([]) }).optional(),
  /** As many entries as the list in another column. */
  "as many as": z.string().optional(),
  /** Never changes once it is set. */
  fixed: z.boolean().default(false),
  /** An entry that comes twice in the list refuses. */
  once: z.boolean().default(false),
  /** Names have to be in a reference list of the platform; nodes of a path are joined for it. */
  "in list": z.union([z.string(), z.strictObject({ name: z.string(), "joined by": z.string() })]).optional(),
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

/**
 * How an importer works through files in which each row is a record, or says something of one: in registers of their own, or a
 * product's row followed by those of its variants. Rows are known by the platform's id where there is a column for it, else by key.
 */
export const recordRules = z.strictObject({
  plays: z.literal("records"),
  /** Whether columns may stand in any order, and be left out; or all of them have to be there, in the layout's order. */
  header: z.enum(["any order", "as it is"]).default("any order"),
  "refusal costs": z.enum(["row", "file"]),
  /** When references by something else than an id are looked up. */
  links: z.enum(["as rows arrive", "at the end of the file"]).default("as rows arrive"),
  "code and variants": z.enum(["refuse", "take"]).default("refuse"),
  "product without codes": z.enum(["refuse", "stays"]).default("stays"),
  "axes of a product with variants": z.enum(["must match", "replace"]).default("replace"),
  "code of another product": z.enum(["refuse"]).default("refuse"),
});
export type RecordRules = z.infer<typeof recordRules>;

/** How the ids that a platform gives out are learned. */
const givenIds = z.strictObject({
  told: z.enum(["report", "export"]),
  /** Where the export is, and how it is read. */
  export: z.string().optional(),
  layout: givenLayout.optional(),
  /** How a record of the export is matched with one of the catalogue, in this order. */
  "matched by": z
    .array(z.enum(["key", "code", "name", "path"]))
    .min(1)
    .default(["key"]),
});

export const demand = z.enum(["anywhere", "same file", "earlier row", "earlier file", "earlier step"]);
export type Demand = z.infer<typeof demand>;

export const givenSlot = z.strictObject({
  name: z.string().min(1),
  file: z.string(),
  /** `replace`: what the file does not name is taken out. Only where it is asked for. */
  mode: z.enum(["create", "update", "replace"]),
  /** Where it goes, if not where the file's other uploads do. */
  endpoint: z.string().optional(),
  creates: z.array(z.string()).default([]),
  updates: z.array(z.string()).default([]),
  columns: z.array(z.string()).optional(),
  /** Why it is there, for people. */
  why: z.string().optional(),
});
export type Slot = z.infer<typeof givenSlot>;

const otherwise = z.string();
export const visibleRule = z.union([
  z.strictObject({ field: z.string(), is: z.string(), otherwise }),
  z.strictObject({ field: z.string(), filled: z.literal(true), otherwise }),
  z.strictObject({ "variant field": z.string(), above: decimal, otherwise }),
  /** A product stands in a record of the tree of which it is true, and of all that are above it. */
  z.strictObject({ in: z.string(), all: z.string(), otherwise }),
  /**
   * An entry of the product, or of one of its variants, that begins with these values and ends with an amount above 0. What is
   * rented out may have anything at the place "for a time at", counted from 0.
   */
  z.strictObject({
    entry: z.string(),
    is: z.array(z.string()).min(1),
    "for a time at": z.int().min(0).optional(),
    otherwise,
  }),
  /** A variant, or a single, of which the one field has the value and one of the others is above 0. */
  z.strictObject({
    variant: z.string(),
    is: z.string(),
    "above 0": z.array(z.string()).min(1),
    "rented above 0": z.array(z.string()).min(1),
    otherwise,
  }),
]);
export type VisibleRule = z.infer<typeof visibleRule>;

const pointers = z.record(z.string(), z.string());
const worded = z.strictObject({ each: z.string(), languages: pointers });

/** Where a value stands in what the platform tells of a record: a path of names, its words, or a list of values. */
export type GivenPointer =
  | string
  | { readonly at: string; readonly words: Readonly<Record<string, string>> }
  | {
      readonly each: string;
      readonly of: GivenPointer | readonly GivenPointer[];
      readonly sorted?: boolean | undefined;
    };
const givenPointer: z.ZodType<GivenPointer> = z.lazy(() =>
  z.union([
    z.string(),
    z.strictObject({ at: z.string(), words: z.record(z.string(), z.string()) }),
    z.strictObject({
      each: z.string(),
      of: z.union([givenPointer, z.array(givenPointer).min(1)]),
      sorted: z.boolean().optional(),
    }),
  ]),
);
const toldRecord = z.strictObject({ each: z.string(), key: z.string(), fields: z.record(z.string(), givenPointer) });
export type ToldRecord = z.infer<typeof toldRecord>;

/** By kind; `within` are records that stand in those of another kind, with the field that tells which. */
export const recordReadback = z.strictObject({
  records: z.record(
    z.string(),
    toldRecord.extend({
      within: z.record(z.string(), toldRecord.extend({ parent: z.string() })).default({}),
    }),
  ),
});
export type RecordReadback = z.infer<typeof recordReadback>;

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
  importer: z.union([importerRules, recordRules]).optional(),
  /** Further layouts of the same columns, for rows of other kinds. */
  more: z.array(z.strictObject({ layout: givenLayout, each: z.array(z.string()).min(1).optional() })).default([]),
  /** Columns without which the file is refused. */
  "must have": z.array(z.string()).default([]),
  /** For rows that are entries of a record: the columns that tell the entries of a record apart. */
  "entry key": z.array(z.string()).default([]),
  /** `{kind}` in the layout stands for each of these: rows of several kinds, one after the other in one file. */
  each: z.array(z.string()).min(1).optional(),
  /** `{lang}` in the layout, and in what is reported of the file, stands for each of these: a file for each. */
  languages: z.array(z.string()).min(1).optional(),
  endpoint: z.string().optional(),
  ids: givenIds.optional(),
});
export type GivenFile = z.infer<typeof givenFile>;

/** A setting of the account: columns that are not there, or are called otherwise, by its value. */
const givenSetting = z.strictObject({
  choices: z.array(z.string()).min(2),
  preset: z.string(),
  drops: z.record(z.string(), z.array(z.string()).min(1)).default({}),
  renames: z.record(z.string(), z.record(z.string(), z.string())).default({}),
});

/** Something to do on the platform before or after the uploads, that no file does. */
const givenManualStep = z.strictObject({ title: z.string(), why: z.string() });

/** A target file, as it is written. */
export const givenTarget = z.strictObject({
  target: z.string().regex(/^[a-z][a-z0-9-]*$/, "a name of small letters, digits and -"),
  version: z.int().min(1),
  about: z.string().optional(),
  languages: z.array(z.string()).min(1),
  endpoints: z.strictObject({
    pictures: z.string(),
    upload: z.string(),
    catalogue: z.string(),
    lists: z.string().optional(),
    test: z.string().optional(),
  }),
  importer: recordRules.optional(),
  settings: z.record(z.string(), givenSetting).default({}),
  files: z.record(z.string().regex(/^[a-z][a-z0-9-]*$/, "a name of small letters, digits and -"), givenFile),
  slots: z.array(givenSlot).min(1).max(60),
  demands: z.record(z.string(), demand).default({}),
  visible: z.array(visibleRule).default([]),
  readback: z.union([readbackRules, recordReadback]),
  before: z.array(givenManualStep).default([]),
  after: z.array(givenManualStep).default([]),
});
export type GivenTarget = z.infer<typeof givenTarget>;
