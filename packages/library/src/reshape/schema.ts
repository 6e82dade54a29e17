/** Operations on the catalogue, as a project lists them: each says one thing that is to be otherwise. Replayed from the sources. */

import { z } from "zod";
import { present } from "../checked.js";
import type { Kinds } from "../kinds.js";
import type { OperationForm, OperationProblem } from "./operation.js";
import { operations } from "./operations/table.js";

type Table = typeof operations;

/** An operation on the catalogue, as a project writes it. */
export const givenOperation = z.union([
  operations.combine.schema,
  operations.split.schema,
  operations.merge.schema,
  operations.rename.schema,
  operations.move.schema,
  operations.order.schema,
  operations["use axis"].schema,
  operations["split category"].schema,
  operations.replace.schema,
  operations.add.schema,
  operations.remove.schema,
  operations.renumber.schema,
  operations["make variants of"].schema,
  operations["make single"].schema,
]);
/** One operation of a project on its own catalogue: combine, split, merge, rename and so on. */
export type Operation = z.infer<Table[keyof Table]["schema"]>;

/** The form of an operation. */
export function formOf(operation: Operation): OperationForm<z.ZodType<Operation>> {
  const word = (Object.keys(operations) as (keyof Table)[]).find((one) => one in operation);
  // The table is by the words that tell operations apart.
  return operations[present(word)];
}

/** What of an operation cannot be honoured whatever the sources say. */
export async function operationProblems(operation: Operation, kinds: Kinds): Promise<OperationProblem[]> {
  const problems: OperationProblem[] = [];
  for await (const problem of formOf(operation).problems(operation, kinds)) problems.push(problem);
  return problems;
}
