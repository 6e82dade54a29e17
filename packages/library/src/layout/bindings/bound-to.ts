/** Which fields the columns of a target's files hold. */

import type { Kinds } from "../../kinds.js";
import { shownKinds } from "../shown-kinds.js";
import type { Layout } from "../layout.js";
import { fieldName } from "./feed-kinds.js";

interface WithFiles {
  readonly files: ReadonlyMap<string, { readonly layouts: readonly Layout[] }>;
}

/** The fields that columns of a header hold, of records of a kind: `slug@en`, `stock(Barn).quantity`. */
export function boundTo({ files }: WithFiles, header: string, kind: string, kinds: Kinds): string[] {
  const fields = [...files.values()].flatMap(({ layouts }) =>
    layouts.flatMap((layout) =>
      layout.columns
        .filter(
          (column) => column.header === header && shownKinds(layout, column, kinds).some(({ name }) => name === kind),
        )
        .flatMap(({ bindings }) => bindings.slice(0, 1).map(({ feed }) => fieldName(feed))),
    ),
  );
  return [...new Set(fields)];
}
