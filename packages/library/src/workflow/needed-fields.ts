/** The fields that a target requires and no source gives, with rules that make them: proposals for a new project. */

import type { TargetView } from "../catalogue/catalogue.js";
import type { ReadonlyFindings } from "../findings/finding.js";
import { boundTo } from "../layout/bindings/bound-to.js";
import { boundFields } from "../target/places.js";
import type { OpenedTarget } from "./open.js";

/** A rule of a project that makes a field, and why it is proposed. */
export interface NeededRule {
  readonly field: string;
  readonly rule: Readonly<Record<string, string>>;
  readonly why: string;
}

/** Asks about what cannot be known. @returns the reply, else what is assumed. */
export type AskAbout = (name: string, asks: string, preset: string, choices?: readonly string[]) => string;

/** @param source the language that texts are in. */
export function neededFields(
  opened: OpenedTarget,
  findings: ReadonlyFindings,
  source: string,
  ask: AskAbout,
): NeededRule[] {
  const { target, catalogue } = opened;
  const lacking = new Set<string>();
  for (const { code, facts, at } of findings.list()) {
    if (code !== "target/required" || at?.record === undefined) continue;
    const { column } = facts as { readonly column: string };
    lacking.add(`${at.record.kind} ${column}`);
  }
  const rules = new Map<string, NeededRule>();
  for (const name of lacking) {
    const [kind = "", ...words] = name.split(" ");
    const column = words.join(" ");
    for (const field of boundTo(target, column, kind, catalogue.kinds)) {
      // Where some records have it, those that lack it are at fault.
      if (hasAny(catalogue, kind, field)) continue;
      const rule = ruleFor(kind, field, source, target.name, column, ask);
      if (rule) rules.set(rule.field, rule);
    }
  }
  for (const rule of shownRules(opened, ask)) rules.set(rule.field, rule);
  return [...rules.values()];
}

/** What a platform hides by default: where no file mentions it, shoppers would see nothing. */
function shownRules({ target, catalogue }: OpenedTarget, ask: AskAbout): NeededRule[] {
  const layouts = [...target.files.values()].flatMap((file) => file.layouts);
  const bound = boundFields(layouts, catalogue.kinds);
  const kinds = ["product", "category"].filter(
    (kind) => bound.has(`${kind}.shown`) && catalogue.table(kind).size > 0 && !hasAny(catalogue, kind, "shown"),
  );
  if (kinds.length === 0) return [];
  const reply = ask("shown", "No file says what shoppers may see. Show everything?", "yes", ["yes", "no"]);
  const constant = reply === "yes" ? "true" : "false";
  const why = `no file says it: ${reply === "yes" ? "everything is shown" : "nothing is shown yet"}`;
  return kinds.map((kind) => ({ field: `${kind}.shown`, rule: { field: `${kind}.shown`, constant }, why }));
}

/** Whether any record of a kind has something in a field: `slug@en`, `stock.location`. */
function hasAny(catalogue: TargetView, kind: string, field: string): boolean {
  const [list, inside] = field.split(".");
  const isOfEntries = inside !== undefined;
  const name = isOfEntries ? `${kind}.${list!.replace(/\(.*/, "")}` : kind;
  if (!catalogue.tables.some((table) => table.name === name)) return false;
  const { size, texts, references } = catalogue.table(name);
  const [column, refers] = [texts.get(inside ?? field), references.get(inside ?? field)];
  const rows = Array.from({ length: size }, (_, row) => row);
  return rows.some((row) => typeof column?.get(row) === "string" || (refers?.first(row) ?? -1) >= 0);
}

/** How a field is made, where something is as good as known; undefined where a reply is awaited. */
function ruleFor(
  kind: string,
  field: string,
  source: string,
  target: string,
  column: string,
  ask: AskAbout,
): NeededRule | undefined {
  const written = `${kind}.${field}`;
  const [plain = "", lang] = field.split("@");
  const made = (rule: Readonly<Record<string, string>>, why: string): NeededRule => ({
    field: written,
    rule: { field: written, ...rule },
    why,
  });
  const from = `${kind}.name@${lang ?? source}`;
  const needs = `${target} requires "${column}"`;
  switch (plain) {
    case "slug":
      return made({ slug: from }, `${needs}: made of the name`);
    case "searchTitle":
    case "searchText":
    case "description":
      return made({ copy: from }, `${needs}: the name stands in for it`);
    case "status":
      return made({ constant: "selling" }, `${needs}: everything is for sale`);
    case "sort":
      return made({ constant: "goods" }, `${needs}: nothing is a service or for hire`);
    case "stock.location": {
      const place = ask("stock place", `In which place of ${target} is the stock?`, "Main");
      return made({ constant: place }, `${needs}: all stock is in one place`);
    }
    case "stock.quantity":
      return made({ constant: "0" }, `${needs}: no file says what is in stock`);
  }
  const reply = ask(written, `${needs}, and no file gives it. Which value do all of them get?`, "");
  return reply === "" ? undefined : made({ constant: reply }, `${needs}: the same for all`);
}
