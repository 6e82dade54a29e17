/** What products and variants both have: a variant has it of its own, or else from its product; a single has it itself. */

import type { ReadonlyTable } from "../catalogue/readonly-table.js";
import { fieldOfColumn } from "../field-name.js";
import { fieldOf } from "../kind.js";
import type { Kinds } from "../kinds.js";

/** The names of the fields and of the collections; pictures stay where they are, and ids and positions belong to one record. */
export function sellableParts(kinds: Kinds): SellableParts {
  let parts = partsOf.get(kinds);
  if (!parts) partsOf.set(kinds, (parts = findParts(kinds)));
  return parts;
}

interface SellableParts {
  readonly fields: readonly string[];
  readonly entries: readonly string[];
}

const partsOf = new WeakMap<Kinds, SellableParts>();

function findParts(kinds: Kinds): SellableParts {
  const [product, variant] = [kinds.get("product"), kinds.get("variant")];
  const fields = product.fields.flatMap(({ name }) =>
    fieldOf(variant, name) !== undefined && name !== "id" && name !== "position" ? [name] : [],
  );
  const entries = Object.keys(variant.entries ?? {}).filter(
    (name) => name !== "pictures" && product.entries?.[name] !== undefined,
  );
  return { fields, entries };
}

/** The columns of a table with such texts. `isOwn`: no variant has it from its product. */
export function soldTexts(kinds: Kinds, table: ReadonlyTable): { readonly field: string; readonly isOwn: boolean }[] {
  const sold = new Set(sellableParts(kinds).fields);
  return [...table.texts.keys()].flatMap((field) => {
    const name = fieldOfColumn(field);
    return sold.has(name) ? [{ field, isOwn: fieldOf(table.kind, name)?.own ?? false }] : [];
  });
}

/** The columns of a table with such references. */
export function soldReferences(kinds: Kinds, table: ReadonlyTable): string[] {
  const sold = new Set(sellableParts(kinds).fields);
  return [...table.references.keys()].filter((field) => sold.has(field));
}
