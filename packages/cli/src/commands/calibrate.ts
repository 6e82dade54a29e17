import { basename, dirname, relative, resolve } from "node:path";
import {
  calibrate as calibrateFile,
  compileLayout,
  Findings,
  givenLayout,
  Kinds,
  parseGiven,
  parseTarget,
  type Layout,
} from "zest-tier";
import { nodeFiles, shippedTarget } from "zest-tier/node";
import { readFileSync } from "node:fs";
import { allOption, type Command, outputOptions, textOption, UsageError } from "../command.js";
import { coloursOf } from "../io.js";
import { plainCalibration, renderCalibration } from "../render/layouts.js";
import { exitCode, failureCode, sayReport } from "../report.js";

export const calibrate: Command = {
  name: "calibrate",
  summary: "read a file with a layout, write it back, and compare cell by cell",
  argument: { flags: "<file>", means: "a sample or an export, unchanged" },
  options: [
    { flags: "--layout <file>", means: "the layout file, or TARGET/FILE for a layout of a target" },
    allOption,
    ...outputOptions,
  ],
  examples: [
    {
      line: "zest-tier calibrate prices.csv --layout layouts/prices.yaml",
      does: "shows for each column how many cells come back unchanged",
    },
    {
      line: "zest-tier calibrate export.csv --layout pennywort/items",
      does: "checks a layout of a target against a file that the platform wrote",
    },
  ],
  async run(given, io) {
    const findings = new Findings();
    const kinds = new Kinds();
    const layout = await layoutNamed(textOption(given, "layout"), io.cwd, kinds, findings);
    const path = resolve(io.cwd, given.argument!);
    const result = layout && (await calibrateFile(basename(path), layout, kinds, nodeFiles(dirname(path)), findings));
    const different = result?.columns.reduce((sum, column) => sum + column.differentCount, 0) ?? 0;
    const text = result ? renderCalibration(result, coloursOf(io)) : "";
    const isFine = result !== undefined && different === 0 && exitCode(findings) === 0;
    sayReport(
      { text, data: { command: "calibrate", ok: isFine, ...(result && plainCalibration(result)) } },
      findings,
      given,
      io,
    );
    return isFine ? 0 : failureCode(findings);
  },
};

/** A layout by its file, or one of a target by `target/file`. @throws UsageError where there is none of that name. */
export async function layoutNamed(
  name: string | undefined,
  cwd: string,
  kinds: Kinds,
  findings: Findings,
): Promise<Layout | undefined> {
  if (name === undefined) throw new UsageError("calibrate needs a layout", "For example: --layout layouts/prices.yaml");
  const [targetName = "", file] = name.split("/");
  const shipped = /\.ya?ml$|\.json$/.test(name) ? undefined : await shippedTarget(targetName);
  if (shipped !== undefined) {
    const target = parseTarget(shipped, `${targetName} (shipped)`, kinds, findings);
    const own = file === undefined ? [...(target?.files.values() ?? [])][0] : target?.files.get(file);
    if (!own)
      throw new UsageError(
        `${targetName} has no file "${file}"`,
        `It has ${[...(target?.files.keys() ?? [])].join(", ")}.`,
      );
    return own.layout;
  }
  const path = resolve(cwd, name);
  let text: string;
  try {
    text = readFileSync(path, "utf8");
  } catch {
    throw new UsageError(`there is no layout ${name}`, "Give the path of a layout file, or TARGET/FILE.");
  }
  const parsed = parseGiven(text, relative(cwd, path), givenLayout, findings);
  return parsed && compileLayout(parsed.value, parsed.at, kinds, findings);
}
