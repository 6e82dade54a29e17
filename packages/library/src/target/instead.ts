/** What a target cannot carry: the nearest thing that can be done for it. By what is lost, the first that fits. */
import { phrase, type Template, type Text } from "../phrases/phrase.js";

const alternatives: readonly (readonly [RegExp, Template])[] = [
  [
    /^(option-group|choice)$|\.optionGroups$/,
    "write the choices into the description, or make variants of those that change the price",
  ],
  [/\.components/, "name the components and their quantities in the description, and sell the bundle as a product"],
  [/^assortment$/, "put its members into a category of that name"],
  [/^(property|property-group)$|\.properties/, "derive a line of the description from each property"],
  [/\.redirects/, "set up redirects from the old addresses on the web server"],
  [/\.identifiers/, "add the number to the description, or keep it in the ERP"],
  [/\.(length|width|height)$/, "derive a line of the description from the measures"],
  [/\.visibleTo$/, "leave it out of the upload, or show it to everybody"],
  [/\.quantity(Step|Least|Most)$/, "mention it in the description"],
  [/^supplier$|\.supplies/, "keep it in the ERP, because a shop does not need it"],
  [/\.prices\((offer|was)\)/, "derive the price from it while it is valid"],
  [/\.prices\(cost\)/, "keep it in the ERP, because shoppers must not see it"],
  [/\.prices/, "sell what has another price as a product of its own, or leave the price to the till"],
  [/\.stock/, "add up the quantities of all locations"],
  [/\.pictures/, "put it among the pictures of the product"],
  [/\.relations/, "name the related products in the description"],
  [/\.(searchTitle|searchText|slug)/, "the platform makes its own from the name"],
  [/^category\.description@/, "put it on a page of its own, or into the texts of its products"],
  [/@[a-z]/, "upload the language to another account, if the platform offers that"],
  [/\.sort$/, "put such products into a category of their own"],
];

/** @param lost a field as `product.prices(offer)`, or a kind. */
export function insteadOf(lost: string): Text | undefined {
  const alternative = alternatives.find(([pattern]) => pattern.test(lost))?.[1];
  return alternative && phrase(alternative);
}
