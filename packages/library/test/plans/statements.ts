/**
 * A plan as statements for a database with foreign keys that hold at once: records as their rows come, links as the platform looks them
 * up. Knows nothing of how plans are made.
 */

import type { Plan, Target, TargetView } from "#src/index.js";
import { entryOf } from "#src/checked.js";
import { carriedReferences, demandOf, type CarriedReference } from "#src/plan/carried.js";
import { eachReference, referenceFieldsOf } from "#src/plan/references.js";
import type { UploadStep } from "#src/plan/plan.js";

export const tables = `
drop table if exists link, record;
create table record (kind text, key text, primary key (kind, key));
create table link (
  kind text, key text, field text, to_kind text, to_key text,
  foreign key (kind, key) references record not deferrable,
  foreign key (to_kind, to_key) references record not deferrable,
  unique (kind, key, field, to_kind, to_key)
);
`;

export interface LoadedPlan {
  /** One list for each uploaded file. */
  readonly files: readonly (readonly string[])[];
  /** Links that ask for no order: the platform has both records when the upload is through. */
  readonly atTheEnd: readonly string[];
}

const quoted = (text: string): string => `'${text.replaceAll("'", "''")}'`;

export function statementsOf(
  catalogue: TargetView,
  target: Target,
  plan: Plan,
  isLeftOut: (kind: string, row: number) => boolean,
): LoadedPlan {
  const keyOf = (kind: string, row: number) => `${quoted(kind)}, ${quoted(catalogue.table(kind).key(row))}`;
  const insert = (kind: string, row: number) =>
    `insert into record values (${keyOf(kind, row)}) on conflict do nothing;`;
  const ofRows = new Set(
    [...target.files.values()].flatMap(({ layouts }) =>
      layouts.flatMap(({ shape, link }) => (link ? [] : [shape.parent.name, shape.child?.name ?? ""])),
    ),
  );
  const pairs = new Map<string, Map<number, [to: string, row: number][]>>();
  for (const field of referenceFieldsOf(catalogue)) {
    const own = pairs.get(`${field.kind} ${field.name}`) ?? new Map<number, [string, number][]>();
    pairs.set(`${field.kind} ${field.name}`, own);
    eachReference(catalogue, field, (from, to) => {
      if (isLeftOut(field.kind, from) || isLeftOut(field.to, to) || (field.kind === field.to && from === to)) return;
      own.set(from, [...(own.get(from) ?? []), [field.to, to]]);
    });
  }
  const atTheEnd: string[] = [];
  const files = plan.steps.flatMap((step) => (step.is === "upload" ? filesOf(step) : []));
  return { files, atTheEnd };

  function filesOf(step: UploadStep): string[][] {
    const { layouts } = entryOf(target.files, step.slot.file);
    const carried = carriedReferences(target, step.slot, catalogue.kinds);
    return step.files.map(({ blocks }) => {
      const now: string[] = [];
      const atEndOfFile: string[] = [];
      for (const { layout, kind, records } of blocks) {
        const { shape } = layouts[layout]!;
        const below = shape.child ?? (shape.parent.name === kind ? undefined : shape.parent);
        for (const record of records) {
          put(kind, record, record);
          for (const child of below ? catalogue.table(below.name).childrenOf(record) : [])
            if (!isLeftOut(below!.name, child)) put(below!.name, child, record);
        }
      }
      return [...now, ...atEndOfFile];

      function put(kind: string, row: number, block: number): void {
        if (step.slot.mode === "create" && step.slot.creates.includes(kind)) now.push(insert(kind, row));
        for (const one of carried) if (one.kind === kind && isWritten(one, block)) putLinks(kind, row, one);
      }

      function putLinks(kind: string, row: number, one: CarriedReference): void {
        for (const [to, other] of pairs.get(`${kind} ${one.name}`)?.get(row) ?? []) {
          if (to !== one.to) continue;
          // What has no rows is there as soon as it is named.
          if (!ofRows.has(to)) now.push(insert(to, other));
          const demand = ofRows.has(to) ? demandOf(target, one) : "earlier row";
          const list = demand === "anywhere" ? atTheEnd : demand === "same file" ? atEndOfFile : now;
          list.push(
            `insert into link values (${keyOf(kind, row)}, ${quoted(one.name)}, ${keyOf(to, other)}) on conflict do nothing;`,
          );
        }
      }
    });

    function isWritten({ headers }: CarriedReference, block: number): boolean {
      const waits = step.waiting.get(block);
      return [...headers].some((header) => (step.columns?.has(header) ?? true) && !waits?.has(header));
    }
  }
}
