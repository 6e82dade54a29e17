/** Fields that a platform never changes once they are set. */

import type { Kinds } from "../kinds.js";
import type { Target } from "../target/target.js";
import { carriedFields, fieldsWhereAll } from "./carried-fields.js";

/** The fields of which every column is fixed, as `kind.field`. What contains a record is not among them: it is made again. */
export const fixedFields = (target: Target, kinds: Kinds): ReadonlySet<string> =>
  fieldsWhereAll(
    carriedFields(target, kinds, ["text", "reference"]),
    ({ file, header }) => file.rules.get(header)?.fixed ?? false,
  );
