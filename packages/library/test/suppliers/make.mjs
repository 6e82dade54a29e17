/** Writes the supplier files that no text editor writes: other encodings, workbooks. Run once; the files are kept. */

import { Buffer } from "node:buffer";
import { writeFileSync } from "node:fs";
import { URL } from "node:url";
import * as xlsx from "@e965/xlsx";

const here = new URL("./", import.meta.url);
const put = (name, bytes) => writeFileSync(new URL(name, here), bytes);

put(
  "04-cirier/tarif.csv",
  Buffer.from(
    [
      "Atelier du Cirier;;;;;",
      "Tarif valable dès le 1er février;;;;;",
      ";;;;;",
      "Référence;Désignation;Famille;Prix HT;Poids (kg);Actif",
      "CI-100;Bougie torsadée à la cire;Bougies;4,90;0,12;oui",
      "CI-101;Bougie pilier;Bougies;7,50;0,35;oui",
      "CI-200;Moule « ruche »;Moules;12,00;0,08;non",
      "CI-201;Mèche coton 10 m;Mèches;3,20;0,05;oui",
      "CI-202;Mèche coton 50 m;Mèches;13,80;0,22;oui",
    ].join("\r\n") + "\r\n",
    "latin1",
  ),
);

put(
  "12-zirelo/zirelo-export.txt",
  Buffer.concat([
    Buffer.from([0xff, 0xfe]),
    Buffer.from(
      [
        ["Model", "Title", "Title (de)", "Text", "Order code", "Shade", "Retail", "RRP before", "Picture", "Alt text"],
        [
          "veil-round",
          "Round veil",
          "Runder Schleier",
          "Fits every hat.",
          "V-R-BLK",
          "black",
          "18.00",
          "",
          "veil-round.jpg",
          "the veil from the front",
        ],
        ["", "", "", "", "", "", "", "", "veil-round-2.jpg", "the hem"],
        ["veil-round", "", "", "", "V-R-GRN", "green", "19.50", "24.00", "", ""],
        ["hat-straw", "Straw hat", "Strohhut", "Wide brim.", "V-H", "", "14.00", "", "hat-straw.jpg", ""],
        [
          "glove-goat",
          "Goatskin gloves",
          "Ziegenlederhandschuhe",
          "",
          "V-G-TAN",
          "tan",
          "22.00",
          "",
          "glove.jpg",
          "a pair",
        ],
        ["glove-goat", "", "", "", "V-G-WHT", "white", "22.00", "", "", ""],
        ["glove-goat", "", "", "", "V-G-BLK", "black", "23.00", "", "", ""],
      ]
        .map((row) => `${row.join("\t")}\r\n`)
        .join(""),
      "utf16le",
    ),
  ]),
);

const book = xlsx.utils.book_new();
const products = xlsx.utils.aoa_to_sheet([
  ["Tarn Labels: list of articles"],
  [],
  ["Article", "Product name", "Material", "Labels per roll", "Weight g", "GTIN", "Category", "Online"],
  ["00410", "Round label 40 mm", "paper", 500, 180, "2600500000418", "Labels > Round", "Y"],
  ["00411", "Round label 60 mm", "paper", 250, 210, "2600500000425", "Labels > Round", "Y"],
  ["00520", "Seal strip", "paper", 1000, 95, "2600500000432", "Labels > Seals", "Y"],
  ["00521", "Seal strip, foil", "foil", 1000, 120, "2600500000449", "Labels > Seals", "N"],
]);
const prices = xlsx.utils.aoa_to_sheet([
  ["Article", "From rolls", "Net price"],
  ["00410", 1, 9.9],
  ["00410", 10, 8.5],
  ["00411", 1, 11.4],
  ["00520", 1, 6],
  ["00520", 5, 5.25],
  ["00521", 1, 7.75],
]);
xlsx.utils.book_append_sheet(book, products, "Articles");
xlsx.utils.book_append_sheet(book, prices, "Prices");
xlsx.utils.book_append_sheet(book, xlsx.utils.aoa_to_sheet([["Terms"], ["Thirty days net."]]), "Terms");
put(
  "05-tarn-labels/articles.xlsx",
  new Uint8Array(xlsx.write(book, { type: "array", bookType: "xlsx", compression: true })),
);
