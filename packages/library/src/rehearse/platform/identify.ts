/** How a platform tells which record a row is about: by the ways that its importer names, in their order. */

import { isProblem } from "../../codecs/codec.js";
import type { KindSpec } from "../../kind.js";
import type { Header } from "../../nominal.js";
import type { IdentifiedBy } from "../../target/importing.js";
import type { TargetFile } from "../../target/target.js";
import type { Use } from "./columns.js";
import type { HeldRecord, PlatformStore } from "./store.js";

/** The record that is meant: one that is there, a new one, or none, with the reason. */
export type Identified =
  | { readonly is: "known"; readonly record: HeldRecord; readonly word: string }
  /** By field: what it is told apart by. */
  | { readonly is: "new"; readonly words: ReadonlyMap<string, string>; readonly word: string }
  | { readonly is: "refused"; readonly reason: string; readonly word: string };

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
  return { kind, ways, words: words.length > 0 ? words : keys };
}

/** @param within what contains the record, for names. */
export function identify(
  { kind, ways, words }: Identifier,
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
  const texts = words.map(({ header }) => cell(header));
  const shown =
    texts.find((text) => text !== "") ?? ways.map(({ use }) => cell(use.header)).find((text) => text !== "") ?? "";
  const given = new Map<string, string>();
  for (const { by, field, use } of ways) {
    const text = cell(use.header);
    if (text === "") continue;
    const value = use.codec.parse(text);
    if (isProblem(value) || typeof value !== "string") continue;
    const found = store
      .find(kind.name, field, value)
      .filter((one) => by !== "name" || !within || one.container === within);
    if (found[0]) return { is: "known", record: found[0], word: shown };
    if (by === "id" && unknownId === "create") given.set(field, value);
    if (by === "id" && unknownId === "refuse")
      return { is: "refused", reason: `no ${kind.name} has the id ${text}`, word: shown };
  }
  if (isUpdate) return { is: "refused", reason: `there is no ${kind.name} "${shown}"`, word: shown };
  if (words.length > 0 && texts.every((text) => text === ""))
    return { is: "refused", reason: "a new record without its word", word: shown };
  return { is: "new", words: new Map([...keyTexts(words, cell), ...given]), word: shown };
}

function keyTexts(words: readonly Use[], cell: (header: Header) => string): ReadonlyMap<string, string> {
  return new Map(
    words.flatMap((use) => {
      const [text, way] = [cell(use.header), wayOf(use)];
      const value = text === "" ? undefined : use.codec.parse(text);
      return way && typeof value === "string" ? [[way.field, value] as const] : [];
    }),
  );
}
