/**
 * The column guide of a layout: for each column what it means, whether it has to be filled, what is accepted, an example. And the
 * empty sheet to send to somebody who fills it.
 */

import { firstOf } from "../checked.js";
import { splitLanguage } from "../field-name.js";
import type { Codec } from "../codecs/codec.js";
import type { SheetToWrite } from "../formats/workbook-write.js";
import { fieldNamed, referenceOf, fieldOf, type Kinds } from "../kind.js";
import { kindOfScope, type Binding, type Column, type Layout } from "../layout/layout.js";
import { meaningOfField } from "../layout/meanings.js";
import type { TargetFile } from "../target/target.js";

/** What one column takes. */
export interface GuideRow {
  readonly column: string;
  readonly means: string;
  readonly required: boolean;
  readonly accepts: string;
  readonly example: string;
  /** The words to choose from, where there are only these. */
  readonly choices: readonly string[];
}

/** @param file of a target: then its rules say more of what is accepted and required. */
export function columnGuide(layout: Layout, kinds: Kinds, file?: TargetFile): readonly GuideRow[] {
  const seen = new Set<string>();
  return layout.columns.flatMap((column): GuideRow[] => {
    if (seen.has(column.header)) return [];
    seen.add(column.header);
    const binding = firstOf(column.bindings);
    const { means, example } = describe(layout, column, binding, kinds);
    const rule = file?.rules.get(column.header);
    const accepts = [
      binding.feed.is === "shape" ? "" : binding.codec.takes,
      rule?.["characters at most"] === undefined ? "" : `at most ${rule["characters at most"]} characters`,
      rule?.only === undefined ? "" : `only ${rule.only}`,
      rule?.from === undefined && rule?.to === undefined ? "" : `${rule.from ?? ""} to ${rule.to ?? ""}`.trim(),
      column.blankMeans === undefined ? "" : `blank is ${column.blankMeans}`,
    ];
    return [
      {
        column: column.header,
        means,
        required: rule?.required ?? isNeeded(layout, column),
        accepts: accepts.filter((one) => one !== "").join("; "),
        example: formatted(binding.codec, example),
        choices: binding.codec.choices ?? shapeTexts(layout, column),
      },
    ];
  });
}

/** Columns without which a row is nobody's. */
function isNeeded({ shape }: Layout, { header, bindings }: Column): boolean {
  if (shape.is === "grouped" && shape.column === header) return true;
  if (shape.is === "linked" && shape.found.column === header) return true;
  return bindings.some(({ feed: target }) => target.is === "key");
}

function shapeTexts({ shape, languages }: Layout, { header }: Column): readonly string[] {
  if (languages?.column === header) return [...languages.layouts.keys()];
  if (shape.is === "own-row" && shape.marker?.column === header) return [shape.marker.parent, shape.marker.child];
  return [];
}

function describe(
  layout: Layout,
  column: Column,
  { feed: target }: Binding,
  kinds: Kinds,
): { readonly means: string; readonly example: string } {
  const owner = kindOfScope(layout, column.scope);
  const of = (kind: string, name: string) => {
    const { name: field, lang } = splitLanguage(name);
    const spec = fieldOf(kinds.get(kind), field);
    const meaning = meaningOfField(kind, field, spec?.type);
    return lang === undefined ? meaning : { ...meaning, means: `${meaning.means} (${lang})` };
  };
  switch (target.is) {
    case "key":
      return meaningOfField(owner.name, "key", "text");
    case "text":
    case "reference":
      return of(owner.name, target.field);
    case "container":
      return meaningOfField(target.spec.to, "key", "text");
    case "referred":
      return of(referenceOf(fieldNamed(owner, target.via)).to, target.field);
    case "entry": {
      const kind = owner.entries?.[target.entries] ?? "";
      const word = Object.values(target.constants)[0];
      const meaning = of(kind, target.field.name);
      return word === undefined ? meaning : { ...meaning, means: `${meaning.means} (${word})` };
    }
    case "entries":
      return { means: `${target.entries} in parts`, example: "" };
    case "axis":
      return {
        means:
          target.holds === "name"
            ? `the name of axis ${target.number} (${target.lang})`
            : `the ${target.holds === "value" ? "variant's value" : "values"} on axis ${target.number} (${target.lang})`,
        example: target.holds === "name" ? "Wood" : "Cedar",
      };
    case "named-axis":
      return { means: `the variant's ${target.axis} (${target.lang})`, example: "" };
    case "naming":
      return { means: `the same paths in ${target.lang}`, example: "" };
    case "shape":
      return {
        means:
          target.constant === "" || target.constant === undefined
            ? "tells rows apart; see the choices"
            : `always "${target.constant}"`,
        example: target.constant ?? "",
      };
  }
}

/** The example in the form in which the cell takes it. */
function formatted(codec: Codec, example: string): string {
  if (example === "") return "";
  for (const value of [[[example]], [example], example]) {
    try {
      const text = codec.format(value);
      if (typeof text === "string") return text;
    } catch {
      // A value of another form than the codec's: the next one is tried.
    }
  }
  return "";
}

/** The guide as Markdown. */
export function guideMarkdown(layout: Layout, rows: readonly GuideRow[]): string {
  const cell = (text: string) => text.replaceAll("|", "\\|").replaceAll("\n", " ") || " ";
  const lines = rows.map(
    ({ column, means, required, accepts, example, choices }) =>
      `| ${cell(column)} | ${cell(means)} | ${required ? "yes" : ""} | ${cell(choices.length > 0 ? choices.join(", ") : accepts)} | ${cell(example)} |`,
  );
  return `# ${layout.name}: the columns\n\n| column | what it means | needed | what is accepted | example |\n|---|---|---|---|---|\n${lines.join("\n")}\n`;
}

/** The sheets of the workbook to send: one to fill, with drop-downs, and the guide beside it. */
export function emptyWorkbook(layout: Layout, rows: readonly GuideRow[]): readonly SheetToWrite[] {
  const headerAt = layout.headerLine ?? 1;
  const above = Array.from({ length: headerAt - 1 }, (_, at) => [layout.notes[at] ?? ""]);
  const format =
    layout.format.is === "workbook" && typeof layout.format.sheet === "string" ? layout.format.sheet : "To fill";
  return [
    {
      name: format.slice(0, 31),
      rows: [...above, rows.map(({ column }) => column)],
      widths: rows.map(({ column, example }) => Math.min(40, Math.max(10, column.length + 2, example.length + 2))),
      frozenRows: headerAt,
      choices: new Map(rows.flatMap(({ choices }, at) => (choices.length > 0 ? [[at, choices] as const] : []))),
    },
    {
      name: "Columns",
      rows: [
        ["Column", "What it means", "Needed", "What is accepted", "Example"],
        ...rows.map(({ column, means, required, accepts, example, choices }) => [
          column,
          means,
          required ? "yes" : "",
          choices.length > 0 ? choices.join(", ") : accepts,
          example,
        ]),
      ],
      widths: [24, 48, 8, 48, 36],
      frozenRows: 1,
    },
  ];
}
