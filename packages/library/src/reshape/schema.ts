/** Operations on the catalogue, as a project lists them: each says one thing that is to be otherwise. Replayed from the sources. */

import { z } from "zod";

const key = z.string().min(1);
const keys = z.array(key).min(1);
const names = z.record(z.string().min(2), z.string().min(1));

/** Which records an operation is about. */
export const givenSelection = z.strictObject({
  of: z.string().min(1),
  /** A category: what stands in it, or below it. */
  in: key.optional(),
  /** An expression over the record's fields. */
  where: z.string().min(1).optional(),
  keys: keys.optional(),
});
/** Which records an operation is about. */
export type Selection = z.infer<typeof givenSelection>;

/** An operation on the catalogue, as a project writes it. */
export const givenOperation = z.union([
  /** Several products become one, told apart by a new axis. */
  z.strictObject({
    combine: z.array(key).min(2),
    into: key,
    axis: z.string().min(1),
    /** The value of each product on the axis, by the product's key. */
    values: z.record(key, z.string().min(1)),
    name: names.optional(),
    /** Where the products' own fields differ, whose counts: by field, the product's key. Else the first's. */
    take: z.record(z.string(), key).default({}),
  }),
  /** A product becomes several, one for each value of an axis. */
  z.strictObject({
    split: key,
    along: z.string().min(1),
    /** `{name}` and `{value}` stand for the product's and the value's, in each language. */
    name: z.string().min(1).default("{name} {value}"),
    key: z.string().min(1).default("{key}-{value}"),
  }),
  z.strictObject({ merge: keys, of: z.string(), into: key }),
  z.strictObject({ rename: key, of: z.string(), to: key.optional(), name: names.optional() }),
  z.strictObject({ move: keys, under: key.nullable() }),
  /** The order of the values of an axis, or of the axes of a product. */
  z.strictObject({ order: keys, of: z.enum(["value", "axis"]), on: givenSelection.optional() }),
  z.strictObject({ "use axis": z.string().min(1), "instead of": z.string().min(1), on: givenSelection }),
  z.strictObject({ "split category": key, into: key, name: names, take: givenSelection }),
  z.strictObject({ replace: z.string(), on: givenSelection, from: z.string(), by: z.string() }),
  z.strictObject({ add: z.string(), on: givenSelection, values: keys }),
  z.strictObject({ remove: z.string(), on: givenSelection, values: keys }),
  z.strictObject({ renumber: givenSelection, pattern: z.string().min(1) }),
  z.strictObject({ "make variants of": keys, axis: z.string().min(1), value: z.string().min(1) }),
  z.strictObject({ "make single": keys }),
]);
/** One operation of a project on its own catalogue: combine, split, merge, rename and so on. */
export type Operation = z.infer<typeof givenOperation>;
