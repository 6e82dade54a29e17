/** What each column of a target's file does to the simulated platform. By the target's rules; nothing is cut or resolved here. */

import type { Header, Lang } from "../nominal.js";
import { firstOf } from "../checked.js";
import { fieldName } from "../layout/bindings/feed-kinds.js";
import type { Column } from "../layout/layout.js";
import { refusesFormulas, type JudgedColumn } from "./rules/judge-cell.js";
import { groupedRules, type Target, type TargetFile } from "../target/target.js";

export type Level = "parent" | "child" | "lane";

export type Role =
  | { readonly is: "word"; readonly level: "parent" | "child" }
  | { readonly is: "field"; readonly field: string }
  | { readonly is: "links"; readonly field: string }
  | { readonly is: "places" }
  | { readonly is: "place names"; readonly lang: Lang }
  | { readonly is: "axis name" | "axis value"; readonly number: number; readonly lang: number }
  | { readonly is: "axis names" | "axis values"; readonly lang: number }
  | { readonly is: "lane"; readonly lane: string; readonly part: 0 | 1 | 2 };

export interface RoleColumn extends JudgedColumn {
  readonly header: Header;
  readonly level: Level;
  readonly role: Role;
}

const laneParts: Readonly<Record<string, 0 | 1 | 2>> = { quantityFrom: 0, customerGroup: 1, amount: 2 };

export function rolesOf(target: Target, file: TargetFile): ReadonlyMap<string, RoleColumn> {
  return new Map(
    file.layout.columns.map((column) => {
      const rule = file.rules.get(column.header);
      const level: Level = column.scope.is;
      return [
        column.header,
        {
          header: column.header,
          level,
          role: roleOf(column, target, file),
          feed: firstOf(column.bindings).feed,
          codec: firstOf(column.bindings).codec,
          rule,
          isWithoutFormulas: refusesFormulas(file.layout),
        },
      ];
    }),
  );
}

function roleOf(column: Column, target: Target, file: TargetFile): Role {
  const { feed: feeds } = firstOf(column.bindings);
  const importer = groupedRules(file);
  if (column.header === importer["parent by"]) return { is: "word", level: "parent" };
  if (column.header === importer["child by"]) return { is: "word", level: "child" };
  if (column.scope.is === "lane" && feeds.is === "entry")
    return { is: "lane", lane: column.scope.lane, part: laneParts[feeds.field.name] ?? 2 };
  if (feeds.is === "axis")
    return {
      is: feeds.holds === "name" ? "axis name" : "axis value",
      number: feeds.number,
      lang: target.languages.indexOf(feeds.lang),
    };
  if (feeds.is === "axes")
    return {
      is: feeds.holds === "names" ? "axis names" : "axis values",
      lang: target.languages.indexOf(feeds.lang),
    };
  if (feeds.is === "naming") return { is: "place names", lang: feeds.lang };
  if (feeds.is === "reference" && feeds.spec.inTree) return { is: "places" };
  if (feeds.is === "entry" && feeds.field.is === "reference" && feeds.field.list)
    return { is: "links", field: fieldName(feeds) };
  return { is: "field", field: fieldName(feeds) };
}
