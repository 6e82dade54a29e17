import { entryOf } from "../checked.js";
import { pushAll } from "../lists.js";
/**
 * Splitting a step's products into files: never through a product, products that link to each other together where they fit.
 */

export interface Weight {
  readonly products: number;
  readonly bytes: number;
}

export interface BatchLimits {
  readonly products?: number | undefined;
  readonly bytes?: number | undefined;
}

/**
 * @param records in the order in which they should stand. @param linked pairs that should be in one file.
 * @param bytesOf how long a record's rows are. @param fixedBytes what every file holds besides: its header.
 * @returns the records of each file, in the order given; and those that no file can take.
 */
export function splitIntoBatches(
  records: readonly number[],
  linked: Iterable<readonly [number, number]>,
  limits: BatchLimits,
  bytesOf: (record: number) => number,
  fixedBytes: number,
): { readonly batches: readonly (readonly number[])[]; readonly tooLarge: readonly number[] } {
  if (limits.products === undefined && limits.bytes === undefined)
    return { batches: records.length === 0 ? [] : [records], tooLarge: [] };
  const most: Weight = { products: limits.products ?? Infinity, bytes: (limits.bytes ?? Infinity) - fixedBytes };
  const weigh = (record: number): number => (limits.bytes === undefined ? 0 : bytesOf(record));
  const location = new Map(records.map((record, at) => [record, at]));
  const tooLarge = records.filter((record) => weigh(record) > most.bytes);
  const kept = records.filter((record) => weigh(record) <= most.bytes);

  const batches: { records: number[]; weight: { products: number; bytes: number } }[] = [];
  let firstOpen = 0;
  const fits = (weight: Weight, add: Weight) =>
    weight.products + add.products <= most.products && weight.bytes + add.bytes <= most.bytes;
  const put = (group: readonly number[], add: Weight): void => {
    let batch = batches.slice(firstOpen).find((one) => fits(one.weight, add));
    if (!batch) batches.push((batch = { records: [], weight: { products: 0, bytes: 0 } }));
    pushAll(batch.records, group);
    batch.weight.products += add.products;
    batch.weight.bytes += add.bytes;
    while (batches[firstOpen] && batches[firstOpen]!.weight.products >= most.products) firstOpen++;
    // Looking back further would make splitting quadratic, for little.
    firstOpen = Math.max(firstOpen, batches.length - 8);
  };
  for (const group of groupsOf(kept, linked)) {
    const weight = { products: group.length, bytes: group.reduce((sum, record) => sum + weigh(record), 0) };
    if (fits({ products: 0, bytes: 0 }, weight)) put(group, weight);
    else for (const record of group) put([record], { products: 1, bytes: weigh(record) });
  }
  return {
    batches: batches.map((batch) => batch.records.sort((a, b) => entryOf(location, a) - entryOf(location, b))),
    tooLarge,
  };
}

/** Records that hang together by links, each group in order, groups by their first record. */
function groupsOf(records: readonly number[], linked: Iterable<readonly [number, number]>): number[][] {
  const leader = new Map(records.map((record) => [record, record]));
  const find = (record: number): number => {
    let root = record;
    while (leader.get(root) !== root) root = entryOf(leader, root);
    for (let at = record; at !== root;) {
      const next = entryOf(leader, at);
      leader.set(at, root);
      at = next;
    }
    return root;
  };
  for (const [a, b] of linked) if (leader.has(a) && leader.has(b)) leader.set(find(b), find(a));
  const groups = new Map<number, number[]>();
  for (const record of records) {
    const root = find(record);
    const group = groups.get(root);
    if (group) group.push(record);
    else groups.set(root, [record]);
  }
  return [...groups.values()];
}
