/** What a platform has stored of a column, for rules that look at several cells: a text, or as many entries as there are. */

import { nameField } from "../../field-name.js";
import type { CellValue } from "../../codecs/codec.js";
import type { Feed } from "../../layout/layout.js";
import { recordsIn, textIn, type HeldEntry, type HeldRecord } from "./held-record.js";

/** @returns undefined where there is nothing. */
export function storedIn(record: HeldRecord, feed: Feed): CellValue | undefined {
  switch (feed.is) {
    case "key":
      return textIn(record.fields, "key");
    case "text":
      return textIn(record.fields, feed.field);
    case "reference":
      return numbersOf(recordsIn(record.fields, feed.field));
    case "entry": {
      const { name, list } = feed.field;
      if (!list) {
        const own = entryWith(record, feed);
        return own && (shownIn(own, name) || undefined);
      }
      const texts = entriesWith(record, feed).map((entry) => shownIn(entry, name));
      return someOf(texts.every((text) => text === "") ? [] : texts);
    }
    case "entries":
      return someOf(entriesWith(record, feed).map(() => ""));
    case "axes":
      return numbersOf(
        recordsIn(record.fields, feed.holds === "names" ? "axes" : "values").filter(isCalledIn(feed.lang)),
      );
    case "axis": {
      if (feed.holds === "name")
        return numbersOf(
          recordsIn(record.fields, "axes")
            .slice(feed.number - 1, feed.number)
            .filter(isCalledIn(feed.lang)),
        );
      const axes = record.container ? recordsIn(record.container.fields, "axes") : [];
      return numbersOf(valuesOn(record, (axis) => axes[feed.number - 1] === axis).filter(isCalledIn(feed.lang)));
    }
    case "named-axis":
      return numbersOf(
        valuesOn(record, ({ fields }) => textIn(fields, nameField(feed.axisLang)) === feed.axis).filter(
          isCalledIn(feed.lang),
        ),
      );
    case "shape":
    case "container":
    case "referred":
    case "naming":
      return undefined;
  }
}

/** A text, or which records are led to; blank where there is nothing. */
const shownIn = (entry: HeldEntry, field: string): string =>
  textIn(entry, field) ??
  recordsIn(entry, field)
    .map(({ number }) => number)
    .join();

const numbersOf = (records: readonly HeldRecord[]): CellValue | undefined =>
  someOf(records.map(({ number }) => String(number)));

const isCalledIn =
  (lang: string) =>
  ({ fields }: HeldRecord): boolean =>
    fields.has(nameField(lang));

const valuesOn = ({ fields }: HeldRecord, isAxis: (axis: HeldRecord) => boolean): readonly HeldRecord[] =>
  recordsIn(fields, "values").filter(({ container }) => container && isAxis(container));

const someOf = (texts: readonly string[]): CellValue | undefined => (texts.length === 0 ? undefined : texts);

type EntryFeed = Extract<Feed, { is: "entry" | "entries" }>;

const ofFeeds = new WeakMap<EntryFeed, readonly (readonly [field: string, word: string])[]>();

/** The constants of a column that are texts, worked out once. */
function constantsOf(feed: EntryFeed): readonly (readonly [field: string, word: string])[] {
  let known = ofFeeds.get(feed);
  if (!known) {
    known = Object.entries(feed.constants).filter(([field]) => feed.named[field] === undefined);
    ofFeeds.set(feed, known);
  }
  return known;
}

/** The entries with a column's constants. */
function entriesWith({ entries }: HeldRecord, feed: EntryFeed): readonly HeldEntry[] {
  const constants = constantsOf(feed);
  return entries.get(feed.entries)?.filter((entry) => hasThem(entry, constants)) ?? [];
}

/** The one of them that has no more to it. */
function entryWith({ entries }: HeldRecord, feed: EntryFeed): HeldEntry | undefined {
  const constants = constantsOf(feed);
  let least: HeldEntry | undefined;
  for (const entry of entries.get(feed.entries) ?? [])
    if (hasThem(entry, constants) && (!least || entry.size < least.size)) least = entry;
  return least;
}

function hasThem(entry: HeldEntry, constants: ReturnType<typeof constantsOf>): boolean {
  for (const [field, word] of constants) if (textIn(entry, field) !== word) return false;
  return true;
}
