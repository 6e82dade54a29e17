/** How well drafts do: for each sheet with a layout made by hand, which columns are bound as there, which otherwise, which not. */

import { readdirSync, readFileSync } from "node:fs";
import { valueOf, Findings, type Draft } from "#src/index.js";
import { compileLayout, draftLayout, lookAt, parseGiven } from "#src/parts.js";
import { givenLayout } from "#src/schemas.js";
import { bytesOf, kinds } from "./support.js";

export interface Judged {
  readonly name: string;
  readonly right: readonly string[];
  readonly wrong: readonly string[];
  readonly gaps: readonly string[];
  readonly draft: Draft;
}

/** What a column feeds, without its codec: `product.name@de`, `axis 1 value@en`. */
function feeds(binding: unknown, lang: string): string {
  const one: unknown = Array.isArray(binding) ? binding[0] : binding;
  const given = (typeof one === "string" ? { field: one } : one) as Record<string, unknown>;
  if ("constant" in given) return "shape";
  if ("beside" in given) return "beside";
  if ("axis" in given) return `axis ${String(given["axis"])} ${withLanguage(String(given["holds"]), lang)}`;
  const field = String(given["field"]);
  // Names of lanes are their author's: what counts is which field of the entries.
  return withLanguage(field.replace(/^(?!product|variant|category|axis|value)[\w-]+\./, "lane."), lang);
}
const withLanguage = (field: string, lang: string): string =>
  /\.(name|description|slug)$|^(name|value|values)$/.test(field) ? `${field}@${lang}` : field;

/** The columns of a layout by header, numbers and listed words filled in. */
function columnsOf(text: string): {
  readonly columns: ReadonlyMap<string, string>;
  readonly ignored: readonly string[];
} {
  const given = valueOf(parseGiven(text, "layout.yaml", givenLayout)).value;
  const columns = new Map<string, string>();
  const made = new Set(
    Object.values(given.cells).flatMap((cells) =>
      "join" in cells ? [] : "split" in cells ? cells.into : Object.values(cells.json),
    ),
  );
  // What is joined feeds what it makes.
  for (const [name, cells] of Object.entries(given.cells))
    if ("join" in cells) for (const part of cells.join) columns.set(part, feeds(given.columns[name], given.language));
  for (const [header, binding] of Object.entries(given.columns)) {
    if (made.has(header) || Object.hasOwn(given.cells, header)) continue;
    const words = Object.entries(given.listed).find(([word]) => header.includes(`{${word}}`));
    const count = header.includes("{n}") ? given.numbered : 1;
    if (words)
      for (const word of words[1])
        columns.set(
          header.replace(`{${words[0]}}`, word),
          feeds(binding, given.language).replace(`{${words[0]}}`, word),
        );
    else
      for (let n = 1; n <= count; n++)
        columns.set(header.replace("{n}", String(n)), feeds(binding, given.language).replace("{n}", String(n)));
  }
  return { columns, ignored: given.ignore };
}

/** @param layout as text; where the project reads it in another language, with that language. */
export async function judgeDraft(name: string, bytes: Uint8Array, layout: string): Promise<Judged> {
  const findings = new Findings();
  const samples = await lookAt(bytesOf(bytes), name, findings);
  const { columns } = columnsOf(layout);
  const sheet = /workbook: \{ sheet: (\w+)/.exec(layout)?.[1];
  const sample = sheet === undefined ? samples[0] : samples.find((one) => one.sheet === sheet);
  if (!sample) throw new Error(`${name}: no sample`);
  const draft = draftLayout(sample, name);
  const right: string[] = [];
  const wrong: string[] = [];
  const gaps: string[] = [];
  for (const { header, binding } of draft.lines) {
    const wanted = columns.get(header) ?? columns.get(header.replace(/^@\w+:/, "@w:"));
    const own = binding === undefined ? undefined : feeds(binding, draft.language);
    if (own === "shape") continue;
    // A row that names its record by key joins it, be it said so or not.
    if (wanted === undefined && own === "product.key" && layout.includes(`found by: { column: ${header}, names: key`)) {
      right.push(header);
      continue;
    }
    if (own === undefined) {
      if (wanted !== undefined && wanted !== "shape") gaps.push(header);
    } else if (own === wanted) right.push(header);
    else wrong.push(`${header}: ${own}, not ${wanted ?? "bound"}`);
  }
  return { name, right, wrong, gaps, draft };
}

/** Whether a drafted layout has no mistakes. */
export function draftMistakes({ yaml }: Draft): readonly object[] {
  const findings = new Findings();
  const given = findings.took(parseGiven(yaml, "draft.yaml", givenLayout));
  if (given) findings.took(compileLayout(given.value, given.at, kinds));
  return findings.list();
}

/** Every sheet that has a layout made by hand: the twelve suppliers, and the demo's sources. */
export async function judgeAll(): Promise<readonly Judged[]> {
  const suppliers = new URL("../../test/suppliers/", import.meta.url);
  const judged: Judged[] = [];
  for (const name of readdirSync(suppliers, { withFileTypes: true })
    .filter((one) => one.isDirectory())
    .map((one) => one.name)
    .sort()) {
    const folder = new URL(`${name}/`, suppliers);
    const names = readdirSync(folder).sort();
    const file = names.find((one) => !one.endsWith(".yaml") && one !== "intended.txt")!;
    for (const layout of names.filter((one) => one.endsWith(".yaml")))
      judged.push(
        await judgeDraft(
          `${name}${layout === "layout.yaml" ? "" : ` (${layout.replace(".yaml", "")})`}`,
          readFileSync(new URL(file, folder)),
          readFileSync(new URL(layout, folder), "utf8"),
        ),
      );
  }
  const demo = new URL("../../../../demo/clean/", import.meta.url);
  const project = readFileSync(new URL("project.yaml", demo), "utf8");
  for (const [, file, layout, , language] of project.matchAll(
    /file: ([^,}\s]+),.*?layout: ([^,}\s]+\.yaml)(, language: (\w+))?/g,
  ))
    judged.push(
      await judgeDraft(
        `demo: ${file!.replace("sources/", "")} (${layout!.replace(/layouts\/|\.yaml/g, "")})`,
        readFileSync(new URL(file!, demo)),
        `${readFileSync(new URL(layout!, demo), "utf8")}${language === undefined ? "" : `language: ${language}\n`}`,
      ),
    );
  return judged;
}
