/** The reviewer's view: of each record, every field as it was intended and as it is on the platform. */

import type { RecordPair } from "./platform-data.js";

const pairKey = (kind: string, key: string): string => `${kind}\u0000${key}`;

/** What was reviewed, record by record. */
export class Reviewed {
  readonly #pairs: ReadonlyMap<string, RecordPair>;
  /** How many fields of all records there are. */
  readonly fields: number;
  readonly differing: readonly RecordPair[];

  constructor(pairs: readonly RecordPair[]) {
    this.#pairs = new Map(pairs.map((pair) => [pairKey(pair.kind, pair.key), pair]));
    this.fields = pairs.reduce((sum, { fields }) => sum + fields.length, 0);
    this.differing = pairs.filter((pair) => pair.isAlone || differingIn(pair) > 0);
  }

  find(kind: string, key: string): RecordPair {
    return this.#pairs.get(pairKey(kind, key)) ?? { kind, key, isAlone: false, fields: [] };
  }
}

/** How many fields of a record differ. */
export const differingIn = ({ fields }: RecordPair): number => fields.filter(({ isSame }) => !isSame).length;
