/** Columns that name the same axis, or its values, in several languages: which of them makes them, and which name what is there. */

import type { Lang } from "../../nominal.js";
import type { Column, Feed } from "../layout.js";

/** The column in the layout's language leads, else the first. */
export function withLeads(columns: readonly Column[], language: Lang): Column[] {
  const leads = new Map<string, Lang>();
  const groupOf = (feed: Feed): string | undefined => {
    if (feed.is === "axes") return feed.holds;
    if (feed.is === "axis") return JSON.stringify([feed.number, feed.holds]);
    return feed.is === "named-axis" ? JSON.stringify([feed.axis, feed.axisLang, feed.holds]) : undefined;
  };
  const feeds = columns.flatMap(({ bindings }) => bindings.map(({ feed }) => feed));
  for (const feed of feeds) {
    const group = groupOf(feed);
    if (group === undefined || !("lang" in feed)) continue;
    if (!leads.has(group) || feed.lang === language) leads.set(group, feed.lang);
  }
  const withLead = (feed: Feed): Feed => {
    if (feed.is !== "axis" && feed.is !== "axes" && feed.is !== "named-axis") return feed;
    return { ...feed, leads: leads.get(groupOf(feed) ?? "") === feed.lang };
  };
  return columns.map((column) => ({
    ...column,
    bindings: column.bindings.map((binding) => ({ ...binding, feed: withLead(binding.feed) })),
  }));
}
