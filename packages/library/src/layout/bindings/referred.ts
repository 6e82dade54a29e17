/** `product.brand.description@en`: a field of the record that a reference of the same row names. */

import { targetsOf } from "../../catalogue/catalogue.js";
import { rowsAbove } from "../../catalogue/path.js";
import { noReference } from "../../catalogue/reference-pool.js";
import type { Table } from "../../catalogue/table.js";
import { isProblem, type Codec } from "../../codecs/codec.js";
import { finding } from "../../findings/finding.js";
import { fieldNamed, fieldOf, referenceOf, type KindSpec } from "../../kind.js";
import { entryLookup } from "../../catalogue/entry-lookup.js";
import { nearestSpelling } from "../../spelling.js";
import type { ReferredEntry } from "../layout.js";
import { namedIn } from "../named-constants.js";
import type { Header } from "../../nominal.js";
import { phrase } from "../../phrases/phrase.js";
import { codecOf } from "../compile/codec-of.js";
import type { FillContext } from "../fill/context.js";
import { cellMark, type CellMark } from "../read/tally.js";
import { referredValue } from "../write/references.js";
import { meaningIn } from "./describe.js";
import { constantsOf } from "./entry.js";
import { entryOrigins } from "./entry-origins.js";
import { always, none, nothing, originOf, type FeedKind, type FeedOf, type Fill } from "./feed-kind.js";
import { fieldInLanguage, fieldSpec, Mistake, type Bound, type FieldPlace } from "./place.js";

type ReferredFeed = FeedOf<"referred">;

export const referredFeed: FeedKind<ReferredFeed> = {
  bind(place) {
    if (place.is !== "field" || place.lane || place.inner === undefined) return undefined;
    const { given, owner, first, inner, lang, context, bound } = place;
    const field = fieldOf(owner, first);
    if (!field?.reference) return undefined;
    const to = context.kinds.get(field.reference.to);
    if (place.entry) return bindEntry(place, field.name, to);
    const referred = fieldSpec(to, inner);
    if (referred.reference)
      throw new Mistake(
        phrase("{0} of {1} is a reference. Bind it in a layout whose rows are {2} records", inner, to.name, to.name),
      );
    const choice = codecOf(given.as, referred.type);
    const name = fieldInLanguage(referred, lang, context);
    return bound(
      { is: "referred", via: field.name, node: given.node, field: name, list: choice.list, entry: undefined },
      choice,
    );
  },
  nameOf: ({ via, field, entry }) => (entry ? `${via}.${entryName(entry)}.${field}` : `${via}.${field}`),
  fill: {
    // Columns of axes are read when the record itself has been.
    when: ({ via }) => (via === "axes" ? "after its axes" : "after its references"),
    of: (feed, context, table, { codec }, header) =>
      fieldOf(table.kind, feed.via) && { fill: fillOf(feed, context, table, codec, header) },
  },
  write: (feed, context, table) => fieldOf(table.kind, feed.via) && referredValue(context, table, feed),
  shows({ via, field, entry }, kind, kinds) {
    const to = fieldOf(kinds.get(kind), via)?.reference?.to;
    if (to === undefined) return [];
    return [entry ? `${to}.${entry.entries}.${field}` : `${to}.${field}`];
  },
  refersTo: none,
  references: none,
  takes({ via, entry, field }, catalogue, table, kind) {
    const to = fieldOf(catalogue.kinds.get(kind), via)?.reference?.to;
    if (!entry || table.name !== `${to}.${entry.entries}`) return undefined;
    const { constants, named, parallel } = entry;
    return entryLookup(table, constants, [field, ...parallel], namedIn(catalogue, constants, named)).has;
  },
  origins({ via, node, field, entry }, cell) {
    const { catalogue, table, row } = cell;
    const to = fieldOf(table.kind, via)?.reference?.to;
    if (to === undefined) return [];
    const referred = catalogue.table(to);
    return targetsOf(catalogue, table, via, row).flatMap((target) => {
      const own = node === undefined ? target : rowsAbove(catalogue, referred, target)[node - 1];
      if (own === undefined) return [];
      if (entry)
        return entryOrigins(
          entry,
          { ...entry, fields: [field], free: entry.parallel },
          { ...cell, table: referred, row: own },
        );
      return referred.text(field, own) !== undefined ? [originOf(catalogue, referred, own, field)] : [];
    });
  },
  names: nothing,
  isFilled: always,
  describe({ via, field, entry }, owner, kinds) {
    const { to } = referenceOf(fieldNamed(owner, via));
    return meaningIn(kinds, entry ? (kinds.get(to).entries?.[entry.entries] ?? "") : to, field);
  },
};

const entryName = ({ entries, constants }: ReferredEntry): string => {
  const [first] = Object.values(constants);
  return first === undefined ? entries : `${entries}(${first})`;
};

/** `product.categories.pictures(main).file`: of an entry of the record that is referred to. */
function bindEntry({ given, inner = "", entry, lang, context, bound }: FieldPlace, via: string, to: KindSpec): Bound {
  const kind = to.entries?.[inner];
  if (kind === undefined || !entry)
    throw new Mistake(
      phrase("{0} has no entries {1}", to.name, inner),
      nearestSpelling(inner, Object.keys(to.entries ?? {})),
    );
  const embedded = context.kinds.get(kind);
  const { constants, named } = constantsOf(embedded, entry.constants, context);
  if (Object.keys(named).length > 0)
    throw new Mistake(
      phrase("{0} names a record. Bind it in a layout whose rows are {1} records", given.field, to.name),
    );
  const field = fieldSpec(embedded, entry.field);
  if (field.reference)
    throw new Mistake(
      phrase("{0} of {1} is a reference. Bind it in a layout whose rows are {2} records", entry.field, kind, to.name),
    );
  const choice = codecOf(given.as, field.type);
  const name = fieldInLanguage(field, lang, context);
  const own: ReferredEntry = { entries: inner, constants, named, parallel: [name] };
  return bound({ is: "referred", via, node: given.node, field: name, list: choice.list, entry: own }, choice);
}

function fillOf(
  { via, node, field, list, entry }: ReferredFeed,
  context: FillContext,
  table: Table,
  codec: Codec,
  header: Header,
): Fill {
  const { catalogue, sheet } = context;
  const { pool } = catalogue;
  const column = table.referenceColumn(via);
  const nodeOf = (reference: number): number => {
    if (node === undefined) return reference;
    const chain: number[] = [];
    for (let at = reference; at !== noReference; at = pool.within(at)) chain.unshift(at);
    return chain[node - 1] ?? noReference;
  };
  return (row, cell, line) => {
    const value = codec.parse(cell);
    if (isProblem(value)) {
      context.problem(value, table, row, line, header);
      return cellMark.reported;
    }
    const references = column.get(row);
    const values = (list ? value : [value]) as readonly string[];
    if (list ? values.length !== references.length : references.length === 0) {
      const location = context.location(line, header, table, row);
      context.findings.add(finding("read/not-parallel", { beside: via }, location));
      return cellMark.reported;
    }
    let mark: CellMark = cellMark.untouched;
    values.forEach((one, at) => {
      const reference = nodeOf(references[at]!);
      if (reference === noReference || one === "") return;
      catalogue.state({ reference, field, value: one, met: { sheet, line }, entry });
      mark = cellMark.taken;
    });
    return mark;
  };
}
