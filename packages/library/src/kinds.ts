/** The kinds of one project, by their names. */

import { builtInKinds } from "./built-in-kinds.js";
import type { KindSpec } from "./kind.js";

/** The kinds of records that a project has: those that come with Zest Tier, and its own. */
export class Kinds {
  readonly #byName: ReadonlyMap<string, KindSpec>;

  constructor(readonly all: readonly KindSpec[] = builtInKinds) {
    this.#byName = new Map(all.map((kind) => [kind.name, kind]));
  }

  find(name: string): KindSpec | undefined {
    return this.#byName.get(name);
  }

  /** @throws Error for a name that is not a kind: the caller's bug. */
  get(name: string): KindSpec {
    const kind = this.#byName.get(name);
    if (!kind) throw new Error(`no kind ${name}`);
    return kind;
  }

  /** Kinds whose records have keys, parents before the kinds they contain. */
  get roots(): readonly KindSpec[] {
    return this.all.filter((kind) => !kind.entryKey);
  }

  /** The kind contained in `name`, if there is one: variant for product. */
  childOf(name: string): KindSpec | undefined {
    return this.all.find((kind) => kind.of === name);
  }
}
