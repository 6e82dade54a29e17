/** What a platform does by itself to the fields of its records, by the rules of the columns: what it keeps, begins with, or makes. */

import { present } from "../checked.js";
import type { Header } from "../nominal.js";
import type { ColumnRule } from "../target/schema.js";
import type { Target, TargetFile } from "../target/target.js";
import { recordColumns, type RecordColumn } from "./record-columns.js";
import { isOfRecords } from "./intended-by-target.js";
import { rolesOf } from "./roles.js";
import type { Kinds } from "../kinds.js";
import { byLanguage } from "../layout/layout.js";

interface LaneColumns {
  readonly columns: readonly RecordColumn[];
  readonly file: TargetFile;
}

/** By kind and collection: the columns of the lane, in their order. */
function lanesOf(target: Target, kinds: Kinds): Map<string, LaneColumns> {
  const lanes = new Map<string, LaneColumns>();
  for (const file of target.files.values())
    for (const layout of file.layouts)
      for (const lane of layout.lanes) {
        const columns = [...recordColumns(file, layout, kinds).values()].flat();
        const own = columns.filter((column) => column.role === "entry" && column.collection === lane.collection);
        lanes.set(`${layout.shape.parent.name}.${lane.collection}`, { columns: own, file });
      }
  return lanes;
}

/** By kind and collection: the places, in an entry, of what tells entries apart. Only where rows are entries. */
export type LaneKeys = ReadonlyMap<string, readonly number[]>;

/** Which fields tell the entries of each list of a platform of records apart. */
export function laneKeys(target: Target, kinds: Kinds): LaneKeys {
  if (!isOfRecords(target)) return new Map();
  return new Map([...lanesOf(target, kinds)].map(([name, lane]) => [name, keysIn(lane)]));
}

const keysIn = ({ columns, file }: LaneColumns): number[] =>
  columns.flatMap(({ header }, at) => (file.entryKey.includes(header) ? [at] : []));

/** Fields, as `kind.field`, that a blank cell leaves as they are on the platform. */
export function fieldsLeftByBlank(target: Target, kinds: Kinds): Set<string> {
  const isLeft = ({ blank }: ColumnRule) => (["leave", "generate"].includes(blank) ? blank : undefined);
  return new Set(fieldsByRule(target, kinds, isLeft).keys());
}

/** What the platform puts by itself into fields that are left blank: by `kind.field`. */
export const fieldsOfThePlatform = (target: Target, kinds: Kinds): Map<string, "default" | "generated"> =>
  fieldsByRule(target, kinds, (rule) => {
    if (rule.blank === "generate") return "generated";
    return rule["starts as"] === undefined ? undefined : "default";
  });

/** By `kind.field`: what the rules of its columns come to, where they come to anything. */
function fieldsByRule<T>(
  target: Target,
  kinds: Kinds,
  comesTo: (rule: ColumnRule) => T | undefined,
): Map<string, NonNullable<T>> {
  const fields = new Map<string, NonNullable<T>>();
  const note = (file: TargetFile, header: Header, name: string): void => {
    const rule = file.rules.get(header);
    const found = rule && comesTo(rule);
    if (found !== undefined && found !== null) fields.set(name, found);
  };
  for (const file of target.files.values()) {
    if (!isOfRecords(target)) {
      for (const { header, level, role } of rolesOf(target, file).values())
        if (role.is === "field" || role.is === "links" || role.is === "places")
          note(
            file,
            header,
            `${level === "parent" ? "product" : "variant"}.${role.is === "places" ? "categories" : role.field}`,
          );
      continue;
    }
    for (const layout of file.layouts.flatMap((one) => byLanguage(one).map(([, own]) => own)))
      for (const { header, level, field } of [...recordColumns(file, layout, kinds).values()].flat())
        note(file, header, `${present(level === "child" ? layout.shape.child : layout.shape.parent).name}.${field}`);
  }
  return fields;
}
