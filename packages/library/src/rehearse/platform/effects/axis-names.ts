/** What rows call an axis, or a value on one, in several languages. */

import { textIn, type HeldRecord } from "../held-record.js";

/** Whether a field holds a name. */
export const isName = (field: string): boolean => field.startsWith("name@");

/** Blank where it has none. */
export const nameIn = ({ fields }: HeldRecord, field: string): string => textIn(fields, field) ?? "";

/** Names by field: `name@en`. They are few, and made for every row: two lists are less than a map. */
export class SaidNames {
  #fields: string[];
  #names: string[];

  constructor(field: string, name: string) {
    this.#fields = [field];
    this.#names = [name];
  }

  get(field: string): string | undefined {
    const at = this.#fields.indexOf(field);
    return at < 0 ? undefined : this.#names[at];
  }
  has(field: string): boolean {
    return this.#fields.includes(field);
  }

  set(field: string, name: string): void {
    const at = this.#fields.indexOf(field);
    if (at >= 0) this.#names[at] = name;
    else {
      // A list that is pushed into has room for many more.
      this.#fields = this.#fields.concat(field);
      this.#names = this.#names.concat(name);
    }
  }

  each(take: (field: string, name: string) => void): void {
    for (let at = 0; at < this.#fields.length; at++) take(this.#fields[at]!, this.#names[at]!);
  }

  get areBlank(): boolean {
    return this.#names.every((name) => name === "");
  }

  /** Whether a record has exactly these names. */
  areOf(record: HeldRecord): boolean {
    let filled = 0;
    for (let at = 0; at < this.#fields.length; at++) {
      const name = this.#names[at]!;
      if (nameIn(record, this.#fields[at]!) !== name) return false;
      if (name !== "") filled++;
    }
    // Most values have nothing but names.
    return record.fields.size === filled || !record.fields.some((field) => isName(field) && !this.has(field));
  }
}

/** Whether a record has exactly these names. @param names none, if undefined. */
export const isCalled = (record: HeldRecord, names: SaidNames | undefined): boolean =>
  names ? names.areOf(record) : !record.fields.some(isName);

/** The names of a record, with others in the place of some of them. */
export function overlaid({ fields }: HeldRecord, said: SaidNames | undefined): SaidNames | undefined {
  let names: SaidNames | undefined;
  const put = (field: string, name: string): void => {
    if (names) names.set(field, name);
    else names = new SaidNames(field, name);
  };
  fields.each((field) => isName(field) && put(field, textIn(fields, field) ?? ""));
  said?.each(put);
  return names;
}
