/** All rules of the catalogue itself, in the order in which they run; findings are put in source order afterwards. */

import { checkBarcodes } from "./barcodes.js";
import { checkCodes } from "./codes.js";
import { checkPictures } from "./pictures.js";
import { checkPrices } from "./prices.js";
import { checkRelations } from "./relations.js";
import type { CheckContext, Rule } from "./rule.js";
import { checkSlugs } from "./slugs.js";
import { checkTexts } from "./texts.js";
import { checkTranslations } from "./translations.js";
import { checkLookAlikeValues, checkVariantValues } from "./values.js";

const rules: readonly Rule[] = [
  checkCodes,
  checkVariantValues,
  checkLookAlikeValues,
  checkPrices,
  checkBarcodes,
  checkPictures,
  checkRelations,
  checkTexts,
  checkTranslations,
  checkSlugs,
];

/** Runs every rule over a resolved catalogue; what is wrong is added to the context's findings. */
export function checkCatalogue(context: CheckContext): void {
  for (const rule of rules) rule(context);
}
