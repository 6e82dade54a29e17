/** The form of a target file, as a schema; published as JSON Schema. What each word means stands in docs/reference/target-words.md. */

import { z } from "zod";
import type { ParsedCondition } from "./row-facts.js";
import { givenLayout } from "../layout/schema.js";

const decimal = z.string().regex(/^-?\d+(\.\d+)?$/);

/** When the platform looks up the records that a row names. */
const lookUp = z.enum(["as rows arrive", "at the end of the file", "before the file", "after the import"]);
export type LookUp = z.infer<typeof lookUp>;

/** What becomes of a name that no record has. */
const unknownName = z.enum(["refuse", "leave out", "create"]);
export type UnknownName = z.infer<typeof unknownName>;

const inList = z.union([z.string(), z.strictObject({ name: z.string(), "joined by": z.string() })]);

/** What holds of a part of a cell. */
export const partRule = z.strictObject({
  /** Filled in each entry of the cell. */
  required: z.boolean().optional(),
  from: decimal.optional(),
  to: decimal.optional(),
  "places at most": z.int().min(0).optional(),
  "characters at most": z.int().min(1).optional(),
  only: z.string().min(1).max(200).optional(),
});
export type PartRule = z.infer<typeof partRule>;

export const givenColumnRule = z.strictObject({
  /** Needed when the record is new. */
  required: z.boolean().optional(),
  /** Better filled, though not needed. */
  recommended: z.boolean().optional(),
  /**
   * What a blank cell does to a known record. For a new one it is nothing, or what "starts as" says; `generate`: the platform makes an
   * address of the cell named in "generated from", and leaves what a known record has; `inherit`: it comes to the account's setting.
   */
  blank: z.enum(["clear", "leave", "refuse", "generate", "inherit"]).optional(),
  "generated from": z.string().optional(),
  /** A setting of the account. */
  inherits: z.string().optional(),
  /** A system connected to the platform that overwrites what is uploaded. */
  "overwritten by": z.string().optional(),
  "starts as": z.string().optional(),
  "characters at most": z.int().min(1).optional(),
  "characters recommended": z.int().min(1).optional(),
  over: z.enum(["refuse", "cut"]).optional(),
  /** The inside of a character class: single characters and ranges. */
  only: z.string().min(1).max(200).optional(),
  trimmed: z.boolean().optional(),
  from: decimal.optional(),
  to: decimal.optional(),
  "places at most": z.int().min(0).optional(),
  above: z.string().optional(),
  gtin: z.boolean().optional(),
  "entries at most": z.int().min(1).optional(),
  "deep at most": z.int().min(1).optional(),
  picture: z.boolean().optional(),
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
  fixed: z.boolean().optional(),
  /** An entry that comes twice in the list refuses. */
  once: z.boolean().optional(),
  /** Names have to be in a reference list of the platform; nodes of a path are joined for it. */
  "in list": inList.optional(),
  /** Anything else: an expression in CEL over the fields of the row, and a sentence for where it is not true. */
  condition: z.strictObject({ holds: z.string().min(1).max(2_000), otherwise: z.string().min(1) }).optional(),
  /** When what the column names is looked up; as the importer says, if left out. */
  "looked up": lookUp.optional(),
  /** What becomes of names that no record has; as the importer says, if left out. */
  unknown: unknownName.optional(),
});
export type GivenColumnRule = z.infer<typeof givenColumnRule>;

type Completed = "required" | "recommended" | "blank" | "over" | "trimmed" | "gtin" | "picture" | "fixed" | "once";
/** What holds of a column, and of the parts of its cells by the path to each: `choice/surcharge`. */
export type ColumnRule = Omit<GivenColumnRule, Completed> & {
  readonly [W in Completed]: NonNullable<GivenColumnRule[W]>;
} & {
  readonly parts?: ReadonlyMap<string, PartRule> | undefined;
  /** The expression of the condition, and what it knows of a row. */
  readonly holds?: ParsedCondition | undefined;
};

export const completedRule = (given: GivenColumnRule): ColumnRule => ({
  ...given,
  required: given.required ?? false,
  recommended: given.recommended ?? false,
  blank: given.blank ?? "clear",
  over: given.over ?? "refuse",
  trimmed: given.trimmed ?? false,
  gtin: given.gtin ?? false,
  picture: given.picture ?? false,
  fixed: given.fixed ?? false,
  once: given.once ?? false,
});

/** How an importer works through a file. Said for all files, and for one where it is otherwise. */
export const givenImporter = z.strictObject({
  /** What is refused together with a row that has a mistake. */
  "refusal costs": z.enum(["row", "record", "file"]).optional(),
  "at an error": z.enum(["go on", "stop"]).optional(),
  /** Whether columns may stand in any order, and be left out; or all of them have to be there, in the layout's order. */
  header: z.enum(["any order", "as it is"]).optional(),
  /** How it tells which record a row is about, by kind: the ways in the order in which they are tried. */
  "identified by": z.record(z.string(), z.array(z.enum(["id", "key", "code", "name"])).min(1)).optional(),
  "known record": z.enum(["update", "refuse", "skip"]).optional(),
  "unknown id": z.enum(["refuse", "create"]).optional(),
  /** What a list in a cell does to the list that is there. */
  lists: z.enum(["replace", "add"]).optional(),
  "children not named": z.enum(["kept", "deleted"]).optional(),
  "child of another parent": z.enum(["refuse", "moves"]).optional(),
  "parent without children": z.enum(["kept", "deleted", "refuse"]).optional(),
  "axes of a known parent": z.enum(["must match", "replace"]).optional(),
  "shared cells below the first row": z.enum(["refuse", "ignore"]).optional(),
  /** `awaited`: rows come first, and their pictures are uploaded after them. */
  "missing pictures": z.enum(["refuse", "left out", "awaited"]).optional(),
  "looked up": lookUp.optional(),
  "unknown names": unknownName.optional(),
});
export type GivenImporter = z.infer<typeof givenImporter>;

/** How the ids that a platform gives out are learned. */
const givenIds = z.strictObject({
  told: z.enum(["report", "export"]),
  /** Where the export is. */
  export: z.string().optional(),
  /** How it is read. A report without one tells of each line of its file what became of it. */
  layout: givenLayout.optional(),
  /** How a record that is read by the layout is matched with one of the catalogue, in this order. By its key, if left out. */
  "matched by": z
    .array(z.enum(["key", "code", "name", "path"]))
    .min(1)
    .optional(),
});

/** An upload of a file. What it makes and what it adds follows from the columns of the file. */
export const givenImport = z.strictObject({
  file: z.string(),
  /** As the file, if left out. */
  name: z.string().min(1).optional(),
  /**
   * `create` makes records, and updates those that are there; `update` only updates; `mirror` takes out what the file does not name, and
   * is made only where it is asked for; `delete` takes out what the file names, where a project wishes that or a rollback needs it.
   */
  mode: z.enum(["create", "update", "mirror", "delete"]).default("create"),
  /** Where it goes, if not where the file's other uploads do. */
  endpoint: z.string().optional(),
  /** Those that are uploaded; all, if left out. */
  columns: z.array(z.string()).min(1).optional(),
  /** Of the records that it is for, an expression in CEL: each goes into the first import that it fits. All of them, if left out. */
  for: z.string().min(1).max(2_000).optional(),
  /** Why it is there, for people. */
  why: z.string().optional(),
});
export type GivenImport = z.infer<typeof givenImport>;

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

export const givenFile = z.strictObject({
  layout: givenLayout,
  /** By header, and by header and part: `Steps/amount`. */
  columns: z.record(z.string(), givenColumnRule).default({}),
  limits: z
    .strictObject({
      products: z.int().min(1).optional(),
      bytes: z.int().min(1).optional(),
      "axes recommended": z.int().min(1).optional(),
    })
    .default({}),
  importer: givenImporter.optional(),
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

/** A file in which the platform tells what it has, and that is none of those which it takes. */
const givenExport = z.strictObject({
  /** How it is read: by all of these together. */
  layouts: z.array(givenLayout).min(1),
});

/** A setting of the account: its languages, columns that are not there, or are called otherwise, by its value. */
const givenSetting = z.strictObject({
  choices: z.array(z.string()).min(2),
  preset: z.string(),
  /** The languages of the account, the main one first. */
  languages: z.record(z.string(), z.array(z.string()).min(1)).optional(),
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
  importer: givenImporter.default({}),
  settings: z.record(z.string(), givenSetting).default({}),
  files: z.record(z.string().regex(/^[a-z][a-z0-9-]*$/, "a name of small letters, digits and -"), givenFile),
  imports: z.array(givenImport).min(1).max(60),
  exports: z.record(z.string().min(1), givenExport).default({}),
  visible: z.array(visibleRule).default([]),
  before: z.array(givenManualStep).default([]),
  after: z.array(givenManualStep).default([]),
});
export type GivenTarget = z.infer<typeof givenTarget>;
