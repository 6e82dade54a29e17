/** How a platform tells which record a row is about: by the ways that its importer names, in their order. */

import { isProblem } from "../../codecs/codec.js";
import type { KindSpec } from "../../kind.js";
import { added } from "../../lists.js";
import type { Header } from "../../nominal.js";
import type { IdentifiedBy } from "../../target/importing.js";
import type { TargetFile } from "../../target/target.js";
import type { Use } from "./columns.js";
import type { HeldRecord } from "./held-record.js";
import type { PlatformStore } from "./store.js";

/** The record that is meant: one that is there, a new one, or none, with the reason. */
export type Identified =
  | { readonly is: "known"; readonly record: HeldRecord; readonly word: string }
  /** By field: what it is told apart by. */
  | { readonly is: "new"; readonly words: readonly WordOf[]; readonly word: string }
  | { readonly is: "refused"; readonly reason: string; readonly word: string };

/** What a record is told apart by in a field. */
export type WordOf = readonly [field: string, word: string];

/** A column that says which record it is, and the field by which records are found. */
interface Way {
  readonly by: IdentifiedBy;
  readonly field: string;
  readonly use: Use;
}

export interface Identifier {
  readonly kind: KindSpec;
  readonly ways: readonly Way[];
  /** The columns by which a new record can be told from others. */
  readonly words: readonly Use[];
  /** What they say of it. */
  readonly told: readonly Way[];
}

const wayOf = (use: Use): Way | undefined => {
  const { feed } = use;
  if (feed.is === "key") return { by: "key", field: "key", use };
  if (feed.is !== "text") return undefined;
  if (feed.field === "id" || feed.field === "code") return { by: feed.field, field: feed.field, use };
  return feed.field.startsWith("name@") ? { by: "name", field: feed.field, use } : undefined;
};

/** @param first the column that tells the rows of a record apart, where rows are grouped by one. */
export function identifierOf(
  { importing }: TargetFile,
  kind: KindSpec,
  uses: readonly Use[],
  first: Header | undefined,
): Identifier {
  const all = uses.flatMap((use) => wayOf(use) ?? []);
  const usual = (["id", "key", "code", "name"] as const).find((by) => all.some((way) => way.by === by));
  const grouping = all.find(({ use }) => use.header === first)?.by;
  const order = importing["identified by"]?.[kind.name] ?? [grouping ?? usual].flatMap((by) => by ?? []);
  const ways = order.flatMap((by) => all.find((way) => way.by === by) ?? []);
  const words = ways.filter(({ by }) => by !== "id").map(({ use }) => use);
  const keys = all.filter(({ by }) => by === "key").map(({ use }) => use);
  const own = words.length > 0 ? words : keys;
  return { kind, ways, words: own, told: own.flatMap((use) => wayOf(use) ?? []) };
}

/** @param within what contains the record, for names. */
export function identify(
  { kind, ways, words, told }: Identifier,
  store: PlatformStore,
  cell: (header: Header) => string,
  {
    isUpdate,
    unknownId,
    within,
  }: {
    readonly isUpdate: boolean;
    readonly unknownId: "refuse" | "create";
    readonly within?: HeldRecord | undefined;
  },
): Identified {
  const word = firstText(words, cell);
  const shown =
    word !== ""
      ? word
      : firstText(
          ways.map(({ use }) => use),
          cell,
        );
  let given: string | undefined;
  for (const { by, field, use } of ways) {
    const text = cell(use.header);
    if (text === "") continue;
    const value = use.codec.parse(text);
    if (isProblem(value) || typeof value !== "string") continue;
    const fits = (one: HeldRecord) => by !== "name" || !within || one.container === within;
    const found = store.findWhere(kind.name, field, value, fits);
    if (found) return { is: "known", record: found, word: shown };
    if (by === "id" && unknownId === "create") given = value;
    if (by === "id" && unknownId === "refuse")
      return { is: "refused", reason: `no ${kind.name} has the id ${text}`, word: shown };
  }
  if (isUpdate) return { is: "refused", reason: `there is no ${kind.name} "${shown}"`, word: shown };
  if (words.length > 0 && word === "") return { is: "refused", reason: "a new record without its word", word: shown };
  const texts = keyTexts(told, cell);
  return { is: "new", words: given === undefined ? texts : [...texts, ["id", given]], word: shown };
}

function firstText(uses: readonly Use[], cell: (header: Header) => string): string {
  for (const { header } of uses) {
    const text = cell(header);
    if (text !== "") return text;
  }
  return "";
}

function keyTexts(told: readonly Way[], cell: (header: Header) => string): readonly WordOf[] {
  let texts: WordOf[] | undefined;
  for (const { field, use } of told) {
    const text = cell(use.header);
    const value = text === "" ? undefined : use.codec.parse(text);
    if (typeof value === "string") texts = added<WordOf>(texts, [field, value]);
  }
  return texts ?? [];
}
