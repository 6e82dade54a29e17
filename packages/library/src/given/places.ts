/** Where the parts of a file stand that people write: plain data, that can be kept beside what the file says. */

import { isMap, isScalar, isSeq, LineCounter } from "yaml";
import type { Location } from "../location.js";

/** An offset in the text; of what has parts, with their places in order or by name. */
export type GivenPlace =
  number | readonly [offset: number, parts: readonly GivenPlace[] | Readonly<Record<string, GivenPlace>>];

/** Of a parsed file, or of a part of it. @param offset where it begins: a named part begins with its name. */
export function placesIn(node: unknown, offset = 0): GivenPlace {
  if (isSeq(node)) return [offset, node.items.map((item) => placesIn(item, offsetOf(item) ?? offset))];
  if (!isMap(node)) return offset;
  // Without a prototype: whatever the file names is a name like others.
  const parts = Object.create(null) as Record<string, GivenPlace>;
  for (const { key, value } of node.items)
    if (isScalar(key)) parts[String(key.value)] ??= placesIn(value, offsetOf(key) ?? offset);
  return [offset, parts];
}

const offsetOf = (node: unknown): number | undefined => (node as { range?: [number] } | null)?.range?.[0];

/** Finds what stands where in a file. */
export class GivenPlaces {
  readonly #file: string;
  readonly #text: string;
  readonly #whole: () => GivenPlace;
  #lines: LineCounter | undefined;

  /** @param whole called once somebody asks. */
  constructor(file: string, text: string, whole: () => GivenPlace) {
    this.#file = file;
    this.#text = text;
    this.#whole = whole;
  }

  /** Where something stands; of the nearest thing around it if it is not there. */
  at(path: readonly (string | number)[]): Location {
    let place = this.#whole();
    for (const part of path) {
      const next = typeof place === "number" ? undefined : partOf(place[1], part);
      if (next === undefined) break;
      place = next;
    }
    return this.atOffset(typeof place === "number" ? place : place[0]);
  }

  atOffset(offset: number): Location {
    const { line, col } = (this.#lines ??= linesOf(this.#text)).linePos(offset);
    return { file: this.#file, line, char: col };
  }
}

function partOf(
  parts: readonly GivenPlace[] | Readonly<Record<string, GivenPlace>>,
  part: string | number,
): GivenPlace | undefined {
  if (parts instanceof Array) return typeof part === "number" ? parts[part] : undefined;
  return Object.hasOwn(parts, part) ? parts[part] : undefined;
}

function linesOf(text: string): LineCounter {
  const lines = new LineCounter();
  lines.addNewLine(0);
  for (let end = text.indexOf("\n"); end >= 0; end = text.indexOf("\n", end + 1)) lines.addNewLine(end + 1);
  return lines;
}
