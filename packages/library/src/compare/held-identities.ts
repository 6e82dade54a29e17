/** By what the records of a goal and of a simulated platform are the same: what files carry of them, never where they stand. */

import { fieldOf } from "../kind.js";
import type { Kinds } from "../kinds.js";
import { kindOfScope } from "../layout/layout.js";
import type { Identity } from "../match/identities.js";
import type { Target } from "../target/target.js";
import { firstOf } from "../checked.js";
import { layoutsOf } from "./held-form.js";

/** How the records of each kind are told apart on a platform. */
export interface HeldIdentities {
  readonly of: (kind: string) => readonly Identity[];
  /** Kinds of which records of one name are one record there. */
  readonly merged: ReadonlySet<string>;
}

export function heldIdentities(target: Target, kinds: Kinds): HeldIdentities {
  const keyed = new Set<string>();
  for (const layout of layoutsOf(target))
    for (const column of layout.columns)
      for (const { feed } of column.bindings) {
        if (feed.is === "key") keyed.add(kindOfScope(layout, column.scope).name);
        if (feed.is === "reference" && feed.spec.by === "key" && feed.spec.missing === "create")
          keyed.add(feed.spec.to);
      }
  const main = firstOf(target.languages);
  const identitiesOf = (name: string): Identity[] => {
    const kind = kinds.get(name);
    const isTree = kind.fields.some(({ reference }) => reference?.to === name && reference.dependency === "containing");
    return [
      ...(keyed.has(name) ? [{ is: "key" as const, lang: undefined }] : []),
      ...(fieldOf(kind, "code") ? [{ is: "code" as const, lang: undefined }] : []),
      ...(isTree ? [{ is: "path" as const, lang: main }] : []),
      ...(fieldOf(kind, "name") && !isTree
        ? [
            { is: "names" as const, lang: undefined, langs: target.languages },
            { is: "name" as const, lang: main },
          ]
        : []),
      ...(fieldOf(kind, "values") ? [{ is: "values" as const, lang: main }] : []),
    ];
  };
  const merged = kinds.roots.filter((kind) => !keyed.has(kind.name) && !fieldOf(kind, "code"));
  // Asked for record by record.
  const known = new Map<string, Identity[]>();
  const of = (name: string): Identity[] => {
    const found = known.get(name) ?? identitiesOf(name);
    known.set(name, found);
    return found;
  };
  return { of, merged: new Set(merged.map(({ name }) => name)) };
}
