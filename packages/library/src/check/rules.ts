/** All rules of the catalogue itself, in the order in which they run; findings are put in source order afterwards. */

import { checkAmounts } from "./amounts.js";
import { checkAssortments } from "./assortments.js";
import { checkBarcodes } from "./barcodes.js";
import { checkBundles } from "./bundles.js";
import { checkCodes } from "./codes.js";
import { checkDates } from "./dates.js";
import { checkIdentifiers } from "./identifiers.js";
import { checkProductSorts } from "./product-sorts.js";
import { checkLookAlikes } from "./look-alikes.js";
import { checkOptions } from "./options.js";
import { checkPictureUses } from "./picture-uses.js";
import { checkPictures } from "./pictures.js";
import { checkPrices } from "./prices.js";
import { checkProperties } from "./properties.js";
import { checkQuantities } from "./quantities.js";
import { checkRelations } from "./relations.js";
import { checkSlugs } from "./slugs.js";
import { checkTexts } from "./texts.js";
import { checkTranslations } from "./translations.js";
import { checkLookAlikeValues, checkVariantValues } from "./values.js";
import { checkListedValues } from "./listed-values.js";
import type { CheckContext, Check } from "./rule.js";

const rules: readonly Check[] = [
  checkCodes,
  checkVariantValues,
  checkLookAlikeValues,
  checkLookAlikes,
  checkAmounts,
  checkPrices,
  checkBarcodes,
  checkPictures,
  checkRelations,
  checkTexts,
  checkTranslations,
  checkSlugs,
  checkListedValues,
  checkProductSorts,
  checkOptions,
  checkBundles,
  checkAssortments,
  checkProperties,
  checkQuantities,
  checkDates,
  checkIdentifiers,
  checkPictureUses,
];

/** Runs every rule over a resolved catalogue; what is wrong is added to the context's findings. */
export function checkCatalogue(context: CheckContext): void {
  for (const rule of rules) rule(context);
}
