/**
 * Generated shops: sources as their makers would write them, from a seed that fast-check chooses and prints. Clean ones hold nothing
 * that Pennywort cannot carry; damaged ones have cells replaced at random.
 */

import fc from "fast-check";
import { dsvFormat } from "d3-dsv";
import {
  failure,
  success,
  finding,
  Findings,
  type FilesPort,
  type Layout,
  type ReadCounts,
  type TargetView,
  type Target,
} from "zest-tier";
import {
  Catalogue,
  checkCatalogue,
  CodeIndex,
  compileLayout,
  Kinds,
  parseGiven,
  parseTarget,
  readSource,
  resolveReferences,
  asTargetView,
} from "zest-tier/parts";
import { givenLayout } from "zest-tier/schemas";
import { shippedTarget } from "zest-tier/node";

const kinds = new Kinds();
export const lineEnd = "\n";
const semicolons = dsvFormat(";");

export const header = [
  ...[
    "Range",
    "No",
    "Name",
    "Bezeichnung",
    "Text",
    "Shelf",
    "Regal",
    "Maker",
    "F1",
    "M1",
    "F1 is",
    "M1 ist",
    "F2",
    "M2",
    "F2 is",
    "M2 ist",
  ],
  ...[
    "Price",
    "Was",
    "From",
    "Club",
    "Tier",
    "Stock",
    "kg",
    "EAN",
    "Photos",
    "Own photo",
    "Goes with",
    "Spares",
    "Web",
  ],
];

const layoutText = `
layout: generated
format: { csv: { delimiter: ";" } }
rows: { each: variant, of: product, grouped by: Range, shared cells: first row, groups: GROUPS }
lanes:
  tiers: { entries: variant.prices, with: { role: price }, continued when blank: [Range, No] }
columns:
  Range: product.key
  No: variant.code
  Name: product.name@en
  Bezeichnung: product.name@de
  Text: product.description@en
  Shelf: { field: product.categories, as: { list: "+", escape: '\\', of: { path: "/", by: name@en } }, missing: create }
  Regal: { beside: Shelf, as: { list: "+", escape: '\\', of: { path: "/", by: name@de } } }
  Maker: { field: product.brand, as: { by: name@en } }
  F1: { axis: 1, holds: name@en }
  M1: { axis: 1, holds: name@de }
  F1 is: { axis: 1, holds: value@en }
  M1 ist: { axis: 1, holds: value@de }
  F2: { axis: 2, holds: name@en }
  M2: { axis: 2, holds: name@de }
  F2 is: { axis: 2, holds: value@en }
  M2 ist: { axis: 2, holds: value@de }
  Price: { field: variant.prices(price).amount, as: { decimal: "," } }
  Was: { field: variant.prices(was).amount, as: { decimal: "," } }
  From: { field: tiers.quantityFrom, as: integer }
  Club: { field: tiers.customerGroup, as: { by: name@en } }
  Tier: { field: tiers.amount, as: { decimal: "," } }
  Stock: { field: variant.stock.quantity, as: integer }
  kg: { field: variant.weight, as: { decimal: "," } }
  EAN: variant.barcode
  Photos: { field: product.pictures.file, as: { list: "+", escape: '\\' } }
  Own photo: variant.pictures(main).file
  Goes with: { field: product.relations(goes-with).to, as: { list: "+", escape: '\\', of: { by: key } } }
  Spares: { field: product.relations(spare-part).to, as: { list: "+", escape: '\\', of: { by: key } } }
  Web: { field: product.shown, as: { code words: { yes: true, no: false } } }
`;

/** @param swapped whether German is the main language. */
export function generatedLayout(groups: "contiguous" | "scattered" = "contiguous", swapped = false): Layout {
  const findings = new Findings();
  const text = layoutText.replace("GROUPS", groups);
  const inOther = text.replace(/@(en|de)\b/g, (_, lang) => (lang === "en" ? "@de" : "@en"));
  const given = findings.took(parseGiven(swapped ? inOther : text, "generated.yaml", givenLayout))!;
  const layout = given && findings.took(compileLayout(given.value, given.at, kinds));
  if (!layout) throw new Error(JSON.stringify(findings.list()));
  return layout;
}

export async function pennywort(
  change: (text: string) => string = (text) => text,
  settings: Readonly<Record<string, string>> = {},
): Promise<Target> {
  const findings = new Findings();
  const text = change((await shippedTarget("pennywort"))!);
  const target = findings.took(parseTarget(text, "pennywort", kinds, { settings, at: undefined }));
  if (!target) throw new Error(JSON.stringify(findings.list()));
  return target;
}

export type Row = Readonly<Record<string, string>>;
/** The rows of one product. */
export type Block = readonly Row[];

const digits = (number: number, length: number): string => String(number).padStart(length, "0");
function barcode(number: number): string {
  const body = digits(number, 12);
  const sum = [...body].reverse().reduce((total, digit, at) => total + Number(digit) * (at % 2 === 0 ? 3 : 1), 0);
  return body + ((10 - (sum % 10)) % 10);
}
const comma = (number: number): string => String(number / 100).replace(".", ",");

/** Texts with all that makes files go wrong. */
const nasty = fc
  .string({
    unit: fc.constantFrom("a", "B", "ß", "蜂", "خ", "😀", ";", '"', "+", "/", "\\", ",", "'", " ", "=", "\n"),
    minLength: 1,
    maxLength: 10,
  })
  .filter((text) => text.trim() !== "" && !text.includes("\r"));
const escaped = (text: string): string => text.replace(/[\\+/]/g, "\\$&");
const shelfNames = ["Hives", "Boxes + floors", "14×12/35", "A\\B", "蜂", "Frames"] as const;
const germanPlace = (word: string): string => `${word} (de)`;
export const pictureNames = ["a.png", "b.png", "c d.png"];

const path = fc.array(fc.constantFrom(...shelfNames), { minLength: 1, maxLength: 4 });

/** A clean product, number n of a shop of `size`. */
function product(n: number, size: number): fc.Arbitrary<Block> {
  return fc
    .record({
      name: nasty,
      german: fc.option(nasty, { nil: "" }),
      text: fc.option(nasty, { nil: "" }),
      paths: fc.uniqueArray(path, { minLength: 0, maxLength: 3, selector: (one) => one.join("/") }),
      brand: fc.constantFrom("", "Thorn", "Reed"),
      axes: fc.nat(2),
      variants: fc.integer({ min: 1, max: 4 }),
      price: fc.integer({ min: 1, max: 99_999 }),
      was: fc.boolean(),
      tiers: fc.nat(2),
      club: fc.boolean(),
      stock: fc.option(fc.nat(99), { nil: undefined }),
      weight: fc.option(fc.integer({ min: 1, max: 9_999 }), { nil: undefined }),
      photos: fc.uniqueArray(fc.constantFrom(...pictureNames), { maxLength: 3 }),
      own: fc.boolean(),
      goes: fc.uniqueArray(fc.nat(size - 1), { maxLength: 3 }),
      spares: fc.uniqueArray(fc.nat(size - 1), { maxLength: 2 }),
      shown: fc.constantFrom("yes", "no", ""),
    })
    .map((made) => {
      const count = made.axes === 0 ? 1 : made.variants;
      const rows: Row[] = [];
      for (let v = 0; v < count; v++) {
        const first = v === 0;
        const axes =
          made.axes === 0 ? {} : { ...(first ? { F1: "Wood", M1: "Holz" } : {}), "F1 is": `W${v}`, "M1 ist": `H${v}` };
        const second =
          made.axes < 2
            ? {}
            : { ...(first ? { F2: "Size", M2: "Größe" } : {}), "F2 is": `S${v % 2}`, "M2 ist": `G${v % 2}` };
        const others = (list: readonly number[]) =>
          list
            .filter((other) => other !== n)
            .map((other) => `p${other}`)
            .join("+");
        const shared: Row = {
          Name: made.name,
          Bezeichnung: made.german,
          Text: made.text,
          Shelf: made.paths.map((nodes) => nodes.map(escaped).join("/")).join("+"),
          Regal: made.paths.map((nodes) => nodes.map(germanPlace).map(escaped).join("/")).join("+"),
          Maker: made.brand,
          Photos: made.photos.join("+"),
          "Goes with": others(made.goes),
          Spares: others(made.spares),
          Web: made.shown,
        };
        const tiers = Array.from({ length: made.tiers }, (_, at): Row => ({
          From: String(2 + at),
          Club: made.club ? "Clubs" : "",
          Tier: comma(made.price + at),
        }));
        rows.push({
          Range: `p${n}`,
          No: `C${n}-${v}`,
          ...(first ? shared : {}),
          ...axes,
          ...second,
          Price: comma(made.price + v),
          ...(made.was ? { Was: comma(made.price + 1000) } : {}),
          ...(made.stock === undefined ? {} : { Stock: String(made.stock) }),
          ...(made.weight === undefined ? {} : { kg: String(made.weight / 1000).replace(".", ",") }),
          EAN: barcode(n * 10 + v),
          ...(made.own ? { "Own photo": pictureNames[v % pictureNames.length]! } : {}),
          ...(tiers[0] ?? {}),
        });
        rows.push(...tiers.slice(1));
      }
      return rows;
    });
}

export const shop = (most = 8): fc.Arbitrary<readonly Block[]> =>
  fc
    .integer({ min: 1, max: most })
    .chain((size) => fc.tuple(...Array.from({ length: size }, (_, n) => product(n, size))));

const spoiled = [
  "",
  " ",
  "x".repeat(90),
  "y".repeat(2100),
  "1.234,50",
  "1e9",
  "A/1",
  "a+b",
  "a++b",
  "\\x",
  "C0-0",
  "C1-0",
  "p0",
  "nobody",
  "Hives/",
  "a/b/c/d/e/f/g",
  "0",
  "-1",
  "2",
  "0,001",
  "9999999999",
  "Wood",
  "W0",
  "yes",
  "YES",
  "ghost.png",
  "4012345678901",
  '"',
  "Hives+Hives",
];

/** Damage that only shows in its own column. */
const fitting: readonly (readonly [string, string])[] = [
  ["Name", "x".repeat(90)],
  ["Text", "y".repeat(2100)],
  ["Shelf", "a/b/c/d/e/f/g"],
  ["Stock", "-1"],
  ["Price", "0"],
  ["Was", "0,01"],
  ["No", "A/1"],
  ["From", "1"],
  ["Tier", ""],
  ["EAN", "4012345678901"],
  ["F1", "Finish"],
];

/** The shop with up to four cells replaced, at any place, by what no one should write; rows may be swapped too. */
export const damaged = (most = 6): fc.Arbitrary<readonly Block[]> =>
  fc
    .tuple(
      shop(most),
      fc.array(
        fc.record({
          block: fc.nat(99),
          row: fc.nat(99),
          cell: fc.oneof(
            fc.tuple(fc.constantFrom(...header), fc.constantFrom(...spoiled)),
            fc.constantFrom(...fitting),
          ),
        }),
        { minLength: 1, maxLength: 4 },
      ),
      fc.option(fc.tuple(fc.nat(99), fc.nat(99))),
    )
    .map(([blocks, changes, swap]) => {
      const rows = blocks.map((block) => block.map((row) => ({ ...row })));
      for (const { block, row, cell } of changes) {
        const own = rows[block % rows.length]!;
        own[row % own.length]![cell[0]] = cell[1];
      }
      if (swap) {
        const all = rows.flat();
        const [a, b] = [swap[0] % all.length, swap[1] % all.length];
        [all[a], all[b]] = [all[b]!, all[a]!];
        return [all];
      }
      return rows;
    });

export const toCsv = (blocks: readonly Block[]): string =>
  `${semicolons.formatRows([header, ...blocks.flat().map((row) => header.map((column) => row[column] ?? ""))])}${lineEnd}`;

export function memoryFiles(files: Readonly<Record<string, Uint8Array>>): FilesPort {
  return {
    read: (path) => {
      const bytes = files[path];
      return Promise.resolve(
        bytes
          ? success(
              (async function* () {
                yield await Promise.resolve(bytes);
              })(),
            )
          : failure(finding("read/missing-file", {}, { file: path })),
      );
    },
    list: () => Promise.resolve([]),
  };
}

export interface ReadShop {
  readonly catalogue: TargetView;
  readonly findings: Findings;
  readonly counts: ReadCounts;
}

export async function readBytes(bytes: Uint8Array, layout: Layout): Promise<ReadShop> {
  const findings = new Findings();
  const unresolved = new Catalogue(kinds);
  const counts = await readSource(
    { file: "shop.csv", layout },
    unresolved,
    memoryFiles({ "shop.csv": bytes }),
    findings,
  );
  const catalogue = asTargetView(resolveReferences(unresolved, findings).catalogue);
  checkCatalogue({
    catalogue,
    codes: new CodeIndex(catalogue),
    pictures: new Set(pictureNames),
    languages: [],
    findings,
  });
  return { catalogue, findings, counts };
}

export const readShop = (blocks: readonly Block[], layout = generatedLayout()): Promise<ReadShop> =>
  readBytes(new TextEncoder().encode(toCsv(blocks)), layout);
