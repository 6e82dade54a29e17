/** The form of an operation: its words, what of them can be refused before any source is read, and what it does. */

import type { z } from "zod";
import { fieldOfColumn } from "../field-name.js";
import { fieldOf, type FieldSpec } from "../kind.js";
import type { Kinds } from "../kinds.js";
import { phrase, type Text } from "../phrases/phrase.js";
import { nearestSpelling } from "../spelling.js";
import { selectionProblem, type Selection } from "./select.js";
import type { Work } from "./work.js";

/** A word of an operation that cannot be honoured, whatever the sources say. */
export interface OperationProblem {
  /** The words that lead to it: `["take", "colour"]`. */
  readonly path: readonly (string | number)[];
  readonly problem: Text;
  readonly nearest?: string | undefined;
}

/** One operation. */
export interface OperationForm<Schema extends z.ZodType> {
  readonly schema: Schema;
  /** What is refused at load. */
  readonly problems: (
    operation: z.infer<Schema>,
    kinds: Kinds,
  ) => AsyncIterable<OperationProblem> | Iterable<OperationProblem>;
  readonly run: (work: Work, operation: z.infer<Schema>) => void | Promise<void>;
}

/** An operation, with the types of its words. */
export const operation = <Schema extends z.ZodType>(form: OperationForm<Schema>): OperationForm<Schema> => form;

/** What is wrong with the selection below a word. */
export async function* inSelection(word: string, selection: Selection, kinds: Kinds): AsyncGenerator<OperationProblem> {
  const wrong = await selectionProblem(selection, kinds);
  if (wrong) yield { path: [word, wrong.word], problem: wrong.problem };
}

/** A field of a kind as operations name it, with its language where it has one; or what is wrong with the name. */
export function fieldAsNamed(
  kindName: string,
  name: string,
  kinds: Kinds,
): { readonly field: FieldSpec } | { readonly problem: Text; readonly nearest: string | undefined } {
  const kind = kinds.get(kindName);
  const field = fieldOf(kind, fieldOfColumn(name));
  const known = kind.fields.map((one) => one.name);
  if (!field)
    return {
      problem: phrase('{0} has no field "{1}"', kindName, name),
      nearest: nearestSpelling(fieldOfColumn(name), known),
    };
  const hasLanguage = name !== fieldOfColumn(name);
  if (hasLanguage === (field.perLanguage ?? false)) return { field };
  const problem = hasLanguage
    ? phrase("{0} has no language", field.name)
    : phrase("{0} is a text in languages. Name one: {0}@en", field.name);
  return { problem, nearest: undefined };
}
