/**
 * Which record on the platform is which of yours, where the keys do not tell it: by code, barcode, address; what is left gets suggestions, and the
 * specialist's answers count.
 */

import { failure } from "../findings/result.js";
import { finding, Findings, type Result } from "../findings/finding.js";
import { entryOf } from "../checked.js";
import { asTargetView, type TargetView } from "../catalogue/catalogue.js";
import { compareText, type Location } from "../location.js";
import type { CellValue } from "../codecs/codec.js";
import type { Snapshot, SnapshotRecord } from "../rehearse/snapshot.js";

/** A record of yours and one on the platform that may be the same. */
export interface Pair {
  readonly kind: string;
  readonly yours: string;
  readonly platforms: string;
  readonly why: string;
}

export type Reply = "same" | "different";

/** Pairs that the specialist has decided, and those still open. */
export interface RepliedPair extends Pair {
  readonly reply: Reply | undefined;
}

/** What tells records apart, in the order in which it is asked. */
const identities = ["code", "barcode", "slug"] as const;
type Identity = (typeof identities)[number];

export interface Collision extends Pair {
  readonly by: Identity;
  readonly value: string;
}

const text = (value: CellValue | undefined): string[] => (typeof value === "string" && value !== "" ? [value] : []);

/** By each identity, the records of a kind that have it; products answer to what is true of their variants. */
function identitiesOf(snapshot: Snapshot, kind: string): Record<Identity, Map<string, Set<string>>> {
  const found = {
    code: new Map<string, Set<string>>(),
    barcode: new Map<string, Set<string>>(),
    slug: new Map<string, Set<string>>(),
  };
  const note = (identity: Identity, value: string, key: string) => {
    const known = found[identity].get(value);
    if (known) known.add(key);
    else found[identity].set(value, new Set([key]));
  };
  const add = (record: SnapshotRecord, key: string) => {
    for (const code of text(record.get("code"))) note("code", code, key);
    for (const barcode of text(record.get("barcode"))) note("barcode", barcode, key);
    for (const [field, value] of record)
      if (field.startsWith("slug@")) for (const slug of text(value)) note("slug", `${field}=${slug}`, key);
  };
  for (const [key, record] of snapshot[kind] ?? []) add(record, key);
  if (kind !== "product") return found;
  for (const [code, record] of snapshot.variant) {
    for (const product of text(record.get("product"))) {
      note("code", text(record.get("code"))[0] ?? code, product);
      for (const barcode of text(record.get("barcode"))) note("barcode", barcode, product);
    }
  }
  return found;
}

/** Records of yours that are not on the platform by key, and share with one there what only one record should have. */
export function collisions(intended: Snapshot, onPlatform: Snapshot, kind: string): Collision[] {
  // Where all of yours are on the platform, none collides.
  const isNew = [...(intended[kind]?.keys() ?? [])].some((key) => !onPlatform[kind]?.has(key));
  if (!isNew) return [];
  const yours = identitiesOf(intended, kind);
  const platforms = identitiesOf(onPlatform, kind);
  const found = new Map<string, Collision>();
  for (const by of identities)
    for (const [value, keys] of yours[by])
      for (const key of keys) {
        if (onPlatform[kind]?.has(key) || found.has(key)) continue;
        // A record that we mean ourselves is not a stranger: what it shares is reported by the checks.
        const other = [...(platforms[by].get(value) ?? [])].find((one) => one !== key);
        if (other === undefined) continue;
        const shown = value.replace(/^[^=]*=/, "");
        found.set(key, { kind, yours: key, platforms: other, by, value: shown, why: `the same ${by} ${shown}` });
      }
  return [...found.values()];
}

const least = 0.6;
const mostPerWord = 200;
const nameParts = (name: string): string[] => name.toLowerCase().match(/[\p{L}\p{N}]+/gu) ?? [];

/** Pairs whose names are alike, for records that nothing else has paired. Each record is suggested once. */
export function suggestions(
  yours: ReadonlyMap<string, SnapshotRecord>,
  platforms: ReadonlyMap<string, SnapshotRecord>,
  kind: string,
): Pair[] {
  const nameOf = (record: SnapshotRecord) =>
    [...record].flatMap(([field, value]) => (field.startsWith("name@") ? text(value) : []))[0] ?? "";
  const byWord = new Map<string, string[]>();
  for (const [key, record] of platforms)
    for (const word of new Set(nameParts(nameOf(record)))) byWord.set(word, [...(byWord.get(word) ?? []), key]);
  const scored: { pair: Pair; score: number }[] = [];
  for (const [key, record] of yours) {
    const own = new Set(nameParts(nameOf(record)));
    const shared = new Map<string, number>();
    for (const word of own) {
      const keys = byWord.get(word) ?? [];
      if (keys.length <= mostPerWord) for (const other of keys) shared.set(other, (shared.get(other) ?? 0) + 1);
    }
    for (const [other, count] of shared) {
      const there = entryOf(platforms, other);
      const score = (2 * count) / (own.size + new Set(nameParts(nameOf(there))).size);
      if (score < least) continue;
      const also = ["brand", "categories", "sort"].filter(
        (field) => record.has(field) && JSON.stringify(record.get(field)) === JSON.stringify(there.get(field)),
      );
      const why = `${score === 1 ? "the same words in the name" : `names alike: ${nameOf(record)}, ${nameOf(there)}`}${also.length > 0 ? `; the same ${also.join(", ")}` : ""}`;
      scored.push({ pair: { kind, yours: key, platforms: other, why }, score: score + also.length / 10 });
    }
  }
  scored.sort(
    (a, b) =>
      b.score - a.score || compareText(a.pair.yours, b.pair.yours) || compareText(a.pair.platforms, b.pair.platforms),
  );
  const taken = new Set<string>();
  return scored.flatMap(({ pair }) => {
    const [one, other] = [`yours ${pair.yours}`, `platform ${pair.platforms}`];
    if (taken.has(one) || taken.has(other)) return [];
    taken.add(one).add(other);
    return [pair];
  });
}

/** Takes over the platform's keys for records that the specialist has said are the same. A pair that names nothing, or a key that is taken, is a finding. */
export function withPairs(
  given: TargetView,
  pairs: readonly RepliedPair[],
  placeOf: (at: number) => Location,
  findings: Findings,
): TargetView {
  const catalogue = given.branch();
  pairs.forEach(({ kind, yours, platforms, reply: answer }, at) => {
    if (answer !== "same" || yours === platforms) return;
    const table = catalogue.kinds.find(kind) && catalogue.table(kind);
    const row = table?.find(yours);
    if (!table || row === undefined)
      findings.add(finding("compare/pair-names-nothing", { kind, key: yours }, placeOf(at)));
    else if (table.find(platforms) !== undefined)
      findings.add(finding("compare/pair-taken", { kind, key: yours, platforms }, placeOf(at)));
    else table.rename(row, platforms);
  });
  return asTargetView(catalogue);
}

const columns = ["Kind", "Yours", "On platform", "Reason", "Reply"] as const;

/** The pairs as rows of a sheet, to be answered with `same` or `different`. */
export function pairRows(pairs: readonly RepliedPair[]): string[][] {
  return [
    [...columns],
    ...pairs.map(({ kind, yours, platforms, why, reply }) => [kind, yours, platforms, why, reply ?? ""]),
  ];
}

/** Reads answered pairs; fails where the header is not that of pairs. An answer that is neither is a finding. */
export function pairsOfRows(
  rows: readonly (readonly string[])[],
  lines: readonly number[],
  file: string,
): Result<RepliedPair[]> {
  const findings = new Findings();
  const [header = [], ...rest] = rows;
  if (columns.some((column) => !header.includes(column)))
    return failure(finding("compare/no-pairs", { columns }, { file }));
  const cellOf = (cells: readonly string[], name: (typeof columns)[number]): string =>
    cells[header.indexOf(name)] ?? "";
  const pairs = rest.map((cells, at): RepliedPair => {
    const reply = cellOf(cells, "Reply").trim().toLowerCase();
    const isReply = reply === "same" || reply === "different";
    if (!isReply && reply !== "")
      findings.add(finding("compare/odd-reply", { text: reply }, { file, line: lines[at + 1]!, column: "Reply" }));
    return {
      kind: cellOf(cells, "Kind"),
      yours: cellOf(cells, "Yours"),
      platforms: cellOf(cells, "On platform"),
      why: cellOf(cells, "Reason"),
      reply: isReply ? reply : undefined,
    };
  });
  return { ok: true, value: pairs, findings };
}
