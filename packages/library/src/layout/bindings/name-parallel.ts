/** Names, in another language, of what a cell refers to: path by path and node by node. */

import type { Table } from "../../catalogue/table.js";
import { finding } from "../../findings/finding.js";
import type { Header, Lang } from "../../nominal.js";
import type { FillContext } from "../fill/context.js";
import { cellMark, type CellMark } from "../read/tally.js";

export interface NamingAt {
  readonly table: Table;
  readonly row: number;
  readonly line: number;
  readonly header: Header;
  /** What it names: a column, or a field. */
  readonly beside: string;
}

export function nameParallel(
  context: FillContext,
  named: readonly number[],
  paths: readonly (readonly string[])[],
  lang: Lang,
  { table, row, line, header, beside }: NamingAt,
): CellMark {
  const { catalogue, sheet, findings } = context;
  const { pool } = catalogue;
  const fits =
    paths.length === named.length &&
    paths.every((path, location) => path.length === 0 || path.length === pool.texts(named[location]!).length);
  if (!fits) {
    findings.add(finding("read/not-parallel", { beside }, context.location(line, header, table, row)));
    return cellMark.reported;
  }
  paths.forEach((path, location) => {
    let reference = named[location]!;
    for (const name of [...path].reverse()) {
      catalogue.state({ reference, field: `name@${lang}`, value: name, met: { sheet, line } });
      reference = pool.within(reference);
    }
  });
  return paths.length > 0 ? cellMark.taken : cellMark.untouched;
}
