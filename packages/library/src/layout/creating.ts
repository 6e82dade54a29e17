/** Layouts whose names make the records that are not there. */

import type { ReferenceSpec } from "../catalogue/reference-pool.js";
import type { Header } from "../nominal.js";
import type { Feed, Layout } from "./layout.js";

/** The layout, with records created for the names in some of its columns that no record has. @param creates by header. */
export function withCreating(layout: Layout, creates: (header: Header) => boolean): Layout {
  const known = (spec: ReferenceSpec): ReferenceSpec => (spec.by === "name" ? { ...spec, missing: "create" } : spec);
  const told = (feed: Feed): Feed => {
    if (feed.is === "reference") return { ...feed, spec: known(feed.spec) };
    if (feed.is === "entry" && feed.field.is === "reference")
      return { ...feed, field: { ...feed.field, spec: known(feed.field.spec) } };
    if (feed.is !== "entries") return feed;
    const parts = feed.parts.map((part) => (part.is === "reference" ? { ...part, spec: known(part.spec) } : part));
    return { ...feed, parts };
  };
  const columns = layout.columns.map((column) =>
    creates(column.header)
      ? { ...column, bindings: column.bindings.map((binding) => ({ ...binding, feed: told(binding.feed) })) }
      : column,
  );
  const languages = layout.languages && {
    ...layout.languages,
    layouts: new Map(
      [...layout.languages.layouts].map(([word, own]) => [
        word,
        withCreating({ ...own, languages: undefined }, creates),
      ]),
    ),
  };
  return { ...layout, columns, languages };
}
