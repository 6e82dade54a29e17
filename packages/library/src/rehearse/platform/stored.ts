/** What a platform has stored of a column, for rules that look at several cells: a text, or as many entries as there are. */

import type { CellValue } from "../../codecs/codec.js";
import type { Feed } from "../../layout/layout.js";
import { recordsIn, textIn, type HeldEntry, type HeldRecord } from "./store.js";

/** @returns undefined where there is nothing. */
export function storedIn(record: HeldRecord, feed: Feed): CellValue | undefined {
  switch (feed.is) {
    case "key":
      return textIn(record.fields, "key");
    case "text":
      return textIn(record.fields, feed.field);
    case "reference":
      return someOf(recordsIn(record.fields, feed.field).map(({ number }) => String(number)));
    case "entry": {
      const own = entriesWith(record, feed);
      const texts = own.map((entry) => textIn(entry, feed.field.name) ?? "");
      return feed.field.list ? someOf(texts.every((text) => text === "") ? [] : texts) : texts[0] || undefined;
    }
    case "entries":
      return someOf(entriesWith(record, feed).map(() => ""));
    case "shape":
    case "container":
    case "referred":
    case "axis":
    case "axes":
    case "named-axis":
    case "naming":
      return undefined;
  }
}

const someOf = (texts: readonly string[]): CellValue | undefined => (texts.length === 0 ? undefined : texts);

type EntryFeed = Extract<Feed, { is: "entry" | "entries" }>;

/** The entries with a column's constants; where it is one entry, that which has no more to it. */
function entriesWith({ entries }: HeldRecord, { entries: list, constants, named, ...feed }: EntryFeed): HeldEntry[] {
  const fits = (entries.get(list) ?? []).filter((entry) =>
    Object.entries(constants).every(([field, word]) => named[field] !== undefined || textIn(entry, field) === word),
  );
  if (feed.is === "entries" || feed.field.list) return fits;
  return [...fits].sort((a, b) => a.size - b.size);
}
