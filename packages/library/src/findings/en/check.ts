/** Findings about the catalogue itself, whatever the target. */

import { error, note, warning } from "../definition.js";
import { didYouMean, kindName, listed, money, quoted, some, type Text } from "../wording.js";

type Currency = { readonly currency?: string | undefined };

export const check = {
  "check/repeated-code": error(
    (f: { code: string; count: number }) =>
      `${some(f.count, "record has", "records have")} the code "${f.code}". A platform would keep only the last one`,
    "Give each record its own code.",
  ),
  "check/no-code": error((f: { kind: string }) => `the ${kindName(f.kind)} has no code`, "Give it a code."),
  "check/look-alike-values": warning(
    (f: { axis: string; one: string; other: string }) =>
      `${f.axis} has both "${f.one}" and "${f.other}". Shoppers would see two values`,
    "Write the value in one way everywhere.",
  ),
  "check/missing-value": error(
    (f: { axis: string }) => `the variant has no value for ${quoted(f.axis)}`,
    "Fill the cell.",
  ),
  "check/repeated-combination": error(
    (f: { values: string }) => `another variant of this product also has the values ${quoted(f.values)}`,
    "Change one of the two variants, or remove it.",
  ),
  "check/missing-combinations": note(
    (f: { present: number; possible: number; examples: readonly string[] }) =>
      `${f.present} of ${f.possible} combinations exist. Missing: ${listed(f.examples, f.possible - f.present)}`,
    "No action is needed if the others are not sold.",
  ),
  "check/barcode": error(
    (f: { barcode: string; problem: Text }) => `${quoted(f.barcode)} is not a valid GTIN: ${f.problem}`,
    "Get the number again from its source, in a column formatted as text.",
  ),
  "check/was-not-above": error(
    (f: Currency & { price: string; was: string }) =>
      `the earlier price (was) ${money(f.was, f.currency)} is not above the price ${money(f.price, f.currency)}`,
    "Correct one of the two, or empty the was price.",
  ),
  "check/offer-not-below": error(
    (f: Currency & { offer: string; price: string }) =>
      `the offer ${money(f.offer, f.currency)} is not below the price ${money(f.price, f.currency)}`,
    "Correct one of the two, or empty the offer.",
  ),
  "check/below-cost": warning(
    (f: Currency & { role: string; price: string; cost: string }) =>
      `the ${f.role} ${money(f.price, f.currency)} is below the cost ${money(f.cost, f.currency)}`,
    "Correct one of the two. Often one of them is in another currency, or with tax.",
  ),
  "check/no-cost": warning(
    (f: Currency & { price: string }) =>
      `the record has a price (${money(f.price, f.currency)}) but no cost. Other records of this sheet have one`,
    "Ask the supplier for the cost.",
  ),
  "check/short-code": warning(
    (f: { code: string; width: number }) =>
      `the code "${f.code}" has fewer than the ${f.width} digits of the other codes. A spreadsheet program may have removed leading zeros`,
    'Get it again from its source, or set "fix: { pad: … }" in the layout.',
  ),
  "check/damaged-text": warning(
    (f: { field: string; text: string; damage: Text; right: string | undefined }) =>
      `${f.field} ${quoted(f.text)} contains ${f.damage}${f.right === undefined ? "" : `. It should probably be ${quoted(f.right)}`}`,
    'Get it again from its source, or set "fix" in the layout if there is a fix for it.',
  ),
  "check/half-character": error(
    (f: { field: string }) => `${f.field} contains half of a character, which no file can store`,
    "Type the text again. Programs that shorten texts sometimes cut a character in two.",
  ),
  "check/missing-translation": warning(
    (f: { fields: readonly string[]; lang: string }) =>
      `${f.fields.join(", ")} ${f.fields.length === 1 ? "is" : "are"} missing in ${f.lang}`,
    "Have it translated, or derive it from another language with a mark.",
  ),
  "check/repeated-slug": error(
    (f: { slug: string; kind: string }) => `another ${kindName(f.kind)} also has the slug "${f.slug}"`,
    "Give each its own slug, or derive them: derived slugs are always different.",
  ),
  "check/repeated-tier": error(
    (f: { from: string; group: string }) => `there are two prices from quantity ${f.from} for ${f.group}`,
    "Remove one of them.",
  ),
  "check/picture-missing": warning(
    (f: { file: string }) => `there is no file for the picture "${f.file}"`,
    "Put the file into the picture folder, or correct its name.",
  ),
  "check/picture-refused": error(
    (f: { file: string; refusedBy: readonly string[] }) =>
      `there is no file for the picture "${f.file}". ${f.refusedBy.join(", ")} ${f.refusedBy.length === 1 ? "refuses" : "refuse"} the row`,
    "Put the file into the picture folder, or correct its name.",
  ),
  "check/picture-unused": note(
    (f: { count: number; examples: readonly string[] }) =>
      `${some(f.count, "picture", "pictures")} in the folder ${f.count === 1 ? "is" : "are"} used by no record: ${listed(f.examples, f.count)}`,
    "No action is needed if they are left over.",
  ),
  "check/related-to-itself": warning(
    (f: { relation: string }) => `the product is related to itself (${f.relation})`,
    "Remove it from its own list.",
  ),
  "check/relation-refused": error(
    (f: { relation: string; refusedBy: readonly string[] }) =>
      `the product is related to itself (${f.relation}). ${f.refusedBy.join(", ")} ${f.refusedBy.length === 1 ? "refuses" : "refuse"} the row`,
    "Remove it from its own list.",
  ),
  "check/unknown-value": error(
    (f: { field: string; word: string; among: readonly string[]; nearest: string | undefined }) =>
      `${f.field} is ${quoted(f.word)}. Allowed are ${f.among.join(", ")}${didYouMean(f.nearest)}`,
    'Correct the value, or translate it under "code words" in the layout.',
  ),
  "check/weight-of-nothing": warning(
    (f: { sort: string }) => `the product has a weight, but it is a ${f.sort}`,
    "Remove the weight, or correct the sort of product.",
  ),
  "check/no-hire-price": error(
    (_: object) => "the product is for hire, but it has no price for a period",
    "Give it a price with a hire period.",
  ),
  "check/hire-price": error(
    (f: { sort: string }) => `the product has a price for a hire period, but its sort is ${f.sort}`,
    "Correct the sort of product, or remove the hire period.",
  ),
  "check/no-choice": error(
    (f: { choices: number }) =>
      f.choices === 0 ? "the option group has no choices" : "the option group is required but has only one choice",
    "Add choices, or remove the option group.",
  ),
  "check/surcharge": error(
    (f: { surcharge: string }) => `a surcharge of ${f.surcharge} percent is above 100`,
    'Correct it. If it is an amount, set "surchargeIs" to "amount".',
  ),
  "check/component-twice": error(
    (f: { component: string }) => `the component "${f.component}" is listed twice`,
    "Remove one of the two, and correct the quantity of the other.",
  ),
  "check/negative": error((f: { field: string; value: string }) => `${f.field} is ${f.value}`, "Correct the number."),
  "check/below-zero": warning(
    (f: { field: string; value: string }) => `${f.field} is ${f.value}`,
    "Correct the number, or upload it if the platform counts below zero.",
  ),
  "check/zero": error(
    (f: { field: string; value: string }) => `${f.field} is ${f.value}, and has to be 1 or more`,
    "Correct the number, or remove it.",
  ),
  "check/for-nothing": warning(
    (f: { field: string; value: string }) => `${f.field} is ${f.value}: it is given away`,
    "Correct the number, unless it costs nothing.",
  ),
  "check/no-amount": error(
    (f: { field: string }) => `there is an entry without ${f.field}`,
    "Add the number, or remove what else the row or cell has for the entry.",
  ),
  "check/no-quantity": warning(
    (f: { field: string }) => `there is a component without ${f.field}`,
    "Add the number. Most platforms take 1 without it.",
  ),
  "check/tiers-overlap": error(
    (f: { from: string; end: string }) =>
      `the price from quantity ${f.from} begins before the one below it ends (quantity ${f.end})`,
    "Let one end before the other begins.",
  ),
  "check/look-alike-names": warning(
    (f: { kind: string; one: string; other: string }) =>
      f.one === f.other
        ? `two ${kindName(f.kind)} records in one place are called ${quoted(f.one)}`
        : `the ${kindName(f.kind)} names ${quoted(f.one)} and ${quoted(f.other)} differ in case, spaces or one letter only`,
    "Write them in one way if they are the same. Otherwise no action is needed.",
  ),
  "check/look-alike-keys": warning(
    (f: { kind: string; one: string; other: string }) =>
      `the ${kindName(f.kind)} keys ${quoted(f.one)} and ${quoted(f.other)} differ in case, spaces or accents only`,
    "Write the key in one way on all rows if it is one record. The rows of the other spelling became a record of their own.",
  ),
  "check/role-hidden": warning(
    (f: { role: string; file: string }) => `the picture "${f.file}" has the role ${f.role}, but it is hidden`,
    "Show it, or give the role to another picture.",
  ),
  "check/picture-of-another": warning(
    (f: { role: string; file: string; of: string }) =>
      `the picture "${f.file}" has the role ${f.role} here, but it is among the pictures of "${f.of}" and not among these`,
    "Name a picture of this record, or add it to its pictures.",
  ),
  "check/bundle-dearer": warning(
    (f: Currency & { price: string; sum: string }) =>
      `the bundle costs ${money(f.price, f.currency)}, but its components cost ${money(f.sum, f.currency)} together`,
    "Correct the price, or derive it from the sum.",
  ),
  "check/bundle-lighter": warning(
    (f: { weight: string; sum: string }) =>
      `the bundle weighs ${f.weight} kg, but its components weigh ${f.sum} kg together`,
    "Correct the weight, or derive it from the sum.",
  ),
  "check/members-and-rule": error(
    (_: object) => "the assortment has both members and a rule",
    "Remove one of the two. With a rule, the members follow from it.",
  ),
  "check/empty-assortment": warning(
    (_: object) => "the assortment is empty",
    "Give it members or a rule, or remove it.",
  ),
  "check/property-type": error(
    (f: { property: string; type: string; value: string }) =>
      `${quoted(f.value)} is not a ${f.type}, which ${f.property} needs`,
    "Correct the value, or the type of the property.",
  ),
  "check/least-above-most": error(
    (f: { low: string; high: string; least: string; most: string }) =>
      `${f.low} is ${f.least}, which is above ${f.high} (${f.most})`,
    "Correct one of the two.",
  ),
  "check/ends-before": error(
    (f: { from: string; until: string }) => `the price ends on ${f.until}, before it begins on ${f.from}`,
    "Correct one of the two dates.",
  ),
  "check/prices-overlap": error(
    (f: { role: string; from: string; until: string }) =>
      `another ${f.role} is valid at the same time (${f.from || "no start"} to ${f.until || "no end"})`,
    "Let one end before the other begins.",
  ),
  "check/repeated-identifier": warning(
    (f: { type: string; value: string }) => `another record also has the ${f.type} "${f.value}"`,
    "Correct one of the two.",
  ),
  "check/picture-twice": warning(
    (f: { file: string }) => `the picture "${f.file}" is listed twice with the same role`,
    "Remove one of them.",
  ),
  "check/picture-position": warning(
    (f: { position: string; file: string; other: string }) =>
      `the pictures "${f.other}" and "${f.file}" both have position ${f.position}`,
    "Number them in the order that you want.",
  ),
  "check/no-image-link": warning(
    (f: { link: string }) => `"${f.link}" does not look like the address of an image`,
    "Give the address of the image itself, not of a page that shows it.",
  ),
};
