/** How a platform finds the records that cells name: by id, key, code, name, or the names down a tree. */

import { formsOf, type ReferenceSpec } from "../../catalogue/reference-pool.js";
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
    const to = [spec.to, ...(otherwise === undefined ? [] : [otherwise])];
    for (const form of formsOf(spec)) {
      const field = form === "name" ? `name@${spec.lang}` : form;
      const found = form === "code" ? this.#byCode(to, word) : this.#by(to, field, word);
      const one = found.find(({ number }) => number < before);
      if (one) return one;
    }
    return undefined;
  }

  #by(kinds: readonly string[], field: string, word: string): HeldRecord[] {
    return kinds.flatMap((kind) => this.store.find(kind, field, word));
  }

  /** A code is of what is sold: what contains it may be meant by it, where the code's own record cannot. */
  #byCode(kinds: readonly string[], word: string): HeldRecord[] {
    const found = this.#by(kindsWithCode(this.kinds), "code", word);
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
    return this.store.find(to, `name@${lang}`, name).find((record) => recordsIn(record.fields, "parent")[0] === above);
  }

  /** Makes the nodes of a path that are not there yet. */
  makePath(spec: ReferenceSpec, path: readonly string[]): HeldRecord | undefined {
    let above: HeldRecord | undefined;
    for (const name of path) {
      let node = this.below(spec, above, name);
      if (!node) {
        node = this.store.create(spec.to);
        this.store.set(node, `name@${spec.lang}`, name);
        if (above) this.store.set(node, "parent", [above]);
      }
      above = node;
    }
    return above;
  }

  /** A record of a name, made because it was named. */
  make({ to, by, lang }: ReferenceSpec, word: string): HeldRecord {
    const record = this.store.create(to, by === "key" ? { key: word } : {});
    if (by === "name") this.store.set(record, `name@${lang}`, word);
    return record;
  }
}

/** The kind that takes what a field's own names nothing of. */
export function otherwiseOf(kind: KindSpec, field: string): string | undefined {
  const otherwise = fieldOf(kind, field)?.reference?.otherwise;
  return otherwise === undefined ? undefined : fieldOf(kind, otherwise)?.reference?.to;
}
