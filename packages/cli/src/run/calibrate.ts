import { basename, dirname, resolve } from "node:path";
import { calibrate as calibrateFile, describeFinding, openLayout, type OpenedLayout, type Result } from "zest-tier";
import { nodeFiles, nodePorts } from "zest-tier/node";
import { textOption, UsageError, type Run } from "../command.js";
import { coloursOf } from "../io.js";
import { plainCalibration, renderCalibration } from "../render/layouts.js";
import { exitCode, failureCode, sayReport } from "../report.js";

export const run: Run = async (given, io) => {
  const path = resolve(io.cwd, given.argument!);
  const opened = await layoutNamed(textOption(given, "layout"), io.cwd, textOption(given, "project"));
  const calibrated = opened.ok ? await calibrateFile(nodeFiles(dirname(path)), basename(path), opened.value) : opened;
  const { findings } = calibrated;
  const result = calibrated.ok ? calibrated.value : undefined;
  const different = result?.columns.reduce((sum, column) => sum + column.differentCount, 0) ?? 0;
  const text = result ? renderCalibration(result, coloursOf(io)) : "";
  const records = result?.records;
  const isSame = records !== undefined && records.equal === records.records && records.made.length === 0;
  const isFine = isSame && different === 0 && exitCode(findings) === 0;
  const data = { command: "calibrate", ok: isFine, ...(result && plainCalibration(result)) };
  sayReport({ text, data }, findings, given, io);
  return isFine ? 0 : failureCode(findings);
};

/** A layout by its file, or one of a target by `target/file`. @throws UsageError where there is none of that name. */
export async function layoutNamed(
  name: string | undefined,
  cwd: string,
  project?: string,
): Promise<Result<OpenedLayout>> {
  if (name === undefined) throw new UsageError("calibrate needs a layout", "For example: --layout layouts/prices.yaml");
  const opened = await openLayout(nodePorts(cwd), name, project);
  const none = opened.findings.list().find(({ code }) => code === "layout/none");
  if (!none) return opened;
  const { message, remedy } = describeFinding(none);
  throw new UsageError(message, remedy);
}
