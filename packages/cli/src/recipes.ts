/** The recipes of `examples/recipes/`: a folder each, with `recipe.yaml`, which tells what is done and what comes out. */

import { readdirSync, readFileSync } from "node:fs";
import { parse } from "yaml";
import { z } from "zod";

const root = new URL("../../../../", import.meta.url);
/** With a folder for each recipe. */
export const recipesFolder = new URL("examples/recipes/", root);

const line = z.string().min(1);
/** By file: the text that is replaced, and by what. */
const edits = z.record(line, z.strictObject({ from: line, to: z.string() }));

/** What Zest Tier reports: the code, the place, the message. */
const report = z.strictObject({ code: line, at: z.string(), says: line });

const step = z.strictObject({
  /** What is done here, for people. */
  text: line.optional(),
  edits: edits.optional(),
  /** The folder with what the platform sends back for the last upload. */
  reports: line.optional(),
  /** The words of a command. */
  run: line.optional(),
  /** The folder with the import files that it writes, made by hand. */
  writes: line.optional(),
  /** The file with what it prints. */
  prints: line.optional(),
  /** What it reports beside that. */
  finds: z.array(report).optional(),
});

const mistake = z.strictObject({
  /** What somebody does wrong. */
  text: line,
  edits,
  run: line.default("check"),
  finds: report,
});

const recipe = z.strictObject({
  title: line,
  /** What somebody needs, in a sentence. */
  need: line,
  about: z.enum(["first import", "later import"]),
  have: line,
  wants: line,
  steps: z.array(step).min(1),
  look: line,
  mistakes: z.array(mistake).min(1),
});

/** A command and what comes of it. */
export type RecipeStep = z.infer<typeof step>;
/** Something done wrong, and what is reported of it. */
export type RecipeMistake = z.infer<typeof mistake>;
/** A small job with a platform of its own. */
export type Recipe = z.infer<typeof recipe> & { readonly name: string };

const coverage = z.record(
  line,
  z.array(z.union([z.strictObject({ says: line, by: line.optional() }), z.strictObject({ says: line, not: line })])),
);

/** Something that people need: shown by the recipe, by what `by` names (a recipe or a test), or not at all, with the reason. */
export type CoveredNeed = z.infer<typeof coverage>[string][number];

/** What people need, by the recipe that it belongs to. @throws where the file is not written so. */
export function readCoverage(): Readonly<Record<string, readonly CoveredNeed[]>> {
  const parsed = coverage.safeParse(parse(readFileSync(new URL("coverage.yaml", recipesFolder), "utf8")));
  if (!parsed.success) throw new Error(`coverage.yaml: ${z.prettifyError(parsed.error)}`);
  return parsed.data;
}

/** All recipes, by name. @throws where one is not written as recipes are. */
export function readRecipes(): readonly Recipe[] {
  const folders = readdirSync(recipesFolder, { withFileTypes: true }).filter((one) => one.isDirectory());
  return folders.map(({ name }) => {
    const text = readFileSync(new URL(`${name}/recipe.yaml`, recipesFolder), "utf8");
    const parsed = recipe.safeParse(parse(text));
    if (!parsed.success) throw new Error(`${name}/recipe.yaml: ${z.prettifyError(parsed.error)}`);
    return { name, ...parsed.data };
  });
}
