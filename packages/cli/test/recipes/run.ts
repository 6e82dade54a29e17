/** `npm run recipes [NAME …]`: runs the recipes, or those that are named. */

import { readRecipes } from "#src/recipes.js";
import { runRecipe } from "./run-recipe.js";

const named = process.argv.slice(2);
const all = readRecipes();
const unknown = named.filter((name) => !all.some((one) => one.name === name));
if (unknown.length > 0) throw new Error(`there is no recipe ${unknown.join(", ")}`);
let failed = 0;
for (const recipe of all.filter(({ name }) => named.length === 0 || named.includes(name))) {
  const problem = await runRecipe(recipe).then(
    () => undefined,
    (error: unknown) => (error instanceof Error ? error.message : String(error)),
  );
  const counts = `${recipe.steps.filter(({ run }) => run).length} commands, ${recipe.mistakes.length} mistakes`;
  console.log(
    problem === undefined ? `as expected  ${recipe.name}: ${counts}` : `FAILED       ${recipe.name}: ${problem}`,
  );
  failed += Number(problem !== undefined);
}
process.exitCode = failed > 0 ? 1 : 0;
