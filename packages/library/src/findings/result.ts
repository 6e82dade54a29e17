/** How everything that can fail answers: with what it made, or without; with all findings in either case. */

import {
  describeFinding,
  Findings,
  type FindingCode,
  type Result,
  type Finding,
  type ReadonlyFindings,
} from "./finding.js";
import { formatLocation } from "../location.js";

/** @param value undefined for what could not be made: then the findings say why. */
export const resultOf = <T>(value: T | undefined, findings: ReadonlyFindings): Result<T> =>
  value === undefined ? { ok: false, findings } : { ok: true, value, findings };

/** What was made without anything to say about it. */
export const success = <T>(value: T): Result<T> => ({ ok: true, value, findings: new Findings() });

/** What could not be made, for one reason. */
export function failure(...reasons: readonly Finding[]): Result<never> {
  const findings = new Findings();
  findings.addAll(reasons);
  return { ok: false, findings };
}

/** Whether a result failed because a file is not there: where a file may be missing, that is as it should be. */
export const isMissingFile = (result: Result<unknown>): boolean => failedWith(result, "read/missing-file");

/** Whether a result failed because a path leads out of the folders that it may lead to. */
export const isOutside = (result: Result<unknown>): boolean => failedWith(result, "project/outside");

const failedWith = (result: Result<unknown>, wanted: FindingCode): boolean =>
  !result.ok && result.findings.list().some(({ code }) => code === wanted);

/**
 * The value of a result: for scripts that stop where something fails.
 *
 * @throws Error with what the errors say, a line each.
 */
export function valueOf<T>(result: Result<T>): T {
  if (result.ok) return result.value;
  const errors = result.findings.list().filter(({ severity }) => severity === "error");
  const lines = errors.map((one) => `${one.at ? `${formatLocation(one.at)}: ` : ""}${describeFinding(one).message}`);
  throw new Error(lines.join("\n"));
}
