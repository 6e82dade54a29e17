/**
 * The rehearsal's machine: takes an upload's file row by row, as the platform would, by the target's rules, and says of each row what
 * becomes of it.
 *
 * It shares the parser of bytes and the codecs with the library; cutting rows into products, looking up and overwriting are its own.
 */

import { firstOf, entryOf } from "../../checked.js";
import { csvOf } from "../../layout/layout.js";
import { Findings } from "../../findings/finding.js";
import { decodeText } from "../../formats/decode.js";
import { readCsv } from "../../formats/csv-read.js";
import { groupedRules, type Target, type TargetFile } from "../../target/target.js";
import { GroupRehearsal, type GroupRow, type WaitingLinks } from "./group.js";
import type { RehearsedFile, RehearsedRow } from "../outcome.js";
import { rolesOf } from "./roles.js";
import type { Shop } from "./store.js";

/** Plays one file into the shop, which is changed. */
export async function rehearseFile(
  shop: Shop,
  target: Target,
  file: TargetFile,
  name: string,
  bytes: AsyncIterable<Uint8Array>,
): Promise<RehearsedFile> {
  const table = await readTable(name, file, bytes);
  if (typeof table === "string") return { name, refused: table, rows: [] };
  const { header, rows } = table;
  const roles = rolesOf(target, file);
  const unknown = header.find((column) => !roles.has(column));
  if (unknown !== undefined) return { name, refused: `unknown column "${unknown}"`, rows: [] };
  if (new Set(header).size < header.length) return { name, refused: "a column comes twice", rows: [] };
  const missing = file.mustHave.find((column) => !header.includes(column));
  if (missing !== undefined) return { name, refused: `no column "${missing}"`, rows: [] };
  const importer = groupedRules(file);
  const parentAt = header.indexOf(importer["parent by"]);
  const childAt = header.indexOf(importer["child by"]);
  if (parentAt < 0) return { name, refused: `no column "${importer["parent by"]}"`, rows: [] };

  const filled = rows
    .filter(({ cells }) => cells.some((cell) => cell !== ""))
    .map(({ cells, line }): GroupRow => ({ line, cells, parent: cells[parentAt] ?? "", child: cells[childAt] ?? "" }));
  const names = new Set(filled.map((row) => row.parent).filter((word) => word !== ""));
  const most = file.limits.products;
  if (most !== undefined && names.size > most) return { name, refused: `more than ${most} products`, rows: [] };

  const columns = header.map((column) => entryOf(roles, column));
  const waiting: WaitingLinks[] = [];
  const result: RehearsedRow[] = [];
  for (const group of groupsOf(filled))
    result.push(...new GroupRehearsal(shop, target, file, columns, roles, group).play(waiting));
  for (const one of waiting) lookUpLinks(shop, one);
  return { name, refused: undefined, rows: result };
}

interface Table {
  readonly header: readonly string[];
  readonly rows: readonly { readonly cells: readonly string[]; readonly line: number }[];
}

/** @returns the reason in words where the platform would refuse the file as a whole. */
async function readTable(name: string, file: TargetFile, bytes: AsyncIterable<Uint8Array>): Promise<Table | string> {
  const findings = new Findings(10);
  let size = 0;
  async function* counted(): AsyncGenerator<Uint8Array> {
    for await (const chunk of bytes) {
      size += chunk.length;
      yield chunk;
    }
  }
  const csv = csvOf(file.layout);
  const all: { cells: readonly string[]; line: number }[] = [];
  for await (const batch of readCsv(decodeText(counted(), name, csv.encoding, findings), name, csv, findings))
    batch.rows.forEach((cells, at) => all.push({ cells, line: batch.lines[at]! }));
  if (file.limits.bytes !== undefined && size > file.limits.bytes) return `more than ${file.limits.bytes} bytes`;
  if (findings.hasErrors) return "it cannot be read";
  const [header, ...rows] = all;
  if (!header) return "it is empty";
  if (rows.some((row) => row.cells.length > header.cells.length)) return "a row is longer than the header";
  return { header: header.cells, rows };
}

/** Runs of rows with the same word; rows without a word go on with the product above. */
function groupsOf(rows: readonly GroupRow[]): GroupRow[][] {
  const groups: GroupRow[][] = [];
  for (const row of rows) {
    const above = groups[groups.length - 1];
    if (above && (row.parent === "" ? firstOf(above).parent !== "" : row.parent === firstOf(above).parent))
      above.push(row);
    else groups.push([row]);
  }
  return groups;
}

/** Sets the links of a product that was taken in, once all products of the file are there. */
function lookUpLinks(shop: Shop, { word, links, first }: WaitingLinks): void {
  const product = shop.products.get(word);
  if (!product) return;
  for (const [field, wanted] of links) {
    const found = wanted.filter((other) => other !== word && shop.products.has(other));
    if (found.length < wanted.length) first.notes.add("a link leads nowhere and is left out");
    const before = product.links.get(field) ?? [];
    if (before.length === found.length && before.every((link, at) => link === found[at])) continue;
    product.links.set(field, found);
    if (first.outcome === "unchanged") first.outcome = "updated";
  }
}
