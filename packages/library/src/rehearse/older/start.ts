/** A simulated platform that holds already what an export tells: where rehearsing a change begins. */

import { present } from "../../checked.js";
import type { Header } from "../../nominal.js";
import type { CellValue } from "../../codecs/codec.js";
import type { ColumnRule } from "../../target/schema.js";
import type { Target, TargetFile } from "../../target/target.js";
import { recordColumns, type RecordColumn } from "./record-columns.js";
import { isOfRecords } from "../intended-by-target.js";
import type { GiveId } from "../platform/store.js";
import { Registers, type RegisterRecord } from "./registers.js";
import { rolesOf } from "./roles.js";
import type { Snapshot, SnapshotRecord } from "../snapshot.js";
import { Shop, type NodePath } from "./store.js";
import type { Kinds } from "../../kinds.js";
import { byLanguage } from "../../layout/layout.js";

/** A simulated platform with what an export of it shows. @param idOf the platform's id of a record, where it is known. */
export function platformHolding(
  held: Snapshot,
  target: Target,
  kinds: Kinds,
  idOf: (kind: string, key: string) => string | undefined,
): Shop | Registers {
  return isOfRecords(target) ? registersHolding(held, target, kinds, idOf) : shopHolding(held, target);
}

/** Beyond all ids that platforms give out, so that none is met twice. */
const firstOwnId = 90_000_000;

function registersHolding(
  held: Snapshot,
  target: Target,
  kinds: Kinds,
  idOf: (kind: string, key: string) => string | undefined,
): Registers {
  const giveId: GiveId = (kind, key, count) => idOf(kind, key) ?? String(firstOwnId + count);
  const registers = new Registers(giveId);
  const lanes = lanesOf(target, kinds);
  for (const [kind, records] of Object.entries(held))
    for (const [key, record] of records) {
      const own = registers.create(kind, key);
      for (const [field, value] of record) {
        const lane = lanes.get(`${kind}.${field}`);
        if (lane) own.entries.set(field, entriesOf(value, lane));
        else own.fields.set(field, value);
        registers.note(own, field);
      }
      notePictures(registers.pictures, own);
    }
  return registers;
}

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

/** Entries by what tells them apart, as the machine keeps them. */
function entriesOf(value: CellValue, lane: LaneColumns): Map<string, readonly CellValue[]> {
  const keys = keysIn(lane);
  const tuples = value as readonly (readonly CellValue[])[];
  return new Map(tuples.map((tuple) => [JSON.stringify(keys.map((at) => tuple[at])), tuple]));
}

function notePictures(pictures: Set<string>, { fields, entries }: RegisterRecord): void {
  const note = (value: CellValue | undefined): void => {
    if (typeof value === "string") pictures.add(value);
    else for (const one of value ?? []) note(one);
  };
  for (const [field, value] of fields) if (field.startsWith("pictures")) note(value);
  for (const tuple of entries.get("pictures")?.values() ?? []) note(tuple);
}

function shopHolding(held: Snapshot, target: Target): Shop {
  const shop = new Shop();
  const roles = [...target.files.values()].flatMap((file) => [...rolesOf(target, file).values()]);
  const links = new Set(roles.flatMap(({ role }) => (role.is === "links" ? [role.field] : [])));
  const lanes = new Set(roles.flatMap(({ role }) => (role.is === "lane" ? [role.lane] : [])));
  const rest = (record: SnapshotRecord, not: (field: string) => boolean) =>
    new Map([...record].filter(([field]) => !not(field)));
  for (const [word, record] of held.product)
    shop.products.set(word, {
      word,
      fields: rest(record, (field) => field === "axes" || links.has(field)),
      axes: (record.get("axes") ?? []) as NodePath[],
      links: new Map([...record].filter(([field]) => links.has(field)) as [string, string[]][]),
      codes: [],
    });
  for (const [code, record] of held.variant) {
    const product = String(record.get("product"));
    shop.products.get(product)?.codes.push(code);
    shop.codes.set(code, {
      code,
      product,
      fields: rest(record, (field) => field === "product" || field === "values" || lanes.has(field)),
      values: (record.get("values") ?? []) as NodePath[],
      lanes: new Map([...record].filter(([field]) => lanes.has(field)) as [string, string[][]][]),
    });
  }
  for (const [key, record] of held.category)
    shop.nodes.set(key, { path: key.split(" / "), names: new Map(record) as Map<string, string> });
  for (const record of [...held.product.values(), ...held.variant.values()])
    for (const [field, value] of record)
      if (field.startsWith("pictures")) for (const name of [value].flat(2)) shop.pictures.add(String(name));
  return shop;
}
