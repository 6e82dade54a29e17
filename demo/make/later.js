/**
 * The sources of a later import: the clean sources with forty cells changed, a code given twice, a product gone, and two operations on top; and
 * `changes.json`, which lists them for the tests.
 */

import { dsvFormat } from "d3-dsv";
import { cpSync, mkdirSync, readFileSync, rmSync, writeFileSync } from "node:fs";

const later = new URL("../later/", import.meta.url);
const clean = new URL("../clean/", import.meta.url);
const semicolons = dsvFormat(";");
const [nameAt, germanTextAt, priceAt, stockAt] = [2, 5, 10, 15];

const cheaper = (price) => `€ ${(Math.round(Number(price.replace("€ ", "").replace(",", ".")) * 0.95 * 20) / 20).toFixed(2).replace(".", ",")}`;
/** By code: the name that an article gets. */
const names = { "BC-FG": "Frame grip, steel", "BC-MB": "Mite board, white", "BC-SS": "Sugar shaker, fine", "BC-HC": "Hive carrier" };
/** By code: what is reported of it in German. */
const texts = { "BC-WM": "Schmilzt Altwaben, ganz ohne Strom.", "BC-BF": "Besser als alle anderen.", "BC-RF": "Hält den Regen ab." };
const stocks = { "BC-UB": "77", "BC-CS": "78", "BC-SF": "79" };
/** Reshaped products are left as they are, so that each change has one cause. */
const reshaped = /^BC-(VS|VR|GL)/;
const pricesWanted = 30;

export function makeLater() {
  rmSync(later, { recursive: true, force: true });
  mkdirSync(later, { recursive: true });
  cpSync(new URL("layouts", clean), new URL("layouts", later), { recursive: true });
  cpSync(new URL("sources", clean), new URL("sources", later), { recursive: true });
  const file = new URL("sources/range.csv", later);
  const lines = readFileSync(file, "utf8").split("\r\n");
  const cells = [];
  const edit = (index, row, at, now) => {
    cells.push({ file: "sources/range.csv", line: index + 1, code: row[0], column: header[at], was: row[at], now });
    row[at] = now;
  };
  const [header] = semicolons.parseRows(lines[0]);
  let prices = 0;
  const done = lines.flatMap((line, index) => {
    if (index === 0 || line === "") return [line];
    const [row] = semicolons.parseRows(line);
    if (row[1] === "frame-jig") return [];
    const code = row[0];
    if (names[code]) edit(index, row, nameAt, names[code]);
    if (texts[code]) edit(index, row, germanTextAt, texts[code]);
    if (stocks[code]) edit(index, row, stockAt, stocks[code]);
    if (index % 8 === 4 && row[priceAt] !== "" && !reshaped.test(code) && prices < pricesWanted) {
      prices++;
      edit(index, row, priceAt, cheaper(row[priceAt]));
    }
    return [semicolons.formatRow(row)];
  });
  writeFileSync(file, done.join("\r\n"));
  const extras = new URL("sources/extras.csv", later);
  const twice = "queen-candy;BC-X9;Queen candy;Königinnenfutter;Keeps a queen fed on her way.;goods;hives;4.20;;;";
  writeFileSync(extras, `${readFileSync(extras, "utf8")}${twice}\r\n`);
  const project = readFileSync(new URL("project.yaml", clean), "utf8").replaceAll("  - target: pennywort\n", "  - target: pennywort\n    changes: { gone: hide }\n").replaceAll("  - target: saltmarsh\n", "  - target: saltmarsh\n    changes: { gone: hide }\n");
  const operations = `operations:
  - combine: [square-veil, round-veil]
    into: veils
    axis: Shape
    values: { square-veil: Square, round-veil: Round }
    name: { en: Veil, de: Schleier }
  - { split: long-gloves, along: Material }
`;
  writeFileSync(new URL("project.yaml", later), project.replace("targets:\n", `${operations}targets:\n`));
  writeFileSync(new URL("changes.json", later), `${JSON.stringify({ cells, gone: ["frame-jig"], twice: { code: "BC-X9", keys: ["queen-candy", "spinner-nine"] } }, null, 2)}\n`);
  return cells.length;
}
