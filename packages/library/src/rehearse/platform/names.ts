/** How a platform finds the records that cells name: by id, key, code, name, or the names down a tree. */

import { nameField } from "../../field-name.js";
import { formsOf, type By, type ReferenceSpec } from "../../catalogue/reference-pool.js";
import { fieldOf, type KindSpec } from "../../kind.js";
import type { Kinds } from "../../kinds.js";
import { kindsWithCode } from "./constraints.js";
import { recordsIn, type HeldRecord } from "./held-record.js";
import type { PlatformStore } from "./store.js";

/** What a cell names, and how. */
export interface Named {
  readonly spec: ReferenceSpec;
  /** A kind whose records may be meant too: a component may be a variant or a product. */
  readonly otherwise?: string | undefined;
}

export class Names {
  constructor(
    readonly store: PlatformStore,
    readonly kinds: Kinds,
  ) {}

  /** @param before only records with smaller numbers are there yet. */
  find({ spec, otherwise }: Named, word: string, before = Infinity): HeldRecord | undefined {
    const to = otherwise === undefined ? [spec.to] : [spec.to, otherwise];
    const isBefore = ({ number }: HeldRecord): boolean => number < before;
    for (const form of formsOf(spec)) {
      const one = form === "code" ? this.#byCode(to, word).find(isBefore) : this.#first(to, spec, form, word, isBefore);
      if (one) return one;
    }
    return undefined;
  }

  #first(
    kinds: readonly string[],
    { lang }: ReferenceSpec,
    form: By,
    word: string,
    fits: (record: HeldRecord) => boolean,
  ): HeldRecord | undefined {
    const field = form === "name" ? nameField(lang) : form;
    for (const kind of kinds) {
      const found = this.store.findWhere(kind, field, word, fits);
      if (found) return found;
    }
    return undefined;
  }

  /** A code is of what is sold: what contains it may be meant by it, where the code's own record cannot. */
  #byCode(kinds: readonly string[], word: string): HeldRecord[] {
    const found = kindsWithCode(this.kinds).flatMap((kind) => this.store.find(kind, "code", word));
    const meant = found.filter(({ kind }) => kinds.includes(kind));
    const around = found.flatMap(({ container }) =>
      container?.isThere && kinds.includes(container.kind) ? [container] : [],
    );
    return [...meant, ...around];
  }

  /** The node that names lead to from the root of a tree. */
  node({ spec }: Named, path: readonly string[], before = Infinity): HeldRecord | undefined {
    let above: HeldRecord | undefined;
    for (const name of path) {
      above = this.below(spec, above, name);
      if (!above || above.number >= before) return undefined;
    }
    return above;
  }

  /** The node of a name below another one, or among the roots. */
  below({ to, lang }: ReferenceSpec, above: HeldRecord | undefined, name: string): HeldRecord | undefined {
    return this.store.find(to, nameField(lang), name).find((record) => recordsIn(record.fields, "parent")[0] === above);
  }

  /** Makes the nodes of a path that are not there yet. */
  makePath(spec: ReferenceSpec, path: readonly string[]): HeldRecord | undefined {
    let above: HeldRecord | undefined;
    for (const name of path) {
      let node = this.below(spec, above, name);
      if (!node) {
        node = this.store.create(spec.to);
        this.store.set(node, nameField(spec.lang), name);
        if (above) this.store.set(node, "parent", [above]);
      }
      above = node;
    }
    return above;
  }

  /** A record of a name, made because it was named. */
  make({ to, by, lang }: ReferenceSpec, word: string): HeldRecord {
    const record = this.store.create(to, by === "key" ? { key: word } : {});
    if (by === "name") this.store.set(record, nameField(lang), word);
    return record;
  }
}

/** The kind that takes what a field's own names nothing of. */
export function otherwiseOf(kind: KindSpec, field: string): string | undefined {
  const otherwise = fieldOf(kind, field)?.reference?.otherwise;
  return otherwise === undefined ? undefined : fieldOf(kind, otherwise)?.reference?.to;
}
