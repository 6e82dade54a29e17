/** Lists of records that a platform only adds to: those that a row does not name stay. */

import { splitTable } from "../field-name.js";
import { fieldOf } from "../kind.js";
import type { Kinds } from "../kinds.js";
import type { Target } from "../target/target.js";
import { carriedFields, fieldsWhereAll } from "./carried-fields.js";

/** As `kind.field`: the lists that only files write whose importer adds. */
export function addingLists(target: Target, kinds: Kinds): ReadonlySet<string> {
  const added = fieldsWhereAll(
    carriedFields(target, kinds, ["reference"]),
    ({ file }) => file.importing.lists === "add",
  );
  return new Set([...added].filter((field) => isList(field, kinds)));
}

function isList(name: string, kinds: Kinds): boolean {
  const { kind, collection: field = "" } = splitTable(name);
  const spec = kinds.find(kind);
  return spec !== undefined && (fieldOf(spec, field)?.reference?.list ?? false);
}
