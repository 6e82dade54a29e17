/**
 * Catalogues that are uneven: much is wrong in them, or one record leads to all others. A command takes in proportion to their size, as
 * it does for those that are even; four times as many rows take at most four times as long.
 */

import { mkdirSync, mkdtempSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { bin, cpuMs } from "./start.js";

export interface UnevenFigure {
  readonly catalogue: string;
  readonly command: string;
  readonly rows: readonly [few: number, many: number];
  readonly cpuMs: readonly [few: number, many: number];
}

interface Product {
  readonly name: string;
  readonly goesWith: string;
}

interface Case {
  readonly catalogue: string;
  readonly command: "check" | "build" | "trial";
  /** What the command exits with. */
  readonly exit: number;
  readonly product: (at: number, rows: number) => Partial<Product>;
  /** The code that a row of the stock sheet names. */
  readonly stockOf?: (at: number) => string;
}

const codesBut = (at: number, rows: number): string =>
  Array.from({ length: rows }, (_, other) => `C${other}`)
    .filter((_, other) => other !== at)
    .join();

const cases: readonly Case[] = [
  { catalogue: "even", command: "build", exit: 0, product: () => ({}) },
  { catalogue: "even", command: "trial", exit: 0, product: () => ({}) },
  {
    catalogue: "each leads to the one before",
    command: "trial",
    exit: 0,
    product: (at) => ({ goesWith: at === 0 ? "" : `C${at - 1}` }),
  },
  {
    catalogue: "one leads to all, and all to it",
    command: "build",
    exit: 0,
    product: (at, rows) => ({ goesWith: at === 0 ? codesBut(0, rows) : "C0" }),
  },
  {
    catalogue: "each leads to nothing",
    command: "check",
    exit: 1,
    product: (at) => ({ goesWith: `unknown-${at}` }),
  },
  { catalogue: "stock of nothing", command: "check", exit: 0, product: () => ({}), stockOf: (at) => `unknown-${at}` },
  { catalogue: "none has a name", command: "check", exit: 1, product: () => ({ name: "" }) },
];

const columns = `rows: { each: product }
columns:
  Key: product.key
  Code: product.code
  Name: product.name@en
  Price: product.prices(price).amount
  With: { field: product.relations(goes-with).to, as: { list: ",", of: { by: code } } }
`;
const format = 'format: { csv: { delimiter: ";" } }\n';
const stock = `layout: stock
${format}rows: { each: product, found by: { column: Code, names: code } }
columns:
  Stock: { field: product.stock.quantity, as: integer }
`;
const target = `target: uneven
version: 1
languages: [en]
endpoints: { pictures: /p, upload: /u, catalogue: /c }
files:
  items:
    layout:
      layout: items
${(format + columns).replace(/^(?=.)/gm, "      ")}    columns: { Name: { required: true } }
    importer:
      refusal costs: record
      looked up: at the end of the file
imports:
  - { file: items }
`;
const project = `project: uneven
sources:
  - { file: items.csv, layout: items.yaml }
  - { file: stock.csv, layout: stock.yaml }
currency: EUR
targets:
  - target: target.yaml
`;

function write(folder: string, { product, stockOf = (at) => `C${at}` }: Case, rows: number): void {
  const products = Array.from({ length: rows }, (_, at) => {
    const { name = `Thing ${at}`, goesWith = "" } = product(at, rows);
    return `p-${at};C${at};${name};9.50;${goesWith}\n`;
  });
  const quantities = Array.from({ length: rows }, (_, at) => `${stockOf(at)};${at % 90}\n`);
  const files = {
    "items.csv": `Key;Code;Name;Price;With\n${products.join("")}`,
    "items.yaml": `layout: items\n${format}${columns}`,
    "stock.csv": `Code;Stock\n${quantities.join("")}`,
    "stock.yaml": stock,
    "target.yaml": target,
    "project.yaml": project,
  };
  mkdirSync(folder);
  for (const [name, text] of Object.entries(files)) writeFileSync(join(folder, name), text);
}

/** The command on few rows, and on four times as many. */
export function measureUneven(few = 5_000): UnevenFigure[] {
  const folder = mkdtempSync(join(tmpdir(), "zest-tier-uneven-"));
  try {
    return cases.map((one, nth): UnevenFigure => {
      const taken = (rows: number): number => {
        const own = join(folder, `${nth}-${rows}`);
        write(own, one, rows);
        return cpuMs({ args: [bin, one.command, own], exit: one.exit });
      };
      const rows = [few, 4 * few] as const;
      return { catalogue: one.catalogue, command: one.command, rows, cpuMs: [taken(rows[0]), taken(rows[1])] };
    });
  } finally {
    rmSync(folder, { recursive: true, force: true });
  }
}
