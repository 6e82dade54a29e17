/** A file of two columns: what records are known by, and one field with one value. */

import { driverOf } from "../formats/drivers/drivers.js";
import { fieldOfColumn, splitTable } from "../field-name.js";
import { entryOf } from "../checked.js";
import { asTargetView, type TargetView } from "../catalogue/catalogue.js";
import { finding, type Result } from "../findings/finding.js";
import { failure, success } from "../findings/result.js";
import { fieldOf } from "../kind.js";
import { writtenKind } from "../layout/write/rows.js";
import type { UploadStep } from "../plan/plan.js";
import { isForAll } from "../target/import-records.js";
import type { Target } from "../target/target.js";
import { columnsOf } from "./change-steps.js";
import { carryingColumns } from "./columns.js";
import { phrase } from "../phrases/phrase.js";
import { numbersWhere } from "../lists.js";

/**
 * A bulk change of a project: one field of all records of a kind, and its value.
 *
 * @param field `product.shown`, as the project says it.
 */
export interface NamedBulkChange {
  readonly name: string;
  readonly field: string;
  readonly constant: string;
}

/** A bulk change, planned. */
export interface PlannedBulkChange {
  /** With the field set on every record of its kind. */
  readonly catalogue: TargetView;
  /** Which rows and columns bring it. */
  readonly step: UploadStep;
}

/** Whether a record is on the platform: only what is there gets rows. */
type IsThere = (kind: string, row: number) => boolean;

/** Plans a bulk change; fails where the target has no column for the field. @param isThere all records are there, if left out. */
export function planBulkChange(
  given: TargetView,
  target: Target,
  { name, field, constant }: NamedBulkChange,
  isThere: IsThere = () => true,
): Result<PlannedBulkChange> {
  const { kind, collection: own = "" } = splitTable(field);
  const spec = given.kinds.find(kind);
  const isText = spec && fieldOf(spec, fieldOfColumn(own))?.type !== undefined;
  for (const { file: of } of target.slots.filter(({ mode }) => mode === "create")) {
    const file = entryOf(target.files, of);
    if (!isForAll(target, of)) continue;
    for (const [at, layout] of file.layouts.entries()) {
      const column = carryingColumns(target, file, layout, given.kinds).find(
        (one) => one.kind === kind && one.field === own,
      );
      if (!column || !isText) continue;
      const catalogue = withFieldSet(given, { kind, field: own, constant });
      const written = writtenKind(layout, catalogue);
      const records = numbersWhere(catalogue.table(written).size, (row) => isThere(written, row));
      const isOfChild = column.column.scope.is === "child" && file.grouped !== undefined;
      const step: UploadStep = {
        number: 1,
        is: "upload",
        title: phrase('Upload the bulk change "{0}"', name),
        why: phrase("Sets {0} to {1} and changes nothing else.", field, constant),
        slot: { name: `${of}-${name}`, file: of, mode: isOfChild ? "create" : "update", creates: [], updates: [] },
        files: [
          {
            name: `01-${name}.${driverOf(file.layout.format).ending(file.layout.format)}`,
            blocks: [{ layout: at, kind: written, records }],
          },
        ],
        columns: columnsOf(file, new Set([column.header])),
        from: { catalogue, isLeftOut: (one, row) => !isThere(one, row) },
        waiting: new Map(),
        places: [],
        after: [],
      };
      return success({ catalogue, step });
    }
  }
  return failure(finding("change/no-column", { field, target: target.name }));
}

/** The same records, with one field set on each of a kind. A field of variants is one of what is sold by itself, too. */
export function withFieldSet(
  given: TargetView,
  { kind, field, constant }: { readonly kind: string; readonly field: string; readonly constant: string },
): TargetView {
  const catalogue = given.branch();
  const table = catalogue.table(kind);
  for (let row = 0; row < table.size; row++) table.setText(field, row, constant);
  const parent = table.kind.of === undefined ? undefined : catalogue.table(table.kind.of);
  if (parent?.kind.single && fieldOf(parent.kind, fieldOfColumn(field)))
    for (let row = 0; row < parent.size; row++)
      if (table.countChildren(row) === 0) parent.setText(field, row, constant);
  return asTargetView(catalogue);
}
