/** What the simulated platform holds while a rehearsal plays, and how that becomes a snapshot. */

import type { CellValue } from "../../codecs/codec.js";
import { pathKey, setField, sortTiers, type Snapshot } from "../snapshot.js";

/** A word in each language of the target, in their order; "" where there is none. */
export type NodePath = readonly string[];

export interface ShopCode {
  readonly code: string;
  product: string;
  fields: Map<string, CellValue>;
  values: NodePath[];
  lanes: Map<string, string[][]>;
}

export interface ShopProduct {
  readonly word: string;
  fields: Map<string, CellValue>;
  axes: NodePath[];
  /** Links to other products by field; looked up, so every word in here is known. */
  links: Map<string, string[]>;
  /** Codes in the order in which they came. */
  codes: string[];
}

export interface ShopNode {
  readonly path: readonly string[];
  readonly names: Map<string, string>;
}

/**
 * The shop. Changes of one group of rows are made on a draft and kept or dropped together.
 */
export class Shop {
  readonly products = new Map<string, ShopProduct>();
  readonly codes = new Map<string, ShopCode>();
  readonly nodes = new Map<string, ShopNode>();
  readonly pictures = new Set<string>();

  draftProduct(word: string): ShopProduct {
    const known = this.products.get(word);
    if (!known) return { word, fields: new Map(), axes: [], links: new Map(), codes: [] };
    return {
      word,
      fields: new Map(known.fields),
      axes: [...known.axes],
      links: new Map(known.links),
      codes: [...known.codes],
    };
  }

  draftCode(code: string, product: string): ShopCode {
    const known = this.codes.get(code);
    if (!known) return { code, product, fields: new Map(), values: [], lanes: new Map() };
    return {
      code,
      product: known.product,
      fields: new Map(known.fields),
      values: [...known.values],
      lanes: new Map(known.lanes),
    };
  }

  removeProduct(word: string): void {
    this.products.delete(word);
    for (const other of this.products.values())
      for (const [field, links] of other.links)
        other.links.set(
          field,
          links.filter((link) => link !== word),
        );
  }

  /** How many there are of each kind. */
  counts(): ReadonlyMap<string, number> {
    return new Map([
      ["category", this.nodes.size],
      ["product", this.products.size],
      ["variant", this.codes.size],
      ["picture", this.pictures.size],
    ]);
  }

  snapshot(): Snapshot {
    const product = new Map([...this.products].map(([word, held]) => [word, productRecord(held)]));
    const variant = new Map([...this.codes].map(([code, held]) => [code, codeRecord(held)]));
    const category = new Map(
      [...this.nodes.values()].map((node) => [pathKey(node.path), new Map<string, CellValue>(node.names)]),
    );
    return { product, variant, category };
  }
}

function productRecord({ fields, axes, links }: ShopProduct): Map<string, CellValue> {
  const record = new Map<string, CellValue>();
  for (const [field, value] of [...fields, ...links]) setField(record, field, value);
  setField(record, "axes", axes);
  return record;
}

function codeRecord({ product, fields, values, lanes }: ShopCode): Map<string, CellValue> {
  const record = new Map<string, CellValue>([["product", product]]);
  for (const [field, value] of fields) setField(record, field, value);
  setField(record, "values", values);
  for (const [lane, entries] of lanes) setField(record, lane, sortTiers(entries));
  return record;
}
