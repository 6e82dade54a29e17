/** Operations on one field of many records: texts, references, relations, codes. */

import { firstOf, present } from "../checked.js";
import { fieldOfColumn } from "../field-name.js";
import { targetsOf } from "../catalogue/catalogue.js";
import { referenceOf, fieldOf } from "../kind.js";
import { relationOf } from "./balance.js";
import { findRecord, setTargets } from "./records.js";
import type { Operation } from "./schema.js";
import { select } from "./select.js";
import type { Work } from "./work.js";
import { phrase } from "../phrases/phrase.js";

type Of<Key extends string> = Extract<Operation, Record<Key, unknown>>;

/** Replaces, adds or takes away one value of a field over many records: a text, a record of a list, a relation. */
export async function changeField(work: Work, operation: Of<"replace"> | Of<"add"> | Of<"remove">): Promise<void> {
  const { catalogue } = work;
  const { on } = operation;
  const field = "replace" in operation ? operation.replace : "add" in operation ? operation.add : operation.remove;
  const rows = await select(catalogue, on);
  if (typeof rows === "string") return work.refuse(rows);
  const table = catalogue.table(on.of);
  const [out, put] =
    "replace" in operation
      ? [[operation.from], [operation.by]]
      : "add" in operation
        ? [[], operation.values]
        : [operation.values, []];
  const relation = /^relations\(([^)]+)\)$/.exec(field)?.[1];
  if (relation !== undefined && on.of === "product") return changeRelations(work, rows, relation, out, put);
  const spec = fieldOf(table.kind, fieldOfColumn(field));
  if (!spec) return work.refuse(phrase('{0} has no field "{1}"', on.of, field));
  if (!spec.reference) {
    if (!("replace" in operation)) return work.refuse(phrase("{0} is not a list. Use replace", field));
    for (const row of rows) if (table.text(field, row) === operation.from) table.setText(field, row, operation.by);
    return;
  }
  const find = (names: readonly string[]) => names.map((word) => findRecord(catalogue, referenceOf(spec).to, word));
  const [gone, come] = [find(out), find(put)];
  const unknown = [...out, ...put][[...gone, ...come].indexOf(undefined)];
  if ([...gone, ...come].includes(undefined))
    return work.refuse(phrase('there is no {0} "{1}"', spec.reference.to, unknown));
  for (const row of rows) {
    const own = targetsOf(catalogue, table, field, row);
    if ("replace" in operation && !own.includes(firstOf(gone))) continue;
    const next =
      "replace" in operation
        ? own.map((one) => (one === gone[0] ? firstOf(come) : one))
        : [...own.filter((one) => !gone.includes(one)), ...(come as number[])];
    setTargets(catalogue, table, field, row, spec.reference.list ? next : next.slice(-1));
  }
}

function changeRelations(
  work: Work,
  rows: readonly number[],
  name: string,
  out: readonly string[],
  put: readonly string[],
): void {
  const { catalogue } = work;
  const products = catalogue.table("product");
  const table = catalogue.table("product.relations");
  const unknown = [...out, ...put].find((key) => products.find(key) === undefined);
  if (unknown !== undefined) return work.refuse(phrase('there is no product "{0}"', unknown));
  for (const row of rows) {
    const key = products.key(row);
    const own = [...table.childrenOf(row)].filter((entry) => table.text("name", entry) === name);
    const keyOf = (entry: number) => products.key(firstOf(targetsOf(catalogue, table, "to", entry)));
    const gone = own.filter((entry) => out.includes(keyOf(entry)));
    for (const entry of gone) {
      work.explainRelation(relationOf(name, key, keyOf(entry)));
      table.reparent(entry, -1);
    }
    // What is to stand in for something does so only where that was.
    if (out.length > 0 && gone.length === 0) continue;
    for (const other of put) {
      if (other === key || own.some((entry) => !gone.includes(entry) && keyOf(entry) === other)) continue;
      const entry = table.append(products.sheet(row), products.line(row), row);
      table.setText("name", entry, name);
      setTargets(catalogue, table, "to", entry, [present(products.find(other))]);
      work.explainRelation(relationOf(name, key, other));
    }
  }
}

/** New codes by a pattern: `{code}`, `{key}`, `{number}`, `{number 4}` with zeros before it. */
export async function renumber(work: Work, { renumber: on, pattern }: Of<"renumber">): Promise<void> {
  const { catalogue } = work;
  const rows = await select(catalogue, on);
  if (typeof rows === "string") return work.refuse(rows);
  const table = catalogue.table(on.of);
  if (!fieldOf(table.kind, "code")) return work.refuse(phrase("{0} has no code", on.of));
  const taken = new Set<string>();
  for (const one of ["product", "variant"])
    for (let row = 0; row < catalogue.table(one).size; row++) {
      const code = catalogue.table(one).text("code", row);
      if (typeof code === "string" && !(one === on.of && rows.includes(row))) taken.add(code);
    }
  let number = 0;
  for (const row of rows) {
    const code = table.text("code", row);
    if (typeof code !== "string") continue;
    number++;
    const made = pattern
      .replaceAll("{code}", code)
      .replaceAll("{key}", table.key(row))
      .replace(/\{number(?: (\d))?\}/g, (_, width: string | undefined) =>
        String(number).padStart(Number(width ?? 0), "0"),
      );
    if (taken.has(made)) return work.refuse(phrase("the code {0} would exist twice", made));
    taken.add(made);
    work.recode(code, made);
    table.setText("code", row, made);
    // What goes by its code is called by it.
    if (table.key(row) === code && table.find(made) === undefined) table.rename(row, made);
  }
  if (number > 0)
    work.step(
      phrase("Change {0} codes", number),
      phrase("A platform that identifies records by their codes takes a changed code for a new record."),
    );
}
