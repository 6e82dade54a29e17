/** Why a record goes where it goes: the steps that it is part of, and for each what has to be there before. */

import { targetsOf, type ResolvedCatalogue } from "../catalogue/catalogue.js";
import { fieldOf } from "../kind.js";
import type { RecordName } from "../location.js";
import type { Target } from "../target/target.js";
import { carriedReferences, demandOf } from "./carried.js";
import type { Plan, UploadStep } from "./plan.js";
import type { Text } from "../phrases/phrase.js";

/** Which file brings a record, or a part of it, and which records it needs first. */
export interface Reason {
  readonly step: number;
  readonly title: Text;
  /** Undefined for the creation of the record. */
  readonly update: string | undefined;
  readonly file: string;
  readonly needs: readonly NeededRecord[];
}

/** A record that another needs first. */
export interface NeededRecord {
  readonly record: RecordName;
  /** `product.categories`. */
  readonly by: string;
  /** Where it is created; undefined where it is there already, or made by the way. */
  readonly createdIn: number | undefined;
  /** Where its id is collected, if the row names it by that. */
  readonly collectedIn: number | undefined;
}

/** Records of any kind with this key, or with this code. */
export function recordsNamed(
  catalogue: ResolvedCatalogue,
  word: string,
): { readonly kind: string; readonly row: number }[] {
  return catalogue.kinds.roots.flatMap(({ name }) => {
    const table = catalogue.table(name);
    const byKey = table.find(word);
    if (byKey !== undefined) return [{ kind: name, row: byKey }];
    const codes = table.texts.get("code");
    for (let row = 0; codes && row < table.size; row++) if (codes.get(row) === word) return [{ kind: name, row }];
    return [];
  });
}

/** Why a record is uploaded where it is: step by step, with the records that it needs first. */
export function whyThere(
  catalogue: ResolvedCatalogue,
  target: Target,
  plan: Plan,
  { kind, row }: { readonly kind: string; readonly row: number },
): Reason[] {
  const uploads = plan.steps.filter((step) => step.is === "upload");
  return uploads.flatMap((step) =>
    step.places
      .filter((location) => location.kind === kind && location.records.includes(row))
      .map(({ update }) => ({
        step: step.number,
        title: step.title,
        update,
        file: fileOf(catalogue, step, kind, row),
        needs: needsOf(catalogue, target, plan, step, kind, row, update),
      })),
  );
}

function fileOf(catalogue: ResolvedCatalogue, { files }: UploadStep, kind: string, row: number): string {
  const { of } = catalogue.kinds.get(kind);
  const above = of === undefined ? -1 : catalogue.table(kind).parent(row);
  const holds = files.find(({ blocks }) =>
    blocks.some((block) => block.records.includes(block.kind === kind ? row : block.kind === of ? above : -1)),
  );
  return (holds ?? files[0])?.name ?? "";
}

function needsOf(
  catalogue: ResolvedCatalogue,
  target: Target,
  plan: Plan,
  step: UploadStep,
  kind: string,
  row: number,
  update: string | undefined,
): NeededRecord[] {
  const needs: NeededRecord[] = [];
  const add = (to: string, at: number, by: string, withId: boolean) => {
    const created = plan.steps.find(
      (one) =>
        one.is === "upload" &&
        one.places.some(
          (location) => location.kind === to && location.update === undefined && location.records.includes(at),
        ),
    );
    const collected = plan.steps.filter(
      ({ is, number }) => is === "collect" && created && number > created.number && number < step.number,
    )[0];
    needs.push({
      record: { kind: to, key: catalogue.table(to).key(at) },
      by,
      createdIn: created?.number === step.number ? undefined : created?.number,
      collectedIn: withId ? collected?.number : undefined,
    });
  };
  // What is added to a record names it: by id, once that is known.
  if (update !== undefined && step.slot.mode === "update") add(kind, row, "the record itself", true);
  for (const carried of carriedReferences(target, step.slot, catalogue.kinds)) {
    if (carried.kind !== kind || ![...carried.headers].some((header) => step.columns?.has(header) ?? true)) continue;
    const isOfUpdate = carried.name === update;
    if (update === undefined ? step.slot.mode === "update" : !isOfUpdate) continue;
    const withId = demandOf(target, carried) === "earlier step";
    for (const at of rowsNamed(catalogue, kind, row, carried.name.slice(kind.length + 1), carried.to))
      add(carried.to, at, carried.name, withId);
  }
  return needs;
}

/** The rows of a kind that a record names in a field, in the entries of a collection, or by what contains it. */
function rowsNamed(catalogue: ResolvedCatalogue, kind: string, row: number, part: string, to: string): number[] {
  const spec = catalogue.kinds.get(kind);
  const table = catalogue.table(kind);
  if (part === spec.of) return [table.parent(row)];
  const embedded = spec.entries?.[part];
  if (embedded === undefined)
    return fieldOf(spec, part)?.reference?.to === to ? targetsOf(catalogue, table, part, row) : [];
  const entries = catalogue.table(`${kind}.${part}`);
  const fields = catalogue.kinds.get(embedded).fields.filter((field) => field.reference?.to === to);
  const rows = [...entries.childrenOf(row)].flatMap((entry) =>
    fields.flatMap(({ name }) => targetsOf(catalogue, entries, name, entry)),
  );
  return [...new Set(rows)];
}
