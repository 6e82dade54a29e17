/**
 * Rows for records of which we have none, made of what the platform holds: to hide what is gone, to let go of a code that another
 * record is to have.
 */

import { driverOf } from "../formats/drivers/drivers.js";
import type { Header, Key } from "../nominal.js";
import { firstOf, fitting, entryOf, present } from "../checked.js";
import type { CellValue } from "../codecs/codec.js";
import type { Layout } from "../layout/layout.js";
import { writtenHeaders } from "../layout/write/rows.js";
import type { UploadStep } from "../plan/plan.js";
import type { Snapshot, SnapshotRecord } from "../rehearse/snapshot.js";
import { isOfRecords } from "../rehearse/intended-by-target.js";
import { groupedRules, type TargetFile } from "../target/target.js";
import type { ChangeInput } from "./changes.js";
import { carryingColumns, cellOf, identityHeaders } from "./columns.js";
import { phrase, type Text } from "../phrases/phrase.js";

/** Fields to be set on a record there; undefined clears. */
export interface Setting {
  readonly kind: string;
  readonly key: Key;
  readonly fields: ReadonlyMap<string, string | undefined>;
}

interface Named {
  readonly name: string;
  readonly title: Text;
  readonly why: Text;
}

export interface LiteralStep {
  readonly step: UploadStep;
  readonly settings: readonly Setting[];
}

/** A step for each file that carries such fields. */
export function literalStep(
  input: ChangeInput,
  settings: readonly Setting[],
  { name, title, why }: Named,
): LiteralStep[] {
  const { target, catalogue, onPlatform: held, ledger } = input;
  const idOf = (kind: string, key: Key) => ledger.id(kind, key);
  const steps: LiteralStep[] = [];
  for (const of of new Set(target.slots.filter(({ mode }) => mode === "create").map((slot) => slot.file))) {
    const file = entryOf(target.files, of);
    const { layout } = file;
    const kind = layout.shape.parent.name;
    const carrying = carryingColumns(target, file, layout, catalogue.kinds).filter((one) => one.kind === kind);
    const own = settings.filter(
      (one) =>
        one.kind === kind && [...one.fields.keys()].some((field) => carrying.some((column) => column.field === field)),
    );
    if (own.length === 0) continue;
    const fields = new Set(own.flatMap((one) => [...one.fields.keys()]));
    const setting = carrying.filter((one) => fields.has(one.field)).map(({ header }) => header);
    const columns = new Set([...identityHeaders(file), ...setting]);
    const headers = writtenHeaders(layout, columns);
    const literal = own.flatMap(({ key, fields: wanted }): string[][] => {
      const record = entryOf(held[kind]!, key);
      const cells = headers.map((header) => {
        const column = carrying.find((one) => one.header === header);
        if (!column) return identityCell(layout, header, kind, key, record, idOf);
        if (wanted.has(column.field)) return cellOf(column, wanted.get(column.field), idOf) ?? "";
        if (file.rules.get(header)?.blank === "leave") return "";
        return cellOf(column, record.get(column.field), idOf) ?? "";
      });
      return cells.includes(undefined) ? [] : [cells as string[]];
    });
    if (literal.length === 0) continue;
    const keys = own.map(({ key }) => key);
    const shown =
      keys.length > 10 ? phrase("{0} and {1} more", keys.slice(0, 10), keys.length - 10) : phrase("{0}", keys);
    const step: UploadStep = {
      number: 0,
      is: "upload",
      title,
      why: phrase("{0} {1}.", why, shown),
      slot: { name: `${of}-${name}`, file: of, mode: "create", creates: [], updates: [] },
      files: [{ name: `00-${of}-${name}.${endingOf(file)}`, blocks: [{ layout: 0, kind, records: [], literal }] }],
      columns,
      waiting: new Map(),
      places: [],
      after: [],
    };
    steps.push({ step, settings: own });
  }
  return steps;
}

/** What becomes of records that were delivered and are no longer in the sources, as the project wishes. */
export function goneSettings({ comparison, wishes, onPlatform: held, intended }: ChangeInput): Setting[] {
  if (wishes.gone === "leave") return [];
  const fields = new Map(wishes.gone === "hide" ? [["shown", "false"]] : [["status", "ended"]]);
  // What has given all its codes to others is gone by that.
  const codes = new Map([...intended.snapshot.variant].map(([code, record]) => [code, record.get("product")]));
  const isEmptied = (key: Key) => {
    const own = [...held.variant].filter(([, record]) => record.get("product") === key);
    return own.length > 0 && own.every(([code]) => codes.has(code));
  };
  return comparison.records.flatMap(({ kind, key, state }) =>
    state === "no longer in your sources" && !(kind === "product" && isEmptied(key)) ? [{ kind, key, fields }] : [],
  );
}

/** Codes that the platform has on one record and that are intended for another. */
export function releaseSettings({ intended, onPlatform: held, target }: ChangeInput, after: Snapshot): Setting[] {
  if (!isOfRecords(target)) return [];
  const owners = new Map<string, string>();
  for (const kind of ["product", "variant"])
    for (const [key, record] of intended.snapshot[kind] ?? []) {
      const code = record.get("code");
      if (typeof code === "string") owners.set(code, `${kind} ${key}`);
    }
  return ["product", "variant"].flatMap((kind) =>
    [...(held[kind] ?? [])].flatMap(([key, record]): Setting[] => {
      const code = record.get("code");
      const owner = typeof code === "string" ? owners.get(code) : undefined;
      if (owner === undefined || owner === `${kind} ${key}` || !after[kind]?.has(key)) return [];
      const isRequired = kind === "variant";
      const fields = new Map<string, string | undefined>([["code", isRequired ? `${code as string}-old` : undefined]]);
      if (intended.snapshot[kind]?.has(key)) return [{ kind, key, fields }];
      return [{ kind, key, fields: fields.set("status", "ended") }];
    }),
  );
}

/** On a platform that moves codes, a product that is left without any is deleted, and what led to it leads nowhere. */
export function withoutEmptied<S extends Snapshot>(
  after: S,
  { target, onPlatform: held }: Pick<ChangeInput, "target" | "onPlatform">,
): S {
  if (isOfRecords(target)) return after;
  const [file] = [...target.files.values()];
  if (groupedRules(present(file))["product without codes"] !== "deleted") return after;
  const filled = new Set([...after.variant.values()].map((record) => record.get("product")));
  const emptied = new Set([...held.product.keys()].filter((key) => !filled.has(key)));
  if (emptied.size === 0) return after;
  const product = new Map<string, SnapshotRecord>();
  for (const [key, record] of after.product) {
    if (emptied.has(key)) continue;
    const links = [...record].map(([field, value]): [string, CellValue] =>
      field.startsWith("relations(") && typeof value === "object"
        ? [field, value.filter((one) => !emptied.has(one as string))]
        : [field, value],
    );
    product.set(key, new Map(links.filter(([, value]) => value.length > 0)));
  }
  return { ...after, product };
}

export function withFields(
  records: ReadonlyMap<string, SnapshotRecord>,
  key: Key,
  fields: ReadonlyMap<string, string | undefined>,
): ReadonlyMap<string, SnapshotRecord> {
  const record = new Map(records.get(key) ?? []);
  for (const [field, value] of fields)
    if (value === undefined) record.delete(field);
    else record.set(field, value);
  return new Map([...records, [key, record]]);
}

/** A cell that says which record is intended; undefined where that is not known. */
function identityCell(
  layout: Layout,
  header: Header,
  kind: string,
  key: Key,
  record: SnapshotRecord,
  idOf: (kind: string, key: Key) => string | undefined,
): string | undefined {
  const { shape } = layout;
  if (shape.is === "own-row" && shape.marker?.column === header) return shape.marker.parent;
  const feeds = firstOf(fitting(layout.columns, (column) => column.header === header).bindings).feed;
  if (feeds.is === "key") return key;
  if (feeds.is !== "text") return "";
  if (feeds.field === "id") return idOf(kind, key);
  const value = record.get(feeds.field);
  return typeof value === "string" && kind === shape.parent.name ? value : "";
}

/** The ending of a file of the target. */
export const endingOf = ({ layout: { format } }: TargetFile): string => driverOf(format).ending(format);
