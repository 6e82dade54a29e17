/** Kinds and fields of a project's own, beside those built in. From here on they go the same way through every stage. */

import { finding, type Findings } from "../findings/finding.js";
import type { Given } from "../given/yaml.js";
import type { FieldSpec, KindSpec } from "../kind.js";
import { builtInKinds } from "../built-in-kinds.js";
import { Kinds } from "../kinds.js";
import { nearestSpelling } from "../spelling.js";
import type { GivenKind } from "./schema.js";
import { phrase, type Text } from "../phrases/phrase.js";

/** A table is made for each. */
const mostKinds = 1_000;

/** @returns undefined when there are mistakes; they are in `findings`. */
export function kindsOf(
  given: Readonly<Record<string, GivenKind>>,
  at: Given<unknown>["at"],
  findings: Findings,
): Kinds | undefined {
  const all = new Map(builtInKinds.map((kind) => [kind.name, kind]));
  let mistakes = 0;
  const mistake = (problem: Text, nearest: string | undefined, ...path: string[]) => {
    mistakes++;
    findings.add(finding("project/mistake", { problem, nearest }, at("kinds", ...path)));
  };
  const count = Object.keys(given).length;
  if (count > mostKinds)
    mistake(phrase("a project has at most {0} kinds, and this one has {1}", mostKinds, count), undefined);
  for (const [name, { of, fields }] of Object.entries(given).slice(0, mostKinds)) {
    const known = all.get(name);
    if (known && of !== undefined)
      mistake(phrase("{0} is built in. You can only add fields to it", name), undefined, name, "of");
    if (of !== undefined && !all.has(of) && !Object.hasOwn(given, of))
      mistake(phrase('"{0}" is not a kind of record', of), nearestSpelling(of, all.keys()), name, "of");
    const taken = new Set([...(known?.fields ?? []).map((field) => field.name), ...Object.keys(known?.entries ?? {})]);
    for (const field of Object.keys(fields))
      if (taken.has(field)) mistake(phrase('{0} already has "{1}"', name, field), undefined, name, "fields", field);
    const own = Object.entries(fields).map(([field, spec]) => fieldOfGiven(field, spec));
    const base: KindSpec = known ?? { name, fields: [], ...(of === undefined ? {} : { of }) };
    all.set(name, { ...base, fields: [...base.fields, ...own] });
  }
  for (const [name, { fields }] of Object.entries(given))
    for (const [field, spec] of Object.entries(fields))
      if (typeof spec === "object" && "refers to" in spec && !all.has(spec["refers to"])) {
        const nearest = nearestSpelling(spec["refers to"], all.keys());
        mistake(phrase('"{0}" is not a kind of record', spec["refers to"]), nearest, name, "fields", field);
      }
  shareWithSingles(all, given);
  return mistakes > 0 ? undefined : new Kinds([...all.values()]);
}

function fieldOfGiven(name: string, given: GivenKind["fields"][string]): FieldSpec {
  if (typeof given === "string") return { name, type: given };
  if ("refers to" in given)
    return {
      name,
      reference: { to: given["refers to"], dependency: given.dependency, list: given.list, missing: given.missing },
    };
  return {
    name,
    type: given.type,
    perLanguage: given["per language"],
    ...(given.among ? { among: given.among } : {}),
  };
}

/** What a project adds to records of a kind, it adds to what stands for one itself: a product without variants. */
function shareWithSingles(all: Map<string, KindSpec>, given: Readonly<Record<string, GivenKind>>): void {
  for (const [name, { fields }] of Object.entries(given)) {
    const above = all.get(all.get(name)?.of ?? "");
    if (!above?.single) continue;
    const taken = new Set([...above.fields.map((field) => field.name), ...Object.keys(above.entries ?? {})]);
    const shared = Object.entries(fields).flatMap(([field, spec]) =>
      taken.has(field) ? [] : [fieldOfGiven(field, spec)],
    );
    all.set(above.name, { ...above, fields: [...above.fields, ...shared] });
  }
}
