/** What a target cannot carry: the nearest thing that can be done for it. By what is lost, the first that fits. */

const ways: readonly (readonly [RegExp, string])[] = [
  [
    /^(option-group|choice)$|\.optionGroups$/,
    "write the choices into the description, or make variants of those that change the price",
  ],
  [/\.components/, "name the parts and their quantities in the description; the bundle itself is sold as a product"],
  [/^assortment$/, "put its members into a category of that name"],
  [/^(property|property-group)$|\.properties/, "derive a line of the description from each fact"],
  [/\.redirects/, "set up the old addresses where the shop's web server redirects"],
  [/\.identifiers/, "add the number to the description, or to the code that the ERP knows"],
  [/\.(length|width|height)$/, "derive a line of the description from the measures"],
  [/\.visibleTo$/, "leave it out of what is uploaded, or show it to everybody"],
  [/\.quantity(Step|Least|Most)$/, "say it in the description"],
  [/^supplier$|\.supplies/, "keep it in the ERP; the shop does not need it"],
  [/\.prices\((offer|was)\)/, "derive the regular price from it while it is valid"],
  [/\.prices\(cost\)/, "keep it in the ERP; shoppers are not to see it"],
  [/\.prices/, "make products of their own of what has another price, or leave the price to the till"],
  [/\.stock/, "add the quantities of all places up into one"],
  [/\.pictures/, "put it among the product's pictures"],
  [/\.relations/, "name the related products in the description"],
  [/\.(searchTitle|searchText|slug)/, "the platform makes its own of the name"],
  [/^category\.description@/, "put it on a page of its own, or into the texts of the branch's products"],
  [/@[a-z]/, "upload the language to an account of its own, if the platform has such"],
  [/\.sort$/, "put such products into a category of their own"],
];

/** @param lost a field as `product.prices(offer)`, or a kind. */
export function insteadOf(lost: string): string | undefined {
  return ways.find(([pattern]) => pattern.test(lost))?.[1];
}
