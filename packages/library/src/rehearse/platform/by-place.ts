/** What many records have by the same names, such as fields, without a map for each: a name has a place, and a record a list of values. */

/** Names, each with its place. */
export class SharedNames {
  readonly all: string[] = [];
  readonly #at = new Map<string, number>();

  /** Where a name has its place; -1 if it has none yet. */
  find(name: string): number {
    return this.#at.get(name) ?? -1;
  }

  /** Where a name has its place, from now on at the latest. */
  of(name: string): number {
    let at = this.#at.get(name);
    if (at === undefined) this.#at.set(name, (at = this.all.push(name) - 1));
    return at;
  }
}

/** Values by name, to be looked at. */
export interface ReadonlyByPlace<V> {
  readonly names: SharedNames;
  /** How many there are. */
  readonly size: number;
  readonly get: (name: string) => V | undefined;
  readonly has: (name: string) => boolean;
  /** What stands at the place of a name. */
  readonly at: (place: number) => V | undefined;
  /** In the order in which the names got their places. @param take also gets the place of the name. */
  readonly each: (take: (name: string, value: V, place: number) => void) => void;
  readonly some: (test: (name: string, value: V) => boolean) => boolean;
  /** The same values, to be changed. */
  readonly copy: () => ByPlace<V>;
}

/** Values by name. */
export class ByPlace<V> implements ReadonlyByPlace<V> {
  #size = 0;
  #values: (V | undefined)[];

  constructor(readonly names: SharedNames) {
    this.#values = new Array<V | undefined>(names.all.length);
  }

  get size(): number {
    return this.#size;
  }
  get(name: string): V | undefined {
    return this.#values[this.names.find(name)];
  }
  has(name: string): boolean {
    return this.#values[this.names.find(name)] !== undefined;
  }

  /** @param value nothing is there any more, if undefined. */
  set(name: string, value: V | undefined): void {
    this.setAt(this.names.of(name), value);
  }

  at(place: number): V | undefined {
    return this.#values[place];
  }
  setAt(at: number, value: V | undefined): void {
    const before = this.#values[at];
    if (value === before) return;
    if (before === undefined) this.#size++;
    if (value === undefined) this.#size--;
    this.#values[at] = value;
  }

  each(take: (name: string, value: V, place: number) => void): void {
    const { all } = this.names;
    for (let at = 0; at < this.#values.length; at++) {
      const value = this.#values[at];
      if (value !== undefined) take(all[at]!, value, at);
    }
  }
  some(test: (name: string, value: V) => boolean): boolean {
    const { all } = this.names;
    return this.#values.some((value, at) => value !== undefined && test(all[at]!, value));
  }

  copy(): ByPlace<V> {
    const copy = new ByPlace<V>(this.names);
    copy.#values = this.#values.slice();
    copy.#size = this.#size;
    return copy;
  }
}
