/** The ids that a simulated platform has given to the records of a catalogue. */

import type { TargetView } from "../catalogue/catalogue.js";
import { asHeld, type IsLeftOut } from "../compare/held-form.js";
import { heldIdentities } from "../compare/held-identities.js";
import { matchRecords } from "../match/correspondence.js";
import type { Key } from "../nominal.js";
import type { Playable } from "../rehearse/playable.js";
import type { Target } from "../target/target.js";

/** An id, and the record that has it, as the catalogue calls it. */
export interface GivenId {
  readonly kind: string;
  readonly key: Key;
  readonly id: string;
}

/** Records of which files have no keys are found by what the target knows them by. */
export function* idsGiven(
  catalogue: TargetView,
  target: Target,
  platform: Playable,
  isLeftOut: IsLeftOut,
): Generator<GivenId> {
  const unnamed = new Set<string>();
  for (const { name } of catalogue.kinds.roots)
    for (const { key, id } of platform.known(name))
      if (key === undefined) unnamed.add(name);
      else yield { kind: name, key, id };
  if (unnamed.size === 0) return;
  const own = asHeld(catalogue, target, isLeftOut);
  const held = platform.held(catalogue);
  const there = asHeld(held.catalogue, target);
  const { of, merged } = heldIdentities(target, catalogue.kinds);
  const matched = matchRecords({ own, other: there, identitiesOf: of, merged });
  for (const kind of unnamed)
    for (let row = 0; row < catalogue.table(kind).size; row++) {
      const other = matched.otherOf(kind, row);
      const id = other < 0 ? undefined : held.idOf?.(kind, other);
      if (id !== undefined) yield { kind, key: catalogue.table(kind).key(row), id };
    }
}
