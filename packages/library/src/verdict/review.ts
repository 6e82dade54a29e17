/** What a platform has beside what it is to have: each record field by field, and what differs. */

import type { TargetView } from "../catalogue/catalogue.js";
import { isHeldBack, type HeldBack } from "../build/hold-back.js";
import { hasByItself } from "../compare/by-itself.js";
import { FieldTexts, textsThere } from "../compare/field-texts.js";
import type { PlatformCatalogue } from "../compare/held.js";
import { none } from "../match/correspondence.js";
import type { Target } from "../target/target.js";
import { compareHeld, type LocatedDifference } from "./compare-held.js";
import { added } from "../lists.js";

/** A field on both sides, as a text; undefined for nothing. */
export interface ReviewedField {
  readonly field: string;
  readonly intended: string | undefined;
  readonly onPlatform: string | undefined;
  readonly isSame: boolean;
}

/** A record on both sides. */
export interface ReviewedRecord {
  readonly kind: string;
  /** On the platform; of a record that is missing there, its own. */
  readonly key: string;
  /** Whether only one side has it. */
  readonly isAlone: boolean;
  readonly fields: readonly ReviewedField[];
}

/** What is on a platform, against what is intended. */
export interface PlatformReview {
  readonly differences: readonly LocatedDifference[];
  /** Each record of either side, with all fields that both have and all that differ. */
  readonly records: readonly ReviewedRecord[];
}

/** Compares what a platform tells with what is intended, as far as the target has a place for it. */
export function reviewPlatform(
  catalogue: TargetView,
  target: Target,
  heldBack: HeldBack,
  told: PlatformCatalogue,
): PlatformReview {
  const byItself = hasByItself(target, catalogue.kinds);
  const isOfPlatform = (name: string, field: string, row: number) => {
    const table = told.catalogue.table(name);
    const textOf = (one: string) => table.text(one, row) ?? undefined;
    return byItself(name, field, textOf, textOf(field));
  };
  const held = { catalogue: told.catalogue, isOfPlatform };
  const { differences, matched } = compareHeld(catalogue, target, held, isHeldBack(heldBack));
  const own = new FieldTexts(matched.own);
  const there = textsThere(matched);
  const differing = new Map<string, LocatedDifference[]>();
  for (const one of differences) {
    const name = `${one.kind} ${one.key}`;
    differing.set(name, added(differing.get(name), one));
  }
  const records: ReviewedRecord[] = [];
  for (const kind of catalogue.kinds.roots) {
    const [table, other] = [matched.own.table(kind.name), matched.other.table(kind.name)];
    const fieldsOf = (texts: FieldTexts, row: number) =>
      new Map(row === none ? [] : texts.of(kind, row, told.coverage));
    for (let row = 0; row < table.size; row++) {
      const at = matched.otherOf(kind.name, row);
      const found = differing.get(`${kind.name} ${table.key(row)}`) ?? [];
      const isMissing = found.some(({ field }) => field === undefined);
      // What is held back, and what the target has no place for, is nowhere.
      if (at === none && !isMissing) continue;
      const fields = pairsOf(fieldsOf(own, row), fieldsOf(there, at), found, isMissing);
      records.push({ kind: kind.name, key: at === none ? table.key(row) : other.key(at), isAlone: isMissing, fields });
    }
    for (const { key } of differences.filter((one) => one.kind === kind.name && isTooMuch(one))) {
      const fields = pairsOf(new Map(), fieldsOf(there, other.find(key) ?? none), [], true);
      records.push({ kind: kind.name, key, isAlone: true, fields });
    }
  }
  return { differences, records };
}

const isTooMuch = ({ field, intended }: LocatedDifference): boolean => field === undefined && intended === undefined;

/** The fields that both sides have, and those that differ. @param isAlone whether only one side has the record: then all do. */
function pairsOf(
  own: ReadonlyMap<string, string>,
  there: ReadonlyMap<string, string>,
  found: readonly LocatedDifference[],
  isAlone: boolean,
): ReviewedField[] {
  const isDifferent = (field: string) =>
    isAlone || found.some((one) => one.field === field || field.startsWith(`${one.field ?? ""}.`));
  const names = [...new Set([...own.keys(), ...there.keys()])];
  const pairs = names.flatMap((field): ReviewedField[] => {
    const [intended, onPlatform] = [own.get(field), there.get(field)];
    const isSame = !isDifferent(field);
    // Without a place there, or of the platform's own making.
    if (isSame && (intended === undefined || onPlatform === undefined)) return [];
    return [{ field, intended, onPlatform, isSame }];
  });
  const others = found.flatMap(({ field, intended, actual }): ReviewedField[] =>
    field === undefined || names.some((one) => one === field || one.startsWith(`${field}.`))
      ? []
      : [{ field, intended, onPlatform: actual, isSame: false }],
  );
  return [...pairs, ...others];
}
