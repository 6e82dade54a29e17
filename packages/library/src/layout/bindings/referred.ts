/** `product.brand.description@en`: a field of the record that a reference of the same row names. */

import { noReference } from "../../catalogue/reference-pool.js";
import type { Table } from "../../catalogue/table.js";
import { isProblem, type Codec } from "../../codecs/codec.js";
import { finding } from "../../findings/finding.js";
import { fieldNamed, fieldOf, referenceOf } from "../../kind.js";
import type { Header } from "../../nominal.js";
import { phrase } from "../../phrases/phrase.js";
import { codecOf } from "../compile/codec-of.js";
import type { FillContext } from "../fill/context.js";
import { cellMark, type CellMark } from "../read/tally.js";
import { referredValue } from "../write/references.js";
import { meaningIn } from "./describe.js";
import { always, none, nothing, type FeedKind, type FeedOf, type Fill } from "./feed-kind.js";
import { fieldInLanguage, fieldSpec, Mistake } from "./place.js";

type ReferredFeed = FeedOf<"referred">;

export const referredFeed: FeedKind<ReferredFeed> = {
  bind(place) {
    if (place.is !== "field" || place.lane || place.inner === undefined) return undefined;
    const { given, owner, first, inner, lang, context, bound } = place;
    const field = fieldOf(owner, first);
    if (!field?.reference) return undefined;
    const to = context.kinds.get(field.reference.to);
    const referred = fieldSpec(to, inner);
    if (referred.reference)
      throw new Mistake(
        phrase("{0} of {1} is a reference. Bind it in a layout whose rows are {2} records", inner, to.name, to.name),
      );
    const choice = codecOf(given.as, referred.type);
    const name = fieldInLanguage(referred, lang, context);
    return bound({ is: "referred", via: field.name, node: given.node, field: name, list: choice.list }, choice);
  },
  nameOf: ({ via, field }) => `${via}.${field}`,
  fill: {
    when: "after its references",
    of: (feed, context, table, { codec }, header) =>
      fieldOf(table.kind, feed.via) && { fill: fillOf(feed, context, table, codec, header) },
  },
  write: (feed, context, table) => fieldOf(table.kind, feed.via) && referredValue(context, table, feed),
  shows({ via, field }, kind, kinds) {
    const to = fieldOf(kinds.get(kind), via)?.reference?.to;
    return to === undefined ? [] : [`${to}.${field}`];
  },
  refersTo: none,
  references: none,
  takes: nothing,
  origins: none,
  names: nothing,
  isFilled: always,
  describe: ({ via, field }, owner, kinds) => meaningIn(kinds, referenceOf(fieldNamed(owner, via)).to, field),
};

function fillOf(
  { via, node, field, list }: ReferredFeed,
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
      catalogue.state({ reference, field, value: one, met: { sheet, line } });
      mark = cellMark.taken;
    });
    return mark;
  };
}
