import { existsSync, mkdirSync } from "node:fs";
import { join, resolve } from "node:path";
import { guideTo, writeWorkbook } from "zest-tier";
import { writeWholeFile } from "zest-tier/node";
import { textOption, UsageError, type Run } from "../command.js";
import { coloursOf } from "../io.js";
import { renderGuide } from "../render/layouts.js";
import { exitCode, failureCode, sayReport } from "../report.js";
import { layoutNamed } from "./calibrate.js";

export const run: Run = async (given, io) => {
  const opened = await layoutNamed(given.argument, io.cwd, textOption(given, "project"));
  const { findings } = opened;
  if (!opened.ok) {
    sayReport({ text: "", data: { command: "guide", ok: false } }, findings, given, io);
    return failureCode(findings);
  }
  const { layout } = opened.value;
  const { rows, markdown, workbook } = guideTo(opened.value);
  const out = textOption(given, "out");
  let text = renderGuide(layout, rows, coloursOf(io), io.width);
  if (out !== undefined) {
    const folder = resolve(io.cwd, out);
    const names = [`${layout.name}.md`, `${layout.name}.xlsx`];
    const there = names.find((name) => existsSync(join(folder, name)));
    if (there !== undefined)
      throw new UsageError(`${there} already exists`, "Give another folder. Nothing is overwritten.");
    mkdirSync(folder, { recursive: true });
    await writeWholeFile(join(folder, names[0]!), markdown);
    await writeWholeFile(join(folder, names[1]!), await writeWorkbook(workbook));
    text += `\n  written: ${names.map((name) => join(out, name)).join(", ")}\n`;
  }
  sayReport({ text, data: { command: "guide", ok: true, layout: layout.name, columns: rows } }, findings, given, io);
  return exitCode(findings);
};
