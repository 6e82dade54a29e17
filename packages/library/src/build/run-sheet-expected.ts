/** What the run sheet tells people to expect of a file: what came of it in the rehearsal; else what the plan says. */

import type { PlannedFile, UploadStep } from "../plan/plan.js";
import { phrase, type Template, type Text } from "../phrases/phrase.js";
import type { TargetView } from "../catalogue/catalogue.js";
import { heldRows, type HeldBack } from "./hold-back.js";

/** A file as it came out of the rehearsal. */
export interface PlayedUpload {
  readonly name: string;
  readonly rows: readonly { readonly outcome: string }[];
}

type Outcomes = Readonly<Record<string, number>>;

/** How many rows of a file came out how. */
export function outcomesIn(
  { rehearsed }: { readonly rehearsed?: readonly PlayedUpload[] | undefined },
  name: string,
): Outcomes | undefined {
  const file = rehearsed?.find((one) => one.name === name);
  if (!file) return undefined;
  const outcomes: Record<string, number> = {};
  for (const { outcome } of file.rows) outcomes[outcome] = (outcomes[outcome] ?? 0) + 1;
  return outcomes;
}

/** "3 rows created, 9 rows updated": as they came out of the rehearsal. */
function outcomesText(outcomes: Outcomes): Text {
  const counts = Object.entries(outcomes).map(([outcome, rows]) =>
    phrase("{0} {1}", rowsOf(rows), phrase(outcome as Template)),
  );
  return outcomes["refused"] === undefined ? phrase("{0}, none refused", counts) : phrase("{0}", counts);
}

export function expected(
  step: UploadStep,
  { blocks }: PlannedFile,
  rows: number,
  outcomes: Outcomes | undefined,
  { catalogue, heldBack }: { readonly catalogue: TargetView; readonly heldBack: HeldBack },
): Text {
  const [first] = blocks;
  const isGrouped = first?.kind === "product" && step.slot.creates.includes("variant");
  const records = blocks.reduce((sum, block) => sum + block.records.length, 0);
  const simulated = outcomesText(outcomes ?? { [step.slot.mode === "create" ? "created" : "updated"]: rows });
  if (!isGrouped || step.from) return simulated;
  const [products, variants] = [catalogue.table("product"), catalogue.table("variant")];
  const [ofProducts, ofVariants] = [products.textsOf("code"), variants.textsOf("code")];
  let codes = 0;
  for (const product of first.records) {
    if (typeof ofProducts.get(product) === "string") codes++;
    for (const row of variants.childrenOf(product))
      if (!heldRows(heldBack, "variant").has(row) && typeof ofVariants.get(row) === "string") codes++;
  }
  if (codes === 0) return simulated;
  return phrase(
    "{0} with {1}: {2}",
    countOf(records, "{0} product", "{0} products"),
    countOf(codes, "{0} code", "{0} codes"),
    simulated,
  );
}

/** "1 file", "2 files". */
export const countOf = (count: number, one: Template, many: Template): Text => phrase(count === 1 ? one : many, count);
const rowsOf = (rows: number): Text => countOf(rows, "{0} row", "{0} rows");
