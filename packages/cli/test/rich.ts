/**
 * Generated catalogues with every kind: categories with parents, option groups with choices, variants on axes, prices by condition, stock
 * at places, pictures with texts, bundles, relations, suppliers, four languages. Clean, or with cells replaced by what does harm.
 */

import fc from "fast-check";
import { dsvFormat } from "d3-dsv";
import { Findings, type Layout, type TargetView, type Target } from "zest-tier";
import {
  Catalogue,
  compileLayout,
  Kinds,
  parseGiven,
  parseTarget,
  readSources,
  resolveReferences,
  asTargetView,
} from "zest-tier/parts";
import { givenLayout } from "zest-tier/schemas";
import { shippedTarget } from "zest-tier/node";
import { memoryFiles } from "./generate.js";

export const kinds = new Kinds();
export const pictureNames = ["a.png", "b.png", "c.png"];

export async function shipped(name: string, change: (text: string) => string = (text) => text): Promise<Target> {
  const findings = new Findings();
  const target = findings.took(parseTarget(change((await shippedTarget(name))!), name, kinds));
  if (!target) throw new Error(JSON.stringify(findings.list()));
  return target;
}

type Row = Record<string, string>;
/** The rows of each sheet. */
export type Rich = Readonly<Record<keyof typeof sheets, Row[]>>;

const yesNo = "{ code words: { yes: true, no: false } }";
const sheets = {
  categories: `
rows: { each: category }
columns:
  Key: category.key
  Up: { field: category.parent, as: { by: key } }
  Name: category.name@en
  Name de: category.name@de
  Rank: category.position
  Open: { field: category.shown, as: ${yesNo} }
  Story: category.description@en
  Sage: category.description@de
  Path: category.slug@en
  Seek de: category.searchTitle@de
  For: { field: category.visibleTo, as: { list: ",", of: { by: name@en } } }
`,
  options: `
rows: { each: choice, of: option-group, grouped by: Group, shared cells: every row }
columns:
  Group: option-group.key
  Title: option-group.name@en
  Titel: option-group.name@de
  Must: { field: option-group.required, as: ${yesNo} }
  Choice: choice.key
  Says: choice.name@en
  More: choice.surcharge
  Is: choice.surchargeIs
`,
  range: `
rows: { each: variant, of: product, grouped by: Range, shared cells: first row }
numbered: 2
listed: { place: [Barn, Mill] }
columns:
  Range: product.key
  No: variant.code
  Name: product.name@en
  Name de: product.name@de
  Name ja: product.name@ja
  Text: product.description@en
  Text de: product.description@de
  Nature: product.sort
  Maker: { field: product.brand, as: { by: name@en } }
  Shelf: { field: product.categories, as: { list: ",", of: { by: key } } }
  Options: { field: product.optionGroups, as: { list: ",", of: { by: key } } }
  F{n}: { axis: "{n}", holds: name@en }
  F{n} is: { axis: "{n}", holds: value@en }
  F{n} ist: { axis: "{n}", holds: value@de }
  Price: variant.prices(price).amount
  Was: variant.prices(was).amount
  Cost: variant.prices(cost).amount
  "{place}": { field: "variant.stock({place}).quantity", as: integer }
  kg: variant.weight
  EAN: variant.barcode
  State: variant.status
  Owed: variant.backorder
  Least: variant.quantityLeast
  Most: variant.quantityMost
  Tax: variant.tax
  Photos: { field: product.pictures.file, as: { list: "," } }
  Photo texts: { field: product.pictures.alternative@en, as: { list: ",", blanks: true } }
  Web: { field: product.shown, as: ${yesNo} }
`,
  prices: `
rows: { each: variant, found by: { column: Code, names: code } }
lanes: { more: { entries: variant.prices } }
columns:
  Role: more.role
  From: more.quantityFrom
  Group: { field: more.customerGroup, as: { by: name@en } }
  Begin: { field: more.from, as: { date: YYYY-MM-DD } }
  End: { field: more.until, as: { date: YYYY-MM-DD } }
  Per: more.hire
  Amount: more.amount
`,
  parts: `
rows: { each: product, found by: { column: Key, names: key } }
lanes: { parts: { entries: product.components } }
columns:
  Part: { field: parts.variant, as: { by: code } }
  Count: parts.quantity
`,
  ties: `
rows: { each: product, found by: { column: Key, names: key } }
lanes: { ties: { entries: product.relations } }
columns:
  Kind: ties.name
  To: { field: ties.to, as: { by: key } }
`,
  supplies: `
rows: { each: variant, found by: { column: Code, names: code } }
lanes: { supplies: { entries: variant.supplies } }
columns:
  Supplier: { field: supplies.supplier, as: { by: name@en } }
  Article: supplies.code
`,
  details: `
rows: { each: product, found by: { column: Key, names: key } }
columns:
  Path: product.slug@en
  Seek: product.searchTitle@en
  Suche: product.searchTitle@de
  Seek text: product.searchText@en
  For: { field: product.visibleTo, as: { list: ",", of: { by: name@en } } }
`,
  sizes: `
rows: { each: variant, found by: { column: Code, names: code } }
columns:
  Long: variant.length
  High: variant.height
  Step: variant.quantityStep
`,
  numbers: `
rows: { each: variant, found by: { column: Code, names: code } }
lanes: { numbers: { entries: variant.identifiers } }
columns: { Kind: numbers.type, Number: numbers.value }
`,
  properties: `
rows: { each: property }
columns:
  Key: property.key
  Name: property.name@en
  Name de: property.name@de
  Kind: property.type
  Unit: property.unit
  Family: { field: property.group, as: { by: name@en } }
`,
  facts: `
rows: { each: product, found by: { column: Key, names: key } }
lanes: { facts: { entries: product.properties } }
columns: { Of: { field: facts.property, as: { by: key } }, Says: facts.value }
`,
  bends: `
rows: { each: product, found by: { column: Key, names: key } }
lanes: { bends: { entries: product.redirects } }
columns: { From: bends.from, Lang: bends.language }
`,
  baskets: `
rows: { each: assortment }
columns:
  Key: assortment.key
  Name: assortment.name@en
  Name de: assortment.name@de
  In it: { field: assortment.members, as: { list: ",", of: { by: key } } }
`,
};

const layoutText = (name: string, yaml: string): string =>
  `layout: ${name}\nformat: { csv: { delimiter: ";" } }\n${yaml}`;

/** The files of a project: sheets, layouts, and the project file; `targets` as it names them. */
export function projectOf(given: Rich, targets: readonly object[]): Record<string, Uint8Array> {
  const filled = Object.entries(given).filter(([, rows]) => rows.length > 0);
  const project = {
    project: "rich",
    pictures: "pictures",
    languages: ["en", "de"],
    sources: filled.map(([name]) => ({ file: `${name}.csv`, layout: `layouts/${name}.yaml` })),
    targets,
  };
  const texts = {
    "project.yaml": JSON.stringify(project),
    ...Object.fromEntries(
      Object.entries(sheets).map(([name, yaml]) => [`layouts/${name}.yaml`, layoutText(name, yaml)]),
    ),
    ...Object.fromEntries(filled.map(([name, rows]) => [`${name}.csv`, toCsv(rows)])),
  };
  return Object.fromEntries(Object.entries(texts).map(([name, text]) => [name, new TextEncoder().encode(text)]));
}

let layouts: ReadonlyMap<string, Layout> | undefined;
function layoutsOf(): ReadonlyMap<string, Layout> {
  layouts ??= new Map(
    Object.entries(sheets).map(([name, yaml]) => {
      const findings = new Findings();
      const text = layoutText(name, yaml);
      const given = findings.took(parseGiven(text, `${name}.yaml`, givenLayout))!;
      const layout = given && findings.took(compileLayout(given.value, given.at, kinds));
      if (!layout) throw new Error(JSON.stringify(findings.list()));
      return [name, layout];
    }),
  );
  return layouts;
}

const toCsv = (rows: readonly Row[]): string => {
  const header = [...new Set(rows.flatMap((row) => Object.keys(row)))];
  return dsvFormat(";").formatRows([header, ...rows.map((row) => header.map((column) => row[column] ?? ""))]);
};

export interface ReadRich {
  readonly catalogue: TargetView;
  readonly findings: Findings;
}

export async function readRich(rich: Rich): Promise<ReadRich> {
  const catalogue = new Catalogue(kinds);
  const findings = new Findings();
  const filled = Object.entries(rich).filter(([, rows]) => rows.length > 0);
  const files = memoryFiles(
    Object.fromEntries(filled.map(([name, rows]) => [`${name}.csv`, new TextEncoder().encode(toCsv(rows))])),
  );
  const sources = filled.map(([name]) => ({ file: `${name}.csv`, layout: layoutsOf().get(name)! }));
  await readSources(sources, catalogue, files, findings);
  return { catalogue: asTargetView(resolveReferences(catalogue, findings).catalogue), findings };
}

const word = fc.stringMatching(/^[A-Za-zäöüß&"'+:=\\é日本は ]{1,12}$/).map((text) => text.trim() || "x");
/** Words that may not hold what separates entries of the sources' own lists. */
const plain = fc.stringMatching(/^[A-Za-zäöé日 ]{1,10}$/).map((text) => text.trim() || "x");
const money = fc.integer({ min: 1, max: 99_999 }).map((cents) => String(cents / 100));
const maybe = <T>(of: fc.Arbitrary<T>): fc.Arbitrary<T | undefined> => fc.option(of, { nil: undefined });
const gtins = ["4006381333931", "96385074", "036000291452"];

const product = fc.record({
  name: word,
  de: maybe(word),
  ja: maybe(word),
  text: maybe(word),
  maker: maybe(fc.constantFrom("Alder", "Birch & Co")),
  sort: fc.constantFrom("", "goods", "service", "hire"),
  shelves: fc.uniqueArray(fc.nat(4), { maxLength: 2 }),
  options: fc.uniqueArray(fc.nat(1), { maxLength: 2 }),
  axes: fc.uniqueArray(fc.constantFrom("Wood", "Size"), { maxLength: 2 }),
  variants: fc.array(
    fc.record({
      price: money,
      was: fc.boolean(),
      cost: maybe(money),
      barn: maybe(fc.nat(50)),
      mill: maybe(fc.nat(50)),
      kg: maybe(fc.integer({ min: 1, max: 5000 }).map((grams) => String(grams / 1000))),
      state: fc.constantFrom("", "selling", "paused"),
      owed: fc.constantFrom("", "allowed"),
      least: maybe(fc.integer({ min: 1, max: 5 })),
      tax: fc.constantFrom("", "standard", "reduced"),
      tier: maybe(fc.record({ from: fc.integer({ min: 2, max: 30 }), group: fc.boolean(), amount: money })),
      period: fc.boolean(),
      supplier: maybe(fc.constantFrom("Mill", "Forge")),
    }),
    { minLength: 1, maxLength: 3 },
  ),
  photos: fc.uniqueArray(fc.nat(2), { maxLength: 2 }),
  photoTexts: fc.boolean(),
  shown: fc.boolean(),
  parts: fc.array(fc.record({ of: fc.nat(9), count: fc.integer({ min: 1, max: 9 }) }), { maxLength: 2 }),
  details: maybe(
    fc.record({
      path: maybe(fc.stringMatching(/^[a-z0-9-]{1,12}$/)),
      seek: maybe(word),
      suche: maybe(word),
      text: maybe(word),
      guild: fc.boolean(),
      long: maybe(fc.integer({ min: 1, max: 999 }).map((mm) => String(mm / 10))),
      step: maybe(fc.integer({ min: 1, max: 12 })),
      number: maybe(word),
      facts: fc.uniqueArray(fc.nat(1), { maxLength: 2 }),
      bends: fc.uniqueArray(fc.constantFrom("old ", "old de", "older de"), { maxLength: 2 }),
    }),
  ),
  ties: fc.array(fc.record({ to: fc.nat(9), kind: fc.constantFrom("goes-with", "spare-part") }), { maxLength: 2 }),
});

const category = fc.record({
  name: plain,
  de: maybe(plain),
  up: fc.nat(9),
  isRoot: fc.boolean(),
  open: fc.constantFrom("yes", "no"),
  rank: maybe(fc.nat(99)),
  story: maybe(word),
  sage: maybe(word),
  path: maybe(fc.stringMatching(/^[a-z0-9-]{1,12}$/)),
  guild: fc.boolean(),
});
const group = fc.record({
  title: word,
  de: maybe(word),
  must: fc.boolean(),
  choices: fc.array(fc.record({ says: word, more: maybe(money), percent: fc.boolean() }), {
    minLength: 1,
    maxLength: 3,
  }),
});

const made = fc.record({
  categories: fc.array(category, { minLength: 5, maxLength: 7 }),
  groups: fc.tuple(group, group),
  products: fc.array(product, { minLength: 1, maxLength: 5 }),
  baskets: fc.array(fc.record({ name: word, de: maybe(word), members: fc.uniqueArray(fc.nat(4), { maxLength: 3 }) }), {
    maxLength: 2,
  }),
});
type Made = typeof made extends fc.Arbitrary<infer T> ? T : never;

function toRich({ categories, groups, products, baskets }: Made): Rich {
  const rich = Object.fromEntries(Object.keys(sheets).map((name): [string, Row[]] => [name, []])) as Rich;
  categories.forEach((one, at) =>
    rich.categories.push({
      Key: `c${at}`,
      Up: at === 0 || one.isRoot ? "" : `c${one.up % at}`,
      Name: `${one.name} ${at}`,
      "Name de": one.de ?? "",
      Rank: String(one.rank ?? ""),
      Open: one.open,
      Story: one.story ?? "",
      Sage: one.sage ?? "",
      Path: one.path ?? "",
      "Seek de": one.sage ?? "",
      For: one.guild ? "Guild" : "",
    }),
  );
  groups.forEach(({ title, de, must, choices }, at) =>
    choices.forEach(({ says, more, percent }, choice) =>
      rich.options.push({
        Group: `g${at}`,
        Title: `${title} ${at}`,
        Titel: de ?? "",
        Must: must ? "yes" : "no",
        Choice: `g${at}-${choice}`,
        Says: `${says} ${choice}`,
        // Tollgate writes what a charge is of beside each charge.
        More: more ?? "0",
        Is: percent ? "percent" : "amount",
      }),
    ),
  );
  const codes = products.map((one, at) => one.variants.map((_, v) => `P${at}-${v}`));
  products.forEach((one, at) => {
    const axes = one.axes.slice(0, one.variants.length > 1 ? 2 : 0);
    const variants = axes.length === 0 ? one.variants.slice(0, 1) : one.variants;
    variants.forEach((variant, v) => {
      const first: Row =
        v > 0
          ? {}
          : {
              Name: one.name,
              "Name de": one.de ?? "",
              "Name ja": one.ja ?? "",
              Text: one.text ?? "",
              "Text de": one.de ?? "",
              Nature: one.sort,
              Maker: one.maker ?? "",
              Shelf: one.shelves.map((shelf) => `c${shelf}`).join(","),
              Options: one.options.map((option) => `g${option}`).join(","),
              Photos: one.photos.map((photo) => pictureNames[photo]).join(","),
              "Photo texts": one.photoTexts
                ? one.photos.map((photo) => (photo === 1 ? "" : `p ${photo}`)).join(",")
                : "",
              Web: one.shown ? "yes" : "no",
              ...Object.fromEntries(axes.map((axis, n) => [`F${n + 1}`, axis])),
            };
      rich.range.push({
        Range: `p${at}`,
        No: codes[at]![v]!,
        ...first,
        ...Object.fromEntries(
          axes.flatMap((_, n) => [
            [`F${n + 1} is`, `v${v}`],
            [`F${n + 1} ist`, v === 1 ? "" : `w${v}`],
          ]),
        ),
        Price: variant.price,
        Was: variant.was ? `${Math.floor(Number(variant.price)) + 5}` : "",
        Cost: variant.cost ?? "",
        Barn: String(variant.barn ?? ""),
        Mill: String(variant.mill ?? ""),
        kg: variant.kg ?? "",
        EAN: at === 0 && v === 0 ? gtins[0]! : "",
        State: variant.state,
        Owed: variant.owed,
        Least: String(variant.least ?? ""),
        Most: variant.least === undefined ? "" : String(variant.least + 3),
        Tax: variant.tax,
      });
      const code = codes[at]![v]!;
      if (variant.tier)
        rich.prices.push({
          Code: code,
          Role: "price",
          From: String(variant.tier.from),
          Group: variant.tier.group ? "Guild" : "",
          Begin: "",
          End: "",
          Per: "",
          Amount: variant.tier.amount,
        });
      if (one.sort === "hire")
        for (const Per of variant.period ? ["day"] : ["day", "week"])
          rich.prices.push({
            Code: code,
            Role: "price",
            From: "",
            Group: "",
            Begin: "",
            End: "",
            Per,
            Amount: "9.5",
          });
      if (variant.supplier) rich.supplies.push({ Code: code, Supplier: variant.supplier, Article: `T=${at};${v}` });
    });
    addDetails(rich, `p${at}`, codes[at]![0]!, one.details);
    // Bundles are made of what came before, so that none is a part of itself.
    const parts = new Map(one.parts.map(({ of, count }) => [of % Math.max(1, at), count]));
    if (at > 0)
      for (const [of, count] of parts) rich.parts.push({ Key: `p${at}`, Part: codes[of]![0]!, Count: String(count) });
    const ties = new Set(one.ties.map(({ to, kind }) => `${kind} ${to % products.length}`));
    for (const tie of ties) {
      const [Kind = "", to] = tie.split(" ");
      if (Number(to) !== at) rich.ties.push({ Key: `p${at}`, Kind, To: `p${to}` });
    }
  });
  baskets.forEach(({ name, de, members }, at) =>
    rich.baskets.push({
      Key: `b${at}`,
      Name: `${name} ${at}`,
      "Name de": de ?? "",
      "In it": members
        .filter((member) => member < products.length)
        .map((member) => `p${member}`)
        .join(","),
    }),
  );
  return rich;
}

function addDetails(given: Rich, key: string, code: string, details: Made["products"][number]["details"]): void {
  if (!details) return;
  const { path, seek, suche, text, guild, long, step, number, facts, bends } = details;
  given.details.push({
    Key: key,
    Path: path ?? "",
    Seek: seek ?? "",
    Suche: suche ?? "",
    "Seek text": text ?? "",
    For: guild ? "Guild" : "",
  });
  given.sizes.push({ Code: code, Long: long ?? "", High: long ?? "", Step: String(step ?? "") });
  if (number !== undefined) given.numbers.push({ Code: code, Kind: "maker", Number: number });
  if (facts.length > 0 && given.properties.length === 0)
    given.properties.push(
      { Key: "f0", Name: "Volts", "Name de": "Volt", Kind: "number", Unit: "V", Family: "Power" },
      { Key: "f1", Name: "Finish", "Name de": "", Kind: "", Unit: "", Family: "" },
    );
  for (const fact of facts) given.facts.push({ Key: key, Of: `f${fact}`, Says: "so" });
  for (const bend of bends) {
    const [From = "", Lang = ""] = bend.split(" ");
    given.bends.push({ Key: key, From, Lang });
  }
}

export const rich = (): fc.Arbitrary<Rich> => made.map(toRich);

/** What does harm, by sheet and column. */
const harm: readonly (readonly [keyof Rich, string, readonly string[]])[] = [
  ["range", "No", ["P0-0", "no good!", "a/b", "X".repeat(45), ""]],
  ["range", "Name", ["", "n".repeat(130), "two\nlines", "tab\there"]],
  ["range", "Name de", ["n".repeat(130)]],
  ["range", "Text", ["t".repeat(4100), "t".repeat(3500), "one\ntwo"]],
  ["range", "Nature", ["hire", "goods", "service"]],
  ["range", "Price", ["", "1.234", "12345678901", "0"]],
  ["range", "Was", ["0.01"]],
  ["range", "kg", ["1.23456", "12345678901"]],
  ["range", "EAN", ["4006381333932", "123"]],
  ["range", "Least", ["99", "0"]],
  ["range", "Most", ["1"]],
  ["range", "Barn", ["12345678901"]],
  ["range", "Photos", ["gone.png", "a.png,a.png", ""]],
  ["range", "F1", ["", "Wood", "f".repeat(50)]],
  ["range", "F2", ["Wood", "Depth"]],
  ["range", "F1 is", ["", "v0", "w".repeat(70), "n".repeat(130)]],
  ["range", "Options", ["g0,g0", "g1"]],
  ["range", "Shelf", ["c0,c0", ""]],
  ["range", "State", ["gone fishing"]],
  ["categories", "Name", ["", "n".repeat(130)]],
  ["categories", "Rank", ["10000"]],
  ["categories", "Open", [""]],
  ["categories", "Key", ["k".repeat(61)]],
  ["options", "Says", ["", "s".repeat(130)]],
  ["options", "More", ["1.234", ""]],
  ["options", "Title", ["t".repeat(130), ""]],
  ["options", "Choice", ["c".repeat(70)]],
  ["prices", "From", ["1", ""]],
  ["prices", "Amount", ["", "1.234"]],
  ["prices", "Per", ["day", "month"]],
  ["prices", "Role", ["", "offer", "odd"]],
  ["prices", "Begin", ["2027-01-01"]],
  ["parts", "Count", ["0", ""]],
  ["parts", "Part", ["P0-0", "P1-0", "P2-0"]],
  ["ties", "Kind", ["", "k".repeat(50)]],
  ["ties", "To", ["p0", "p1"]],
  ["supplies", "Article", [""]],
  ["details", "Path", ["Bad path", "p".repeat(90)]],
  ["details", "Seek", ["s".repeat(71)]],
  ["details", "Suche", ["s".repeat(71)]],
  ["details", "Seek text", ["s".repeat(161), "two\nlines"]],
  ["details", "For", ["Guild,Guild", "Nobody"]],
  ["categories", "For", ["Guild,Guild"]],
  ["categories", "Path", ["Bad path"]],
  ["categories", "Story", ["s".repeat(4001), "two\nlines"]],
  ["sizes", "Long", ["1.25", "12345678901"]],
  ["sizes", "Step", ["0"]],
  ["numbers", "Number", ["", "n".repeat(61)]],
  ["numbers", "Kind", ["k".repeat(21)]],
  ["properties", "Name", ["", "n".repeat(130)]],
  ["properties", "Unit", ["u".repeat(21)]],
  ["properties", "Kind", ["date", "odd"]],
  ["facts", "Says", ["other", "", "s".repeat(201)]],
  ["bends", "From", ["Old", "", "o".repeat(81)]],
  ["bends", "Lang", ["xx"]],
  ["baskets", "In it", ["p0,p0", "p0"]],
  ["baskets", "Name", ["", "n".repeat(130)]],
];

/** The same with up to so many cells replaced. @param first which harm is among them for sure, by turns. */
export const damagedRich = (most = 3, first?: number): fc.Arbitrary<Rich> =>
  fc
    .tuple(
      first === undefined ? made : made.filter((one) => toRich(one)[harm[first % harm.length]![0]].length > 0),
      fc.array(fc.record({ which: fc.nat(999), row: fc.nat(99), value: fc.nat(9) }), { minLength: 1, maxLength: most }),
    )
    .map(([from, changes]) => {
      const given = toRich(from);
      const sure = first === undefined ? [] : [{ which: first, row: 0, value: Math.floor(first / harm.length) }];
      for (const { which, row, value } of [...sure, ...changes.slice(sure.length)]) {
        const [sheet, column, values] = harm[which % harm.length]!;
        // Where there is something to spoil, that is spoilt.
        const filled = given[sheet].filter((one) => (one[column] ?? "") !== "");
        const rows = filled.length > 0 ? filled : given[sheet];
        if (rows.length > 0) rows[row % rows.length]![column] = values[value % values.length]!;
      }
      return given;
    });
