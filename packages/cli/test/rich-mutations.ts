/**
 * The proof must not agree with itself, on the platforms of records too: one rule of a target is changed at a time, and generated
 * catalogues have to show that the rehearsal and the stand-in no longer agree, or that a clean one is not rebuilt.
 */

import assert from "node:assert/strict";
import { after, before, test } from "node:test";
import fc from "fast-check";
import { startStandIn, type StandIn, type StandInName } from "@zest-tier/standins";
import { Ledger, writeZip } from "zest-tier";
import { damagedRich, pictureNames, readRich, rich, shipped } from "./rich.js";
import { Known, playRounds } from "./rounds.js";

const tries = Number(process.env["MUTATION_TRIES"] ?? 150);
const zip = writeZip(new Map(pictureNames.map((name) => [name, new Uint8Array([1])])));

/**
 * Not among them, as they make no difference by themselves: that an entry may come twice in a list, since reading keeps each once; that
 * an article without codes stays, since every generated product is sold in some form; that a blank story clears, since rows are written
 * only where there is one.
 */
const mutations: Readonly<Record<"saltmarsh" | "tollgate", readonly (readonly [string, string, string])[]>> = {
  saltmarsh: [
    ["a refusal costs the file", "refusal costs: row", "refusal costs: file"],
    [
      "a new branch is open",
      'Open: { blank: leave, starts as: "false" }\n      Path: &path',
      'Open: { blank: leave, starts as: "true" }\n      Path: &path',
    ],
    [
      "titles may be longer",
      "&title { required: true, blank: leave, characters at most: 120 }",
      "&title { required: true, blank: leave, characters at most: 200 }",
    ],
    ["titles are not needed", "&title { required: true,", "&title { required: false,"],
    ["tags may be longer", "Tag: &tag { characters at most: 60 }", "Tag: &tag { characters at most: 90 }"],
    ["ranks may be higher", 'to: "9999" }', 'to: "99999" }'],
    [
      "charges may have three places",
      'to: "999999999.99", places at most: 2 }\n      Charge is',
      'to: "999999999.99", places at most: 3 }\n      Charge is',
    ],
    [
      "texts may be longer",
      "Text: { characters at most: 4000 }\n      Branches",
      "Text: { characters at most: 9000 }\n      Branches",
    ],
    [
      "barcodes are not checked",
      "Weight: *weight\n      Barcode: { gtin: true }",
      "Weight: *weight\n      Barcode: {}",
    ],
    [
      "codes may hold anything",
      "Code: { required: true, blank: leave, characters at most: 40, only: A-Za-z0-9._- }",
      "Code: { required: true, blank: leave, characters at most: 40 }",
    ],
    [
      "codes may be longer",
      "Code: { required: true, blank: leave, characters at most: 40,",
      "Code: { required: true, blank: leave, characters at most: 60,",
    ],
    [
      "weights may have more places",
      'to: "999999999.999", places at most: 3 }',
      'to: "999999999.999", places at most: 6 }',
    ],
    [
      "amounts may have three places",
      'Amount: { required: true, from: "0", to: "999999999.99", places at most: 2 }',
      'Amount: { required: true, from: "0", to: "999999999.999", places at most: 3 }',
    ],
    ["prices may be from 1", 'From: { from: "2", to', 'From: { from: "1", to'],
    ["sorts of amounts are not needed", "Sort: { required: true }\n      From", "Sort: {}\n      From"],
    ["pictures are not looked for", "Picture: { required: true, picture: true,", "Picture: { required: true,"],
    ["parts may come no times", 'Count: { required: true, from: "1"', 'Count: { required: true, from: "0"'],
    [
      "ties may have long names",
      "Sort: { required: true, characters at most: 40 }",
      "Sort: { required: true, characters at most: 80 }",
    ],
    [
      "a state starts as paused",
      "State: { starts as: selling }\n      Long: &measure",
      "State: { starts as: paused }\n      Long: &measure",
    ],
    ["a nature starts as a service", "Nature: { starts as: goods }", "Nature: { starts as: service }"],
    [
      "circles are no key of amounts",
      "entry key: [Sort, From, Circle, Begins, Ends, Per]",
      "entry key: [Sort, Begins, Ends]",
    ],
    ["paths are not made", "blank: generate, generated from: Title, characters", "blank: leave, characters"],
    ["paths are made of the tag", "generated from: Title", "generated from: Tag"],
    [
      "paths may hold anything",
      "characters at most: 80, only: a-z0-9- }\n      Seek",
      "characters at most: 80 }\n      Seek",
    ],
    [
      "stories may be longer",
      "columns: { Text: { blank: leave, characters at most: 4000 } }",
      "columns: { Text: { blank: leave } }",
    ],
    ["languages of stories are swapped", "words: { en: en, de: de, fr", "words: { en: de, de: en, fr"],
    ["languages are no key of bends", "entry key: [From, Lang]", "entry key: [From]"],
    ["steps may be none", 'Step: &step { from: "1"', 'Step: &step { from: "0"'],
    ["measures have more places", 'to: "999999999.9", places at most: 1 }', 'to: "999999999.9", places at most: 2 }'],
    ["a trait's sort starts as a number", "Sort: { starts as: text }", "Sort: { starts as: number }"],
    ["search titles may be longer", "&seekTitle { characters at most: 70", "&seekTitle { characters at most: 90"],
    ["sorts are no key of ties", "entry key: [Sort, Good]", "entry key: [Good]"],
    [
      "two words are swapped",
      "words: { price: price, was: was, cost: cost",
      "words: { was: price, price: was, cost: cost",
    ],
    [
      "another separator is written",
      'Branches: { field: product.categories, as: { list: " "',
      'Branches: { field: product.categories, as: { list: ","',
    ],
    [
      "a decimal comma is written",
      "Weight: { field: variant.weight, as: decimal }",
      'Weight: { field: variant.weight, as: { decimal: "," } }',
    ],
    [
      "two columns are swapped",
      'Text: { field: product.description@en, line ends: " " }',
      'Text: { field: product.name@en, line ends: " " }',
    ],
    [
      "branches are named by their tags",
      "Under: { field: category.parent, as: { by: id } }",
      "Under: { field: category.parent, as: { by: key } }",
    ],
  ],
  tollgate: [
    [
      "a refusal costs the row",
      "refusal costs: file\n      looked up: at the end of the file\n      unknown names: refuse\n      parent without children: refuse",
      "refusal costs: row\n      looked up: as rows arrive\n      unknown names: refuse\n      parent without children: kept",
    ],
    ["links are looked up as rows arrive", "looked up: at the end of the file", "looked up: as rows arrive"],
    [
      "names may be longer",
      "Name EN: { required: true, blank: refuse, characters at most: 100 }",
      "Name EN: { required: true, blank: refuse, characters at most: 200 }",
    ],
    [
      "names are not needed",
      "Name EN: { required: true, blank: refuse, characters at most: 100 }",
      "Name EN: { characters at most: 100 }",
    ],
    [
      "texts may be longer",
      "Text EN: &text { characters at most: 3000 }",
      "Text EN: &text { characters at most: 3800 }",
    ],
    [
      "sections need not be listed",
      'Section: { in list: { name: sections, joined by: ">" } }',
      "Section: { unknown: create }",
    ],
    ["places need not be listed", ", in list: places }", " }"],
    ["suppliers need not be listed", "Supplied by: { in list: suppliers }", "Supplied by: { unknown: create }"],
    ["a part may be missing", "Supplied by/code: { required: true }", "Supplied by/code: {}"],
    ["choices may lack a charge", "Options/choice/surcharge: { required: true }", "Options/choice/surcharge: {}"],
    ["parts may come no times", 'Parts/quantity: { required: true, from: "1" }', "Parts/quantity: { required: true }"],
    [
      "steps may be from 1",
      'Steps/quantityFrom: { required: true, from: "2" }',
      "Steps/quantityFrom: { required: true }",
    ],
    ["features may be longer", "Feature {n}: { characters at most: 40 }", "Feature {n}: { characters at most: 90 }"],
    ["a blank tax clears", "Tax: { blank: inherit, inherits: account tax, in list: taxes }", "Tax: { in list: taxes }"],
    [
      "the account's tax is another",
      "choices: [standard, reduced], preset: standard",
      "choices: [standard, reduced], preset: reduced",
    ],
    ["values may be longer", "Is {n}: { characters at most: 60 }", "Is {n}: { characters at most: 200 }"],
    ["pictures are not looked for", "Pictures: { picture: true }", "Pictures: {}"],
    ["codes may hold anything", "only: A-Z0-9- }", "only: A-Za-z0-9 .!- }"],
    [
      "codes may be longer",
      "Code: { required: true, characters at most: 30",
      "Code: { required: true, characters at most: 60",
    ],
    ["a price is not needed", "Price: { required: true, blank: refuse, from", "Price: { from"],
    ["a struck price may be lower", ", above: Price", ""],
    [
      "hire is for all",
      'Day:\n        from: "0"\n        to: "999999999.99"\n        only if: { field: sort, is: hire }',
      'Day:\n        from: "0"\n        to: "999999999.99"',
    ],
    ["what is rented needs no hire", "        needed if: { field: sort, is: hire, or: [Week] }\n", ""],
    ["most may be below least", ", not below: Least", ""],
    ["barcodes are not checked", "Barcode: { gtin: true }", "Barcode: {}"],
    [
      "weights may have more places",
      'to: "999999999.999", places at most: 3',
      'to: "999999999.999", places at most: 6',
    ],
    [
      "a blank stock clears",
      '{ blank: leave, starts as: "0", from: "0", to: "999999999", in list: places, overwritten',
      '{ starts as: "0", from: "0", to: "999999999", in list: places, overwritten',
    ],
    [
      "a new code has no stock",
      '{ blank: leave, starts as: "0", from: "0", to: "999999999", in list: places, overwritten',
      '{ blank: leave, from: "0", to: "999999999", in list: places, overwritten',
    ],
    [
      "two columns are swapped",
      "Goes with: { field: product.relations(goes-with).to",
      "Goes with: { field: product.relations(spare-part).to",
    ],
    [
      "another separator is written",
      "Pictures: { field: product.pictures.file, as: { list: ;",
      "Pictures: { field: product.pictures.file, as: { list: '|'",
    ],
    [
      "a decimal comma is written",
      "Price: { field: variant.prices(price).amount, as: { decimal: ., places: 2 } }",
      'Price: { field: variant.prices(price).amount, as: { decimal: ",", places: 2 } }',
    ],
    [
      "money has no fixed places",
      "Price: { field: variant.prices(price).amount, as: { decimal: ., places: 2 } }",
      "Price: { field: variant.prices(price).amount, as: { decimal: . } }",
    ],
    ["code words are swapped", "words: { A: selling, P: paused", "words: { P: selling, A: paused"],
  ],
};

/** By mutation, the pair that shows it as far as is known: tried first. Wherever that no longer holds, all are tried. */
const shownBy: Readonly<Record<keyof typeof mutations, Readonly<Record<string, number>>>> = {
  saltmarsh: {
    "a refusal costs the file": 1,
    "a new branch is open": 21,
    "titles may be longer": 25,
    "titles are not needed": 1,
    "tags may be longer": 14,
    "ranks may be higher": 20,
    "charges may have three places": 24,
    "texts may be longer": 1,
    "barcodes are not checked": 8,
    "codes may hold anything": 114,
    "codes may be longer": 31,
    "weights may have more places": 7,
    "amounts may have three places": 26,
    "prices may be from 1": 27,
    "sorts of amounts are not needed": 30,
    "pictures are not looked for": 12,
    "parts may come no times": 32,
    "ties may have long names": 91,
    "paths may hold anything": 20,
    "stories may be longer": 44,
    "steps may be none": 46,
    "measures have more places": 45,
    "search titles may be longer": 15,
    "sorts are no key of ties": 17,
  },
  tollgate: {
    "a refusal costs the row": 1,
    "names may be longer": 7,
    "names are not needed": 1,
    "texts may be longer": 3,
    "a part may be missing": 13,
    "choices may lack a charge": 51,
    "parts may come no times": 32,
    "steps may be from 1": 27,
    "features may be longer": 9,
    "values may be longer": 129,
    "pictures are not looked for": 12,
    "codes may hold anything": 57,
    "codes may be longer": 10,
    "a price is not needed": 5,
    "a struck price may be lower": 6,
    "hire is for all": 50,
    "what is rented needs no hire": 4,
    "most may be below least": 7,
    "barcodes are not checked": 8,
    "weights may have more places": 7,
    "a blank stock clears": 88,
  },
};

/** Makes the tests of one platform: each in a file of its own, so that they run beside each other. */
export function testMutations(name: StandInName & keyof typeof mutations): void {
  let standIn: StandIn;
  before(async () => {
    standIn = await startStandIn(name);
  });
  after(() => standIn.stop());
  const clean = fc.sample(rich(), { numRuns: 6, seed: 20_260_201 });
  // Every harm has its turn: what a rule guards against is there to be let through.
  const pairs = Array.from({ length: tries }, (_, at) => {
    const pair = fc.tuple(damagedRich(4, at), damagedRich(4, at));
    return fc.sample(pair, { numRuns: 1, seed: 20_260_202 + at })[0]!;
  });

  const isCaught = async (what: string, from: string, to: string): Promise<boolean> => {
    const wrong = await shipped(name, (text) => {
      assert.ok(text.includes(from), from);
      return text.replace(from, () => to);
    });
    const empty = async () => {
      await fetch(`${standIn.url}/reset`, { method: "POST" });
      await fetch(`${standIn.url}/pictures`, { method: "POST", body: zip });
    };
    const isShownBy = async (pair: (typeof pairs)[number]): Promise<boolean> => {
      await empty();
      const known = new Known();
      for (const one of pair) {
        if (name === "tollgate") known.ledger = new Ledger();
        if ((await playRounds(standIn, wrong, await readRich(one), known)).disagreements.length > 0) return true;
      }
      return false;
    };
    const likely = pairs[shownBy[name][what] ?? -1];
    if (likely && (await isShownBy(likely))) return true;
    for (const one of clean) {
      await empty();
      const played = await playRounds(standIn, wrong, await readRich(one));
      if (played.disagreements.length + played.lost.length > 0) return true;
    }
    for (const pair of pairs) if (await isShownBy(pair)) return true;
    return false;
  };

  for (const [what, from, to] of mutations[name])
    test(`catches a target ${name} that says: ${what}`, async () => {
      assert.ok(await isCaught(what, from, to));
    });
}
