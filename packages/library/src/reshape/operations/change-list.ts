/** One value of a field over many records: replaced, added to a list, or taken out of one. */

import { z } from "zod";
import { firstOf, present } from "../../checked.js";
import { fieldOfColumn } from "../../field-name.js";
import { targetsOf } from "../../catalogue/catalogue.js";
import { fieldOf, referenceOf } from "../../kind.js";
import { fieldValueProblem } from "../../field-value.js";
import type { Kinds } from "../../kinds.js";
import { relationOf } from "../balance.js";
import { phrase } from "../../phrases/phrase.js";
import { fieldAsNamed, inSelection, operation, type OperationProblem } from "../operation.js";
import { findRecord, setTargets } from "../records.js";
import { givenSelection, select, type Selection } from "../select.js";
import type { Work } from "../work.js";

const text = z.string().min(1);
const values = z.array(text).min(1);

export const replace = operation({
  schema: z.strictObject({ replace: text, on: givenSelection, from: z.string(), by: z.string() }),
  problems: ({ replace: field, on, by }, kinds) => problemsOf("replace", field, on, kinds, by),
  run: (work, { replace: field, on, from, by }) =>
    changeField(work, { field, on, gone: [from], come: [by], isReplaced: true }),
});

export const add = operation({
  schema: z.strictObject({ add: text, on: givenSelection, values }),
  problems: ({ add: field, on }, kinds) => problemsOf("add", field, on, kinds),
  run: (work, { add: field, on, values: come }) => changeField(work, { field, on, gone: [], come, isReplaced: false }),
});

export const remove = operation({
  schema: z.strictObject({ remove: text, on: givenSelection, values }),
  problems: ({ remove: field, on }, kinds) => problemsOf("remove", field, on, kinds),
  run: (work, { remove: field, on, values: gone }) =>
    changeField(work, { field, on, gone, come: [], isReplaced: false }),
});

interface Change {
  readonly field: string;
  readonly on: Selection;
  readonly gone: readonly string[];
  readonly come: readonly string[];
  /** What comes stands where that was which goes; otherwise at the end. */
  readonly isReplaced: boolean;
}

const relationIn = (field: string): string | undefined => /^relations\(([^)]+)\)$/.exec(field)?.[1];

async function* problemsOf(
  word: "replace" | "add" | "remove",
  field: string,
  on: Selection,
  kinds: Kinds,
  by?: string,
): AsyncGenerator<OperationProblem> {
  yield* inSelection("on", on, kinds);
  const kind = kinds.find(on.of);
  if (!kind || kind.entryKey || (relationIn(field) !== undefined && on.of === "product")) return;
  const named = fieldAsNamed(on.of, field, kinds);
  if ("problem" in named) return yield { path: [word], ...named };
  const { reference } = named.field;
  if (!reference) {
    if (word !== "replace") yield { path: [word], problem: phrase("{0} is not a list. Use replace", field) };
    else if (field === "code") yield { path: [word], problem: phrase("codes are changed by renumber") };
    const problem = by ? fieldValueProblem(named.field, by) : undefined;
    if (problem !== undefined) yield { path: ["by"], problem };
  } else if (word === "add" && !reference.list)
    yield { path: [word], problem: phrase("{0} takes one record. Use replace", field) };
}

async function changeField(work: Work, change: Change): Promise<void> {
  const { catalogue } = work;
  const { field, on, isReplaced } = change;
  const rows = await select(work, on);
  if (!rows) return;
  const relation = relationIn(field);
  if (relation !== undefined && on.of === "product") return changeRelations(work, rows, relation, change);
  const table = catalogue.table(on.of);
  const spec = fieldOf(table.kind, fieldOfColumn(field));
  if (!spec) return work.refuse(phrase('{0} has no field "{1}"', on.of, field));
  if (!spec.reference) {
    if (!isReplaced) return work.refuse(phrase("{0} is not a list. Use replace", field));
    for (const row of rows) {
      if (table.text(field, row) !== change.gone[0]) continue;
      table.setText(field, row, change.come[0] === "" ? null : change.come[0]);
      work.sets(on.of, row, field);
    }
    return;
  }
  const { to } = referenceOf(spec);
  const unknown = [...change.gone, ...change.come].find((word) => findRecord(work, to, word) === undefined);
  if (unknown !== undefined) return work.refuse(phrase('there is no {0} "{1}"', to, unknown));
  const find = (words: readonly string[]) => words.map((word) => present(findRecord(work, to, word)));
  const [gone, come] = [find(change.gone), find(change.come)];
  for (const row of rows) {
    const own = targetsOf(catalogue, table, field, row);
    if (isReplaced && !own.includes(firstOf(gone))) continue;
    const next = isReplaced
      ? own.map((one) => (one === gone[0] ? firstOf(come) : one))
      : [...own.filter((one) => !gone.includes(one)), ...come];
    setTargets(catalogue, table, field, row, next);
    work.sets(on.of, row, field);
  }
}

function changeRelations(work: Work, rows: readonly number[], name: string, { gone, come }: Change): void {
  const { catalogue } = work;
  const products = catalogue.table("product");
  const table = catalogue.table("product.relations");
  const unknown = [...gone, ...come].find((key) => products.find(key) === undefined);
  if (unknown !== undefined) return work.refuse(phrase('there is no product "{0}"', unknown));
  for (const row of rows) {
    const key = products.key(row);
    const own = [...table.childrenOf(row)].filter((entry) => table.text("name", entry) === name);
    const keyOf = (entry: number) => products.key(firstOf(targetsOf(catalogue, table, "to", entry)));
    const out = own.filter((entry) => gone.includes(keyOf(entry)));
    for (const entry of out) {
      work.explainRelation(relationOf(name, key, keyOf(entry)));
      table.reparent(entry, -1);
    }
    // What is to stand in for something does so only where that was.
    if (gone.length > 0 && out.length === 0) continue;
    for (const other of come) {
      if (other === key || own.some((entry) => !out.includes(entry) && keyOf(entry) === other)) continue;
      const entry = table.append(products.sheet(row), products.line(row), row);
      table.setText("name", entry, name);
      setTargets(catalogue, table, "to", entry, [present(products.find(other))]);
      work.explainRelation(relationOf(name, key, other));
    }
  }
}
