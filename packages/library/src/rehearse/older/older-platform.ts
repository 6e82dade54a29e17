/** A platform that begins with what an export shows, played by the machines that take that: where changes are rehearsed. */

import type { Kinds } from "../../kinds.js";
import type { Target } from "../../target/target.js";
import type { Playable } from "../playable.js";
import { rehearseFile } from "./machine.js";
import { rehearseRecords } from "./record-machine.js";
import { Registers } from "./registers.js";
import type { Shop } from "./store.js";

/** Takes what an export shows as a platform on which a change is played. @param shop it is changed. */
export function olderPlatform(shop: Shop | Registers, target: Target, kinds: Kinds): Playable {
  if (shop instanceof Registers) for (const [list, names] of target.has) shop.setUp(list, [...names]);
  return {
    setUp(list, names) {
      if (shop instanceof Registers) shop.setUp(list, names);
    },
    addPictures(names) {
      for (const name of names) shop.pictures.add(name);
    },
    play: (file, name, bytes, mode) =>
      shop instanceof Registers
        ? rehearseRecords(shop, target, file, kinds, name, bytes, mode === "replace")
        : rehearseFile(shop, target, file, name, bytes),
    end: () => undefined,
    counts: () => shop.counts(),
    known: (kind) => (shop instanceof Registers ? shop.records(kind) : []),
    held: () => undefined,
    snapshot: () => shop.snapshot(),
  };
}
