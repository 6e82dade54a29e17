import { existsSync } from "node:fs";
import { resolve } from "node:path";
import {
  translationSheet,
  translationsOf,
  translationXliff,
  writeWorkbook,
  type Findings,
  type TranslationItem,
} from "zest-tier";
import { writeWholeFile } from "zest-tier/node";
import { textOption, UsageError, type Run } from "../command.js";
import { coloursOf, type Io } from "../io.js";
import { columns, cut } from "../render/text.js";
import { failureCode, sayAfterCheck, sayReport } from "../report.js";
import { openSession } from "../session.js";

export const run: Run = async (given, io) => {
  const lang = textOption(given, "into");
  if (lang === undefined)
    throw new UsageError("translations needs a language", "For example: zest-tier translations --into fr");
  const opened = await openSession(given, io);
  if (!opened.ok) {
    sayReport({ text: "", data: { command: "translations", items: null } }, opened.findings, given, io);
    return failureCode(opened.findings);
  }
  const target = opened.session.opened;
  const all = translationsOf(target, lang);
  const items = given.options["every"] === true ? all : all.filter(({ state }) => state !== "done");
  const out = textOption(given, "out");
  const source = target.project.languages[0] ?? "en";
  const findings = target.findings.copy();
  let text = renderList(items, source, lang, io);
  if (out !== undefined) {
    await write(resolve(io.cwd, out), out, items, source, lang, findings);
    text += `\n  written: ${out}\n  When it is translated, add it to the project: translations: [{ file: ${out}, language: ${lang} }]\n`;
  }
  sayAfterCheck({ text, data: { command: "translations", items } }, findings, given, io);
  return 0;
};

async function write(
  path: string,
  name: string,
  items: readonly TranslationItem[],
  source: string,
  lang: string,
  findings: Findings,
) {
  if (existsSync(path)) throw new UsageError(`${name} already exists`, "Give another name. Nothing is overwritten.");
  if (name.endsWith(".xlsx")) await writeWholeFile(path, await writeWorkbook([translationSheet(items, source, lang)]));
  else if (/\.xlf$|\.xliff$/.test(name)) await writeWholeFile(path, translationXliff(items, source, lang, findings));
  else throw new UsageError(`${name} is neither a workbook nor XLIFF`, "Let its name end in .xlsx or .xlf.");
}

const shown = 20;

function renderList(items: readonly TranslationItem[], source: string, lang: string, io: Io): string {
  const colours = coloursOf(io);
  const counts = new Map<string, number>();
  for (const { state } of items) counts.set(state, (counts.get(state) ?? 0) + 1);
  const head = [...counts].map(([state, count]) => `${count} ${state}`).join(", ");
  const rows = items
    .slice(0, shown)
    .map(({ kind, key, field, source: from, state }) => [
      kind,
      cut(key, 30),
      field,
      colours.dim(state),
      cut(from.replaceAll("\n", " "), 50),
    ]);
  const more = items.length > shown ? `  and ${items.length - shown} more: --out FILE writes all of them\n` : "";
  return items.length === 0
    ? `${colours.green("Nothing to translate")}: every text in ${source} exists in ${lang}.\n`
    : `${colours.bold(`${source} to ${lang}`)}: ${head}\n\n${columns(rows)}${more}`;
}
