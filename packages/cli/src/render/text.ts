/** Small pieces of human output: tables without borders, counted words, cut texts. */

import Table from "cli-table3";
import wrapAnsi from "wrap-ansi";

const noBorders = {
  top: "",
  "top-mid": "",
  "top-left": "",
  "top-right": "",
  bottom: "",
  "bottom-mid": "",
  "bottom-left": "",
  "bottom-right": "",
  left: "  ",
  "left-mid": "",
  mid: "",
  "mid-mid": "",
  right: "",
  "right-mid": "",
  middle: "  ",
};

/** Columns side by side, as wide as they need to be; no line ends with spaces. @param right positions of columns to align right. */
export function columns(rows: readonly (readonly string[])[], right: readonly number[] = []): string {
  if (rows.length === 0) return "";
  const table = new Table({
    chars: noBorders,
    style: { head: [], border: [], "padding-left": 0, "padding-right": 0 },
    colAligns: rows[0]!.map((_, at) => (right.includes(at) ? "right" : "left")),
  });
  for (const row of rows) table.push([...row]);
  return `${table
    .toString()
    .split("\n")
    .map((line) => line.trimEnd())
    .join("\n")}\n`;
}

/** `1 551`. */
export const grouped = (count: number): string => count.toLocaleString("en").replaceAll(",", " ");

export const counted = (count: number, one: string, many = `${one}s`): string =>
  `${grouped(count)} ${count === 1 ? one : many}`;

export const cut = (text: string, most: number): string => (text.length > most ? `${text.slice(0, most - 1)}…` : text);

const mostChars = 4_000;
/** One line of signs that are each as wide as the others. */
const printable = /^[ -~]*$/;

/** Breaks a line between words; the lines below are indented by `indent`. */
export function wrapped(text: string, width: number, indent: string): string {
  const room = Math.max(40, width - indent.length);
  if (text.length <= room && printable.test(text)) return text.trimEnd();
  // Breaking lines takes time with the square of their length.
  return wrapAnsi(cut(text, mostChars), room, { trim: false })
    .split("\n")
    .map((line, at) => (at === 0 ? line.trimEnd() : line.trim()))
    .join(`\n${indent}`);
}
