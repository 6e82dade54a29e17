/** What each kind of feed does on the platform. A new kind of binding is one more file here, and one more line in the table. */

import type { KindSpec } from "../../../kind.js";
import type { Feed, Layout } from "../../../layout/layout.js";
import type { Use } from "../columns.js";
import { axisEffects } from "./axes.js";
import type { Effect, EffectsOf } from "./effect.js";
import { entryEffects, wholeEntriesEffects } from "./entries.js";
import { containerEffects, keyEffects, shapeEffects, textEffects } from "./fields.js";
import { namingEffects, referenceEffects, referredEffects } from "./references.js";

type FeedName = Feed["is"];
/** Feeds whose columns work together are in one group. */
type Group =
  "key" | "text" | "reference" | "container" | "referred" | "entry" | "entries" | "axes" | "naming" | "shape";

const groupOf = {
  key: "key",
  text: "text",
  reference: "reference",
  container: "container",
  referred: "referred",
  entry: "entry",
  entries: "entries",
  axis: "axes",
  axes: "axes",
  "named-axis": "axes",
  naming: "naming",
  shape: "shape",
} satisfies Record<FeedName, Group>;

// eslint-disable-next-line @typescript-eslint/no-explicit-any -- each takes the uses of its own group, which groupOf has sorted out.
const effects: Readonly<Record<Group, EffectsOf<any>>> = {
  key: keyEffects,
  text: textEffects,
  reference: referenceEffects,
  container: containerEffects,
  referred: referredEffects,
  entry: entryEffects,
  entries: wholeEntriesEffects,
  axes: axisEffects,
  naming: namingEffects,
  shape: shapeEffects,
};

/** What the columns of one scope do to a record of a kind, in their order. */
export function effectsOf(uses: readonly Use[], kind: KindSpec, layout: Layout): readonly Effect[] {
  const all = (Object.keys(effects) as Group[]).flatMap((group) =>
    effects[group](
      uses.filter(({ feed }) => groupOf[feed.is] === group),
      kind,
      layout,
    ),
  );
  return [...all.filter(({ when }) => when === "first"), ...all.filter(({ when }) => when === "after references")];
}
