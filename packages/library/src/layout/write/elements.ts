/** From the rows of a block to one element with those within it, whatever an element is in a format. */

import { firstOf } from "../../checked.js";
import type { ElementMaker } from "../../formats/drivers/driver.js";
import type { DocumentPlan, ScopePlan, PlacedColumn } from "../document-plan.js";
import type { WrittenRow } from "./context.js";

/** Makes the elements of a layout's blocks. */
export class DocumentBuilder<E extends object> {
  /** The text that each element has at a path. */
  #texts = new Map<E, Map<string, string>>();
  #row: WrittenRow = { cells: [], parent: -1, child: -1 };

  constructor(
    readonly plan: DocumentPlan,
    readonly make: ElementMaker<E>,
    /** Takes a cell whose element has another text there already. */
    readonly disagrees: (spot: PlacedColumn, row: WrittenRow, there: string) => void,
    /** Whether a blank cell says that the field is emptied. */
    readonly isEmptied: (spot: PlacedColumn, row: WrittenRow) => boolean,
  ) {}

  block(rows: readonly WrittenRow[]): E {
    const { own, child, lanes } = this.plan;
    const root = this.make.root();
    this.#texts = new Map();
    let chain: readonly E[] = [root];
    let lastChild = -1;
    const lastOf = lanes.map((): readonly E[] => []);
    rows.forEach((row, at) => {
      this.#row = row;
      if (at === 0) for (const spot of this.#filled(own)) this.#put(root, spot);
      if (child && row.child >= 0 && (row.child !== lastChild || chain.length === 1)) {
        chain = this.#addElement(child, [root], chain);
        lastChild = row.child;
      }
      lanes.forEach((lane, nth) => {
        const owners = lane.of === "child" ? chain : [root];
        if (this.#filled(lane.spots).length === 0 || owners.length !== lane.ownerLevels + 1) return;
        lastOf[nth] = this.#addElement(lane, owners, lastOf[nth]!);
      });
    });
    return root;
  }

  /**
   * Adds an element at the end of a scope's levels. Elements on the way there are those of the one before where they say the same.
   *
   * @param owners the elements down to that which the levels begin below.
   * @param before those down to the element that was added before.
   * @returns the elements down to the one that was added.
   */
  #addElement({ levels, spots }: ScopePlan, owners: readonly E[], before: readonly E[]): readonly E[] {
    const filled = this.#filled(spots);
    const at = (level: number) => filled.filter((spot) => spot.level === level);
    // What stands further up is written there, once.
    for (const spot of filled) if (spot.level < owners.length - 1) this.#putOnce(owners[spot.level + 1]!, spot);
    const chain = [...owners];
    for (let level = owners.length - 1; level < levels.length; level++) {
      const { step } = levels[level]!;
      const owner = chain[level]!;
      const isLast = level === levels.length - 1;
      const own = at(level);
      const known = before[level + 1];
      if (!isLast && !isSaidAt(spots, level)) chain.push(this.make.reach(owner, step));
      else if (!isLast && known !== undefined && before[level] === owner && this.#says(known, own)) chain.push(known);
      else chain.push(this.#addOne(owner, step, own));
    }
    return chain;
  }

  #addOne(owner: E, step: string, own: readonly PlacedColumn[]): E {
    const only = own.length === 1 && isItself(firstOf(own).path) ? firstOf(own) : undefined;
    const made = this.make.add(owner, step, only && { text: this.#textOf(only), holds: holdsOf(only) });
    if (!only) for (const spot of own) this.#put(made, spot);
    return made;
  }

  #says(element: E, spots: readonly PlacedColumn[]): boolean {
    const texts = this.#texts.get(element);
    return (texts?.size ?? 0) === spots.length && spots.every((spot) => texts?.get(spot.path) === this.#textOf(spot));
  }

  #putOnce(element: E, spot: PlacedColumn): void {
    const there = this.#texts.get(element)?.get(spot.path);
    if (there === undefined) this.#put(element, spot);
    else if (there !== this.#textOf(spot)) this.disagrees(spot, this.#row, there);
  }

  #put(element: E, spot: PlacedColumn): void {
    const text = this.#textOf(spot);
    const texts = this.#texts.get(element) ?? new Map<string, string>();
    this.#texts.set(element, texts.set(spot.path, text));
    this.make.put(element, spot.path, { text, holds: holdsOf(spot) });
  }

  #textOf({ at }: PlacedColumn): string {
    return this.#row.cells[at]!;
  }

  /** Columns that the row has something for. A fixed text stands beside something that is reported, never alone. */
  #filled(spots: readonly PlacedColumn[]): readonly PlacedColumn[] {
    const said = spots.filter((spot) => this.#textOf(spot) !== "" || this.isEmptied(spot, this.#row));
    // Paths of XML have no slash before their first name.
    const inside = ({ path }: PlacedColumn) => path.slice(0, Math.max(0, path.lastIndexOf("/")));
    const stands = (spot: PlacedColumn) =>
      said.some(
        (other) =>
          !isFixed(other) &&
          (other.level > spot.level || (other.level === spot.level && inside(other).startsWith(inside(spot)))),
      );
    return said.filter((spot) => !isFixed(spot) || stands(spot));
  }
}

const isSaidAt = (spots: readonly PlacedColumn[], level: number): boolean => spots.some((spot) => spot.level === level);

const isFixed = ({ column }: PlacedColumn): boolean =>
  column.bindings.every(({ feed }) => feed.is === "shape" && feed.constant !== undefined);

function holdsOf({ column }: PlacedColumn): "number" | "flag" | undefined {
  const { holds } = firstOf(column.bindings).codec;
  return holds === "number" || holds === "flag" ? holds : undefined;
}

const isItself = (path: string): boolean => path === "." || path === "";
