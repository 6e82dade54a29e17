/**
 * All of a build that comes before its files: what the target asks of each cell, what is held back, the plan.
 *
 * In: the resolved catalogue, the target. Out: a plan and what stays out of it, or findings.
 */

import type { ResolvedCatalogue } from "../catalogue/catalogue.js";
import type { Finding, Findings } from "../finding.js";
import { writeRows, writtenHeaders, type WrittenRow } from "../layout/write.js";
import { reportCycles } from "../plan/cycles.js";
import { planImport, type Plan } from "../plan/plan.js";
import { reportUncarried } from "../target/carries.js";
import { rowChecker } from "../target/cell-rules.js";
import type { Target, TargetFile } from "../target/target.js";
import { holdBack, isHeldBack, nothingHeldBack, type HeldBack } from "./hold-back.js";
import { lineWriter } from "./write-file.js";

export interface PrepareInput {
  readonly catalogue: ResolvedCatalogue;
  readonly target: Target;
  /** Leave out what is faulty. */
  readonly holdBack: boolean;
  /** Errors of these codes do not count. */
  readonly despite: ReadonlySet<string>;
  /** The pictures that will be uploaded, by file name. */
  readonly pictureNames: readonly string[];
}

export interface Prepared {
  readonly plan: Plan;
  readonly heldBack: HeldBack;
}

/** The findings that stop a build. */
export function stoppingErrors(findings: Findings, despite: ReadonlySet<string>): readonly Finding[] {
  return findings.list().filter((one) => one.severity === "error" && !despite.has(one.code));
}

/**
 * All that comes before the files: what the target asks of each cell, what is held back, the plan.
 *
 * @returns undefined when there is no plan; the findings say why.
 */
export function prepareBuild(
  input: PrepareInput,
  findings: Findings,
  checking: "cells now" | "cells when written" = "cells now",
): Prepared | undefined {
  const { catalogue, target } = input;
  reportUncarried(catalogue, target, findings);
  reportCycles(catalogue, findings);
  const bytes = checking === "cells now" ? checkCells(catalogue, target, findings) : new Map<string, Float64Array>();
  let heldBack = nothingHeldBack;
  if (input.holdBack) {
    const causes = findings
      .list()
      .filter((one) => (one.severity === "error" && !input.despite.has(one.code)) || one.code === "resolve/held");
    heldBack = holdBack(catalogue, causes, findings);
  }
  const plan = planImport(
    catalogue,
    target,
    {
      isLeftOut: isHeldBack(heldBack),
      bytesOf: (file, product) => bytes.get(file.name)?.[product] ?? 0,
      headerBytes: (file) =>
        new TextEncoder().encode(lineWriter(file.layout)(file.layout.columns.map((column) => column.header))).length,
      pictures: input.pictureNames,
    },
    findings,
  );
  return plan && { plan, heldBack };
}

/** Checks every cell that creates something, and measures each product's rows where a file's bytes are limited. */
export function checkCells(
  catalogue: ResolvedCatalogue,
  target: Target,
  findings: Findings,
): Map<string, Float64Array> {
  const bytes = new Map<string, Float64Array>();
  const products = catalogue.table("product");
  for (const slot of target.slots) {
    if (slot.mode !== "create") continue;
    const file = target.files.get(slot.file)!;
    const check = rowChecks(catalogue, target, file, undefined, findings);
    const measured = file.limits.bytes === undefined ? undefined : new Float64Array(products.size);
    const toLine = lineWriter(file.layout);
    const records = { [Symbol.iterator]: () => Array(products.size).keys() };
    for (const row of writeRows(catalogue, file.layout, { records }, findings)) {
      check(row);
      if (measured) measured[row.parent]! += utf8Length(toLine(row.cells));
    }
    if (measured) bytes.set(file.name, measured);
  }
  return bytes;
}

/** Checks rows of a creating file, which come in the order in which they are written. */
export function rowChecks(
  catalogue: ResolvedCatalogue,
  target: Target,
  file: TargetFile,
  columns: ReadonlySet<string> | undefined,
  findings: Findings,
): (row: WrittenRow) => void {
  const headers = writtenHeaders(file.layout, columns);
  const check = rowChecker(catalogue, target, file, headers, findings);
  let parent = -1;
  return (row) => {
    check(row, row.parent !== parent);
    parent = row.parent;
  };
}

function utf8Length(text: string): number {
  let length = text.length;
  for (let at = 0; at < text.length; at++) {
    const unit = text.charCodeAt(at);
    // A surrogate pair is four bytes, two for each of its units.
    if (unit > 0x7f) length += unit > 0x7ff && (unit < 0xd800 || unit > 0xdfff) ? 2 : 1;
  }
  return length;
}
