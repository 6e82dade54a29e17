/** Why a platform refuses a cell in parts: judged entry by entry, by the target's rules alone. */

import type { CellValue } from "../../codecs/codec.js";
import { compareDecimals, decimalPlaces } from "../../decimal.js";
import type { Feed, PartPlan, PartsPlan } from "../../layout/layout.js";
import { onlyThese } from "../../target/rules/characters.js";
import type { ColumnRule, PartRule } from "../../target/schema.js";

/** @returns undefined where every part is as it has to be. */
export function partReason(feed: Feed, value: CellValue, { parts }: ColumnRule): string | undefined {
  if (!parts || (feed.is !== "entries" && feed.is !== "reference")) return undefined;
  const isList = feed.is === "entries" ? feed.list : feed.shape === "list";
  const plan = feed.parts ?? [];
  for (const entry of isList ? asList(value) : [value]) {
    const reason = reasonIn(asList(entry), plan, parts, "");
    if (reason !== undefined) return reason;
  }
  return undefined;
}

const asList = (value: CellValue): readonly CellValue[] => (typeof value === "string" ? [value] : value);

function reasonIn(
  entry: readonly CellValue[],
  plan: PartsPlan,
  rules: ReadonlyMap<string, PartRule>,
  above: string,
): string | undefined {
  for (const [at, part] of plan.entries()) {
    const path = above + wordOf(part);
    const value = entry[at] ?? "";
    const rule = rules.get(path);
    const reason = rule && (value.length === 0 ? needed(rule) : wrong(value, rule));
    if (reason !== undefined) return `${path}: ${reason}`;
    if (part.is !== "children" || value.length === 0) continue;
    for (const inner of part.list ? asList(value) : [value]) {
      const below = reasonIn(asList(inner), part.parts ?? [], rules, `${path}/`);
      if (below !== undefined) return below;
    }
  }
  return undefined;
}

function wordOf(part: PartPlan): string {
  if (part.is === "name") return "name";
  return part.is === "children" ? part.spec.to : part.field;
}

const needed = ({ required }: PartRule): string | undefined => (required ? "a part is missing" : undefined);

function wrong(value: CellValue, rule: PartRule): string | undefined {
  if (typeof value !== "string") return undefined;
  const most = rule["characters at most"];
  if (most !== undefined && [...value].length > most) return `longer than ${most} characters`;
  if (rule.only !== undefined && !onlyThese(rule.only).test(value)) return `only ${rule.only}`;
  const places = rule["places at most"];
  const isIn =
    (rule.from === undefined || compareDecimals(value, rule.from) >= 0) &&
    (rule.to === undefined || compareDecimals(value, rule.to) <= 0) &&
    (places === undefined || decimalPlaces(value) <= places);
  return isIn ? undefined : "out of range";
}
