/** `beside: Category, as: { path: …, by: name@de }`: names, in another language, of the nodes that another column refers to. */

import type { ReadonlyTable } from "../../catalogue/readonly-table.js";
import { firstOf } from "../../checked.js";
import { isProblem } from "../../codecs/codec.js";
import { splitLanguage, splitTable } from "../../field-name.js";
import { finding } from "../../findings/finding.js";
import { fieldOf } from "../../kind.js";
import { phrase } from "../../phrases/phrase.js";
import { nearestSpelling } from "../../spelling.js";
import { codecOf } from "../compile/codec-of.js";
import { cellMark } from "../read/tally.js";
import type { CellContext, ToValue } from "../write/context.js";
import { pathIn } from "../write/references.js";
import { always, none, nothing, type FeedKind, type FeedOf } from "./feed-kind.js";
import { nameParallel } from "./name-parallel.js";
import { Mistake, scopeOf, type BindPlace, type Bound } from "./place.js";
import { referenceOrigins } from "./reference.js";

type NamingFeed = FeedOf<"naming">;

export const namingFeed: FeedKind<NamingFeed> = {
  bind,
  nameOf: ({ lang }) => `naming@${lang}`,
  fill: {
    when: "after its references",
    of({ beside: lead, lang, list }, context, table, { codec }, header) {
      const column = context.layout.columns[lead]!;
      const beside = firstOf(column.bindings).feed;
      if (beside.is !== "reference") return undefined;
      const references = table.referenceColumn(beside.field);
      const fill = (row: number, cell: string, line: number) => {
        const value = codec.parse(cell);
        if (isProblem(value)) {
          context.problem(value, table, row, line, header);
          return cellMark.reported;
        }
        const paths = (list ? value : [value]) as readonly (readonly string[])[];
        const at = { table, row, line, header, beside: column.header };
        return nameParallel(context, references.get(row), paths, lang, at);
      };
      return { fill };
    },
  },
  write: translatedPaths,
  shows: ({ lang }) => [`category.name@${lang}`],
  refersTo: none,
  references: none,
  takes: nothing,
  origins(feed, cell) {
    const beside = firstOf(cell.layout.columns[feed.beside]!.bindings).feed;
    if (beside.is !== "reference") return [];
    return referenceOrigins({ ...beside, spec: { ...beside.spec, lang: feed.lang } }, cell);
  },
  names: nothing,
  isFilled: always,
  describe: ({ lang }) => ({ means: `the same paths in ${lang}`, example: "" }),
};

function bind(place: BindPlace): Bound | undefined {
  if (place.is !== "beside") return undefined;
  const { given, context } = place;
  const beside = context.headers.indexOf(given.beside);
  if (beside < 0)
    throw new Mistake(phrase('there is no column "{0}"', given.beside), nearestSpelling(given.beside, context.headers));
  const choice = codecOf(given.as, "text");
  const { name: by, lang } = splitLanguage(choice.by ?? "");
  if (!choice.path || by !== "name" || lang === undefined)
    throw new Mistake(phrase('"beside" takes paths by a name in another language'));
  const leader = context.given.columns[given.beside];
  const field = typeof leader === "string" ? leader : ((leader as { field?: string } | undefined)?.field ?? "");
  return {
    scope: scopeOf(splitTable(field).kind, context),
    binding: {
      feed: { is: "naming", beside, lang, list: choice.list },
      codec: choice.codec,
      blankEmpties: false,
      name: `names of ${given.beside}@${lang}`,
    },
  };
}

/** The paths of another column in another language; nothing where one of the nodes has no name in it. */
function translatedPaths(
  naming: NamingFeed,
  { catalogue, columns, findings }: CellContext,
  table: ReadonlyTable,
): ToValue | undefined {
  const { beside: lead, lang, list } = naming;
  const beside = columns[lead]?.bindings[0]?.feed;
  if (beside?.is !== "reference" || !fieldOf(table.kind, beside.field)) return undefined;
  const column = table.referencesOf(beside.field);
  const inOther = pathIn(catalogue, beside.spec.to, lang);
  const header = columns.find(({ bindings }) => bindings.some(({ feed }) => feed === naming))?.header;
  return (record) => {
    const paths = column.get(record).map(inOther);
    const isWhole = paths.every((path) => path && !path.includes(""));
    if (isWhole) return list ? paths.map((path) => path ?? []) : paths[0];
    // Some names are there, and have no place without the others.
    const names = paths.flat().filter((name) => name !== undefined && name !== "");
    if (names.length > 0) {
      const facts = { column: header ?? "", names: names.map(String), lang };
      findings.add(finding("write/names-incomplete", facts, catalogue.location(table, record, beside.field)));
    }
    return undefined;
  };
}
