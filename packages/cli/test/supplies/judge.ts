/** How well supplies are drafted: by column, whether it is bound to what it truly holds, to something else, or not. */

import type { Draft } from "zest-tier";
import { parse } from "yaml";
import type { SupplyFile, TrueColumn } from "./files.js";

export type Judgement = "right" | "wrong" | "gap" | "rightly left";

export interface JudgedColumn {
  readonly header: string;
  readonly judged: Judgement;
  /** What it was bound to. */
  readonly bound: string | undefined;
  readonly truth: readonly string[] | undefined;
}

/** @param draft undefined where the file could not be drafted. */
export function judgeFile({ columns }: SupplyFile, draft: Draft | undefined): JudgedColumn[] {
  const rows = JSON.stringify(draft ? (parse(draft.yaml) as { rows?: unknown }).rows : {});
  const lines = new Map(draft?.lines.map((line) => [line.header.trim(), line.binding]));
  const namesJoined = (header: string) => rows.includes(JSON.stringify(header));
  return columns.map((column): JudgedColumn => {
    const bound = boundTo(lines.get(column.header.trim()), draft?.language ?? "en");
    return {
      header: column.header,
      truth: column.truth,
      bound,
      judged: judge(column, bound, namesJoined(column.header)),
    };
  });
}

/** @param isInRows whether the row shape names the column, to find or to group records by it. */
function judge({ truth }: TrueColumn, bound: string | undefined, isInRows: boolean): Judgement {
  if (truth === undefined) return bound === undefined && !isInRows ? "rightly left" : "wrong";
  if (truth.includes("shape") && isInRows) return "right";
  if (bound === undefined || bound === "shape") return isInRows && bound === "shape" ? "wrong" : "gap";
  return truth.includes(bound) ? "right" : "wrong";
}

/** What a binding feeds, without its codec; of entries the role and the field, of lanes only the field. */
function boundTo(binding: unknown, language: string): string | undefined {
  if (binding === undefined) return undefined;
  const one: unknown = Array.isArray(binding) ? binding[0] : binding;
  const given = (typeof one === "string" ? { field: one } : one) as Record<string, unknown>;
  if ("constant" in given) return "shape";
  if ("axis" in given || "axes" in given) return `axis ${/^\w+/.exec(String(given["holds"] ?? given["axes"]))![0]}`;
  const field = String(given["field"]);
  const [, kind = "", rest = ""] = /^([\w-]+)\.(.*)$/.exec(field) ?? [];
  if (!["product", "variant", "category"].includes(kind)) return `lane.${rest}`;
  if (/^(name|description|slug)$/.test(rest)) return `${field}@${language}`;
  const groups = rest.includes("customerGroup") ? ",customerGroup" : "";
  const role = /^prices\((\w+)/.exec(rest)?.[1];
  if (role !== undefined) return `${kind}.prices(${role}${groups}).${rest.replace(/^.*\./, "")}`;
  return `${kind}.${rest.replace(/\([^)]*\)/, "")}`;
}
