/** All kinds of binding, in the order in which a column is tried as one of them. A new kind is a file and a line here. */

import type { Column, Feed } from "../layout.js";
import { axesFeed } from "./axes.js";
import { axisFeed } from "./axis.js";
import { containerFeed } from "./container.js";
import { entriesFeed } from "./entries.js";
import { entryFeed } from "./entry.js";
import type { FeedKind, FeedOf } from "./feed-kind.js";
import { keyFeed } from "./key.js";
import { namedAxisFeed } from "./named-axis.js";
import { namingFeed } from "./naming.js";
import { referenceFeed } from "./reference.js";
import { referredFeed } from "./referred.js";
import { shapeFeed } from "./shape.js";
import { textFeed } from "./text.js";

export const feedKinds = {
  shape: shapeFeed,
  axis: axisFeed,
  axes: axesFeed,
  "named-axis": namedAxisFeed,
  naming: namingFeed,
  key: keyFeed,
  container: containerFeed,
  entry: entryFeed,
  entries: entriesFeed,
  referred: referredFeed,
  reference: referenceFeed,
  text: textFeed,
} satisfies { readonly [K in Feed["is"]]: FeedKind<FeedOf<K>> };

/** What the kind of a feed has to say. */
export function kindOfFeed<F extends Feed>({ is }: F): FeedKind<F> {
  // Each entry of the table takes the feeds of its own name: the compiler has checked that there, and cannot carry it over here.
  const byName: Readonly<Record<string, unknown>> = feedKinds;
  return byName[is] as FeedKind<F>;
}

/** Name of the field that a binding feeds, as findings and origins know it: `name@en`, `prices(price).amount`. */
export const fieldName = (feed: Feed): string => kindOfFeed(feed).nameOf(feed);

/** The same for a column: a lane's entries have more to their key than the constants, and are named apart from those that have not. */
export const columnField = ({ scope }: Column, feed: Feed): string =>
  scope.is === "lane" && feed.is === "entry" ? `${feed.entries}[].${feed.field.name}` : fieldName(feed);
