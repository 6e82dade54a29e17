/** What a project wishes of changes, and cannot be carried out: said when it is loaded. */

import type { ChangeWishes, Policy } from "../compare/policies.js";
import { splitLanguage } from "../field-name.js";
import { fieldOf, type KindSpec } from "../kind.js";
import type { Kinds } from "../kinds.js";
import { phrase, type Text } from "../phrases/phrase.js";
import { nearestSpelling } from "../spelling.js";
import type { Target } from "../target/target.js";

/** A mistake, and the words of `changes` that lead to it. */
export interface ChangeProblem {
  readonly path: readonly string[];
  readonly problem: Text;
  readonly nearest: string | undefined;
}

/** Fields that no record has, policies that a field cannot take, deleting where the target cannot. */
export function* changeProblems(
  { fields, gone }: ChangeWishes,
  target: Target,
  kinds: Kinds,
): Generator<ChangeProblem> {
  for (const [name, policy] of Object.entries(fields)) {
    const found = fieldProblem(name, policy, kinds);
    if (found) yield { path: ["fields", name], ...found };
  }
  if (gone === "delete" && target.deleting.length === 0)
    yield {
      path: ["gone"],
      problem: phrase('{0} has no import with "{1}"', target.name, "mode: delete"),
      nearest: "retire",
    };
}

type FieldProblem = Pick<ChangeProblem, "problem" | "nearest"> | undefined;

/** @param name `variant`, `variant.stock`, `product.name@de`, `product.stock(Barn)`, `product.stock(Barn).amount`. */
function fieldProblem(name: string, policy: Policy, kinds: Kinds): FieldProblem {
  const [, kindName = "", rest] = /^([^.]*)(?:\.(.*))?$/s.exec(name) ?? [];
  const kind = kinds.roots.find((one) => one.name === kindName);
  if (!kind)
    return {
      problem: phrase('there is no kind "{0}"', kindName),
      nearest: nearestSpelling(
        kindName,
        kinds.roots.map((one) => one.name),
      ),
    };
  if (rest === undefined) return undefined;
  const [, own = "", key, inner] = /^([^(.]*)(\([^)]*\))?(?:\.(.*))?$/s.exec(rest) ?? [];
  const entries = Object.hasOwn(kind.entries ?? {}, own) ? kinds.get(kind.entries![own]!) : undefined;
  if (entries) {
    if (inner === undefined) return undefined;
    // Policies go by the names of entries.
    return key === undefined
      ? {
          problem: phrase('"{0}" needs the name of an entry: {1}', name, `${kindName}.${own}(…).${inner}`),
          nearest: undefined,
        }
      : unknownField(entries, inner, name, policy);
  }
  if (key !== undefined || inner !== undefined)
    return { problem: phrase('"{0}" is not a field of {1}', rest, kindName), nearest: nearestName(kind, own) };
  return unknownField(kind, own, name, policy);
}

function unknownField(kind: KindSpec, written: string, name: string, policy: Policy): FieldProblem {
  const { name: own, lang } = splitLanguage(written);
  const field = fieldOf(kind, own);
  if (!field || (lang !== undefined && !field.perLanguage))
    return { problem: phrase('"{0}" is not a field of {1}', written, kind.name), nearest: nearestName(kind, own) };
  if (policy === "add" && !field.reference?.list)
    return { problem: phrase('"{0}" is not a list: it cannot "{1}"', name, "add"), nearest: "overwrite" };
  return undefined;
}

const nearestName = (kind: KindSpec, own: string): string | undefined =>
  nearestSpelling(own, [...kind.fields.map(({ name }) => name), ...Object.keys(kind.entries ?? {})]);
