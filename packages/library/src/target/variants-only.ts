/** References to products with variants where a target's column can only name what has a code: such a product has none of its own. */

import type { FedReference } from "../layout/bindings/feed-kind.js";
import { kindOfFeed } from "../layout/bindings/feed-kinds.js";
import type { Header } from "../nominal.js";
import { targetsOf, type ResolvedCatalogue } from "../catalogue/catalogue.js";
import type { ReadonlyTable } from "../catalogue/readonly-table.js";
import { finding, type Findings } from "../findings/finding.js";
import { fieldOf } from "../kind.js";
import { byLanguage, kindOfScope, type Column, type Layout } from "../layout/layout.js";
import type { Target } from "./target.js";

interface Named extends FedReference {
  readonly header: Header;
}

/** Reports each component, relation, choice … that names a product with variants and would have to name one of these. */
export function reportVariantsOnly(catalogue: ResolvedCatalogue, target: Target, findings: Findings): void {
  const reported = new Set<string>();
  const layouts = [...target.files.values()].flatMap(({ layouts: all }) => all.flatMap(byLanguage));
  for (const [, layout] of layouts)
    for (const column of layout.columns)
      for (const named of namedByCode(catalogue, layout, column)) {
        const table = catalogue.table(named.table);
        const fields = [named.field, fieldOf(table.kind, named.field)?.reference?.otherwise];
        for (const field of fields)
          if (field !== undefined && !reported.has(`${table.name}.${field}`)) {
            reported.add(`${table.name}.${field}`);
            report(table, field, named.header);
          }
      }

  function report(table: ReadonlyTable, field: string, column: string): void {
    const reference = fieldOf(table.kind, field)?.reference;
    const children = reference && catalogue.kinds.childOf(reference.to);
    if (!children) return;
    const [to, variants] = [catalogue.table(reference.to), catalogue.table(children.name)];
    for (let row = 0; row < table.size; row++)
      for (const product of targetsOf(catalogue, table, field, row)) {
        const count = variants.countChildren(product);
        if (count === 0 || typeof to.text("code", product) === "string") continue;
        const facts = { column, product: to.key(product), variants: count, target: target.name };
        findings.add(finding("target/variants-only", facts, catalogue.location(table, row, field)));
      }
  }
}

/** What a column names by code alone, in records and entries of each kind that it is of. */
function namedByCode(catalogue: ResolvedCatalogue, layout: Layout, { header, scope, bindings }: Column): Named[] {
  const { name, of } = kindOfScope(layout, scope);
  const kinds = of === undefined ? [name] : [name, of];
  return bindings.flatMap(({ feed }) =>
    kinds.flatMap((kind) =>
      kindOfFeed(feed)
        .references(feed, kind)
        .flatMap((one): Named[] => {
          const table = catalogue.tables.find((known) => known.name === one.table);
          const isByCode = one.spec.by === "code" && !one.spec.or;
          return table && isByCode && fieldOf(table.kind, one.field) ? [{ ...one, header }] : [];
        }),
    ),
  );
}
