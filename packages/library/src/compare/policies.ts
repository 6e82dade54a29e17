/** What a project wants of fields, lists and records that the platform has too. */

export const policies = ["overwrite", "fill", "add", "leave"] as const;
/** What becomes of a field that the platform has too. */
export type Policy = (typeof policies)[number];

/** What a project wants of fields that the platform has too. */
export interface ChangeWishes {
  /** Only what is new there, or only what is there; both, if left out. */
  readonly only?: "create" | "update" | undefined;
  /** By `kind.field`, as comparisons call it, or by what it begins with: `variant.stock`. */
  readonly fields: Readonly<Record<string, Policy>>;
  /** What becomes of records that were delivered, and are no longer in the sources. */
  readonly gone: Gone;
}

export const fatesOfGone = ["leave", "hide", "retire", "delete"] as const;
/** What becomes of a record that was delivered, and is no longer in the sources. */
export type Gone = (typeof fatesOfGone)[number];

/** Where a project says nothing about changes. */
export const noWishes: ChangeWishes = { fields: {}, gone: "leave" };

/** Sales change it from hour to hour: it is not touched unless asked. */
const live = ["product.stock", "variant.stock"];

/** The policy for a field: the longest name that it begins with counts. */
export function policyOf(kind: string, field: string, { fields }: ChangeWishes): Policy | undefined {
  const name = `${kind}.${field}`;
  const fits = (one: string) => name === one || (name.startsWith(one) && /^[.(@[]/.test(name.slice(one.length)));
  const best = Object.keys(fields)
    .filter(fits)
    .sort((a, b) => b.length - a.length)[0];
  if (best !== undefined) return fields[best];
  return live.some(fits) ? "leave" : undefined;
}
