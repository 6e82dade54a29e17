/** What keeps an expression from running long: no loop in a loop, no long list written out, patterns that are matched in linear time. */

import { RE2JS } from "re2js";
import { phrase, type Text } from "../phrases/phrase.js";

/** The limits of the package; the others are its own. */
export const limits = { maxAstNodes: 500, maxDepth: 50, maxListElements: 200 } as const;

/** A text longer than this is not searched by a pattern. */
const maxTextChars = 1_000_000;
const maxPatterns = 100;

const loops: ReadonlySet<unknown> = new Set(["all", "exists", "exists_one", "map", "filter"]);
const literals = /"""[\s\S]*?"""|'''[\s\S]*?'''|"(?:\\.|[^"\\])*"|'(?:\\.|[^'\\])*'|\.\s*matches\s*\(/g;

/** The package's own `matches` goes by patterns that may run for ever: another one takes its calls. */
export const withLinearPatterns = (text: string): string =>
  text.replace(literals, (found) => (found.startsWith(".") ? `.${linearName}(` : found));

export const linearName = "matchesInLinearTime";

interface Node {
  readonly op: string;
  readonly args: unknown;
}

const isNode = (value: unknown): value is Node => typeof value === "object" && value !== null && "op" in value;

/** Why a parsed expression could run long; undefined where it cannot. */
export function whatRunsLong(ast: unknown): Text | undefined {
  if (Array.isArray(ast)) return ast.map(whatRunsLong).find((problem) => problem !== undefined);
  if (!isNode(ast)) return undefined;
  const { op, args } = ast;
  if (op === "rcall" && Array.isArray(args)) {
    const [name, of, body] = args as readonly unknown[];
    if (name === "matches") return phrase('"matches" cannot stand here');
    if (loops.has(name) && hasLoop(body)) return phrase("{0} within another loop could run too long", String(name));
    return whatRunsLong(of) ?? whatRunsLong(body);
  }
  return whatRunsLong(args);
}

function hasLoop(part: unknown): boolean {
  if (Array.isArray(part)) return part.some(hasLoop);
  if (!isNode(part)) return false;
  const { op, args } = part;
  return (op === "rcall" && Array.isArray(args) && loops.has(args[0])) || hasLoop(args);
}

const patterns = new Map<string, RE2JS>();

/** @throws Error for what is not a pattern, or a text that is too long. */
export function matchesInLinearTime(text: string, pattern: string): boolean {
  if (text.length > maxTextChars) throw new Error(`a text of ${text.length} characters is too long for a pattern`);
  let compiled = patterns.get(pattern);
  if (!compiled) {
    compiled = RE2JS.compile(pattern);
    if (patterns.size >= maxPatterns) patterns.clear();
    patterns.set(pattern, compiled);
  }
  return compiled.matcher(text).find();
}
