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
import { carryingColumns, identityHeaders } from "./columns.js";
import { phrase } from "../phrases/phrase.js";

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

/** Plans a bulk change; fails where the target has no column for the field. */
export function planBulkChange(
  given: TargetView,
  target: Target,
  { name, field, constant }: NamedBulkChange,
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
      const catalogue = given.branch();
      const table = catalogue.table(kind);
      for (let row = 0; row < table.size; row++) table.setText(own, row, constant);
      const written = writtenKind(layout, catalogue);
      const records = Array.from({ length: catalogue.table(written).size }, (_, row) => row);
      const child = column.column.scope.is === "child" && file.grouped ? [file.grouped.child] : [];
      const step: UploadStep = {
        number: 1,
        is: "upload",
        title: phrase('Upload the bulk change "{0}"', name),
        why: phrase("Sets {0} to {1} and changes nothing else.", field, constant),
        slot: {
          name: `${of}-${name}`,
          file: of,
          mode: child.length > 0 ? "create" : "update",
          creates: [],
          updates: [],
        },
        files: [
          {
            name: `01-${name}.${driverOf(file.layout.format).ending(file.layout.format)}`,
            blocks: [{ layout: at, kind: written, records }],
          },
        ],
        columns: new Set([...identityHeaders(file), ...child, column.header]),
        waiting: new Map(),
        places: [],
        after: [],
      };
      return success({ catalogue: asTargetView(catalogue), step });
    }
  }
  return failure(finding("change/no-column", { field, target: target.name }));
}
