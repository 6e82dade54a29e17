/**
 * References as data: each different one is kept once, by number, and resolved once.
 *
 * A reference may lie *within* another: the node of a path within the node above it, a value within its axis.
 * `within` always has the smaller number.
 */

import type { Lang } from "../nominal.js";
import type { Missing } from "../kind.js";
import { IntList, type ReadonlyIntList } from "./int-list.js";
import { Seal } from "./seal.js";

/** How a text names a record. `name` needs a language; `id` is the platform's. */
export type By = "key" | "code" | "name" | "id" | "row";

export interface ReferenceSpec {
  readonly to: string;
  readonly by: By;
  /** Further forms, in order of preference, for what has none of the form before. */
  readonly or?: readonly By[];
  readonly lang: Lang | undefined;
  readonly missing: Missing;
  /** True for the nodes of a path: with nothing above it, only a root of the tree will do. */
  readonly inTree: boolean;
  /** The kind of the records that names count within: each refers within one. Where left out, names are of records that belong to none. */
  readonly within?: string;
}

export const noReference = -1;

/** All forms in which a text may name the record, in order of preference. */
export function formsOf({ by, or }: Pick<ReferenceSpec, "by" | "or">): readonly By[] {
  return or ? [by, ...or] : [by];
}

/** Where a reference was first met, to state for a record that it was created. */
export interface Met {
  readonly sheet: number;
  readonly line: number;
}

/** References are known by their numbers, 0 to `size` - 1. */
export interface ReadonlyReferencePool {
  readonly size: number;
  readonly specs: readonly ReferenceSpec[];
  /** The row of the target's table, -1 where nothing was found. */
  readonly target: ReadonlyIntList;
  spec(number: number): ReferenceSpec;
  within(number: number): number;
  text(number: number): string;
  met(number: number): Met;
  /** The texts from the outermost reference inwards: the nodes of a path. */
  texts(number: number): string[];
}

export class ReferencePool implements ReadonlyReferencePool {
  specs: ReferenceSpec[] = [];
  #specNumbers = new Map<string, number>();
  /** By kind: the number of the spec of references by row. */
  #rowSpecs = new Map<string, number>();
  #numbers: Map<string, number>[] = [];
  /** The specs whose numbers belong to this pool alone. */
  #own: Set<number> | undefined;
  #spec = new IntList();
  #within = new IntList();
  #texts: string[] = [];
  #areTextsShared = false;
  #sheet = new IntList();
  #line = new IntList();
  /** Written by resolve. */
  target = new IntList();
  readonly #seal = new Seal();

  /** The same references, to be added to and resolved; this pool is sealed. */
  branch(): ReferencePool {
    this.#seal.close();
    const made = new ReferencePool();
    made.specs = this.specs.slice();
    made.#specNumbers = new Map(this.#specNumbers);
    made.#rowSpecs = new Map(this.#rowSpecs);
    made.#numbers = this.#numbers.slice();
    made.#own = new Set();
    made.#spec = this.#spec.branch();
    made.#within = this.#within.branch();
    made.#texts = this.#texts;
    made.#areTextsShared = true;
    made.#sheet = this.#sheet.branch();
    made.#line = this.#line.branch();
    made.target = this.target.branch();
    return made;
  }

  get size(): number {
    return this.#texts.length;
  }

  /** The number of a spec; the same spec has the same number. */
  specNumber(spec: ReferenceSpec): number {
    const word = JSON.stringify(spec);
    const known = this.#specNumbers.get(word);
    if (known !== undefined) return known;
    this.#seal.check();
    this.#own?.add(this.#numbers.length);
    this.#numbers.push(new Map());
    const number = this.specs.push(spec) - 1;
    this.#specNumbers.set(word, number);
    return number;
  }

  intern(spec: number, within: number, text: string, met: Met): number {
    let numbers = this.#numbers[spec]!;
    const name = within === noReference ? text : `${within}\u0000${text}`;
    const known = numbers.get(name);
    if (known !== undefined) return known;
    this.#seal.check();
    if (this.#own && !this.#own.has(spec)) {
      this.#numbers[spec] = numbers = new Map(numbers);
      this.#own.add(spec);
    }
    if (this.#areTextsShared) this.#texts = this.#texts.slice();
    this.#areTextsShared = false;
    const number = this.#texts.length;
    numbers.set(name, number);
    this.#spec.push(spec);
    this.#within.push(within);
    this.#texts.push(text);
    this.#sheet.push(met.sheet);
    this.#line.push(met.line);
    this.target.push(noReference);
    return number;
  }

  /** A reference to a record that is known already, by its row. */
  toRow(kind: string, row: number, met: Met): number {
    let spec = this.#rowSpecs.get(kind);
    if (spec === undefined) {
      spec = this.specNumber({ to: kind, by: "row", lang: undefined, missing: "error", inTree: false });
      this.#rowSpecs.set(kind, spec);
    }
    const number = this.intern(spec, noReference, String(row), met);
    this.target.set(number, row);
    return number;
  }

  spec(number: number): ReferenceSpec {
    return this.specs[this.#spec.get(number)]!;
  }
  within(number: number): number {
    return this.#within.get(number);
  }
  text(number: number): string {
    return this.#texts[number]!;
  }
  met(number: number): Met {
    return { sheet: this.#sheet.get(number), line: this.#line.get(number) };
  }

  texts(number: number): string[] {
    const texts: string[] = [];
    for (let at = number; at !== noReference; at = this.within(at))
      if (this.spec(at).by !== "row") texts.push(this.text(at));
    return texts.reverse();
  }
}
