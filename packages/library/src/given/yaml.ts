/**
 * Files that people write by hand (layouts, targets, projects): YAML or JSON, parsed by a schema.
 *
 * A mistake becomes a finding at its line and character, with the nearest word that would do.
 */

import { resultOf } from "../findings/result.js";
import { finding, Findings, type Result } from "../findings/finding.js";
import { isMap, isNode, isScalar, LineCounter, parseDocument, visit, type Document } from "yaml";
import { z } from "zod";
import { nearestSpelling } from "../spelling.js";
import { GivenMemory } from "./memory.js";
import type { Location } from "../location.js";
import { renamedSetting, renamedValues } from "./old-words.js";
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
export function parseGiven<S extends z.ZodType>(text: string, file: string, schema: S): Result<Given<z.infer<S>>> {
  const findings = new Findings();
  const known = remembered.get(schema, file, text) as Given<z.infer<S>> | undefined;
  const given = known ?? parse(text, file, schema, findings);
  if (given && !known) remembered.add(schema, file, text, given);
  return resultOf(given, findings);
}

/** Of files without mistakes: a page loads them again at each edit, as most of them were. */
const remembered = new GivenMemory();

function parse<S extends z.ZodType>(
  text: string,
  file: string,
  schema: S,
  findings: Findings,
): Given<z.infer<S>> | undefined {
  if (text.length > maxGivenChars) {
    findings.add(finding("given/too-large", { most: maxGivenChars }, { file }));
    return undefined;
  }
  const counter = new LineCounter();
  // The package compares each key of a map with all before it: here they are looked up.
  const document = parseDocument(text, {
    lineCounter: counter,
    prettyErrors: false,
    uniqueKeys: false,
    logLevel: "error",
  });
  const placeAt = (offset: number): Location => {
    const { line, col } = counter.linePos(offset);
    return { file, line: Math.max(line, 1), char: Math.max(col, 1) };
  };
  const at = (...path: readonly (string | number)[]): Location => placeAt(offsetOf(document, path));
  const errors = [
    ...document.errors.map(({ message, pos: [offset] }) => ({ message, offset })),
    ...wrongKeys(document),
  ].sort((a, b) => a.offset - b.offset);
  if (errors.length > 0) {
    for (const { message, offset } of errors.slice(0, 20))
      findings.add(finding("given/not-yaml", { problem: message }, placeAt(offset)));
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
  findings.add(...renamed);
  const parsed = schema.safeParse(plain);
  if (parsed.success) return renamed.length === 0 ? { value: parsed.data, at } : undefined;
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

function offsetOf(document: Document, path: readonly (string | number)[]): number {
  let node: unknown = document.contents;
  let offset = 0;
  for (const part of path) {
    if (isMap(node)) {
      const pair = node.items.find((item) => isScalar(item.key) && item.key.value === part);
      if (!pair) break;
      offset = (pair.key as { range?: [number] }).range?.[0] ?? offset;
      node = pair.value;
    } else {
      const items = (node as { items?: unknown[] } | null)?.items;
      const item = items?.[part as number];
      if (item === undefined) break;
      offset = (item as { range?: [number] }).range?.[0] ?? offset;
      node = item;
    }
  }
  return offset;
}
