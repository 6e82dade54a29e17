/**
 * Files that people write by hand (layouts, targets, projects): YAML or JSON, parsed by a schema.
 *
 * A mistake becomes a finding at its line and character, with the nearest word that would do.
 */

import { resultOf } from "../findings/result.js";
import { finding, Findings, type Result } from "../findings/finding.js";
import { isNode, isScalar, parseDocument, visit, type Document } from "yaml";
import { z } from "zod";
import { nearestSpelling } from "../spelling.js";
import type { Location } from "../location.js";
import { GivenMemory } from "./memory.js";
import { renamedSetting, renamedValues } from "./old-words.js";
import { placesIn, GivenPlaces, type GivenPlace } from "./places.js";
import { givenStore } from "./store.js";
import { phrase } from "../phrases/phrase.js";

/** A parsed file: its content, and where each part of it stands. */
export interface Given<T> {
  readonly value: T;
  /** Where something stands in the file; of the nearest thing around it if it is not there. */
  readonly at: (...path: readonly (string | number)[]) => Location;
}

/** No file that people write is as long. */
export const maxGivenChars = 2_000_000;

/** Parses a file by its schema. @param file as findings call it. */
export function parseGiven<S extends z.ZodObject>(text: string, file: string, schema: S): Result<Given<z.infer<S>>> {
  const findings = new Findings();
  const known = remembered.get(schema, file, text) as Given<z.infer<S>> | undefined;
  const given = known ?? kept(text, file, schema) ?? parse(text, file, schema, findings);
  if (given && !known) remembered.add(schema, file, text, given);
  return resultOf(given, findings);
}

/** Of files without mistakes: a page loads them again at each edit, as most of them were. */
const remembered = new GivenMemory();

/** What a store holds of a file without mistakes. */
interface Kept<T> {
  readonly value: T;
  readonly places: GivenPlace;
}

/** What an earlier run parsed the same text to. */
function kept<S extends z.ZodObject>(text: string, file: string, schema: S): Given<z.infer<S>> | undefined {
  const found = givenStore()?.get(kindOf(schema), text);
  if (found === undefined) return undefined;
  const { value, places } = JSON.parse(found) as Kept<z.infer<S>>;
  return givenAt(value, new GivenPlaces(file, text, () => places));
}

const givenAt = <T>(value: T, places: GivenPlaces): Given<T> => ({ value, at: (...path) => places.at(path) });

/** The kinds of files differ in what they say at their top. */
const kindOf = (schema: z.ZodObject): string => Object.keys(schema.shape).join("\n");

function parse<S extends z.ZodObject>(
  text: string,
  file: string,
  schema: S,
  findings: Findings,
): Given<z.infer<S>> | undefined {
  if (text.length > maxGivenChars) {
    findings.add(finding("given/too-large", { most: maxGivenChars }, { file }));
    return undefined;
  }
  // The package compares each key of a map with all before it: here they are looked up.
  const document = parseDocument(text, { prettyErrors: false, uniqueKeys: false, logLevel: "error" });
  let tree: GivenPlace | undefined;
  const whole = () => (tree ??= placesIn(document.contents));
  const places = new GivenPlaces(file, text, whole);
  const errors = [
    ...document.errors.map(({ message, pos: [offset] }) => ({ message, offset })),
    ...wrongKeys(document),
  ].sort((a, b) => a.offset - b.offset);
  if (errors.length > 0) {
    for (const { message, offset } of errors.slice(0, 20))
      findings.add(finding("given/not-yaml", { problem: message }, places.atOffset(offset)));
    return undefined;
  }
  let plain: unknown;
  try {
    plain = document.toJS({ maxAliasCount: 100 });
  } catch (error) {
    findings.add(finding("given/not-yaml", { problem: (error as Error).message }, { file, line: 1 }));
    return undefined;
  }
  if (isCyclic(plain, new Set())) {
    const problem = phrase("an alias stands for something that it lies in");
    findings.add(finding("given/not-yaml", { problem }, { file, line: 1 }));
    return undefined;
  }
  const at: Given<unknown>["at"] = (...path) => places.at(path);
  // The schema package passes this name over in silence.
  const lost = pathOfLost(plain, []);
  if (lost) {
    findings.add(
      finding(
        "given/wrong-value",
        { inside: phrase("the file"), problem: phrase('"{0}" cannot be a name here', lostName) },
        at(...lost),
      ),
    );
    return undefined;
  }
  const renamed = renamedValues(plain, at);
  findings.addAll(renamed);
  const parsed = schema.safeParse(plain);
  if (parsed.success) {
    if (renamed.length > 0) return undefined;
    const given: Kept<z.infer<S>> = { value: parsed.data, places: whole() };
    givenStore()?.add(kindOf(schema), text, JSON.stringify(given));
    return givenAt(given.value, places);
  }
  const names = namesIn(schema);
  for (const issue of parsed.error.issues.flatMap(innermost)) reportIssue(issue, names, at, findings);
  return undefined;
}

/** Keys that their map has already, and those that are no texts. */
function wrongKeys(document: Document): readonly { readonly message: string; readonly offset: number }[] {
  const wrong: { message: string; offset: number }[] = [];
  visit(document, {
    Map(_, { items }) {
      const seen = new Set<unknown>();
      for (const { key } of items) {
        const offset = isNode(key) ? (key.range?.[0] ?? 0) : 0;
        if (!isScalar(key)) wrong.push({ message: "Map keys must be texts", offset });
        else if (seen.has(key.value)) wrong.push({ message: "Map keys must be unique", offset });
        else seen.add(key.value);
      }
    },
  });
  return wrong;
}

/** @param around what the value lies in. */
function isCyclic(value: unknown, around: Set<unknown>): boolean {
  if (typeof value !== "object" || value === null) return false;
  if (around.has(value)) return true;
  around.add(value);
  const found = Object.values(value).some((inner) => isCyclic(inner, around));
  around.delete(value);
  return found;
}

const lostName = "__proto__";

function pathOfLost(value: unknown, path: readonly (string | number)[]): readonly (string | number)[] | undefined {
  if (typeof value !== "object" || value === null) return undefined;
  if (Object.hasOwn(value, lostName)) return [...path, lostName];
  for (const [key, inner] of Object.entries(value)) {
    const found = pathOfLost(inner, [...path, Array.isArray(value) ? Number(key) : key]);
    if (found) return found;
  }
  return undefined;
}

type Issue = z.core.$ZodIssue;

/** Of a union's failures, those of the member that came nearest: the one with most keys known, then fewest issues. */
function innermost(issue: Issue): Issue[] {
  if (issue.code !== "invalid_union" || issue.errors.length === 0) return [issue];
  const weight = (issues: readonly Issue[]) =>
    issues.reduce(
      (sum, one) => sum + (one.path.length > 0 ? 1 : one.code === "unrecognized_keys" ? 10 * one.keys.length : 100),
      0,
    );
  const best = issue.errors.reduce((a, b) => (weight(b) < weight(a) ? b : a));
  const causes = best.some(({ code }) => code === "unrecognized_keys") ? best.filter((one) => !isMissing(one)) : best;
  return causes.flatMap((one) => innermost({ ...one, path: [...issue.path, ...one.path] }));
}

/** A missing setting. If there is an unknown word beside it, that word was probably intended. */
const isMissing = (issue: Issue): boolean =>
  issue.code === "invalid_type" && / received undefined$/.test(issue.message);

function reportIssue(issue: Issue, names: readonly string[], at: Given<unknown>["at"], findings: Findings): void {
  const path = issue.path.map((part) => (typeof part === "symbol" ? String(part) : part));
  const inside = path.length === 0 ? phrase("the file") : `"${path[path.length - 1]}"`;
  if (issue.code === "unrecognized_keys") {
    for (const key of issue.keys) {
      const location = at(...path, key);
      // A word of another place is not what was misspelt.
      const nearest = nearestSpelling(
        key,
        names.filter((name) => name !== key),
      );
      const facts = { word: key, inside, nearest };
      findings.add(renamedSetting(key, location) ?? finding("given/unknown-word", facts, location));
    }
    return;
  }
  findings.add(
    finding("given/wrong-value", { inside, problem: issue.message.replace(/^Invalid input: /, "") }, at(...path)),
  );
}

/** All property names that a schema knows, from its published form. */
function namesIn(schema: z.ZodType): readonly string[] {
  const known = namesOf.get(schema);
  if (known) return known;
  const names = new Set<string>();
  const walk = (node: unknown): void => {
    if (typeof node !== "object" || node === null) return;
    for (const [name, value] of Object.entries(node)) {
      if (name === "properties" && typeof value === "object" && value !== null)
        Object.keys(value).forEach((key) => names.add(key));
      walk(value);
    }
  };
  walk(z.toJSONSchema(schema, { io: "input", unrepresentable: "any" }));
  const found = [...names];
  namesOf.set(schema, found);
  return found;
}

/** Walked through once: files with mistakes come in numbers. */
const namesOf = new WeakMap<z.ZodType, readonly string[]>();
