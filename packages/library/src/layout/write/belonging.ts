/** Records that belong to one record: by their name alone they are known only within it. */

import { noReference, type ReferenceSpec } from "../../catalogue/reference-pool.js";
import { unwritable, type Unwritable } from "../../codecs/codec.js";
import { inLanguage } from "../../field-name.js";
import { phrase } from "../../phrases/phrase.js";
import type { CellContext } from "./context.js";

/** What cannot be written of a reference, as its name would lead elsewhere. @param record the row of the record that it is of. */
export type Misled = (reference: number, record: number) => Unwritable | undefined;

export function misledNames({ catalogue, copiesShared }: CellContext, spec: ReferenceSpec): Misled | undefined {
  const to = catalogue.table(spec.to);
  const owners = to.kind.within === undefined ? undefined : to.references.get(to.kind.within);
  if (spec.by !== "name" || (!owners && spec.within === undefined)) return undefined;
  const { target } = catalogue.pool;
  const name = inLanguage("name", spec.lang);
  const wanted =
    spec.within === undefined
      ? phrase("a {0} that belongs to no other record", spec.to)
      : phrase("a {0} of this {1} alone", spec.to, spec.within);
  return (reference, record) => {
    const row = target.get(reference);
    if (row === noReference) return undefined;
    const owner = owners?.first(row) ?? noReference;
    const isShared = owner === noReference;
    const isOwn = !isShared && target.get(owner) === record;
    const isRight = spec.within === undefined ? isShared : isOwn || (isShared && copiesShared === true);
    return isRight ? undefined : unwritable(to.text(name, row) ?? to.key(row), wanted);
  };
}
