import { existsSync, mkdirSync } from "node:fs";
import { join, resolve } from "node:path";
import { columnGuide, emptyWorkbook, Findings, guideMarkdown, Kinds, parseTarget, writeWorkbook } from "zest-tier";
import { shippedTarget, writeWholeFile } from "zest-tier/node";
import { type Command, formatOption, textOption, UsageError } from "../command.js";
import { coloursOf } from "../io.js";
import { renderGuide } from "../render/layouts.js";
import { exitCode, failureCode, sayReport } from "../report.js";
import { layoutNamed } from "./calibrate.js";

export const guide: Command = {
  name: "guide",
  summary: "say what each column of a layout means, and make the empty workbook to send",
  argument: { flags: "<layout>", means: "a layout file; or TARGET/FILE for one of a target's" },
  options: [
    { flags: "--out <folder>", means: "writes NAME.md and NAME.xlsx there (default: only shown)" },
    formatOption,
  ],
  examples: [
    { line: "zest-tier guide layouts/range.yaml", does: "shows the columns" },
    {
      line: "zest-tier guide pennywort/items --out to-send",
      does: "writes the guide, and the empty workbook with drop-downs",
    },
  ],
  async run(given, io) {
    const findings = new Findings();
    const kinds = new Kinds();
    const layout = await layoutNamed(given.argument, io.cwd, kinds, findings);
    if (!layout) {
      sayReport({ text: "", data: { command: "guide", ok: false } }, findings, given, io);
      return failureCode(findings);
    }
    const [targetName = "", fileName] = given.argument!.split("/");
    const shipped = await shippedTarget(targetName);
    const target = shipped === undefined ? undefined : parseTarget(shipped, targetName, kinds, findings);
    const file = target && (target.files.get(fileName ?? "") ?? [...target.files.values()][0]);
    const rows = columnGuide(layout, kinds, file);
    const out = textOption(given, "out");
    let text = renderGuide(layout, rows, coloursOf(io), io.width);
    if (out !== undefined) {
      const folder = resolve(io.cwd, out);
      const names = [`${layout.name}.md`, `${layout.name}.xlsx`];
      const there = names.find((name) => existsSync(join(folder, name)));
      if (there !== undefined)
        throw new UsageError(`${there} is there already`, "Give another folder; nothing is overwritten.");
      mkdirSync(folder, { recursive: true });
      await writeWholeFile(join(folder, names[0]!), guideMarkdown(layout, rows));
      await writeWholeFile(join(folder, names[1]!), await writeWorkbook(emptyWorkbook(layout, rows)));
      text += `\n  written: ${names.map((name) => join(out, name)).join(", ")}\n`;
    }
    sayReport({ text, data: { command: "guide", ok: true, layout: layout.name, columns: rows } }, findings, given, io);
    return exitCode(findings);
  },
};
