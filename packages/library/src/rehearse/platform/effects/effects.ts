/** What each kind of feed does on the platform. A new kind of binding is one more file here, and one more line in the table. */

import type { KindSpec } from "../../../kind.js";
import type { Feed, Layout } from "../../../layout/layout.js";
import { isOf, type Use, type UseOf } from "../columns.js";
import { axisEffects } from "./axes.js";
import type { Effect, EffectsOf } from "./effect.js";
import { entryEffects, wholeEntriesEffects } from "./entries.js";
import { containerEffects, keyEffects, shapeEffects, textEffects } from "./fields.js";
import { namingEffects, referenceEffects, referredEffects } from "./references.js";

type FeedName = Feed["is"];

/** Feeds whose columns work together. */
interface EffectGroup {
  readonly of: (uses: readonly Use[], kind: KindSpec, layout: Layout) => readonly Effect[];
}

function groupOf<K extends FeedName>(names: readonly K[], effects: EffectsOf<UseOf<K>>): EffectGroup {
  const isOwn = isOf(...names);
  return { of: (uses, kind, layout) => effects(uses.filter(isOwn), kind, layout) };
}

const axes = groupOf(["axis", "axes", "named-axis"], axisEffects);

const groups = {
  key: groupOf(["key"], keyEffects),
  text: groupOf(["text"], textEffects),
  reference: groupOf(["reference"], referenceEffects),
  container: groupOf(["container"], containerEffects),
  referred: groupOf(["referred"], referredEffects),
  entry: groupOf(["entry"], entryEffects),
  entries: groupOf(["entries"], wholeEntriesEffects),
  axis: axes,
  axes,
  "named-axis": axes,
  naming: groupOf(["naming"], namingEffects),
  shape: groupOf(["shape"], shapeEffects),
} satisfies Record<FeedName, EffectGroup>;

/** What the columns of one scope do to a record of a kind, in their order. */
export function effectsOf(uses: readonly Use[], kind: KindSpec, layout: Layout): readonly Effect[] {
  const all = [...new Set(Object.values(groups))].flatMap((group) => group.of(uses, kind, layout));
  return [...all.filter(({ when }) => when === "first"), ...all.filter(({ when }) => when === "after references")];
}
