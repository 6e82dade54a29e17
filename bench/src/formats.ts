/** Files of the other formats to measure on: a workbook of 20 columns, documents of a wanted size. */

import { createWriteStream, writeFileSync } from "node:fs";
import { once } from "node:events";
import { join } from "node:path";
import * as xlsx from "@e965/xlsx";

export interface FormatWorkload {
  readonly name: "workbook" | "xml" | "json";
  readonly rows: number;
  readonly source: string;
  readonly layout: string;
}

const languages = Array.from({ length: 16 }, (_, at) => `l${at}`);

/** Half texts, half numbers, as suppliers' workbooks are. */
export function workbookWorkload(folder: string, rows: number): FormatWorkload {
  const header = ["Key", "Code", "Name", "Kg", ...languages];
  const cells = Array.from({ length: rows }, (_, at) => [
    `p${at}`,
    `c${at}`,
    `Hive ${at}`,
    at / 8,
    ...languages.map((_, column) => (column % 2 === 0 ? at * column : `word ${at % 50}`)),
  ]);
  const book = xlsx.utils.book_new();
  xlsx.utils.book_append_sheet(book, xlsx.utils.aoa_to_sheet([header, ...cells]), "Range");
  const source = join(folder, "range.xlsx");
  writeFileSync(source, xlsx.write(book, { type: "buffer", bookType: "xlsx", compression: true }) as Uint8Array);
  const columns = languages.map((lang) => `  ${lang}: product.description@${lang}`).join("\n");
  const layout = `layout: w\nformat: { workbook: {} }\nrows: { each: product }\ncolumns:\n  Key: product.key\n  Code: product.code\n  Name: product.name@en\n  Kg: { field: product.weight, as: decimal }\n${columns}\n`;
  return { name: "workbook", rows, source, layout };
}

const sentence = "A hive of cedar that keeps the rain out and the bees in. ".repeat(8);

export async function documentWorkload(folder: string, name: "xml" | "json", rows: number): Promise<FormatWorkload> {
  const source = join(folder, `feed.${name}`);
  const file = createWriteStream(source);
  const put = async (text: string) => {
    if (!file.write(text)) await once(file, "drain");
  };
  const isXml = name === "xml";
  await put(isXml ? '<?xml version="1.0"?>\n<feed><items>\n' : '{"items":[\n');
  for (let at = 0; at < rows / 2; at++) {
    const [one, two] = [`${at % 100}.5`, `${at % 90}.25`];
    await put(
      isXml
        ? `<item no="p${at}"><name lang="en">Hive ${at}</name><text>${sentence}${at}</text><versions><version sku="c${at}a"><price>${one}</price></version><version sku="c${at}b"><price>${two}</price></version></versions></item>\n`
        : `${at > 0 ? "," : ""}{"no":"p${at}","name":{"en":"Hive ${at}"},"text":"${sentence}${at}","versions":[{"sku":"c${at}a","price":${one}},{"sku":"c${at}b","price":${two}}]}\n`,
    );
  }
  await put(isXml ? "</items></feed>\n" : "]}\n");
  file.end();
  await once(file, "finish");
  const path = (xml: string, json: string) => JSON.stringify(isXml ? xml : json);
  const layout = `layout: d
format: { ${name}: {} }
rows: { each: variant, of: product, element: ${isXml ? "/feed/items/item" : "/items"}, child element: ${isXml ? "versions/version" : "/versions"} }
columns:
  ${path("@no", "/no")}: product.key
  ${path("name[@lang='en']", "/name/en")}: product.name@en
  ${path("text", "/text")}: product.description@en
  ${path("versions/version/@sku", "/versions/sku")}: variant.code
  ${path("versions/version/price", "/versions/price")}: { field: variant.prices(price).amount, as: decimal }
`;
  return { name, rows, source, layout };
}
