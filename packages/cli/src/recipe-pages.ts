/** docs/recipes/: a page for each recipe, from its folder, and a list of them. */

import { readdirSync, readFileSync } from "node:fs";
import { extname } from "node:path";
import { parse } from "yaml";
import {
  readCoverage,
  readRecipes,
  recipesFolder,
  type CoveredNeed,
  type Recipe,
  type RecipeMistake,
  type RecipeStep,
} from "./recipes.js";

const mostLines = 24;

/** By path from the project's root. @param made the note that a page is made. */
export function recipePages(made: string): readonly (readonly [string, string])[] {
  const recipes = readRecipes();
  return [
    ["docs/recipes/index.md", indexPage(made, recipes)],
    ["docs/recipes/coverage.md", coveragePage(made, recipes)],
    ...recipes.map((one) => [`docs/recipes/${one.name}.md`, pageOf(made, one)] as const),
  ];
}

/** By code of a finding: links to the recipes that show it. */
export function recipesByFinding(): ReadonlyMap<string, readonly string[]> {
  const links = new Map<string, string[]>();
  for (const { name, mistakes } of readRecipes())
    for (const code of new Set(mistakes.map(({ finds }) => finds.code)))
      links.set(code, [...(links.get(code) ?? []), `[${name}](recipes/${name}.md#mistakes)`]);
  return links;
}

function indexPage(made: string, recipes: readonly Recipe[]): string {
  const tableOf = (about: Recipe["about"]) =>
    [
      "| recipe | what you need |",
      "| --- | --- |",
      ...recipes.flatMap((one) =>
        one.about === about ? [`| [${one.title}](${one.name}.md) | ${one.need.trim().replaceAll("|", "\\|")} |`] : [],
      ),
    ].join("\n");
  return `${[
    "# Recipes",
    made,
    "Each recipe is a small job with a platform of its own. Its folder in `examples/recipes/` has every file that its page shows. `npm run recipes` runs all of them. [What the recipes show](coverage.md) lists every need, and what is not shown.",
    "## First imports",
    tableOf("first import"),
    "## Later imports",
    tableOf("later import"),
  ].join("\n\n")}\n`;
}

function coveragePage(made: string, recipes: readonly Recipe[]): string {
  const coverage = readCoverage();
  const isRecipe = (name: string) => recipes.some((one) => one.name === name);
  const shownBy = (recipe: string, need: CoveredNeed): string => {
    if ("not" in need) return `**not**: ${need.not}`;
    const by = need.by ?? recipe;
    return isRecipe(by) ? `[${by}](${by}.md)` : `test: ${by}`;
  };
  const all = Object.values(coverage).flat();
  const left = all.filter((need) => "not" in need).length;
  return `${[
    "# What the recipes show",
    made,
    `${all.length} needs, sentence by sentence. ${left} of them are not shown.`,
    ...recipes.map(({ name, title }) =>
      [
        `## ${title}\n`,
        "| what people need | shown in |",
        "| --- | --- |",
        ...(coverage[name] ?? []).map((need) => `| ${need.says} | ${shownBy(name, need)} |`),
      ].join("\n"),
    ),
  ].join("\n\n")}\n`;
}

function pageOf(made: string, recipe: Recipe): string {
  const { name, title, need, have, wants, steps, look, mistakes } = recipe;
  const project = textOf(name, "project.yaml");
  const { sources, targets } = parse(project) as {
    readonly sources: readonly { readonly file: string; readonly layout: string }[];
    readonly targets: readonly { readonly target: string }[];
  };
  const unique = (names: readonly string[]) => [...new Set(names)];
  return `${[
    `# ${title}`,
    made,
    need.trim(),
    `The folder is [\`examples/recipes/${name}\`](../../examples/recipes/${name}). Commands run in it.`,
    "## What you have",
    have.trim(),
    ...unique(sources.map(({ file }) => file)).map((file) => shown(name, file)),
    "## What the platform wants",
    wants.trim(),
    ...targets.map(({ target }) => shown(name, target, false)),
    "## The project",
    shown(name, "project.yaml", false),
    ...unique(sources.map(({ layout }) => layout)).map((layout) => shown(name, layout, false)),
    "## Run it",
    ...steps.flatMap((step) => stepText(name, step, targetName(name, targets[0]!.target))),
    "## What to look at",
    look.trim(),
    "## Mistakes",
    ...mistakes.flatMap(mistakeText),
  ].join("\n\n")}\n`;
}

const textOf = (recipe: string, file: string): string =>
  readFileSync(new URL(`${recipe}/${file}`, recipesFolder), "utf8");

const binary: ReadonlySet<string> = new Set([".xlsx", ".xls", ".ods", ".zip", ".png"]);

function shown(recipe: string, file: string, isCut = true): string {
  if (binary.has(extname(file))) return `\`${file}\` is a workbook; its cells are those of \`${file}.csv\`.`;
  const lines = textOf(recipe, file).trimEnd().split("\n");
  const kept = isCut ? lines.slice(0, mostLines) : lines;
  const rest = lines.length > kept.length ? `\n\n${lines.length - kept.length} more lines.` : "";
  return `\`${file}\`:\n\n${fenced(kept.join("\n"), languageOf(file))}${rest}`;
}

const languageOf = (file: string): string =>
  ({ ".yaml": "yaml", ".json": "json", ".xml": "xml" })[extname(file)] ?? "text";

/** Longer fences stand around what has fences itself. */
const fenced = (text: string, language: string): string => {
  const fence = text.includes("```") ? "````" : "```";
  return `${fence}${language}\n${text}\n${fence}`;
};

const targetName = (recipe: string, file: string): string =>
  (parse(textOf(recipe, file)) as { readonly target: string }).target;

function stepText(
  recipe: string,
  { text, edits = {}, reports, run, writes, prints, finds = [] }: RecipeStep,
  target: string,
): string[] {
  return [
    ...(text === undefined ? [] : [text.trim()]),
    ...editsText(edits),
    ...(reports === undefined
      ? []
      : [
          `Save what the platform sends back in \`reports-${target}\`. Here its files are in \`${reports}\`:`,
          fenced(`rm -rf reports-${target}\ncp -r ${reports} reports-${target}`, "sh"),
        ]),
    ...(run === undefined ? [] : [fenced(`zest-tier ${run}`, "sh")]),
    ...(writes === undefined ? [] : writtenText(recipe, writes)),
    ...(prints === undefined ? [] : [fenced(textOf(recipe, prints).trimEnd(), "text")]),
    ...(finds.length === 0 ? [] : ["It also reports:", ...finds.flatMap(findingText)]),
  ];
}

function writtenText(recipe: string, folder: string): string[] {
  const names = readdirSync(new URL(`${recipe}/${folder}/`, recipesFolder)).sort();
  if (names.length === 0) return ["It writes no import file."];
  return [
    "It writes:",
    ...names.map((name) => {
      const written = name.replace(/(\.xlsx?)\.csv$/, "$1");
      const text = textOf(recipe, `${folder}/${name}`).trimEnd().split("\n");
      const rest = text.length > mostLines ? `\n\n${text.length - mostLines} more lines.` : "";
      return `\`${written}\`:\n\n${fenced(text.slice(0, mostLines).join("\n"), languageOf(name))}${rest}`;
    }),
  ];
}

const editsText = (edits: RecipeMistake["edits"]): string[] =>
  Object.entries(edits).map(([file, { from, to }]) => {
    const isShort = !from.includes("\n") && !to.includes("\n");
    if (isShort && to !== "") return `In \`${file}\`, \`${from}\` becomes \`${to}\`.`;
    if (to === "") return `In \`${file}\`, this is left out:\n\n${fenced(from.trimEnd(), "text")}`;
    return `In \`${file}\`, this\n\n${fenced(from.trimEnd(), "text")}\n\nbecomes\n\n${fenced(to.trimEnd(), "text")}`;
  });

const findingText = ({ code, at, says }: RecipeMistake["finds"]): string[] => [
  fenced(`${says}${at === "" ? "" : `\n      ${at}`}`, "text"),
  `[\`${code}\`](../findings.md#${code.split("/")[0]!})`,
];

const mistakeText = ({ text, edits, run, finds }: RecipeMistake): string[] => [
  `### ${text.trim().replace(/\.$/, "")}`,
  ...editsText(edits),
  fenced(`zest-tier ${run}`, "sh"),
  ...findingText(finds),
];
