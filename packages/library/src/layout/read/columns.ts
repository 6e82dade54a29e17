/** The columns of a sheet: where they stand, which of them the layout knows, and what becomes of their cells. */

import { entryOf } from "../../checked.js";
import type { Header } from "../../nominal.js";
import { finding, type Findings } from "../../findings/finding.js";
import { columnAt, columnLetters } from "../../formats/letters.js";
import type { Location } from "../../location.js";
import { nearestSpelling } from "../../spelling.js";
import { madeHeaders, sheetHeaders } from "../cells.js";
import type { Layout } from "../layout.js";
import { tellingColumns } from "../shapes/layers.js";
import { CellTally, type CellCounts, type CellRule, type TalliedColumn } from "./tally.js";
import { greatest } from "../../lists.js";

/** Where each header stands; the second of the same name is called `Name#2`. */
export function columnPositions(
  headers: readonly Header[],
  layout: Layout,
  findings: Findings,
  location: Location,
): Map<string, number> {
  const bound = new Set([...layout.columns.map((column) => column.header), ...layout.ignored]);
  const positions = new Map<string, number>();
  const seen = new Map<string, number>();
  headers.forEach((header, index) => {
    const count = (seen.get(header) ?? 0) + 1;
    seen.set(header, count);
    if (count === 1) positions.set(header, index);
    else if (header !== "") {
      positions.set(`${header}#${count}`, index);
      if (!bound.has(`${header}#${count}`))
        findings.add(finding("read/column-repeated", {}, { ...location, column: header }));
    }
  });
  return positions;
}

/** The columns of a sheet without headers: a first row that ends early does not end the sheet. */
export function lettersOf({ columns, cells, ignored }: Layout, width: number): string[] {
  const made = new Set(cells.flatMap(madeHeaders));
  const own = [...columns.map(({ header }) => header).filter((one) => !made.has(one)), ...cells.flatMap(sheetHeaders)];
  const places = [...own, ...ignored].filter((header) => /^[A-Z]{1,3}$/.test(header)).map(columnAt);
  return Array.from(
    {
      length: greatest(
        places.map((at) => at + 1),
        width,
      ),
    },
    (_, at) => columnLetters(at),
  );
}

/** Says which columns are missing, and which are not bound. @returns whether the rows can be read. */
export function reportColumns(
  headers: readonly Header[],
  positions: ReadonlyMap<string, number>,
  layout: Layout,
  findings: Findings,
  location: Location,
): boolean {
  const made = new Set(layout.cells.flatMap(madeHeaders));
  const taken = layout.cells.flatMap(sheetHeaders);
  const columns = [...layout.columns.map((column) => column.header).filter((header) => !made.has(header)), ...taken];
  const known = new Set([...columns, ...layout.ignored]);
  const unbound = headers.filter((header) => header !== "" && !known.has(header));
  const missing = [...new Set(columns)].filter((header) => !positions.has(header) && !layout.ignored.includes(header));
  if (missing.length > 0 && missing.length === new Set(columns).size) {
    const facts = { layout: layout.name, found: headers.slice(0, 8).join(", ") };
    findings.add(finding("read/no-column-known", facts, location));
    return false;
  }
  for (const header of missing)
    findings.add(
      finding(
        "read/column-missing",
        { header, layout: layout.name, nearest: nearestSpelling(header, unbound) },
        location,
      ),
    );
  for (const header of unbound)
    findings.add(finding("read/column-unbound", { layout: layout.name }, { ...location, column: header }));
  return tellingColumns(layout).every(({ header, isNeeded }) => !isNeeded || positions.has(header));
}

/** What counts the cells of a sheet: each column with what it feeds, or the rule that leaves it out. */
export function tallyOfSheet(
  layout: Layout,
  headers: readonly Header[],
  positions: ReadonlyMap<string, number>,
  counts: CellCounts,
  findings: Findings,
): CellTally {
  const nameAt = new Map([...positions].map(([header, at]) => [at, header] as const));
  const feeds = new Map<string, string>();
  const markers = new Set<string>();
  for (const { header, bindings } of layout.columns) {
    const fed = bindings.filter(({ feed }) => feed.is !== "shape");
    if (fed.length === 0) markers.add(header);
    else feeds.set(header, fed.map(({ name }) => name).join(", "));
  }
  for (const { header } of tellingColumns(layout)) if (!feeds.has(header)) markers.add(header);
  const ruleOf = (header: Header): CellRule | undefined => {
    if (layout.ignored.includes(header)) return "ignored column";
    if (markers.has(header)) return "row marker";
    return feeds.has(header) ? undefined : "unbound column";
  };
  const columns = headers.map((_, at): TalliedColumn => {
    const header = nameAt.get(at) ?? "";
    const made = layout.cells.flatMap((step) =>
      sheetHeaders(step).includes(header) ? madeHeaders(step).map((one) => entryOf(positions, one)) : [],
    );
    return { header, rule: made.length > 0 ? undefined : ruleOf(header), feeds: feeds.get(header) ?? "", made };
  });
  const made = layout.cells.flatMap(madeHeaders);
  const madeFeeds = new Map(
    made.flatMap((header) =>
      feeds.has(header) ? [[entryOf(positions, header), entryOf(feeds, header)] as const] : [],
    ),
  );
  return new CellTally(counts, findings, columns, headers.length, madeFeeds);
}
